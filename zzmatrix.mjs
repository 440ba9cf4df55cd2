// zzmatrix.mts
import sharp from "sharp";
import { readFileSync, readdirSync } from "node:fs";

// core/sighting/steps.ts
import { CholeskyDecomposition, Matrix } from "ml-matrix";

// core/sighting/tones.ts
var tonesOf = (n, data = new Float32Array(n * n)) => ({ n, data });
function sampled({ n, data }, x, y) {
  const fx = Math.min(n - 1, Math.max(0, (x + 1) * n / 2 - 0.5));
  const fy = Math.min(n - 1, Math.max(0, (1 - y) * n / 2 - 0.5));
  const i = Math.min(n - 2, Math.floor(fx));
  const j = Math.min(n - 2, Math.floor(fy));
  const [u, v] = [fx - i, fy - j];
  const at = j * n + i;
  const above = data[at] + u * (data[at + 1] - data[at]);
  const below = data[at + n] + u * (data[at + n + 1] - data[at + n]);
  return above + v * (below - above);
}
function halved({ n, data }) {
  const half = n >> 1;
  const made = tonesOf(half);
  for (let j = 0; j < half; j++)
    for (let i = 0; i < half; i++) {
      const at = 2 * j * n + 2 * i;
      made.data[j * half + i] = (data[at] + data[at + 1] + data[at + n] + data[at + n + 1]) / 4;
    }
  return made;
}
function summedAcross(data, n, r) {
  const made = new Float32Array(n * n);
  for (let j = 0; j < n; j++) {
    let sum = 0;
    for (let i = -r; i < n; i++) {
      if (i + r < n) sum += data[j * n + i + r];
      if (i - r - 1 >= 0) sum -= data[j * n + i - r - 1];
      if (i >= 0) made[i * n + j] = sum;
    }
  }
  return made;
}
function boxed({ n, data }, r) {
  const once = (a) => summedAcross(summedAcross(a, n, r), n, r);
  return tonesOf(n, once(once(data)));
}
var MEAN_OF = 0.09;
var SPREAD_OF = 0.13;
var MOST = 3;
function evened(grey, weight) {
  const { n } = grey;
  const w = weight?.data ?? new Float32Array(n * n).fill(1);
  const over = (values, r2) => boxed(
    tonesOf(
      n,
      values.map((v, i) => v * w[i])
    ),
    r2
  ).data;
  const windows = (r2) => boxed(tonesOf(n, w), r2).data;
  const [r, s] = [Math.round(MEAN_OF * n), Math.round(SPREAD_OF * n)];
  const [mean, count] = [over(grey.data, r), windows(r)];
  const made = grey.data.map((v, i) => w[i] > 0 ? v - mean[i] / Math.max(1e-6, count[i]) : 0);
  const squares2 = made.map((v) => v * v);
  const [spread2, counted] = [over(squares2, s), windows(s)];
  let [all, weights] = [0, 0];
  for (let i = 0; i < n * n; i++) {
    all += w[i] * squares2[i];
    weights += w[i];
  }
  const third = 0.35 * Math.sqrt(all / Math.max(1e-6, weights)) + 1e-4;
  return tonesOf(
    n,
    made.map((v, i) => {
      const even = v / (Math.sqrt(spread2[i] / Math.max(1e-6, counted[i])) + third);
      return Math.max(-MOST, Math.min(MOST, even));
    })
  );
}
function slopes({ n, data }) {
  const [dx, dy] = [tonesOf(n), tonesOf(n)];
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const [w, e] = [Math.max(0, i - 1), Math.min(n - 1, i + 1)];
      const [u, d] = [Math.max(0, j - 1), Math.min(n - 1, j + 1)];
      dx.data[j * n + i] = (data[j * n + e] - data[j * n + w]) / (e - w) * (n / 2);
      dy.data[j * n + i] = (data[u * n + i] - data[d * n + i]) / (d - u) * (n / 2);
    }
  return { dx, dy };
}

