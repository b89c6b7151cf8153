/** A fine unevenness that is only seen: how deep it is outside and on fresh faces, and how far apart its bumps are along each axis, m. */
export interface Relief {
  outer: number;
  inner: number;
  apart: [number, number, number];
}

/** How much longer than wide bumps are that are drawn out. */
const DRAWN_OUT = 8;

interface ReliefLook {
  relief: number;
  innerRelief: number;
  reliefSize: number;
  reliefAlong: 'none' | 'x' | 'y' | 'z';
}

/** The unevenness of a look; null: it is even. */
export function reliefOf({ relief, innerRelief, reliefSize, reliefAlong }: ReliefLook): Relief | null {
  if (relief === 0 && innerRelief === 0) return null;
  const along = (axis: string) => (reliefAlong === axis ? DRAWN_OUT : 1) * reliefSize;
  return { outer: relief, inner: innerRelief, apart: [along('x'), along('y'), along('z')] };
}

/** For the vertex shader: where a corner is at rest, in its prop; there the unevenness stays. */
export const REST = /* glsl */ `
  attribute vec3 aRest;
  varying vec3 vRest;
`;

/**
 * For the fragment shader. The height is noise of three sizes: values at the corners of cells, smooth between them, with its
 * gradient. Normals are bent by what that is along the surface (Mikkelsen, Bump Mapping Unparametrized Surfaces on the GPU, 2010,
 * from memory); what is finer than the picture's pixels is left out, or it would flicker.
 */
export const UNEVEN = /* glsl */ `
  varying vec3 vRest;
  uniform vec2 uRelief;
  uniform vec3 uApart;
  float atCorner(ivec3 cell) {
    uvec3 h = uvec3(cell) * uvec3(1597334673u, 3812015801u, 2798796415u);
    uint n = (h.x ^ h.y ^ h.z) * 1597334673u;
    n = (n ^ (n >> 15)) * 2246822519u;
    return float(n ^ (n >> 13)) / 2147483648.0 - 1.0;
  }
  vec3 slopeOfNoise(vec3 at) {
    vec3 f = fract(at);
    ivec3 c = ivec3(floor(at));
    vec3 u = f * f * f * (f * (f * 6.0 - 15.0) + 10.0);
    vec3 du = 30.0 * f * f * (f * (f - 2.0) + 1.0);
    float a = atCorner(c), b = atCorner(c + ivec3(1, 0, 0)), d = atCorner(c + ivec3(0, 1, 0)), e = atCorner(c + ivec3(1, 1, 0));
    float g = atCorner(c + ivec3(0, 0, 1)), h = atCorner(c + ivec3(1, 0, 1)), i = atCorner(c + ivec3(0, 1, 1)), j = atCorner(c + ivec3(1, 1, 1));
    float x = b - a, y = d - a, z = g - a, xy = a - b - d + e, yz = a - d - g + i, zx = a - b - g + h, xyz = -a + b + d - e + g - h - i + j;
    return du * vec3(
      x + xy * u.y + zx * u.z + xyz * u.y * u.z,
      y + yz * u.z + xy * u.x + xyz * u.z * u.x,
      z + zx * u.x + yz * u.y + xyz * u.x * u.y);
  }
  vec3 uneven(vec3 normal, float depth) {
    vec3 right = dFdx(vRest), up = dFdy(vRest);
    vec3 slope = vec3(0.0);
    float share = 1.0, finer = 1.0;
    for (int k = 0; k < 3; k++) {
      vec3 scale = finer / uApart;
      float pixel = max(length(right * scale), length(up * scale));
      slope += share * scale * slopeOfNoise(vRest * scale) * (1.0 - smoothstep(0.3, 0.9, pixel));
      share *= 0.5;
      finer *= 2.17;
    }
    slope *= 0.5 * depth;
    vec3 toRight = dFdx(-vViewPosition), toUp = dFdy(-vViewPosition);
    vec3 a = cross(toUp, normal), b = cross(normal, toRight);
    float area = dot(toRight, a);
    return normalize(abs(area) * normal - sign(area) * (dot(slope, right) * a + dot(slope, up) * b));
  }
`;
