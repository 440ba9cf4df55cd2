import {
  type Level,
  type Turns,
  ORIENTATIONS,
  correlation,
  finer,
  fresh,
  levelOf,
  modesStep,
  oriented,
  splineStep,
} from './steps.ts';
import type { Four } from './homography.ts';
import { type Photo, rectified } from './photo.ts';
import { type Tones, evened, halved, tonesOf } from './tones.ts';
import { STILL, USUAL, type Warp, carried, warpedAll } from './warp.ts';

/** Dots a side of what is compared: divisible by eight. */
export const SIDE = 512;
const DEG = Math.PI / 180;

/** An orientation with a warp, and how well the photograph goes with the prediction seen through it. */
export interface Fit {
  readonly k: number;
  readonly warp: Warp;
  readonly score: number;
}

const pyramid = (plane: Tones): Tones[] => {
  const half = halved(plane);
  return [plane, half, halved(half), halved(halved(half))];
};

/** Photograph, weights and prediction, each finer and coarser. */
export interface Seen {
  /** As it was photographed. */
  readonly grey: Tones;
  readonly photo: readonly Tones[];
  readonly weight: readonly Tones[];
  readonly predicted: readonly Tones[];
}

export function seenOf(photo: Photo, corners: Four, predicted: Tones): Seen {
  const { grey, weight } = rectified(photo, corners, SIDE);
  return {
    grey,
    photo: pyramid(evened(grey, weight)),
    weight: pyramid(weight),
    predicted: pyramid(evened(predicted)),
  };
}

const levelAt = ({ photo, weight, predicted }: Seen, level: number, k: number): Level =>
  levelOf(photo[level], weight[level], oriented(predicted[level], k));

/** Every orientation, smooth turn and shift; the best three of each orientation. */
function searched(seen: Seen, allowed: readonly number[]): Fit[] {
  const levels = allowed.map((k) => ({ k, level: levelAt(seen, TINY, k) }));
  const own: Fit[][] = levels.map(() => []);
  for (let deg = -12; deg <= 12; deg += 2) {
    const turn = deg * DEG;
    const places = carried({ turn, slide: 0 }, levels[0].level.photo.n);
    levels.forEach(({ k, level }, i) => {
      for (let x = -2; x <= 2; x++)
        for (let y = -2; y <= 2; y++) {
          const modes = [0.03 * x, 0.03 * y];
          const score = correlation(level, places, modes[0], modes[1], 2);
          own[i].push({ k, warp: { ...STILL, turn, modes }, score });
        }
    });
  }
  return own.flatMap((all) => best(all, 3));
}

/** Finenesses, as the pyramid has them. */
const [FINE, MIDDLE, COARSE, TINY] = [0, 1, 2, 3];
/** Orientations this near to the best are gone on with: which of them it is shows only when the fit is fine. */
const NEAR = 0.08;
/** Two ways of turning must explain the picture better by so much than one. */
const PAYS = 0.01;
/** Below this it is begun again from other places: fine layers lock one layer off. */
const SURE = 0.86;
const RESTARTS = 14;
/** So little goes together only by chance: another bar. */
const HOPELESS = 0.3;

const best = (found: readonly Fit[], count: number): Fit[] =>
  [...found].sort((a, b) => b.score - a.score).slice(0, count);

const scored = (level: Level, k: number, warp: Warp): Fit => ({
  k,
  warp,
  score: correlation(level, warpedAll(warp, level.photo.n)),
});

function stepped(level: Level, warp: Warp, rounds: number, turns: Turns = 'both'): Warp {
  let now = warp;
  for (let i = 0; i < rounds; i++) now = modesStep(level, now, turns);
  return now;
}

const turnsOf = ({ turn, slide }: Warp): Turns =>
  Math.abs(slide) < 1e-3 ? 'turn' : Math.abs(turn) < 1e-3 ? 'slide' : 'both';

/** With one way of turning alone where that explains the picture as well as both. */
function plainest(level: Level, { k, warp, score }: Fit): Fit {
  const angle = warp.turn + warp.slide;
  const [alone] = best(
    [
      scored(level, k, stepped(level, { ...warp, turn: angle, slide: 0 }, 4, 'turn')),
      scored(level, k, stepped(level, { ...warp, turn: 0, slide: angle }, 4, 'slide')),
    ],
    1,
  );
  return alone.score > score - PAYS ? alone : { k, warp, score };
}

/** The best of each orientation, the best first. */
function bestOfEach(found: readonly Fit[]): Fit[] {
  const each = new Map<number, Fit>();
  for (const one of found) if (one.score > (each.get(one.k)?.score ?? -1)) each.set(one.k, one);
  return best([...each.values()], ORIENTATIONS);
}

