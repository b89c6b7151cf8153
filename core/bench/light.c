/* The step of core/src/Motion/Light/LightWorld (eddies, drag, tumbling, a floor) in C, on the same start. Usage: light FILE; prints JSON. */
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <time.h>

enum { SIDE = 32, CELLS = SIDE * SIDE * SIDE, MASK = SIDE - 1 };
static const double G = 9.80665, RADIUS = 0.02, THICK = 0.001, MU_FLOOR = 0.6, MU = 0.5, SETTLE = 0.05, LANDED = 1e-4, LIVELY = 0.3, DT = 1.0 / 24.0;
static double F[3][CELLS];
static double *x, *y, *z, *fall, *tumble, *sx, *sy, *sz, *u, *v, *w, *qx, *qy, *qz, *qw, *au, *av, *aw;
static char *rest;

static void air(int n, double strength, double size) {
  double per = 4.0 / size;
  for (int i = 0; i < n; i++) {
    double p[3] = {x[i] * per, y[i] * per, z[i] * per}, q[3][3], g[3], h[3];
    int at[3][3], half[3][2], step[3] = {1, SIDE, SIDE * SIDE};
    for (int a = 0; a < 3; a++) {
      double m = floor(p[a] + 0.5), t = p[a] - m, t0 = 0.5 - t;
      int k = (int)m;
      for (int o = 0; o < 3; o++) at[a][o] = ((k - 1 + o) & MASK) * step[a];
      q[a][0] = 0.5 * t0 * t0; q[a][1] = 0.75 - t * t; q[a][2] = 1.0 - q[a][0] - q[a][1];
      t0 = p[a] - 0.5; m = floor(t0); g[a] = t0 - m; h[a] = 1.0 - g[a]; k = (int)m;
      half[a][0] = (k & MASK) * step[a]; half[a][1] = ((k + 1) & MASK) * step[a];
    }
    double sum[3];
    for (int a = 0; a < 3; a++) {
      int b = a == 0 ? 1 : 0, c = a == 2 ? 1 : 2;
      double s = 0;
      for (int j = 0; j < 4; j++) {
        const double *f = F[a] + half[b][j & 1] + half[c][j >> 1];
        s += (j & 1 ? g[b] : h[b]) * (j >> 1 ? g[c] : h[c]) * (q[a][0] * f[at[a][0]] + q[a][1] * f[at[a][1]] + q[a][2] * f[at[a][2]]);
      }
      sum[a] = strength * s;
    }
    au[i] = 1.5 + sum[0]; av[i] = sum[1]; aw[i] = sum[2];
  }
}

static void move(int n) {
  for (int i = 0; i < n; i++) {
    if (rest[i]) continue;
    double shelter = y[i] <= THICK + LANDED ? 0.0 : 1.0, wu = au[i] * shelter, wv = av[i] * shelter, ww = aw[i] * shelter;
    double ru = wu - u[i], rv = wv - v[i], rw = ww - w[i], through = sqrt(ru * ru + rv * rv + rw * rw);
    double q = DT * G / (fall[i] * fall[i]) * through, s = 1.0 / (1.0 + q);
    u[i] = (u[i] + q * wu) * s; v[i] = (v[i] + q * wv - DT * G) * s; w[i] = (w[i] + q * ww) * s;
    x[i] += DT * u[i]; y[i] += DT * v[i]; z[i] += DT * w[i];
    double half = 0.5 * DT * tumble[i] * (through < fall[i] ? through / fall[i] : 1.0) * shelter;
    if (half == 0.0) continue;
    double sine = sin(half), c = cos(half), a = sine * sx[i], b = sine * sy[i], d = sine * sz[i];
    double tx = c * qx[i] + a * qw[i] + b * qz[i] - d * qy[i], ty = c * qy[i] - a * qz[i] + b * qw[i] + d * qx[i];
    double tz = c * qz[i] + a * qy[i] - b * qx[i] + d * qw[i], tw = c * qw[i] - a * qx[i] - b * qy[i] - d * qz[i];
    double l = 1.0 / sqrt(tx * tx + ty * ty + tz * tz + tw * tw);
    qx[i] = tx * l; qy[i] = ty * l; qz[i] = tz * l; qw[i] = tw * l;
  }
}