// core/sighting/warp.ts
var STILL = { turn: 0, slide: 0, modes: [], spline: null };
var USUAL = [0.025, 0.025, 0.03, 0.03, 0.01, 8e-3, 0.05, 0.05, 5e-3, 5e-3];
function modesAt(x, y, into) {
  into[0] = into[3] = 1;
  into[4] = into[9] = into[11] = x;
  into[7] = into[8] = y;
  into[10] = -y;
  into[12] = x * (1 - x * x);
  into[15] = y * (1 - y * y);
  into[16] = x * x;
  into[17] = x * y;
  into[18] = x * y;
  into[19] = y * y;
}
var USUAL_TURN = 0.1;
var USUAL_SLIDE = 0.08;
var turning = (x, y) => [-y * (1 - x * x), x * (1 - y * y)];
var STEPS = 4;
function turned(x, y, angle) {
  if (angle === 0) return [x, y];
  let [px, py] = [x, y];
  const h = angle / STEPS;
  for (let k = 0; k < STEPS; k++) {
    const [ax, ay] = turning(px, py);
    const [bx, by] = turning(px + h / 2 * ax, py + h / 2 * ay);
    const [cx, cy] = turning(px + h / 2 * bx, py + h / 2 * by);
    const [dx, dy] = turning(px + h * cx, py + h * cy);
    px += h / 6 * (ax + 2 * bx + 2 * cx + dx);
    py += h / 6 * (ay + 2 * by + 2 * cy + dy);
  }
  return [px, py];
}
function slid(x, y, angle) {
  const r = Math.max(Math.abs(x), Math.abs(y));
  if (angle === 0 || r === 0) return [x, y];
  const along = Math.abs(x) >= Math.abs(y) ? x > 0 ? 1 + y / r : 5 - y / r : y > 0 ? 3 - x / r : 7 + x / r;
  const by = Math.sign(angle) * (1 - Math.tan(Math.PI / 4 - Math.abs(angle)));
  const to = ((along + by) % 8 + 8) % 8;
  if (to < 2) return [r, r * (to - 1)];
  if (to < 4) return [r * (3 - to), r];
  if (to < 6) return [-r, r * (5 - to)];
  return [r * (to - 7), -r];
}
function splineAt(cells, x) {
  const at = (x + 1) / 2 * cells;
  const first = Math.min(cells - 1, Math.max(0, Math.floor(at)));
  const t = at - first;
  const [t2, t3] = [t * t, t * t * t];
  return {
    first,
    w: [(1 - t) ** 3 / 6, (3 * t3 - 6 * t2 + 4) / 6, (-3 * t3 + 3 * t2 + 3 * t + 1) / 6, t3 / 6]
  };
}
function bySpline({ cells, knots }, x, y) {
  const [a, b] = [splineAt(cells, x), splineAt(cells, y)];
  const row = cells + 3;
  let [dx, dy] = [0, 0];
  for (let j = 0; j < 4; j++)
    for (let i = 0; i < 4; i++) {
      const w = a.w[i] * b.w[j];
      const k = 2 * ((b.first + j) * row + a.first + i);
      dx += w * knots[k];
      dy += w * knots[k + 1];
    }
  return [dx, dy];
}
function carried({ turn, slide }, n) {
  const made = new Float64Array(2 * n * n);
  for (let j = 0, at = 0; j < n; j++)
    for (let i = 0; i < n; i++, at += 2) {
      const [sx, sy] = slid((2 * i + 1) / n - 1, 1 - (2 * j + 1) / n, -slide);
      const [x, y] = turned(sx, sy, -turn);
      made[at] = x;
      made[at + 1] = y;
    }
  return made;
}
function withModes(from, modes) {
  const made = from.slice();
  const each = new Float64Array(2 * USUAL.length);
  for (let at = 0; at < from.length; at += 2) {
    modesAt(from[at], from[at + 1], each);
    for (let m = 0; m < modes.length; m++) {
      made[at] += modes[m] * each[2 * m];
      made[at + 1] += modes[m] * each[2 * m + 1];
    }
  }
  return made;
}
function withSpline(from, { cells, knots }) {
  const n = Math.round(Math.sqrt(from.length / 2));
  const made = from.slice();
  const row = cells + 3;
  const along = Array.from({ length: n }, (_, i) => splineAt(cells, (2 * i + 1) / n - 1));
  for (let j = 0, at = 0; j < n; j++)
    for (let i = 0; i < n; i++, at += 2) {
      const [a, b] = [along[i], along[n - 1 - j]];
      for (let v = 0; v < 4; v++)
        for (let u = 0; u < 4; u++) {
          const w = a.w[u] * b.w[v];
          const k = 2 * ((b.first + v) * row + a.first + u);
          made[at] += w * knots[k];
          made[at + 1] += w * knots[k + 1];
        }
    }
  return made;
}
function warpedAll(warp, n) {
  const modes = withModes(carried(warp, n), warp.modes);
  return warp.spline ? withSpline(modes, warp.spline) : modes;
}
function warped(warp, x, y) {
  const [sx, sy] = slid(x, y, -warp.slide);
  const [ex, ey] = turned(sx, sy, -warp.turn);
  const each = new Float64Array(2 * USUAL.length);
  modesAt(ex, ey, each);
  let [qx, qy] = [ex, ey];
  warp.modes.forEach((value, m) => {
    qx += value * each[2 * m];
    qy += value * each[2 * m + 1];
  });
  if (warp.spline) {
    const [dx, dy] = bySpline(warp.spline, x, y);
    qx += dx;
    qy += dy;
  }
  return [qx, qy];
}

