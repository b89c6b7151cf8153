// The march of core/src/Mesh/SurfaceMarch.php in JavaScript. Usage: node march.mjs mesh.json; prints {ms, ways}.
import { readFileSync } from 'node:fs';

const { x, y, z, triangles } = JSON.parse(readFileSync(process.argv[2], 'utf8'));

// What does not change from one front to the next.
function measured(start, next, after) {
  const [out, back, dot, twice] = [[], [], [], []];
  for (let v = 0; v < x.length; v++)
    for (let e = start[v], end = start[v + 1]; e < end; ++e) {
      const a = next[e];
      const b = after[e];
      const ax = x[a] - x[v];
      const ay = y[a] - y[v];
      const az = z[a] - z[v];
      const bx = x[b] - x[v];
      const by = y[b] - y[v];
      const bz = z[b] - z[v];
      const aa = ax * ax + ay * ay + az * az;
      const bb = bx * bx + by * by + bz * bz;
      const ab = ax * bx + ay * by + az * bz;
      const area = aa * bb - ab * ab;
      out.push(Math.sqrt(aa));
      back.push(Math.sqrt(bb));
      dot.push(ab);
      twice.push(area > 1e-30 ? Math.sqrt(area) : 0.0);
    }
  return { out, back, dot, twice };
}

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
  return { start, next, after, ...measured(start, next, after) };
}

const AGAIN = 0.001;

function march({ start, next, after, out, back, dot, twice }, begin) {
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
        const edge = side === 0 ? out[e] : back[e];
        const l = side === 0 ? back[e] : out[e];
        const across = done[b];
        const again = done[a];
        if (again && !across) {
          continue;
        }
        const slow = 1;
        const fast = 1;
        const same = vBase === base[b];
        const from = same ? vBase : 0.0;
        const u = (vWay - from) * fast;
        let far = u + edge;
        let along = 0.0;
        if (across) {
          const w = (way[b] - from) * fast;
          if (twice[e] > 0.0 && u - w < l && w - u < l) {
            // Seen from a: v and b; along the edge between them a lies at (q, -k).
            const per = 1.0 / l;
            const k = twice[e] * per;
            // No way over that edge is shorter than to its nearest place and from there straight across.
            if (again && 0.5 * (u + w - l) + k >= (way[a] - from) * fast) {
              continue;
            }
            const q = dot[e] * per;
            if (same && u + w > l * (1.0 - 1e-9)) {
              // What set out lies at (p, h), unfolded.
              const p = 0.5 * ((u * u - w * w) * per + l);
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
                  const ex = (x[b] - vx) * per;
                  const ey = (y[b] - vy) * per;
                  const ez = (z[b] - vz) * per;
                  const r = tx[v] * ex + ty[v] * ey + tz[v] * ez + p / u;
                  const s = tx[b] * ex + ty[b] * ey + tz[b] * ez - (l - p) / w;
                  const t = through * per;
                  straight += through * (1.0 - t) * ((1.0 - t) * r - t * s);
                }
                if (straight < far) {
                  far = straight;
                  along = through * per;
                }
              }
            } else {
              const s = (w - u) * per;
              const r = Math.sqrt(1.0 - s * s);
              const through = q - (k * s) / r;
              let straight = u + s * q + r * k;
              if (through >= 0.0 && through <= l && straight < far) {
                far = straight;
                along = through * per;
              }
            }
          }
        }
        far = from + slow * far;
        // Where the straight way to a place leads past the far end of a long edge, the place was taken too early: once more.
        if (far < way[a] - (again ? AGAIN * slow * edge : 0.0)) {
          way[a] = far;
          base[a] = vBase;
          done[a] = false;
          // Which way it comes in, unit; along an edge it may only seem to.
          if (along > 0.0) {
            const dx = x[a] - vx - along * (x[b] - vx);
            const dy = y[a] - vy - along * (y[b] - vy);
            const dz = z[a] - vz - along * (z[b] - vz);
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