/* The shortest way back to where it leans no more than it has room for. */
static void lean(int i, double sine) {
  double X = qx[i], Y = qy[i], Z = qz[i], W = qw[i];
  double ax = 2 * (X * Y - W * Z), ay = 1 - 2 * (X * X + Z * Z), az = 2 * (Y * Z + W * X);
  double sign = ay < 0 ? -1.0 : 1.0, cx = -sign * az, cz = sign * ax, now = sqrt(cx * cx + cz * cz);
  if (now <= sine || now < 1e-12) return;
  double half = 0.5 * (atan2(now, fabs(ay)) - asin(sine < 1 ? sine : 1)), s = sin(half) / now, a = cx * s, d = cz * s, c = cos(half);
  double tx = c * X + a * W - d * Y, ty = c * Y - a * Z + d * X, tz = c * Z + a * Y + d * W, tw = c * W - a * X - d * Z;
  double l = 1.0 / sqrt(tx * tx + ty * ty + tz * tz + tw * tw);
  qx[i] = tx * l; qy[i] = ty * l; qz[i] = tz * l; qw[i] = tw * l;
}

static void land(int n) {
  double mu = sqrt(MU_FLOOR * MU);
  for (int i = 0; i < n; i++) {
    if (rest[i] || y[i] >= RADIUS) continue;
    double flat = (y[i] - THICK) / (RADIUS - THICK), into = v[i];
    lean(i, flat < 0 ? 0 : flat);
    if (y[i] > THICK || into > 0) continue;
    y[i] = THICK;
    double slide = sqrt(u[i] * u[i] + w[i] * w[i]), keep = slide > 0 ? 1.0 + mu * into / slide : 0.0;
    if (keep < 0) keep = 0;
    if (keep * slide < SETTLE) { keep = 0; rest[i] = 1; }
    u[i] *= keep; w[i] *= keep; v[i] = 0;
  }
}

static int up(const void *a, const void *b) { double d = *(double *)a - *(double *)b; return d < 0 ? -1 : d > 0; }

int main(int argc, char **argv) {
  FILE *file = fopen(argv[1], "rb");
  double head[2], times[1000], row[8], sum = 0;
  if (argc < 2 || !file || fread(head, 8, 2, file) != 2 || fread(F, 8, 3 * CELLS, file) != 3 * CELLS) return 1;
  int n = (int)head[0], steps = (int)head[1];
  double **all[] = {&x, &y, &z, &fall, &tumble, &sx, &sy, &sz, &u, &v, &w, &qx, &qy, &qz, &qw, &au, &av, &aw};
  for (int a = 0; a < 18; a++) *all[a] = calloc(n, 8);
  rest = calloc(n, 1);
  for (int i = 0; i < n; i++) {
    if (fread(row, 8, 8, file) != 8) return 1;
    for (int a = 0; a < 8; a++) (*all[a])[i] = row[a];
    qw[i] = 1;
  }
  for (int s = 0; s < steps; s++) {
    struct timespec a, b;
    clock_gettime(CLOCK_MONOTONIC, &a);
    air(n, 0.8, 0.5); move(n); land(n);
    clock_gettime(CLOCK_MONOTONIC, &b);
    times[s] = (b.tv_sec - a.tv_sec) * 1e3 + (b.tv_nsec - a.tv_nsec) * 1e-6;
  }
  qsort(times, steps, 8, up);
  for (int i = 0; i < n; i++) sum += x[i] + y[i] + z[i] + qx[i];
  printf("{\"best ms\":%.1f,\"median ms\":%.1f,\"sum\":%.6f}\n", times[0], times[steps / 2], sum);
  return 0;
}
