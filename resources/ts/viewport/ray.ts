/**
 * How far along a ray a triangle lies (Moeller and Trumbore 1997); Infinity if it is missed. The triangle is its first corner and
 * its two edges from there; the ray's way need not be of length 1.
 */
export function alongRay(
  ox: number,
  oy: number,
  oz: number,
  wx: number,
  wy: number,
  wz: number,
  ax: number,
  ay: number,
  az: number,
  ux: number,
  uy: number,
  uz: number,
  vx: number,
  vy: number,
  vz: number,
): number {
  const hx = wy * vz - wz * vy;
  const hy = wz * vx - wx * vz;
  const hz = wx * vy - wy * vx;
  const det = ux * hx + uy * hy + uz * hz;
  if (Math.abs(det) < 1e-14) return Infinity;
  const sx = ox - ax;
  const sy = oy - ay;
  const sz = oz - az;
  const p = (sx * hx + sy * hy + sz * hz) / det;
  if (p < 0 || p > 1) return Infinity;
  const qx = sy * uz - sz * uy;
  const qy = sz * ux - sx * uz;
  const qz = sx * uy - sy * ux;
  const q = (wx * qx + wy * qy + wz * qz) / det;
  if (q < 0 || p + q > 1) return Infinity;
  const t = (vx * qx + vy * qy + vz * qz) / det;
  return t > 0 ? t : Infinity;
}
