/** A square picture over x, y from −1 to 1, y up: row 0 is the uppermost, dots lie at the middle of their cells. */
export interface Tones {
  readonly n: number;
  readonly data: Float32Array;
}

export const tonesOf = (n: number, data: Float32Array = new Float32Array(n * n)): Tones => ({ n, data });

/** The upper left of the four dots about a point of n × n, and how far to the right and down of it the point lies. */
interface Between {
  at: number;
  u: number;
  v: number;
}

/** One place at a time, given again and again: millions are asked for. */
const HERE: Between = { at: 0, u: 0, v: 0 };

/** Between which dots a point lies; beyond the rim as at it. Good until the next is asked for. */
export function between(n: number, x: number, y: number): Between {
  const fx = Math.min(n - 1, Math.max(0, ((x + 1) * n) / 2 - 0.5));
  const fy = Math.min(n - 1, Math.max(0, ((1 - y) * n) / 2 - 0.5));
  const i = Math.min(n - 2, Math.floor(fx));
  const j = Math.min(n - 2, Math.floor(fy));
  HERE.at = j * n + i;
  HERE.u = fx - i;
  HERE.v = fy - j;
  return HERE;
}

/** What lies between four dots. */
export function blended({ n, data }: Tones, { at, u, v }: Between): number {
  const above = data[at] + u * (data[at + 1] - data[at]);
  const below = data[at + n] + u * (data[at + n + 1] - data[at + n]);
  return above + v * (below - above);
}

/** What lies at a point, between the dots; beyond the rim as at it. */
export const sampled = (tones: Tones, x: number, y: number): number => blended(tones, between(tones.n, x, y));

/** Half as many dots a side, each the mean of four. */
export function halved({ n, data }: Tones): Tones {
  const half = n >> 1;
  const made = tonesOf(half);
  for (let j = 0; j < half; j++)
    for (let i = 0; i < half; i++) {
      const at = 2 * j * n + 2 * i;
      made.data[j * half + i] = (data[at] + data[at + 1] + data[at + n] + data[at + n + 1]) / 4;
    }
  return made;
}

/** Sums along rows over windows of 2r + 1 dots, turned over: twice over, rows and columns are both summed. */
function summedAcross(data: Float32Array, n: number, r: number): Float32Array {
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

/** Sums over square windows of 2r + 1 dots a side, twice over: nearly bell-shaped. */
function boxed({ n, data }: Tones, r: number): Tones {
  const once = (a: Float32Array) => summedAcross(summedAcross(a, n, r), n, r);
  return tonesOf(n, once(once(data)));
}

/** Windows of the local mean and the local spread, as parts of the side. */
const MEAN_OF = 0.09;
const SPREAD_OF = 0.13;
const MOST = 3;

/**
 * Local contrast made even: (grey − local mean) / (local spread + a third of the whole spread), clipped at ±3. What has no weight
 * counts for nothing in the windows.
 */
export function evened(grey: Tones, weight?: Tones): Tones {
  const { n } = grey;
  const w = weight?.data ?? new Float32Array(n * n).fill(1);
  const over = (values: Float32Array, r: number) =>
    boxed(
      tonesOf(
        n,
        values.map((v, i) => v * w[i]),
      ),
      r,
    ).data;
  const windows = (r: number) => boxed(tonesOf(n, w), r).data;
  const [r, s] = [Math.round(MEAN_OF * n), Math.round(SPREAD_OF * n)];
  const [mean, count] = [over(grey.data, r), windows(r)];
  const made = grey.data.map((v, i) => (w[i] > 0 ? v - mean[i] / Math.max(1e-6, count[i]) : 0));
  const squares = made.map((v) => v * v);
  const [spread, counted] = [over(squares, s), windows(s)];
  let [all, weights] = [0, 0];
  for (let i = 0; i < n * n; i++) {
    all += w[i] * squares[i];
    weights += w[i];
  }
  const third = 0.35 * Math.sqrt(all / Math.max(1e-6, weights)) + 1e-4;
  return tonesOf(
    n,
    made.map((v, i) => {
      const even = v / (Math.sqrt(spread[i] / Math.max(1e-6, counted[i])) + third);
      return Math.max(-MOST, Math.min(MOST, even));
    }),
  );
}

/** Slopes along x and y, by half sides. */
export function slopes({ n, data }: Tones): { dx: Tones; dy: Tones } {
  const [dx, dy] = [tonesOf(n), tonesOf(n)];
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const [w, e] = [Math.max(0, i - 1), Math.min(n - 1, i + 1)];
      const [u, d] = [Math.max(0, j - 1), Math.min(n - 1, j + 1)];
      dx.data[j * n + i] = ((data[j * n + e] - data[j * n + w]) / (e - w)) * (n / 2);
      dy.data[j * n + i] = ((data[u * n + i] - data[d * n + i]) / (d - u)) * (n / 2);
    }
  return { dx, dy };
}

/** A square picture from its dots, four bytes each. */
export const tonesFrom = (rgba: ArrayLike<number>, n: number): Tones =>
  tonesOf(
    n,
    Float32Array.from(
      { length: n * n },
      (_, i) => (0.3 * rgba[4 * i] + 0.59 * rgba[4 * i + 1] + 0.11 * rgba[4 * i + 2]) / 255,
    ),
  );