// core/sighting/steps.ts
function levelOf(photo, weight, predicted) {
  return { photo, weight, predicted, ...slopes(predicted) };
}
var ODD = 1;
var LEFT_OVER = 0.5;
var SPOTS = 2500;
function correlation({ photo, weight, predicted }, places, sx = 0, sy = 0) {
  let [s, a, b, aa, bb, ab] = [0, 0, 0, 0, 0, 0];
  for (let i = 0; i < weight.data.length; i++) {
    const w = weight.data[i];
    if (w < LEAST_WEIGHT) continue;
    const f = photo.data[i];
    const p = sampled(predicted, places[2 * i] + sx, places[2 * i + 1] + sy);
    s += w;
    a += w * f;
    b += w * p;
    aa += w * f * f;
    bb += w * p * p;
    ab += w * f * p;
  }
  if (s === 0) return 0;
  return (ab / s - a / s * (b / s)) / Math.sqrt((aa / s - (a / s) ** 2) * (bb / s - (b / s) ** 2) + 1e-12);
}
var LEAST_WEIGHT = 0.05;
function eachDot(level, places, visit) {
  const { photo, weight, predicted, dx, dy } = level;
  const difference = { left: 0, gx: 0, gy: 0, weight: 0 };
  const per = share(level);
  for (let i = 0; i < weight.data.length; i++) {
    const w = weight.data[i];
    const [qx, qy] = [places[2 * i], places[2 * i + 1]];
    if (w < LEAST_WEIGHT || qx < -1 || qx > 1 || qy < -1 || qy > 1) continue;
    difference.left = photo.data[i] - sampled(predicted, qx, qy);
    difference.gx = sampled(dx, qx, qy);
    difference.gy = sampled(dy, qx, qy);
    difference.weight = w * trust(difference.left) * per;
    visit(i, difference);
  }
}
var normalOf = (size) => ({
  size,
  a: new Float64Array(size * size),
  b: new Float64Array(size)
});
function solved({ size, a, b }) {
  for (let i = 0; i < size; i++) for (let j = 0; j < i; j++) a[i * size + j] = a[j * size + i];
  const matrix = Matrix.from1DArray(size, size, a);
  const way = new CholeskyDecomposition(matrix).solve(Matrix.columnVector(b));
  return Float64Array.from(way.to1DArray());
}
var trust = (difference) => 1 / (1 + (difference / ODD) ** 2) ** 2;
var share = (level) => {
  const weights = level.weight.data.reduce((sum, w) => sum + w, 0);
  return SPOTS / (Math.max(1, weights) * LEFT_OVER ** 2);
};
var HELD = 1e-4;
function modesStep(level, warp, turns = "both") {
  const size = USUAL.length + 2;
  const normal = normalOf(size);
  const { a, b } = normal;
  const row = new Float64Array(size);
  const each = new Float64Array(2 * USUAL.length);
  const exact = carried(warp, level.photo.n);
  eachDot(level, withModes(exact, warp.modes), (i, { left, gx, gy, weight }) => {
    const [x, y] = [exact[2 * i], exact[2 * i + 1]];
    const r = 2 * Math.max(Math.abs(x), Math.abs(y));
    row[0] = gx * y * (1 - x * x) - gy * x * (1 - y * y);
    row[1] = Math.abs(x) >= Math.abs(y) ? (x > 0 ? -r : r) * gy : (y > 0 ? r : -r) * gx;
    modesAt(x, y, each);
    for (let m = 0; m < USUAL.length; m++) row[m + 2] = gx * each[2 * m] + gy * each[2 * m + 1];
    for (let p = 0; p < size; p++) {
      const by = weight * row[p];
      const from = p * size;
      b[p] += by * left;
      for (let q = p; q < size; q++) a[from + q] += by * row[q];
    }
  });
  const now = [warp.turn, warp.slide, ...USUAL.map((_, m) => warp.modes[m] ?? 0)];
  const usual = [turns === "slide" ? HELD : USUAL_TURN, turns === "turn" ? HELD : USUAL_SLIDE, ...USUAL];
  usual.forEach((spread2, p) => {
    normal.a[p * size + p] += 1 / spread2 ** 2;
    normal.b[p] -= now[p] / spread2 ** 2;
  });
  const step = solved(normal);
  const next = now.map((value, p) => value + Math.max(-usual[p], Math.min(usual[p], step[p])));
  return { ...warp, turn: next[0], slide: next[1], modes: next.slice(2) };
}
var BENDS = 0.03;
var STRAYS = 0.02;
var MOST_STEP = 0.03;
function hold(normal, { cells, knots }) {
  const row = cells + 3;
  const { size, a, b } = normal;
  const stiff = 1 / BENDS ** 2;
  const add = (terms, weight) => {
    const value = terms.reduce((sum, [k, c]) => sum + c * knots[k], 0);
    for (const [p, cp] of terms) {
      b[p] -= weight * cp * value;
      for (const [q, cq] of terms) if (q >= p) a[p * size + q] += weight * cp * cq;
    }
  };
  for (let j = 0; j < row; j++)
    for (let i = 0; i < row; i++)
      for (let c = 0; c < 2; c++) {
        const at = (di, dj) => 2 * ((j + dj) * row + i + di) + c;
        add([[at(0, 0), 1]], 1 / (2 * STRAYS) ** 2);
        if (i + 2 < row)
          add(
            [
              [at(0, 0), 1],
              [at(1, 0), -2],
              [at(2, 0), 1]
            ],
            stiff
          );
        if (j + 2 < row)
          add(
            [
              [at(0, 0), 1],
              [at(0, 1), -2],
              [at(0, 2), 1]
            ],
            stiff
          );
        if (i + 1 < row && j + 1 < row)
          add(
            [
              [at(0, 0), 1],
              [at(1, 0), -1],
              [at(0, 1), -1],
              [at(1, 1), 1]
            ],
            2 * stiff
          );
      }
}
function splineStep(level, byModes, spline) {
  const { n } = level.photo;
  const { cells, knots } = spline;
  const row = cells + 3;
  const size = knots.length;
  const normal = normalOf(size);
  const { a, b } = normal;
  const along = Array.from({ length: n }, (_, i) => splineAt(cells, (2 * i + 1) / n - 1));
  const knot = new Int32Array(16);
  const part = new Float64Array(16);
  eachDot(level, withSpline(byModes, spline), (at, { left, gx, gy, weight }) => {
    const [u, v] = [along[at % n], along[n - 1 - Math.floor(at / n)]];
    for (let m = 0; m < 16; m++) {
      knot[m] = 2 * ((v.first + (m >> 2)) * row + u.first + (m & 3));
      part[m] = u.w[m & 3] * v.w[m >> 2];
    }
    const [xx, xy, yy] = [weight * gx * gx, weight * gx * gy, weight * gy * gy];
    for (let p = 0; p < 16; p++) {
      const by = weight * left * part[p];
      b[knot[p]] += by * gx;
      b[knot[p] + 1] += by * gy;
      const [first, second] = [knot[p] * size, (knot[p] + 1) * size];
      for (let q = p; q < 16; q++) {
        const both = part[p] * part[q];
        const k = knot[q];
        a[first + k] += both * xx;
        a[first + k + 1] += both * xy;
        a[second + k] += both * xy;
        a[second + k + 1] += both * yy;
      }
    }
  });
  hold(normal, spline);
  const step = solved(normal);
  return { cells, knots: knots.map((k, i) => k + Math.max(-MOST_STEP, Math.min(MOST_STEP, step[i]))) };
}
var fresh = (cells) => ({ cells, knots: new Float64Array(2 * (cells + 3) ** 2) });
function finer(spline, cells) {
  const made = fresh(cells);
  const row = cells + 3;
  for (let j = 0; j < row; j++)
    for (let i = 0; i < row; i++) {
      const place = (k) => Math.max(-1, Math.min(1, 2 * (k - 1) / cells - 1));
      const [dx, dy] = warped({ turn: 0, slide: 0, modes: [], spline }, place(i), place(j));
      made.knots[2 * (j * row + i)] = dx - place(i);
      made.knots[2 * (j * row + i) + 1] = dy - place(j);
    }
  return made;
}
var ORIENTATIONS = 8;
function onEndB(k, x, y) {
  const m = k >= 4 ? -1 : 1;
  const [c, s] = [
    [1, 0],
    [0, 1],
    [-1, 0],
    [0, -1]
  ][k % 4];
  return [c * m * x - s * y, s * m * x + c * y];
}
function oriented(predicted, k) {
  const { n } = predicted;
  const made = tonesOf(n);
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const [x, y] = onEndB(k, 2 * i + 1 - n, n - 1 - 2 * j);
      made.data[j * n + i] = predicted.data[(n - 1 - y) / 2 * n + (x + n - 1) / 2];
    }
  return made;
}

// core/sighting/homography.ts
import { Matrix as Matrix2, solve } from "ml-matrix";
var SQUARE = [
  [-1, 1],
  [1, 1],
  [1, -1],
  [-1, -1]
];
function toCorners(corners) {
  const rows = [];
  const right = [];
  corners.forEach(([u, v], k) => {
    const [x, y] = SQUARE[k];
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]);
    right.push(u, v);
  });
  return [...solve(new Matrix2(rows), Matrix2.columnVector(right)).to1DArray(), 1];
}
function through(h, [x, y]) {
  const w = h[6] * x + h[7] * y + h[8];
  return [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w];
}

