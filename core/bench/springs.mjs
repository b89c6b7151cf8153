// The sweep over edges of core/src/Motion/Cloth/Springs, in node, on the same arrays. Usage: node springs.mjs FILE.json
import { readFileSync } from 'node:fs';

const data = JSON.parse(readFileSync(process.argv[2], 'utf8'));
const [X, Y, Z, length] = [data.x, data.y, data.z, data.length].map((a) => Float64Array.from(a));
const [first, other] = [data.first, data.other].map((a) => Int32Array.from(a));
const w = new Float64Array(X.length).fill(1);
const compliance = new Float64Array(length.length).fill(1e-3);

function forward() {
  for (let a = 0; a < w.length; ++a) {
    let c = first[a];
    const end = first[a + 1];
    if (c >= end) continue;
    let xa = X[a];
    let ya = Y[a];
    let za = Z[a];
    const wa = w[a];
    for (; c < end; ++c) {
      const b = other[c];
      const wb = w[b];
      const dx = xa - X[b];
      const dy = ya - Y[b];
      const dz = za - Z[b];
      const l = Math.sqrt(dx * dx + dy * dy + dz * dz) + 1e-30;
      const s = (l - length[c]) / (l * (wa + wb + compliance[c]));
      const sa = wa * s;
      const sb = wb * s;
      xa -= sa * dx;
      ya -= sa * dy;
      za -= sa * dz;
      X[b] += sb * dx;
      Y[b] += sb * dy;
      Z[b] += sb * dz;
    }
    X[a] = xa;
    Y[a] = ya;
    Z[a] = za;
  }
}

let best = Infinity;
for (let k = 0; k < 60; k++) {
  const start = performance.now();
  forward();
  best = Math.min(best, performance.now() - start);
}
console.log(JSON.stringify({ ms: Number(best.toFixed(3)), sum: Y.reduce((a, b) => a + b, 0) }));
