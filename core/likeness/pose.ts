import {
  type Directions,
  FOUR_WAYS,
  type Lying,
  type RepeatCell,
  type Spectrum,
  agreements,
  cellOf,
  coarser,
  directionsOf,
  lyingAs,
  spectrumOfCell,
  spectrumOfDirections,
} from './cells.ts';
import { type Grey, correlation, resampled } from './grey.ts';

/** Dots a side of a repeat; of one whose shift is looked for; of one that is looked at first, and of how lines run. */
export const FINE = 128;
const MIDDLE = 64;
const ROUGH = 32;

/** A repeat that others are compared with: at all its sizes. */
export interface Pattern {
  readonly fine: RepeatCell;
  readonly middle: RepeatCell;
  readonly directions: Directions;
  readonly roughSpectrum: Spectrum;
  readonly directionSpectrum: Spectrum;
}

export function patternOf(picture: Grey): Pattern {
  const fine = cellOf(picture, FINE);
  const directions = directionsOf(fine, ROUGH);
  return {
    fine,
    middle: coarser(fine, MIDDLE),
    directions,
    roughSpectrum: spectrumOfCell(coarser(fine, ROUGH)),
    directionSpectrum: spectrumOfDirections(directions),
  };
}

/** How a picture lies on a pattern: in one of four ways, turned by a little, stretched, and shifted by parts of a repeat. */
export interface Pose {
  readonly lying: Lying;
  /** Width to height of what is set square: a turn of the picture is a shear of the square. */
  readonly aspect: number;
  readonly turnDeg: number;
  readonly wide: number;
  readonly high: number;
  readonly x: number;
  readonly y: number;
}

/** How near a picture comes to a pattern, laid on it as it fits best: correlation of the greys, and of the way the lines run (−1 … 1). */
export interface Likeness {
  readonly pose: Pose;
  readonly correlation: number;
  readonly directions: number;
}

/** Weight of how lines run beside the greys (handbook, wish). */
const BY_DIRECTIONS = 0.5;
export const scoreOf = ({ correlation, directions }: Pick<Likeness, 'correlation' | 'directions'>): number =>
  BY_DIRECTIONS * directions + (1 - BY_DIRECTIONS) * correlation;

/** Degrees that a picture may have been turned by, as it is looked at first. */
const TURNS = [-5, 0, 5] as const;

/** One way in which the picture that is looked for may lie. */
interface Way extends Pattern {
  readonly lying: Lying;
  readonly aspect: number;
  readonly turnDeg: number;
}

/** The picture that is looked for, in all the ways it may lie: each turned the other way, so that it stands straight where it was turned so. */
export type Sought = readonly Way[];

/** A picture whose left to right is along the blade. */
export function soughtIn(picture: Grey): Sought {
  const square = cellOf(picture, FINE);
  const aspect = picture.width / picture.height;
  return FOUR_WAYS.flatMap((lying) => {
    const cell = lyingAs(square, lying);
    return TURNS.map((turnDeg): Way => ({
      lying,
      aspect,
      turnDeg,
      ...patternOf(turned(cell, { turnDeg: -turnDeg, aspect })),
    }));
  });
}

type Turned = Pick<Pose, 'turnDeg' | 'aspect'>;

/** A turn of what has been set square, as it moves x and y of the square. */
function turning({ turnDeg, aspect }: Turned): readonly [number, number, number, number] {
  const [cos, sin] = [Math.cos((turnDeg * Math.PI) / 180), Math.sin((turnDeg * Math.PI) / 180)];
  return [cos, -sin / aspect, sin * aspect, cos];
}

/** A cell turned about its middle; beyond its rim the rim. */
function turned({ side, values }: RepeatCell, by: Turned): Grey {
  const [a, b, c, d] = turning(by);
  const middle = (side - 1) / 2;
  return resampled({ width: side, height: side, values }, side, side, (x, y) => [
    middle + (x - middle) * a + (y - middle) * b,
    middle + (x - middle) * c + (y - middle) * d,
  ]);
}

interface Roughly {
  readonly way: Way;
  readonly score: number;
  /** Where the shift is, in parts of a repeat. */
  readonly x: number;
  readonly y: number;
}

/** The best ways of a picture on a pattern, looked at coarsely: so many by how lines run alone, and so many by the greys as well. */
export function roughly(sought: Sought, pattern: Pattern, most: number): Roughly[] {
  const all = sought.map((way) => {
    const byGrey = agreements(way.roughSpectrum, pattern.roughSpectrum, ROUGH);
    const byLines = agreements(way.directionSpectrum, pattern.directionSpectrum, ROUGH);
    const best = (weight: number): Roughly => {
      let [score, at] = [-Infinity, 0];
      for (let i = 0; i < byGrey.length; i++) {
        const here = weight * byLines[i] + (1 - weight) * byGrey[i];
        if (here > score) [score, at] = [here, i];
      }
      return { way, score, x: (at % ROUGH) / ROUGH, y: Math.floor(at / ROUGH) / ROUGH };
    };
    return [best(BY_DIRECTIONS), best(1)] as const;
  });
  return [0, 1].flatMap((i) =>
    all
      .map((both) => both[i])
      .sort((a, b) => b.score - a.score)
      .slice(0, most),
  );
}