function splined(level: Level, warp: Warp, cells: readonly number[], rounds: number): Warp {
  const byModes = warpedAll({ ...warp, spline: null }, level.photo.n);
  let spline = warp.spline ?? fresh(cells[0]);
  for (const count of cells) {
    if (count !== spline.cells) spline = finer(spline, count);
    for (let i = 0; i < rounds; i++) spline = splineStep(level, byModes, spline);
  }
  return { ...warp, spline };
}

/** Numbers from −1 to 1 that look random and are the same each time (Weyl's sequence). */
const spread = (i: number, m: number): number => 2 * ((i * (0.5 + Math.sqrt(2 + 3 * m))) % 1) - 1;

/** From places about a fit, and back to the best of where they lead. */
function again(level: Level, from: Fit): Fit {
  const found = Array.from({ length: RESTARTS }, (_, i) => {
    const modes = USUAL.map((usual, m) => (from.warp.modes[m] ?? 0) + 0.8 * usual * spread(i + 1, m));
    const turn = from.warp.turn + 0.06 * spread(i + 1, 11);
    const slide = from.warp.slide + 0.06 * spread(i + 1, 12);
    return scored(level, from.k, stepped(level, { turn, slide, modes, spline: null }, 4));
  });
  return best([from, ...found], 1)[0];
}

/** Two orientations of a section that correlate more than this are one to the eye. */
const TWIN = 0.9;

/** The orientations that cannot be told from one by the prediction alone; itself among them. */
function twinsOf(k: number, predicted: Tones, least = TWIN): number[] {
  const own = oriented(predicted, k);
  const all = tonesOf(own.n, new Float32Array(own.data.length).fill(1));
  const places = carried({ turn: 0, slide: 0 }, own.n);
  return Array.from({ length: ORIENTATIONS }, (_, other) => other).filter(
    (other) => other === k || correlation(levelOf(own, all, oriented(predicted, other)), places) > least,
  );
}

/** Of orientations that are the same but for the grain one is enough. */
const SAME = 0.98;

/** One of each kind of orientation, the first. */
function unlike(allowed: readonly number[], predicted: Tones): number[] {
  const kept: number[] = [];
  const known = new Set<number>();
  for (const k of allowed) {
    if (known.has(k)) continue;
    kept.push(k);
    for (const twin of twinsOf(k, predicted, SAME)) known.add(twin);
  }
  return kept;
}

/** What is told on the way, how much of the work is done from 0 to 1; it may throw, to stop. */
export type Watch = (done: number) => void;

/** The orientation and the warp that lay the prediction best over the photograph; how far every other is behind that is no twin. */
export function fitted(
  seen: Seen,
  allowed: readonly number[],
  watch: Watch = () => undefined,
): Fit & { readonly lead: number; readonly twins: readonly number[]; readonly same: readonly number[] } {
  const at = (fineness: number) => {
    const levels = new Map<number, Level>();
    return (k: number): Level => {
      const level = levels.get(k) ?? levelAt(seen, fineness, k);
      levels.set(k, level);
      return level;
    };
  };
  const [tiny, coarse] = [at(TINY), at(COARSE)];
  const each = unlike(allowed, seen.predicted[COARSE]);
  const tried = searched(seen, each).map(({ k, warp }) => scored(tiny(k), k, stepped(tiny(k), warp, 4)));
  watch(0.2);
  const begun = bestOfEach(
    bestAnd(tried, 10).map(({ k, warp }) => scored(coarse(k), k, stepped(coarse(k), warp, 4))),
  );
  watch(0.4);
  const [likely] = begun;
  if (likely.score < HOPELESS) return { ...likely, lead: 0, twins: [likely.k], same: [likely.k] };
  const near = begun.filter((f) => f.score > begun[0].score - NEAR).slice(0, 3);
  const plain = near.map((f) => plainest(coarse(f.k), f));
  const [first] = best(plain, 1);
  if (first.score < SURE) plain.push(plainest(coarse(first.k), again(coarse(first.k), first)));
  watch(0.6);
  const bent = plain.map(({ k, warp }) => scored(coarse(k), k, splined(coarse(k), warp, [5], 2)));
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
  const same = [k, ...twinsOf(k, seen.predicted[COARSE], SAME).filter((t) => t !== k && allowed.includes(t))];
  return { ...scored(fine, k, warp), lead: found.score - Math.max(0, ...others), twins, same };
}

/** The best of all, and of each orientation at least its best. */
const bestAnd = (found: readonly Fit[], count: number): Fit[] => [
  ...new Set([...best(found, count), ...bestOfEach(found)]),
];