// core/sighting/photo.ts
function halvedPhoto({ width, height, rgba }) {
  const [w, h] = [width >> 1, height >> 1];
  const made = new Uint8Array(4 * w * h);
  for (let j = 0; j < h; j++)
    for (let i = 0; i < w; i++)
      for (let c = 0; c < 4; c++) {
        const at = 4 * (2 * j * width + 2 * i) + c;
        made[4 * (j * w + i) + c] = rgba[at] + rgba[at + 4] + rgba[at + 4 * width] + rgba[at + 4 * width + 4] + 2 >> 2;
      }
  return { width: w, height: h, rgba: made };
}
var MOST_SIDE_PX = 900;
function shrunk(photo, corners) {
  const sides = corners.map(
    ([x, y], k) => Math.hypot(corners[(k + 1) % 4][0] - x, corners[(k + 1) % 4][1] - y)
  );
  let [now, by] = [photo, 1];
  while (Math.max(...sides) / by > MOST_SIDE_PX && now.width > 2 && now.height > 2) {
    now = halvedPhoto(now);
    by *= 2;
  }
  return { photo: now, by };
}
function colourAt({ width, height, rgba }, x, y) {
  const [fx, fy] = [x - 0.5, y - 0.5];
  if (fx < -0.5 || fy < -0.5 || fx > width - 0.5 || fy > height - 0.5) return null;
  const i = Math.min(width - 2, Math.max(0, Math.floor(fx)));
  const j = Math.min(height - 2, Math.max(0, Math.floor(fy)));
  const [u, v] = [Math.min(1, Math.max(0, fx - i)), Math.min(1, Math.max(0, fy - j))];
  const at = 4 * (j * width + i);
  const row = 4 * width;
  const one = (c) => {
    const above = rgba[at + c] + u * (rgba[at + 4 + c] - rgba[at + c]);
    const below = rgba[at + row + c] + u * (rgba[at + row + 4 + c] - rgba[at + row + c]);
    return above + v * (below - above);
  };
  return [one(0), one(1), one(2)];
}
var BURNT = 250;
var RIM = 0.04;
var STRAYS2 = 0.07;
var median = (values) => values.sort((a, b) => a - b)[values.length >> 1] ?? 0;
function rectified(photo, corners, n) {
  const h = toCorners(corners);
  const [grey, weight] = [tonesOf(n), tonesOf(n)];
  const [red, blue] = [new Float32Array(n * n), new Float32Array(n * n)];
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const at = j * n + i;
      const [x, y] = [(2 * i + 1) / n - 1, 1 - (2 * j + 1) / n];
      const [px, py] = through(h, [x, y]);
      const colour = colourAt(photo, px, py);
      if (!colour) continue;
      const [r, g, b] = colour;
      grey.data[at] = (0.3 * r + 0.59 * g + 0.11 * b) / 255;
      const sum = r + g + b + 30;
      red[at] = r / sum;
      blue[at] = b / sum;
      const rim = Math.min(1, (1 - Math.max(Math.abs(x), Math.abs(y))) / RIM);
      weight.data[at] = Math.max(r, g, b) >= BURNT ? 0 : rim;
    }
  const some = Array.from({ length: n * n }, (_, i) => i).filter((i) => i % 13 === 0 && weight.data[i] > 0);
  const [red0, blue0] = [median(some.map((i) => red[i])), median(some.map((i) => blue[i]))];
  for (let i = 0; i < n * n; i++)
    weight.data[i] /= (1 + (Math.hypot(red[i] - red0, blue[i] - blue0) / STRAYS2) ** 2) ** 2;
  return { grey, weight };
}

