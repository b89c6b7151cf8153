// The same cells cut out of the same mesh by manifold-3d, one by one. Usage: node manifold.mjs MESH-AND-CELLS.json
import { readFileSync } from 'node:fs';
import Module from 'manifold-3d';

const { positions, triangles, cells } = JSON.parse(readFileSync(process.argv[2], 'utf8'));
const M = await Module();
M.setup();
const body = new M.Manifold(
  new M.Mesh({
    numProp: 3,
    vertProperties: Float32Array.from(positions),
    triVerts: Uint32Array.from(triangles),
  }),
);
const begin = performance.now();
let volume = 0;
let pieces = 0;
for (const vertices of cells) {
  const hull = M.Manifold.hull(vertices);
  const piece = body.intersect(hull);
  if (piece.numTri() > 0) {
    pieces++;
    piece.getMesh();
  }
  volume += piece.volume();
  hull.delete();
  piece.delete();
}
console.log(
  JSON.stringify({ seconds: (performance.now() - begin) / 1000, pieces, ratio: volume / body.volume() }),
);
