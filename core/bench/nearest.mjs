// Nearest places of points on a mesh by three-mesh-bvh. Usage: node nearest.mjs FILE.json [limit]; prints seconds and distances' sum.
import { readFileSync } from 'node:fs';
import * as THREE from 'three';
import { MeshBVH } from 'three-mesh-bvh';

const data = JSON.parse(readFileSync(process.argv[2], 'utf8'));
const geometry = new THREE.BufferGeometry();
const positions = new Float64Array(3 * data.x.length);
data.x.forEach((x, v) => positions.set([x, data.y[v], data.z[v]], 3 * v));
geometry.setAttribute('position', new THREE.BufferAttribute(positions, 3));
geometry.setIndex(new THREE.BufferAttribute(Uint32Array.from(data.triangles), 1));
const bvh = new MeshBVH(geometry);
const point = new THREE.Vector3();
const target = {};
const run = (limit) => {
  const far = new Float64Array(data.points.length);
  const start = performance.now();
  data.points.forEach(([x, y, z], k) => {
    const found = bvh.closestPointToPoint(point.set(x, y, z), target, 0, limit);
    far[k] = found ? found.distance : -1;
  });
  return { ms: performance.now() - start, far };
};
const report = {};
for (const limit of data.limits) {
  let best = Infinity;
  let far;
  for (let round = 0; round < 8; round++) {
    const made = run(limit === null ? Infinity : limit);
    best = Math.min(best, made.ms);
    far = made.far;
  }
  report[String(limit)] = { ms: Math.round(100 * best) / 100, far: data.whole ? [...far] : undefined };
}
console.log(JSON.stringify(report));