// core/sighting/fitted.ts
var SIDE = 512;
var DEG = Math.PI / 180;
var pyramid = (plane) => {
  const half = halved(plane);
  return [plane, half, halved(half), halved(halved(half))];
};
function seenOf(photo, corners, predicted) {
  const { grey, weight } = rectified(photo, corners, SIDE);
  return {
    grey,
    photo: pyramid(evened(grey, weight)),
    weight: pyramid(weight),
    predicted: pyramid(evened(predicted))
  };
}
var levelAt = ({ photo, weight, predicted }, level, k) => levelOf(photo[level], weight[level], oriented(predicted[level], k));
function searched(seen, allowed) {
  const levels = allowed.map((k) => ({ k, level: levelAt(seen, TINY, k) }));
  const own = levels.map(() => []);
  for (let deg = -12; deg <= 12; deg += 2) {
    const turn = deg * DEG;
    const places = carried({ turn, slide: 0 }, levels[0].level.photo.n);
    levels.forEach(({ k, level }, i) => {
      for (let x = -2; x <= 2; x++)
        for (let y = -2; y <= 2; y++) {
          const modes = [0.03 * x, 0.03 * y];
          const score = correlation(level, places, modes[0], modes[1]);
          own[i].push({ k, warp: { ...STILL, turn, modes }, score });
        }
    });
  }
  return own.flatMap((all) => best(all, 3));
}
var [FINE, MIDDLE, COARSE, TINY] = [0, 1, 2, 3];
var NEAR = 0.08;
var PAYS = 0.01;
var SURE = 0.86;
var RESTARTS = 20;
var HOPELESS = 0.3;
var best = (found, count) => [...found].sort((a, b) => b.score - a.score).slice(0, count);
var scored = (level, k, warp) => ({
  k,
  warp,
  score: correlation(level, warpedAll(warp, level.photo.n))
});
function stepped(level, warp, rounds, turns = "both") {
  let now = warp;
  for (let i = 0; i < rounds; i++) now = modesStep(level, now, turns);
  return now;
}
var turnsOf = ({ turn, slide }) => Math.abs(slide) < 1e-3 ? "turn" : Math.abs(turn) < 1e-3 ? "slide" : "both";
function plainest(level, { k, warp, score }) {
  const angle = warp.turn + warp.slide;
  const [alone] = best(
    [
      scored(level, k, stepped(level, { ...warp, turn: angle, slide: 0 }, 5, "turn")),
      scored(level, k, stepped(level, { ...warp, turn: 0, slide: angle }, 5, "slide"))
    ],
    1
  );
  return alone.score > score - PAYS ? alone : { k, warp, score };
}
function bestOfEach(found) {
  const each = /* @__PURE__ */ new Map();
  for (const one of found) if (one.score > (each.get(one.k)?.score ?? -1)) each.set(one.k, one);
  return best([...each.values()], ORIENTATIONS);
}
function splined(level, warp, cells, rounds) {
  const byModes = warpedAll({ ...warp, spline: null }, level.photo.n);
  let spline = warp.spline ?? fresh(cells[0]);
  for (const count of cells) {
    if (count !== spline.cells) spline = finer(spline, count);
    for (let i = 0; i < rounds; i++) spline = splineStep(level, byModes, spline);
  }
  return { ...warp, spline };
}
var spread = (i, m) => 2 * (i * (0.5 + Math.sqrt(2 + 3 * m)) % 1) - 1;
function again(level, from) {
  const found = Array.from({ length: RESTARTS }, (_, i) => {
    const modes = USUAL.map((usual, m) => (from.warp.modes[m] ?? 0) + 0.8 * usual * spread(i + 1, m));
    const turn = from.warp.turn + 0.06 * spread(i + 1, 11);
    const slide = from.warp.slide + 0.06 * spread(i + 1, 12);
    return scored(level, from.k, stepped(level, { turn, slide, modes, spline: null }, 4));
  });
  return best([from, ...found], 1)[0];
}
var TWIN = 0.9;
function twinsOf(k, predicted) {
  const own = oriented(predicted, k);
  const all = tonesOf(own.n, new Float32Array(own.data.length).fill(1));
  const places = carried({ turn: 0, slide: 0 }, own.n);
  return Array.from({ length: ORIENTATIONS }, (_, other) => other).filter(
    (other) => other === k || correlation(levelOf(own, all, oriented(predicted, other)), places) > TWIN
  );
}
function fitted(seen, allowed, watch = () => void 0) {
  const at = (fineness) => {
    const levels = /* @__PURE__ */ new Map();
    return (k2) => {
      const level = levels.get(k2) ?? levelAt(seen, fineness, k2);
      levels.set(k2, level);
      return level;
    };
  };
  const [tiny, coarse] = [at(TINY), at(COARSE)];
  const tried = searched(seen, allowed).map(({ k: k2, warp: warp2 }) => scored(tiny(k2), k2, stepped(tiny(k2), warp2, 4)));
  watch(0.2);
  const begun = bestOfEach(
    bestAnd(tried, 10).map(({ k: k2, warp: warp2 }) => scored(coarse(k2), k2, stepped(coarse(k2), warp2, 4)))
  );
  watch(0.4);
  const [likely] = begun;
  if (likely.score < HOPELESS) return { ...likely, lead: 0, twins: [likely.k] };
  const near = begun.filter((f) => f.score > begun[0].score - NEAR).slice(0, 4);
  const plain = near.map((f) => plainest(coarse(f.k), f));
  const [first] = best(plain, 1);
  if (first.score < SURE) plain.push(plainest(coarse(first.k), again(coarse(first.k), first)));
  watch(0.6);
  const bent = plain.map(({ k: k2, warp: warp2 }) => scored(coarse(k2), k2, splined(coarse(k2), warp2, [5], 2)));
  const [found] = bestOfEach(bent);
  const { k } = found;
  const middle = levelAt(seen, MIDDLE, k);
  const modes = stepped(middle, { ...found.warp, spline: null }, 2, turnsOf(found.warp));
  watch(0.7);
  const fine = levelAt(seen, FINE, k);
  const bend = splined(middle, splined(coarse(k), modes, [5, 8], 3), [11], 2);
  const warp = splined(fine, bend, [11], 1);
  watch(0.95);
  const twins = twinsOf(k, seen.predicted[COARSE]);
  const others = [...begun, ...bent].filter((f) => !twins.includes(f.k)).map((f) => f.score);
  return { ...scored(fine, k, warp), lead: found.score - Math.max(0, ...others), twins };
}
var bestAnd = (found, count) => [
  .../* @__PURE__ */ new Set([...best(found, count), ...bestOfEach(found)])
];

// core/sighting/sighting.ts
import { z } from "zod";

// core/sighting/layers.ts
var DISC = 0.6;
var STEPS2 = 61;
var H = 0.05;
function layersTurned(warp, k, predicted, { widthMm, heightMm }) {
  const { dx, dy } = slopes(predicted);
  const back = (x, y) => onEndB(k, ...warped(warp, x, y));
  let [c, s] = [0, 0];
  for (let j = 0; j < STEPS2; j++)
    for (let i = 0; i < STEPS2; i++) {
      const [x, y] = [DISC * (2 * i / (STEPS2 - 1) - 1), DISC * (2 * j / (STEPS2 - 1) - 1)];
      if (Math.hypot(x, y) > DISC) continue;
      const [u, v] = back(x, y);
      const [gx, gy] = [sampled(dx, u, v) / widthMm, sampled(dy, u, v) / heightMm];
      const [right, left] = [back(x + H, y), back(x - H, y)];
      const [up, down] = [back(x, y + H), back(x, y - H)];
      const hx = (gx * widthMm * (right[0] - left[0]) + gy * heightMm * (right[1] - left[1])) / (2 * H);
      const hy = (gx * widthMm * (up[0] - down[0]) + gy * heightMm * (up[1] - down[1])) / (2 * H);
      const [ox, oy] = onEndB(k, hx, hy);
      const [px, py] = [ox / widthMm, oy / heightMm];
      const angle = 2 * (Math.atan2(py, px) - Math.atan2(gy, gx));
      const weight = gx * gx + gy * gy;
      c += weight * Math.cos(angle);
      s += weight * Math.sin(angle);
    }
  return 0.5 * Math.atan2(s, c) * 180 / Math.PI;
}

