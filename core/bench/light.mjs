// The step of core/src/Motion/Light/LightWorld (eddies, drag, tumbling, a floor) in node, on the same start. Usage: node light.mjs FILE
import { readFileSync } from 'node:fs';

const bytes = readFileSync(process.argv[2]);
const data = new Float64Array(bytes.buffer, bytes.byteOffset, bytes.length / 8);
const [n, steps] = [data[0], data[1]];
const SIDE = 32;
const LAYER = SIDE * SIDE;
const MASK = SIDE - 1;
const [fu, fv, fw] = [0, 1, 2].map((k) => data.slice(2 + k * SIDE ** 3, 2 + (k + 1) * SIDE ** 3));
const column = (k) => Float64Array.from({ length: n }, (_, i) => data[2 + 3 * SIDE ** 3 + 8 * i + k]);
const [x, y, z, fall, tumble, sx, sy, sz] = [0, 1, 2, 3, 4, 5, 6, 7].map(column);
const [u, v, w, qx, qy, qz, au, av, aw] = Array.from({ length: 9 }, () => new Float64Array(n));
const qw = new Float64Array(n).fill(1);
const rest = new Uint8Array(n);
const [G, RADIUS, THICK, SETTLE, LANDED, DT] = [9.80665, 0.02, 0.001, 0.05, 1e-4, 1 / 24];
const MU = Math.sqrt(0.6 * 0.5);

function air(strength, size) {
  const per = 4 / size;
  for (let i = 0; i < n; i++) {
    const px = x[i] * per;
    const py = y[i] * per;
    const pz = z[i] * per;
    let m = Math.floor(px + 0.5);
    let t = px - m;
    let t0 = 0.5 - t;
    const x0 = (m - 1) & MASK;
    const x1 = m & MASK;
    const x2 = (m + 1) & MASK;
    const qx0 = 0.5 * t0 * t0;
    const qx1 = 0.75 - t * t;
    const qx2 = 1 - qx0 - qx1;
    t0 = px - 0.5;
    m = Math.floor(t0);
    const gx = t0 - m;
    const hx = 1 - gx;
    const xa = m & MASK;
    const xb = (m + 1) & MASK;
    m = Math.floor(py + 0.5);
    t = py - m;
    t0 = 0.5 - t;
    const y0 = ((m - 1) & MASK) * SIDE;
    const y1 = (m & MASK) * SIDE;
    const y2 = ((m + 1) & MASK) * SIDE;
    const qy0 = 0.5 * t0 * t0;
    const qy1 = 0.75 - t * t;
    const qy2 = 1 - qy0 - qy1;
    t0 = py - 0.5;
    m = Math.floor(t0);
    const gy = t0 - m;
    const hy = 1 - gy;
    const ya = (m & MASK) * SIDE;
    const yb = ((m + 1) & MASK) * SIDE;
    m = Math.floor(pz + 0.5);
    t = pz - m;
    t0 = 0.5 - t;
    const z0 = ((m - 1) & MASK) * LAYER;
    const z1 = (m & MASK) * LAYER;
    const z2 = ((m + 1) & MASK) * LAYER;
    const qz0 = 0.5 * t0 * t0;
    const qz1 = 0.75 - t * t;
    const qz2 = 1 - qz0 - qz1;
    t0 = pz - 0.5;
    m = Math.floor(t0);
    const gz = t0 - m;
    const hz = 1 - gz;
    const za = (m & MASK) * LAYER;
    const zb = ((m + 1) & MASK) * LAYER;
    let [a, b, c, d] = [ya + za, yb + za, ya + zb, yb + zb];
    au[i] =
      1.5 +
      strength *
        (hy * hz * (qx0 * fu[a + x0] + qx1 * fu[a + x1] + qx2 * fu[a + x2]) +
          gy * hz * (qx0 * fu[b + x0] + qx1 * fu[b + x1] + qx2 * fu[b + x2]) +
          hy * gz * (qx0 * fu[c + x0] + qx1 * fu[c + x1] + qx2 * fu[c + x2]) +
          gy * gz * (qx0 * fu[d + x0] + qx1 * fu[d + x1] + qx2 * fu[d + x2]));
    a = xa + za;
    b = xb + za;
    c = xa + zb;
    d = xb + zb;
    av[i] =
      strength *
      (hx * hz * (qy0 * fv[a + y0] + qy1 * fv[a + y1] + qy2 * fv[a + y2]) +
        gx * hz * (qy0 * fv[b + y0] + qy1 * fv[b + y1] + qy2 * fv[b + y2]) +
        hx * gz * (qy0 * fv[c + y0] + qy1 * fv[c + y1] + qy2 * fv[c + y2]) +
        gx * gz * (qy0 * fv[d + y0] + qy1 * fv[d + y1] + qy2 * fv[d + y2]));
    a = xa + ya;
    b = xb + ya;
    c = xa + yb;
    d = xb + yb;
    aw[i] =
      strength *
      (hx * hy * (qz0 * fw[a + z0] + qz1 * fw[a + z1] + qz2 * fw[a + z2]) +
        gx * hy * (qz0 * fw[b + z0] + qz1 * fw[b + z1] + qz2 * fw[b + z2]) +
        hx * gy * (qz0 * fw[c + z0] + qz1 * fw[c + z1] + qz2 * fw[c + z2]) +
        gx * gy * (qz0 * fw[d + z0] + qz1 * fw[d + z1] + qz2 * fw[d + z2]));
  }
}

