import { Matrix, solve } from 'ml-matrix';
import type { Four, Point } from './homography.ts';

const DEG = Math.PI / 180;

/** Sizes of a section by caliper: square to its sides, and its height. mm */
export interface Sizes {
  readonly acrossMm: number;
  readonly heightMm: number;
}

/**
 * By how much a section leans to the right, degrees, from its diagonals: lower left to upper right first, mm.
 * With both sides leaning by λ, d₁² − d₂² = 4 · width · side · sin λ, where width = across / cos λ and side = height / cos λ.
 */
export function leanByDiagonals({ acrossMm, heightMm }: Sizes, [d1, d2]: readonly [number, number]): number {
  const by = (d1 ** 2 - d2 ** 2) / (4 * acrossMm * heightMm);
  // sin λ / cos² λ = by: a quadratic in sin λ.
  const sin = Math.abs(by) < 1e-9 ? by : (Math.sqrt(1 + 4 * by * by) - 1) / (2 * by);
  return Math.asin(sin) / DEG;
}

/** Corners are known so closely, px; bars lean by so much as a rule, degrees. */
const CORNER_PX = 1.5;
const USUAL_LEAN_DEG = 3;

export interface Camera {
  readonly focalPx: number;
  readonly middle: Point;
}

/** Where a corner of a section that leans is seen: turned by the vector (a, b, c), moved by (x, y, z); mirrored for end A. */
export function seenAt(
  [lean, a, b, c, x, y, z]: readonly number[],
  corner: Point,
  { acrossMm, heightMm }: Sizes,
  mirrored: boolean,
  camera: Camera,
): Point {
  const [half, up] = [acrossMm / Math.cos(lean) / 2, heightMm / 2];
  const across = (corner[0] * half + corner[1] * up * Math.tan(lean)) * (mirrored ? -1 : 1);
  const down = -corner[1] * up;
  // Rodrigues: turned by |(a, b, c)| about it.
  const angle = Math.hypot(a, b, c);
  const [sin, cos] = angle < 1e-9 ? [1, 0.5] : [Math.sin(angle) / angle, (1 - Math.cos(angle)) / angle ** 2];
  const dot = a * across + b * down;
  const flat = angle < 1e-9 ? 1 : Math.cos(angle);
  const px = flat * across - sin * c * down + cos * a * dot + x;
  const py = flat * down + sin * c * across + cos * b * dot + y;
  const pz = sin * (a * down - b * across) + cos * c * dot + z;
  return [camera.middle[0] + (camera.focalPx * px) / pz, camera.middle[1] + (camera.focalPx * py) / pz];
}

/** What is off in a guess: the corners, and how unusual its lean is. */
function off(
  guess: readonly number[],
  corners: readonly (readonly [Point, Point])[],
  sizes: Sizes,
  mirrored: boolean,
  camera: Camera,
): number[] {
  const far = corners.flatMap(([corner, seen]) => {
    const [u, v] = seenAt(guess, corner, sizes, mirrored, camera);
    return [(u - seen[0]) / CORNER_PX, (v - seen[1]) / CORNER_PX];
  });
  return [...far, guess[0] / (USUAL_LEAN_DEG * DEG)];
}

const squares = (values: readonly number[]): number => values.reduce((sum, v) => sum + v * v, 0);

/** Gauss–Newton with numeric slopes, held back where a step makes it worse. */
function settled(
  from: readonly number[],
  offs: (guess: readonly number[]) => number[],
): { guess: number[]; cost: number; sigma: number } {
  let guess = [...from];
  let cost = squares(offs(guess));
  let damp = 1e-3;
  let normal = new Matrix(1, 1);
  for (let round = 0; round < 40; round++) {
    const here = offs(guess);
    const slopes = guess.map((value, p) => {
      const h = 1e-5 * Math.max(1, Math.abs(value));
      const moved = offs(guess.map((g, q) => (q === p ? g + h : g)));
      return moved.map((m, i) => (m - here[i]) / h);
    });
    const a = slopes.map((sp) => slopes.map((sq) => sp.reduce((sum, v, i) => sum + v * sq[i], 0)));
    normal = new Matrix(a);
    const b = slopes.map((sp) => -sp.reduce((sum, v, i) => sum + v * here[i], 0));
    const held = new Matrix(a.map((row, p) => row.map((v, q) => (p === q ? v * (1 + damp) : v))));
    const step = solve(held, Matrix.columnVector(b)).to1DArray();
    const next = guess.map((g, p) => g + step[p]);
    const then = squares(offs(next));
    if (then < cost) {
      const gain = cost - then;
      [guess, cost, damp] = [next, then, Math.max(1e-9, damp / 5)];
      if (gain < 1e-9) break;
    } else damp *= 8;
    if (damp > 1e8) break;
  }
  const spread = solve(normal, Matrix.eye(guess.length)).get(0, 0);
  return { guess, cost, sigma: Math.sqrt(Math.max(0, spread)) };
}

/**
 * By how much a section leans, from its corners in a photograph and the focal length: corner by corner where it lies on end B
 * (±1, ±1) and where it is seen, px. Ten times less sure than by diagonals. Degrees, with its standard deviation.
 */
export function leanBySight(
  corners: Four,
  onB: readonly Point[],
  sizes: Sizes,
  mirrored: boolean,
  camera: Camera,
): { leanDeg: number; sigmaDeg: number } {
  const pairs = corners.map((seen, i): [Point, Point] => [onB[i], seen]);
  const middle = corners.reduce(([x, y], c) => [x + c[0] / 4, y + c[1] / 4], [0, 0]);
  const side = Math.hypot(corners[1][0] - corners[0][0], corners[1][1] - corners[0][1]);
  const isAcross = Math.abs(onB[0][0] - onB[1][0]) > 1;
  const z = (camera.focalPx * (isAcross ? sizes.acrossMm : sizes.heightMm)) / side;
  // The side from the first to the second corner, as it lies on the section and as it is seen.
  const lies = [(onB[1][0] - onB[0][0]) * (mirrored ? -1 : 1), -(onB[1][1] - onB[0][1])];
  const turn =
    Math.atan2(corners[1][1] - corners[0][1], corners[1][0] - corners[0][0]) - Math.atan2(lies[1], lies[0]);
  const x = ((middle[0] - camera.middle[0]) * z) / camera.focalPx;
  const y = ((middle[1] - camera.middle[1]) * z) / camera.focalPx;
  const offs = (guess: readonly number[]) => off(guess, pairs, sizes, mirrored, camera);
  const round = Math.atan2(Math.sin(turn), Math.cos(turn));
  const found = [
    [0.12, 0.12],
    [-0.12, 0.12],
    [0.12, -0.12],
    [-0.12, -0.12],
  ].map(([a, b]) => settled([0, a, b, round, x, y, z], offs));
  const best = found.reduce((least, f) => (f.cost < least.cost ? f : least));
  // Two tilts may explain the corners nearly alike: both count, by how well they do.
  const weights = found.map((f) => Math.exp(-0.5 * (f.cost - best.cost)));
  const sum = weights.reduce((a, b) => a + b, 0);
  const mean = found.reduce((m, f, i) => m + (weights[i] / sum) * f.guess[0], 0);
  const spread = found.reduce(
    (m, f, i) => m + (weights[i] / sum) * ((f.guess[0] - mean) ** 2 + f.sigma ** 2),
    0,
  );
  return { leanDeg: mean / DEG, sigmaDeg: Math.sqrt(spread) / DEG };
}