// core/sighting/lean.ts
import { Matrix as Matrix3, solve as solve2 } from "ml-matrix";
var DEG2 = Math.PI / 180;
function leanByDiagonals({ acrossMm, heightMm }, [d1, d2]) {
  const by = (d1 ** 2 - d2 ** 2) / (4 * acrossMm * heightMm);
  const sin = Math.abs(by) < 1e-9 ? by : (Math.sqrt(1 + 4 * by * by) - 1) / (2 * by);
  return Math.asin(sin) / DEG2;
}
var CORNER_PX = 1.5;
var USUAL_LEAN_DEG = 3;
function seenAt([lean, a, b, c, x, y, z2], corner, { acrossMm, heightMm }, mirrored, camera) {
  const [half, up] = [acrossMm / Math.cos(lean) / 2, heightMm / 2];
  const across = (corner[0] * half + corner[1] * up * Math.tan(lean)) * (mirrored ? -1 : 1);
  const down = -corner[1] * up;
  const angle = Math.hypot(a, b, c);
  const [sin, cos] = angle < 1e-9 ? [1, 0.5] : [Math.sin(angle) / angle, (1 - Math.cos(angle)) / angle ** 2];
  const dot = a * across + b * down;
  const flat = angle < 1e-9 ? 1 : Math.cos(angle);
  const px = flat * across - sin * c * down + cos * a * dot + x;
  const py = flat * down + sin * c * across + cos * b * dot + y;
  const pz = sin * (a * down - b * across) + cos * c * dot + z2;
  return [camera.middle[0] + camera.focalPx * px / pz, camera.middle[1] + camera.focalPx * py / pz];
}
function off(guess, corners, sizes, mirrored, camera) {
  const far = corners.flatMap(([corner, seen]) => {
    const [u, v] = seenAt(guess, corner, sizes, mirrored, camera);
    return [(u - seen[0]) / CORNER_PX, (v - seen[1]) / CORNER_PX];
  });
  return [...far, guess[0] / (USUAL_LEAN_DEG * DEG2)];
}
var squares = (values) => values.reduce((sum, v) => sum + v * v, 0);
function settled(from, offs) {
  let guess = [...from];
  let cost = squares(offs(guess));
  let damp = 1e-3;
  let normal = new Matrix3(1, 1);
  for (let round = 0; round < 40; round++) {
    const here = offs(guess);
    const slopes2 = guess.map((value, p) => {
      const h = 1e-5 * Math.max(1, Math.abs(value));
      const moved = offs(guess.map((g, q) => q === p ? g + h : g));
      return moved.map((m, i) => (m - here[i]) / h);
    });
    const a = slopes2.map((sp) => slopes2.map((sq) => sp.reduce((sum, v, i) => sum + v * sq[i], 0)));
    normal = new Matrix3(a);
    const b = slopes2.map((sp) => -sp.reduce((sum, v, i) => sum + v * here[i], 0));
    const held = new Matrix3(a.map((row, p) => row.map((v, q) => p === q ? v * (1 + damp) : v)));
    const step = solve2(held, Matrix3.columnVector(b)).to1DArray();
    const next = guess.map((g, p) => g + step[p]);
    const then = squares(offs(next));
    if (then < cost) {
      const gain = cost - then;
      [guess, cost, damp] = [next, then, Math.max(1e-9, damp / 5)];
      if (gain < 1e-9) break;
    } else damp *= 8;
    if (damp > 1e8) break;
  }
  const spread2 = solve2(normal, Matrix3.eye(guess.length)).get(0, 0);
  return { guess, cost, sigma: Math.sqrt(Math.max(0, spread2)) };
}
function leanBySight(corners, onB, sizes, mirrored, camera) {
  const pairs = corners.map((seen, i) => [onB[i], seen]);
  const middle = corners.reduce(([x2, y2], c) => [x2 + c[0] / 4, y2 + c[1] / 4], [0, 0]);
  const side = Math.hypot(corners[1][0] - corners[0][0], corners[1][1] - corners[0][1]);
  const isAcross = Math.abs(onB[0][0] - onB[1][0]) > 1;
  const z2 = camera.focalPx * (isAcross ? sizes.acrossMm : sizes.heightMm) / side;
  const lies = [(onB[1][0] - onB[0][0]) * (mirrored ? -1 : 1), -(onB[1][1] - onB[0][1])];
  const turn = Math.atan2(corners[1][1] - corners[0][1], corners[1][0] - corners[0][0]) - Math.atan2(lies[1], lies[0]);
  const x = (middle[0] - camera.middle[0]) * z2 / camera.focalPx;
  const y = (middle[1] - camera.middle[1]) * z2 / camera.focalPx;
  const offs = (guess) => off(guess, pairs, sizes, mirrored, camera);
  const round = Math.atan2(Math.sin(turn), Math.cos(turn));
  const found = [
    [0.12, 0.12],
    [-0.12, 0.12],
    [0.12, -0.12],
    [-0.12, -0.12]
  ].map(([a, b]) => settled([0, a, b, round, x, y, z2], offs));
  const best2 = found.reduce((least2, f) => f.cost < least2.cost ? f : least2);
  const weights = found.map((f) => Math.exp(-0.5 * (f.cost - best2.cost)));
  const sum = weights.reduce((a, b) => a + b, 0);
  const mean = found.reduce((m, f, i) => m + weights[i] / sum * f.guess[0], 0);
  const spread2 = found.reduce(
    (m, f, i) => m + weights[i] / sum * ((f.guess[0] - mean) ** 2 + f.sigma ** 2),
    0
  );
  return { leanDeg: mean / DEG2, sigmaDeg: Math.sqrt(spread2) / DEG2 };
}