type Placed = Omit<Pose, 'lying'>;

/** Where the first dot of a picture of so many dots a side lies on a pattern of so many, and how far the next one across and down lies from it. */
function strides(of: number, side: number, placed: Placed) {
  const { wide, high, x, y } = placed;
  const [xu, xv, yu, yv] = turning(placed);
  const step = of / side;
  const first = step / 2 - of / 2;
  return {
    px: of * (0.5 + x) - 0.5 + wide * first * (xu + xv),
    py: of * (0.5 + y) - 0.5 + high * first * (yu + yv),
    ...{ acrossX: wide * step * xu, acrossY: high * step * yu },
    ...{ downX: wide * step * xv, downY: high * step * yv },
  };
}

/** A field of a pattern where each dot of a picture of so many dots a side lies on it: round the repeat, straight between dots. */
function laidOn(from: Float64Array, of: number, side: number, placed: Placed): Float64Array {
  const { px: px0, py: py0, acrossX, acrossY, downX, downY } = strides(of, side, placed);
  // Sides are powers of two: what runs over comes in on the other side.
  const mask = of - 1;
  const all = new Float64Array(side * side);
  for (let row = 0, at = 0; row < side; row++) {
    let px = px0 + row * downX;
    let py = py0 + row * downY;
    for (let column = 0; column < side; column++, at++) {
      const fx = Math.floor(px);
      const fy = Math.floor(py);
      const a = px - fx;
      const b = py - fy;
      const i = fx & mask;
      const k = (fx + 1) & mask;
      const j = (fy & mask) * of;
      const l = ((fy + 1) & mask) * of;
      const upper = from[j + i] + a * (from[j + k] - from[j + i]);
      const lower = from[l + i] + a * (from[l + k] - from[l + i]);
      all[at] = upper + b * (lower - upper);
      px += acrossX;
      py += acrossY;
    }
  }
  return all;
}

/** Correlation of the greys of a picture with a pattern so placed. */
const greysAgree = (cell: RepeatCell, of: RepeatCell, placed: Placed): number =>
  correlation(cell.values, laidOn(of.values, of.side, cell.side, placed));

/** Correlation of the way lines run; the pattern's turned as the picture is. */
function linesAgree(lines: Directions, of: Directions, placed: Placed): number {
  // How much the square itself turns; what it is sheared besides is little.
  const [cosine, xv, yu] = turning(placed);
  const double = -2 * Math.atan2((yu - xv) / 2, cosine);
  const [cos, sin] = [Math.cos(double), Math.sin(double)];
  const [r, i] = [of.real, of.imaginary].map((part) => laidOn(part, of.side, lines.side, placed));
  let [cross, square, own] = [0, 0, 0];
  for (let at = 0; at < r.length; at++) {
    const real = r[at] * cos - i[at] * sin;
    const imaginary = r[at] * sin + i[at] * cos;
    cross += lines.real[at] * real + lines.imaginary[at] * imaginary;
    square += real * real + imaginary * imaginary;
    own += lines.real[at] ** 2 + lines.imaginary[at] ** 2;
  }
  const power = Math.sqrt(square * own);
  return power < 1e-9 ? 0 : cross / power;
}

const AS_IT_LIES: Placed = { turnDeg: 0, aspect: 1, wide: 1, high: 1, x: 0, y: 0 };

/** How alike the lines of two pictures run, each as it lies (−1 … 1). */
export const runAlike = (a: Grey, b: Grey): number => {
  const [of, to] = [a, b].map((picture) => directionsOf(cellOf(picture, MIDDLE), ROUGH));
  return linesAgree(of, to, AS_IT_LIES);
};

/** Each number of a pose changed for as long as it fits better, by steps that grow finer. */
function climbed(
  from: Placed,
  fit: (placed: Placed) => number,
  strides: readonly number[],
): readonly [Placed, number] {
  let [best, score] = [from, fit(from)];
  for (const stride of strides)
    for (let round = 0, better = true; better && round < ROUNDS; round++) {
      better = false;
      for (const [key, unit] of KEYS)
        for (const sign of [-1, 1]) {
          const next = { ...best, [key]: best[key] + sign * stride * unit };
          if (!isAllowed(next)) continue;
          const here = fit(next);
          if (here <= score) continue;
          [best, score, better] = [next, here, true];
        }
    }
  return [best, score];
}

