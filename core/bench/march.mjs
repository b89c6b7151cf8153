// The march of core/src/Mesh/SurfaceMarch.php in JavaScript. Usage: node march.mjs mesh.json; prints {ms, ways}.
import { readFileSync } from 'node:fs';

const { x, y, z, triangles } = JSON.parse(readFileSync(process.argv[2], 'utf8'));

function rings() {
  const n = x.length;
  const start = new Array(n + 1).fill(0);
  for (const v of triangles) start[v]++;
  for (let v = 1; v <= n; v++) start[v] += start[v - 1];
  const next = new Array(triangles.length).fill(0);
  const after = new Array(triangles.length).fill(0);
  for (let k = triangles.length - 3; k >= 0; k -= 3)
    for (let c = 0; c < 3; c++) {
      const e = --start[triangles[k + c]];
      next[e] = triangles[k + ((c + 1) % 3)];
      after[e] = triangles[k + ((c + 2) % 3)];
    }
  return { start, next, after };
}

const AGAIN = 0.001;

function march({ start, next, after }, begin) {
  const n = x.length;
  const way = new Array(n).fill(Infinity);
  const base = new Array(n).fill(Infinity);
  const place = new Array(n).fill(-1);
  const done = new Array(n).fill(false);
  // Which way it comes in at each vertex, unit; nothing where that is not known.
  const [tx, ty, tz] = [0, 1, 2].map(() => new Array(n).fill(0));
  const heap = [];
  let size = 0;
  for (const [v, far] of begin) {
    // In order already: a sorted list is a heap.
    way[v] = far;
    base[v] = far;
    heap[size] = v;
    place[v] = size++;
  }
  while (size > 0) {
    const v = heap[0];
    const w = heap[--size];
    let at = 0;
    let child;
    while ((child = 2 * at + 1) < size) {
      if (child + 1 < size && way[heap[child + 1]] < way[heap[child]]) {
        ++child;
      }
      if (way[heap[child]] >= way[w]) {
        break;
      }
      heap[at] = heap[child];
      place[heap[at]] = at;
      at = child;
    }
    heap[at] = w;
    place[w] = at;
    place[v] = -1;
    done[v] = true;
    const vx = x[v];
    const vy = y[v];
    const vz = z[v];
    const vWay = way[v];
    const vBase = base[v];
    for (let e = start[v], end = start[v + 1]; e < end; ++e) {
      for (let side = 0; side < 2; ++side) {
        const a = side === 0 ? next[e] : after[e];
        const b = side === 0 ? after[e] : next[e];
        if (done[a] && !done[b]) {
          continue;
        }
        const slow = 1;
        const same = vBase === base[b];
        const from = same ? vBase : 0.0;
        const u = (vWay - from) / slow;
        // Seen from a: v and, if its way is known, b; along the edge between them a lies at (q, -k).
        const px = vx - x[a];
        const py = vy - y[a];
        const pz = vz - z[a];
        const pp = px * px + py * py + pz * pz;
        const edge = Math.sqrt(pp);
        let far = u + edge;
        let along = 0.0;
        if (done[b]) {
          const cx = x[b] - x[a];
          const cy = y[b] - y[a];
          const cz = z[b] - z[a];
          const cc = cx * cx + cy * cy + cz * cz;
          const pc = px * cx + py * cy + pz * cz;
          const ll = pp + cc - 2.0 * pc;
          const area = pp * cc - pc * pc;
          const l = Math.sqrt(ll);
          const w = (way[b] - from) / slow;
          if (area > 1e-30 && u - w < l && w - u < l) {
            const q = (pp - pc) / l;
            const k = Math.sqrt(area) / l;
            if (same && u + w > l * (1.0 - 1e-9)) {
              // What set out lies at (p, h), unfolded.
              const p = (u * u - w * w + ll) / (2.0 * l);
              const hh = u * u - p * p;
              const h = hh > 0.0 ? Math.sqrt(hh) : 0.0;
              const through = p + ((q - p) * h) / (h + k);
              if (through >= 0.0 && through <= l) {
                let straight = Math.sqrt((p - q) * (p - q) + (h + k) * (h + k));
                // On a surface that bends ways come in at other angles than unfolded: that much further between the ends.
                if (
                  (tx[v] !== 0.0 || ty[v] !== 0.0 || tz[v] !== 0.0) &&
                  (tx[b] !== 0.0 || ty[b] !== 0.0 || tz[b] !== 0.0) &&
                  w > 0.0 &&
                  u > 0.0
                ) {
                  const ex = (cx - px) / l;
                  const ey = (cy - py) / l;
                  const ez = (cz - pz) / l;
                  const r = tx[v] * ex + ty[v] * ey + tz[v] * ez + p / u;
                  const s = tx[b] * ex + ty[b] * ey + tz[b] * ez - (l - p) / w;
                  const t = through / l;
                  straight += through * (1.0 - t) * ((1.0 - t) * r - t * s);
                }
                if (straight < far) {
                  far = straight;
                  along = through / l;
                }
              }
            } else {
              const s = (w - u) / l;
              const r = Math.sqrt(1.0 - s * s);
              const through = q - (k * s) / r;
              let straight = u + s * q + r * k;
              if (through >= 0.0 && through <= l && straight < far) {
                far = straight;
                along = through / l;
              }
            }
          }
        }
        far = from + slow * far;
        // Where the straight way to a place leads past the far end of a long edge, the place was taken too early: once more.
        if (far < way[a] - (done[a] ? AGAIN * slow * edge : 0.0)) {
          way[a] = far;
          base[a] = vBase;
          done[a] = false;
          // Which way it comes in, unit; along an edge it may only seem to.
          if (along > 0.0) {
            const dx = -px - along * (x[b] - vx);
            const dy = -py - along * (y[b] - vy);
            const dz = -pz - along * (z[b] - vz);
            const d = Math.sqrt(dx * dx + dy * dy + dz * dz);
            tx[a] = dx / d;
            ty[a] = dy / d;
            tz[a] = dz / d;
          } else {
            tx[a] = ty[a] = tz[a] = 0.0;
          }
          let at = place[a] < 0 ? size++ : place[a];
          while (at > 0 && way[heap[(at - 1) >> 1]] > far) {
            heap[at] = heap[(at - 1) >> 1];
            place[heap[at]] = at;
            at = (at - 1) >> 1;
          }
          heap[at] = a;
          place[a] = at;
        }
      }
    }
  }

  return way;
}

const ring = rings();
let ms = Infinity;
let way;
for (let round = 0; round < 8; round++) {
  const begun = performance.now();
  way = march(ring, [[0, 0]]);
  ms = Math.min(ms, performance.now() - begun);
}
console.log(JSON.stringify({ ms, way }));