// core/sighting/outline.ts
var STATIONS = 64;
var REACH = 0.05;
var TAPPED = 6e-3;
var STRONG = 40;
var OUTER = 0.5;
var ALONG_PX = 3;
var ACROSS_PX = 3;
var LEAST_SEEN = 6;
function profile(photo, middle, along, out, reach) {
  const steps = Math.ceil(reach);
  return Array.from({ length: 2 * steps + 1 }, (_, k) => {
    const t = k - steps;
    const sum = [0, 0, 0];
    for (let s = -ALONG_PX; s <= ALONG_PX; s++) {
      const colour = colourAt(
        photo,
        middle[0] + t * out[0] + s * along[0],
        middle[1] + t * out[1] + s * along[1]
      );
      if (!colour) return null;
      for (let c = 0; c < 3; c++) sum[c] += colour[c] / (2 * ALONG_PX + 1);
    }
    return sum;
  });
}
function edgesAt(rows, reach) {
  const steps = (rows.length - 1) / 2;
  const change = rows.map((_, k) => {
    if (k < ACROSS_PX || k + ACROSS_PX >= rows.length) return 0;
    const mean = (from) => {
      const sum = [0, 0, 0];
      for (let i = from; i < from + ACROSS_PX; i++) {
        const row = rows[i];
        if (!row) return null;
        for (let c = 0; c < 3; c++) sum[c] += row[c] / ACROSS_PX;
      }
      return sum;
    };
    const [inside, outside] = [mean(k - ACROSS_PX), mean(k + 1)];
    if (!inside || !outside) return 0;
    return Math.hypot(inside[0] - outside[0], inside[1] - outside[1], inside[2] - outside[2]);
  });
  const found = [];
  for (let k = 1; k < change.length - 1; k++) {
    const [a, b, c] = [change[k - 1], change[k], change[k + 1]];
    if (b < a || b <= c || b < 4) continue;
    const bend = a - 2 * b + c;
    const between = bend < 0 ? 0.5 * (a - c) / bend : 0;
    const t = k - steps + Math.max(-0.5, Math.min(0.5, between));
    if (Math.abs(t) <= reach) found.push({ t, strength: b });
  }
  return found;
}
function lineThrough(seen, withinPx, length, offPx) {
  let best2 = null;
  for (let i = 0; i < seen.length; i++)
    for (let j = i + 1; j < seen.length; j++) {
      const [a, b] = [seen[i], seen[j]];
      if (Math.abs(b.s - a.s) < 0.25 * length) continue;
      const slope2 = (b.t - a.t) / (b.s - a.s);
      const offset2 = a.t - slope2 * a.s;
      const ends = [offset2, offset2 + slope2 * length];
      if (ends.some((t) => Math.abs(t) > 3 * offPx)) continue;
      let score = 0;
      for (const { s, t, strength } of seen) {
        const off2 = (t - offset2 - slope2 * s) / withinPx;
        if (Math.abs(off2) < 1) score += (1 - off2 * off2) * Math.min(strength, STRONG);
      }
      score *= Math.exp(
        -0.25 * ((ends[0] / offPx) ** 2 + (ends[1] / offPx) ** 2) + 0.5 * (ends[0] + ends[1]) / (2 * offPx) * OUTER
      );
      if (!best2 || score > best2.score) best2 = { score, offset: offset2, slope: slope2 };
    }
  if (!best2) return null;
  let { offset, slope } = best2;
  for (let round = 0; round < 5; round++) {
    let [w, ws, wt, wss, wst] = [0, 0, 0, 0, 0];
    for (const { s, t, strength } of seen) {
      const off2 = (t - offset - slope * s) / withinPx;
      if (Math.abs(off2) >= 1) continue;
      const weight = (1 - off2 * off2) ** 2 * Math.min(strength, STRONG);
      w += weight;
      ws += weight * s;
      wt += weight * t;
      wss += weight * s * s;
      wst += weight * s * t;
    }
    const det = w * wss - ws * ws;
    if (det < 1e-9) break;
    slope = (w * wst - ws * wt) / det;
    offset = (wt - slope * ws) / w;
  }
  return [offset, slope];
}
function refinedSide(photo, a, b) {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const along = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
  const out = [along[1], -along[0]];
  const offPx = TAPPED * Math.max(photo.width, photo.height);
  const reach = Math.min(3 * offPx, REACH * length);
  const seen = [];
  for (let k = 0; k < STATIONS; k++) {
    const s = length * (0.05 + 0.9 * (k + 0.5) / STATIONS);
    const middle = [a[0] + s * along[0], a[1] + s * along[1]];
    for (const edge of edgesAt(profile(photo, middle, along, out, reach + ACROSS_PX + 1), reach))
      seen.push({ s, ...edge });
  }
  const line = seen.length < LEAST_SEEN ? null : lineThrough(seen, 2.5, length, offPx);
  if (!line) return { at: a, along };
  const [offset, slope] = line;
  const norm = Math.hypot(1, slope);
  return {
    at: [a[0] + offset * out[0], a[1] + offset * out[1]],
    along: [(along[0] + slope * out[0]) / norm, (along[1] + slope * out[1]) / norm]
  };
}
function meeting(p, q) {
  const det = p.along[0] * q.along[1] - p.along[1] * q.along[0];
  const t = ((q.at[0] - p.at[0]) * q.along[1] - (q.at[1] - p.at[1]) * q.along[0]) / det;
  return [p.at[0] + t * p.along[0], p.at[1] + t * p.along[1]];
}
function refinedCorners(photo, tapped) {
  const sides = tapped.map((a, k) => refinedSide(photo, a, tapped[(k + 1) % 4]));
  return [
    meeting(sides[3], sides[0]),
    meeting(sides[0], sides[1]),
    meeting(sides[1], sides[2]),
    meeting(sides[2], sides[3])
  ];
}