function turned(i, a, b, d, c) {
  const [X, Y, Z, W] = [qx[i], qy[i], qz[i], qw[i]];
  const tx = c * X + a * W + b * Z - d * Y;
  const ty = c * Y - a * Z + b * W + d * X;
  const tz = c * Z + a * Y - b * X + d * W;
  const tw = c * W - a * X - b * Y - d * Z;
  const l = 1 / Math.sqrt(tx * tx + ty * ty + tz * tz + tw * tw);
  qx[i] = tx * l;
  qy[i] = ty * l;
  qz[i] = tz * l;
  qw[i] = tw * l;
}

function move() {
  for (let i = 0; i < n; i++) {
    if (rest[i]) continue;
    const shelter = y[i] <= THICK + LANDED ? 0 : 1;
    const wu = au[i] * shelter;
    const wv = av[i] * shelter;
    const ww = aw[i] * shelter;
    const ru = wu - u[i];
    const rv = wv - v[i];
    const rw = ww - w[i];
    const through = Math.sqrt(ru * ru + rv * rv + rw * rw);
    const q = ((DT * G) / (fall[i] * fall[i])) * through;
    const s = 1 / (1 + q);
    u[i] = (u[i] + q * wu) * s;
    v[i] = (v[i] + q * wv - DT * G) * s;
    w[i] = (w[i] + q * ww) * s;
    x[i] += DT * u[i];
    y[i] += DT * v[i];
    z[i] += DT * w[i];
    const half = 0.5 * DT * tumble[i] * (through < fall[i] ? through / fall[i] : 1) * shelter;
    if (half === 0) continue;
    const sine = Math.sin(half);
    turned(i, sine * sx[i], sine * sy[i], sine * sz[i], Math.cos(half));
  }
}

function lean(i, sine) {
  const [X, Y, Z, W] = [qx[i], qy[i], qz[i], qw[i]];
  const ax = 2 * (X * Y - W * Z);
  const ay = 1 - 2 * (X * X + Z * Z);
  const az = 2 * (Y * Z + W * X);
  const sign = ay < 0 ? -1 : 1;
  const now = Math.sqrt(az * az + ax * ax);
  if (now <= sine || now < 1e-12) return;
  const half = 0.5 * (Math.atan2(now, Math.abs(ay)) - Math.asin(Math.min(1, sine)));
  const s = Math.sin(half) / now;
  turned(i, -sign * az * s, 0, sign * ax * s, Math.cos(half));
}

function land() {
  for (let i = 0; i < n; i++) {
    if (rest[i] || y[i] >= RADIUS) continue;
    const into = v[i];
    lean(i, Math.max(0, (y[i] - THICK) / (RADIUS - THICK)));
    if (y[i] > THICK || into > 0) continue;
    y[i] = THICK;
    const slide = Math.sqrt(u[i] * u[i] + w[i] * w[i]);
    let keep = slide > 0 ? Math.max(0, 1 + (MU * into) / slide) : 0;
    if (keep * slide < SETTLE) {
      keep = 0;
      rest[i] = 1;
    }
    u[i] *= keep;
    w[i] *= keep;
    v[i] = 0;
  }
}

const times = [];
for (let s = 0; s < steps; s++) {
  const begin = performance.now();
  air(0.8, 0.5);
  move();
  land();
  times.push(performance.now() - begin);
}
times.sort((a, b) => a - b);
let sum = 0;
for (let i = 0; i < n; i++) sum += x[i] + y[i] + z[i] + qx[i];
const round = (value) => Number(value.toFixed(1));
console.log(
  JSON.stringify({
    'best ms': round(times[0]),
    'median ms': round(times[steps >> 1]),
    sum: Number(sum.toFixed(6)),
  }),
);