const ROUNDS = 3;
/** What a stride of 1 is: degrees, shares of the size, parts of a repeat. */
const KEYS = [
  ['turnDeg', 60],
  ['wide', 1],
  ['high', 1],
  ['x', 1],
  ['y', 1],
] as const;
/** As it was cropped by hand, a repeat is a little off in size and turned a little. */
const MOST_TURN = 9;
const SIZES = [0.9, 1.11] as const;
const isAllowed = ({ turnDeg, wide, high }: Placed): boolean =>
  Math.abs(turnDeg) <= MOST_TURN && [wide, high].every((size) => size >= SIZES[0] && size <= SIZES[1]);

const BY_LINES = [0.04, 0.02, 0.01];
const BY_GREYS = [0.012, 0.006, 0.003, 0.0015];

/** A way of the picture on a pattern by how its lines run, whose basin is wide. */
function byLines(way: Way, pattern: Pattern, from: Placed): Laid {
  const [placed, score] = climbed(from, (p) => linesAgree(way.directions, pattern.directions, p), BY_LINES);
  return { way, placed, score };
}

interface Laid {
  readonly way: Way;
  readonly placed: Placed;
  readonly score: number;
}

/** Then by the greys: the lines say nothing of which of many layers lies where. */
function byGreys({ way, placed: first }: Laid, pattern: Pattern): Likeness {
  const seen = laidOn(pattern.middle.values, MIDDLE, MIDDLE, first);
  const shifts = agreements(
    spectrumOfCell(way.middle),
    spectrumOfCell({ side: MIDDLE, values: seen }),
    MIDDLE,
  );
  const [xu, xv, yu, yv] = turning(first);
  const moved = (within: number): Placed => {
    let [best, dx, dy] = [-Infinity, 0, 0];
    for (let i = 0; i < shifts.length; i++) {
      const [u, v] = [half((i % MIDDLE) / MIDDLE), half(Math.floor(i / MIDDLE) / MIDDLE)];
      if (shifts[i] > best && Math.max(Math.abs(u), Math.abs(v)) <= within)
        [best, dx, dy] = [shifts[i], u, v];
    }
    return {
      ...first,
      x: first.x + first.wide * (dx * xu + dy * xv),
      y: first.y + first.high * (dx * yu + dy * yv),
    };
  };
  const grey = (p: Placed) => greysAgree(way.middle, pattern.middle, p);
  const lines = (p: Placed) => linesAgree(way.directions, pattern.directions, p);
  // Where all lines run alike they say nothing of where it lies; where they do not, the greys move it a little.
  const from = [0, ALITTLE, 0.5]
    .map(moved)
    .map((p) => ({ p, score: scoreOf({ correlation: grey(p), directions: lines(p) }) }))
    .reduce((x, y) => (y.score > x.score ? y : x)).p;
  const [placed, correlation] = climbed(from, grey, BY_GREYS);
  return { pose: { ...placed, lying: way.lying }, correlation, directions: lines(placed) };
}

/** Of a repeat: how far the greys may move what the lines have placed. */
const ALITTLE = 0.08;

const half = (part: number): number => (part > 0.5 ? part - 1 : part);

/** Ways that are looked at by their lines, and of these by their greys. */
const BY_LINES_FIRST = 4;
const BY_GREYS_THEN = 2;

/** How near a picture comes to a pattern; from a pose where one is known, else from all. */
export function likenessOf(sought: Sought, pattern: Pattern, from?: Pose): Likeness {
  const laid = from
    ? [byLines(straightOf(sought, from.lying), pattern, from)]
    : roughly(sought, pattern, BY_LINES_FIRST)
        .map(({ way, x, y }) =>
          byLines(straightOf(sought, way.lying), pattern, {
            turnDeg: way.turnDeg,
            aspect: way.aspect,
            wide: 1,
            high: 1,
            x,
            y,
          }),
        )
        .sort((a, b) => b.score - a.score)
        .slice(0, BY_GREYS_THEN);
  return laid.map((l) => byGreys(l, pattern)).reduce((a, b) => (scoreOf(b) > scoreOf(a) ? b : a));
}

const straightOf = (sought: Sought, { isTurned, isMirrored }: Lying): Way =>
  sought.find((w) => w.turnDeg === 0 && w.lying.isTurned === isTurned && w.lying.isMirrored === isMirrored)!;

/** A picture and a pattern as they lie on each other: both square, mean 0 and spread 1. */
export function laidTogether(
  sought: Sought,
  pattern: Pattern,
  pose: Pose,
): { readonly wanted: RepeatCell; readonly found: RepeatCell } {
  const { fine } = straightOf(sought, pose.lying);
  return {
    wanted: fine,
    found: { side: fine.side, values: laidOn(pattern.fine.values, pattern.fine.side, fine.side, pose) },
  };
}