// core/sighting/sighting.ts
var CELLS = 11;
var KNOTS = 2 * (CELLS + 3) ** 2;
var finite = z.number().min(-1e4).max(1e4);
var sightingSchema = z.strictObject({
  /** How the section lies in the photograph: quarters turned, 4 more where it is seen mirrored, as end A is. */
  orientation: z.int().min(0).max(7),
  /** The warp, of `Warp`, in half sides as the photograph lies. */
  turn: finite,
  slide: finite,
  modes: z.array(finite).length(USUAL.length),
  knots: z.array(finite).length(KNOTS),
  correlation: z.number().min(-1).max(1),
  lead: z.number().min(-2).max(2),
  /** Whether it is known which end it is: by the picture, or by who took it; and whether the picture shows which side is up. */
  endTold: z.boolean(),
  upTold: z.boolean(),
  turnedDeg: finite,
  turnedWithinDeg: finite,
  leansDeg: finite.nullable(),
  leansWithinDeg: finite.nullable(),
  /** Where the middle of the pattern sits, to the right and up. mm */
  offMm: z.tuple([finite, finite]),
  stretch: z.tuple([finite, finite]),
  /** How much of the section could be seen. */
  seen: z.number().min(0).max(1)
});
var LEAST_SIDE_PX = 140;
var LEAST_SEEN2 = 0.45;
var PLAIN = 0.15;
var BLURRED = 0.11;
var ANOTHER = 0.4;
function inOrder(taps) {
  const middle = taps.reduce(([x, y], t) => [x + t[0] / 4, y + t[1] / 4], [0, 0]);
  const angle = ([x, y]) => Math.atan2(y - middle[1], x - middle[0]);
  return [...taps].sort((a, b) => angle(a) - angle(b));
}
var CORNERS = [
  [-1, 1],
  [1, 1],
  [1, -1],
  [-1, -1]
];
var sideOf = (corners, k) => Math.hypot(corners[(k + 1) % 4][0] - corners[k][0], corners[(k + 1) % 4][1] - corners[k][1]);
function isSection(corners) {
  return corners.every((b, k) => {
    const [a, c] = [corners[(k + 3) % 4], corners[(k + 1) % 4]];
    const cross = (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]);
    return cross > 0.3 * sideOf(corners, (k + 3) % 4) * sideOf(corners, k);
  });
}
function allowedFor(corners, { sizes, end }) {
  const across = sideOf(corners, 0) + sideOf(corners, 2);
  const up = sideOf(corners, 1) + sideOf(corners, 3);
  const measured = Math.log(sizes.acrossMm / sizes.heightMm);
  const lying = Math.log(across / up);
  return Array.from({ length: 8 }, (_, k) => k).filter(
    (k) => (end === void 0 || end === "A" === k >= 4) && Math.abs((k % 2 === 0 ? lying : -lying) - measured) < OBLONG
  );
}
var OBLONG = 0.3;
function steepness({ n, data }) {
  let sum = 0;
  for (let i = 0; i < n * (n - 1); i++)
    if (i % n !== n - 1) sum += (data[i + 1] - data[i]) ** 2 + (data[i + n] - data[i]) ** 2;
  return sum / (n * n);
}
var isBlurred = (grey) => steepness(halved(grey)) < BLURRED * steepness(halved(halved(halved(grey))));
var rounded = (value, digits = 5) => Number(value.toFixed(digits));
function sighted(asked, prediction, watch) {
  const taps = inOrder(asked.taps);
  if (!isSection(taps)) return { ok: false, why: "no section" };
  if (Math.min(...taps.map((_, k) => sideOf(taps, k))) < LEAST_SIDE_PX)
    return { ok: false, why: "too small" };
  const { photo, by } = shrunk(asked.photo, taps);
  const scaled = (corners2, f) => corners2.map(([x, y]) => [x * f, y * f]);
  const found = refinedCorners(photo, scaled(taps, 1 / by));
  if (!isSection(found)) return { ok: false, why: "no section" };
  const seen = seenOf(photo, found, prediction.tones);
  const [weight] = seen.weight;
  const share2 = weight.data.reduce((sum, w) => sum + Number(w > PLAIN), 0) / weight.data.length;
  if (share2 < LEAST_SEEN2) return { ok: false, why: "too burnt" };
  watch?.(0.1);
  const allowed = allowedFor(found, asked);
  const otherwise = { ok: false, why: isBlurred(seen.grey) ? "too blurred" : "another bar" };
  if (allowed.length === 0) return { ok: false, why: "another bar" };
  const fit = fitted(seen, allowed, watch);
  if (fit.score < ANOTHER) return otherwise;
  const corners = scaled(found, by);
  return { ok: true, corners, sighting: told(asked, corners, prediction, fit, share2) };
}
function told(asked, corners, { tones, widthMm, heightMm }, { k, warp, score, lead, twins }, seen) {
  const back = (x, y) => onEndB(k, ...warped(warp, x, y));
  const turnedDeg = layersTurned(warp, k, tones, { widthMm, heightMm });
  const lean = leanOf(asked, corners, k);
  const [ox, oy] = back(0, 0);
  const spread2 = stretchOf(warp, k);
  return {
    orientation: k,
    turn: rounded(warp.turn),
    slide: rounded(warp.slide),
    modes: USUAL.map((_, m) => rounded(warp.modes[m] ?? 0)),
    knots: Array.from(warp.spline.knots, (v) => rounded(v)),
    correlation: rounded(score, 3),
    lead: rounded(lead, 3),
    endTold: asked.end !== void 0 || twins.every((t) => t >= 4 === k >= 4),
    upTold: twins.every((t) => t === k || t >= 4 !== k >= 4),
    turnedDeg: rounded(turnedDeg, 2),
    turnedWithinDeg: rounded((0.2 + 0.07 * Math.abs(turnedDeg)) / Math.sqrt(seen), 2),
    leansDeg: lean && rounded(lean.leanDeg, 2),
    leansWithinDeg: lean && rounded(lean.sigmaDeg, 2),
    offMm: [rounded(-ox * widthMm / 2, 3), rounded(-oy * heightMm / 2, 3)],
    stretch: [rounded(spread2[0], 4), rounded(spread2[1], 4)],
    seen: rounded(seen, 3)
  };
}
function leanOf({ photo, sizes, diagonalsMm, focalPx }, corners, k) {
  if (diagonalsMm) return { leanDeg: leanByDiagonals(sizes, diagonalsMm), sigmaDeg: 0.1 };
  if (focalPx === void 0) return null;
  const onB = CORNERS.map(([x, y]) => onEndB(k, x, y));
  const camera = { focalPx, middle: [photo.width / 2, photo.height / 2] };
  return leanBySight(corners, onB, sizes, k >= 4, camera);
}
function stretchOf(warp, k) {
  const R2 = 0.6;
  const mean = (axis) => {
    let [sum, count] = [0, 0];
    for (let t = -5; t <= 5; t++) {
      const other = R2 * t / 8;
      const at = (v) => onEndB(k, ...warped(warp, ...onPhoto(k, axis === 0 ? v : other, axis === 0 ? other : v)));
      sum += (at(R2)[axis] - at(-R2)[axis]) / (2 * R2);
      count++;
    }
    return count / sum;
  };
  return [mean(0), mean(1)];
}
function onPhoto(k, x, y) {
  return onEndB(k >= 4 ? k : (4 - k) % 4, x, y);
}

// zzmatrix.mts
var R = "/work/main/../shared/reference/photographs/";
var preds = {};
var scenes = readdirSync(R + "predicted").filter((f) => f.endsWith(".png")).map((f) => f.replace(".png", ""));
for (const s of scenes) {
  const g = await sharp(R + "predicted/" + s + ".png").greyscale().resize(SIDE, SIDE, { fit: "fill" }).raw().toBuffer();
  preds[s] = { n: SIDE, data: Float32Array.from(g, (v) => v / 255) };
}
var wrong = 0;
var least = 9;
var most = -9;
for (let i = 1; i <= 20; i++) {
  const n = "p10" + String(i).padStart(2, "0");
  const j = JSON.parse(readFileSync(R + "given/" + n + ".json", "utf8"));
  const { data, info } = await sharp(R + "given/" + n + ".jpg").ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const photo = { width: info.width, height: info.height, rgba: data };
  const sizes = { acrossMm: j.given.measuredMm.acrossFlats, heightMm: j.given.measuredMm.height };
  for (const s of scenes) {
    const r = sighted({ photo, taps: j.given.taps, sizes }, { tones: preds[s], widthMm: sizes.acrossMm, heightMm: sizes.heightMm });
    if (s === j.scene) {
      if (!r.ok) console.log("REFUSED OWN", n, r.why);
      else {
        least = Math.min(least, r.sighting.correlation);
        if (r.sighting.lead < 0.08 || r.sighting.correlation < 0.6) console.log("not sure own", n, r.sighting.correlation, r.sighting.lead);
      }
    } else if (r.ok) {
      console.log("ACCEPTED", n, j.scene, "as", s, r.sighting.correlation, "lead", r.sighting.lead);
      wrong++;
    } else most = most;
  }
}
console.log("accepted wrong", wrong, "least own", least);
