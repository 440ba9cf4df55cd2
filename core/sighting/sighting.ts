import { z } from 'zod';
import { type Watch, fitted, seenOf } from './fitted.ts';
import type { Four, Point } from './homography.ts';
import { layersSeen } from './layers.ts';
import { type Sizes, leanByDiagonals, leanBySight } from './lean.ts';
import { refinedCorners } from './outline.ts';
import { type Photo, shrunk } from './photo.ts';
import { onEndB } from './steps.ts';
import { type Tones, halved } from './tones.ts';
import { USUAL, type Warp, warped } from './warp.ts';

/** Cells of the displacement that a sighting keeps. */
export const CELLS = 11;
const KNOTS = 2 * (CELLS + 3) ** 2;

const finite = z.number().min(-1e4).max(1e4);

/** What a photograph of an end showed against the prediction: docs/plan-format.md. Degrees and mm as on end B. */
export const sightingSchema = z.strictObject({
  /** The photograph that was read. */
  photograph: z.uuid('A photograph is named by its id').optional(),
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
  /** How many times as thick as foreseen the layers are towards each side, seen on end B. */
  thick: z.strictObject({ top: finite, right: finite, bottom: finite, left: finite }).optional(),
  /** How much of the section could be seen. */
  seen: z.number().min(0).max(1),
});

export type Sighting = z.infer<typeof sightingSchema>;

/** What the plan foresees of a section, seen on end B: its tones, y up. mm */
export interface Prediction {
  readonly tones: Tones;
  readonly widthMm: number;
  readonly heightMm: number;
}

export interface EndPhotographed {
  readonly photo: Photo;
  /** The corners as they were tapped, px from the upper left, in any order. */
  readonly taps: Four;
  /** As the camera says; without it the lean is known by diagonals alone. */
  readonly focalPx?: number;
  readonly sizes: Sizes;
  /** Lower left to upper right, and lower right to upper left, seen on end B. mm */
  readonly diagonalsMm?: readonly [number, number] | undefined;
  /** Which end it is, where that is known. */
  readonly end?: 'A' | 'B';
}

export const REFUSED = {
  'too small': 'The section is too small in the photograph: go nearer, so that it fills half of the picture.',
  'too blurred':
    'The photograph is too blurred to see the layers: rest the camera on something, and let it focus on the end.',
  'too burnt':
    'Too much of the end is burnt out or hidden: turn it out of the light that shines in it, and take the fingers away.',
  'no section': 'The four corners do not make a section: drag the lines onto its edges.',
  'another bar':
    'This does not look like what the plan foresees: is it another bar, or another move? Or the lines do not lie on its edges.',
} as const;

export type Sight =
  | { readonly ok: true; readonly sighting: Sighting; readonly corners: Four }
  | { readonly ok: false; readonly why: keyof typeof REFUSED };

/** A side of the section spans at least so many dots. */
const LEAST_SIDE_PX = 140;
/** Less than this of the section is too little to go by. */
const LEAST_SEEN = 0.45;
/** A dot that counts more than this is seen plainly. */
const PLAIN = 0.15;
/** Of a sharp picture the slopes from dot to dot, squared, are a quarter of those over four dots; of a blurred one a sixteenth. */
const BLURRED = 0.11;
/** The right bar correlates with 0.83 at least on twenty photographs, another that is much like it with 0.65 at most. */
const ANOTHER = 0.68;

/** Clockwise to the eye, whatever the order of the taps. */
export function inOrder(taps: Four): Four {
  const middle = taps.reduce(([x, y], t) => [x + t[0] / 4, y + t[1] / 4], [0, 0]);
  const angle = ([x, y]: Point) => Math.atan2(y - middle[1], x - middle[0]);
  return [...taps].sort((a, b) => angle(a) - angle(b)) as unknown as Four;
}

/** The lines first lie where a section that fills the middle would. */
export function firstCorners({ width, height }: Photo, aspect: number): Four {
  const half = 0.3 * Math.min(width, height);
  const [w, h] = [half * Math.min(1, aspect), half / Math.max(1, aspect)];
  const [x, y] = [width / 2, height / 2];
  return [
    [x - w, y - h],
    [x + w, y - h],
    [x + w, y + h],
    [x - w, y + h],
  ];
}

const CORNERS: Four = [
  [-1, 1],
  [1, 1],
  [1, -1],
  [-1, -1],
];

const sideOf = (corners: Four, k: number): number =>
  Math.hypot(corners[(k + 1) % 4][0] - corners[k][0], corners[(k + 1) % 4][1] - corners[k][1]);

/** Whether four corners go round in one sense, with some room between them. */
function isSection(corners: Four): boolean {
  return corners.every((b, k) => {
    const [a, c] = [corners[(k + 3) % 4], corners[(k + 1) % 4]];
    const cross = (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]);
    return cross > 0.3 * sideOf(corners, (k + 3) % 4) * sideOf(corners, k);
  });
}

/** Orientations that go with the end, where it is known, and with how much longer one side is than the other. */
function allowedFor(corners: Four, { sizes, end }: EndPhotographed): number[] {
  const across = sideOf(corners, 0) + sideOf(corners, 2);
  const up = sideOf(corners, 1) + sideOf(corners, 3);
  const measured = Math.log(sizes.acrossMm / sizes.heightMm);
  const lying = Math.log(across / up);
  return Array.from({ length: 8 }, (_, k) => k).filter(
    (k) =>
      (end === undefined || (end === 'A') === k >= 4) &&
      Math.abs((k % 2 === 0 ? lying : -lying) - measured) < OBLONG,
  );
}
const OBLONG = 0.3;

/** Mean square of the slopes from dot to dot. */
function steepness({ n, data }: Tones): number {
  let sum = 0;
  for (let i = 0; i < n * (n - 1); i++)
    if (i % n !== n - 1) sum += (data[i + 1] - data[i]) ** 2 + (data[i + n] - data[i]) ** 2;
  return sum / (n * n);
}

const isBlurred = (grey: Tones): boolean =>
  steepness(halved(grey)) < BLURRED * steepness(halved(halved(halved(grey))));

const rounded = (value: number, digits = 5): number => Number(value.toFixed(digits));

/** Reads a photograph of an end against what the plan foresees. Bounded work: some seconds of one core. */
export function sighted(asked: EndPhotographed, prediction: Prediction, watch?: Watch): Sight {
  const taps = inOrder(asked.taps);
  if (!isSection(taps)) return { ok: false, why: 'no section' };
  if (Math.min(...taps.map((_, k) => sideOf(taps, k))) < LEAST_SIDE_PX)
    return { ok: false, why: 'too small' };
  const { photo, by } = shrunk(asked.photo, taps);
  const scaled = (corners: Four, f: number) => corners.map(([x, y]) => [x * f, y * f]) as unknown as Four;
  const found = refinedCorners(photo, scaled(taps, 1 / by));
  if (!isSection(found)) return { ok: false, why: 'no section' };
  const seen = seenOf(photo, found, prediction.tones);
  const [weight] = seen.weight;
  const share = weight.data.reduce((sum, w) => sum + Number(w > PLAIN), 0) / weight.data.length;
  if (share < LEAST_SEEN) return { ok: false, why: 'too burnt' };
  watch?.(0.1);
  const allowed = allowedFor(found, asked);
  const otherwise = { ok: false, why: isBlurred(seen.grey) ? 'too blurred' : 'another bar' } as const;
  if (allowed.length === 0) return { ok: false, why: 'another bar' };
  const fit = fitted(seen, allowed, watch);
  if (fit.score < ANOTHER) return otherwise;
  const corners = scaled(found, by);
  return { ok: true, corners, sighting: told(asked, corners, prediction, fit, share) };
}

/** What the plan foresees of a bar where it is looked into, as it is seen on end B: one and the same where nothing changes along it. */
export type Foreseen = Readonly<Record<'A' | 'B', Prediction>>;

/** The same where it may be either end, and they are not foreseen alike: read as each, the better counts, and tells which it is where it is clearly better. */
export function sightedAtAnEnd(asked: EndPhotographed, foreseen: Foreseen, watch?: Watch): Sight {
  if (asked.end || foreseen.A === foreseen.B) return sighted(asked, foreseen[asked.end ?? 'B'], watch);
  const ends = (['B', 'A'] as const).map((end, i) =>
    sighted({ ...asked, end }, foreseen[end], (done) => watch?.((i + done) / 2)),
  );
  const [one, other] = ends.toSorted((a, b) => scoreOf(b) - scoreOf(a));
  if (!one.ok) return one;
  const endTold = scoreOf(one) - scoreOf(other) > ENDS_APART;
  return { ...one, sighting: { ...one.sighting, endTold } };
}
/** Read as the one end it must go by so much better than as the other. */
const ENDS_APART = 0.05;

const scoreOf = (sight: Sight): number => (sight.ok ? sight.sighting.correlation : 0);

function told(
  asked: EndPhotographed,
  corners: Four,
  { tones, widthMm, heightMm }: Prediction,
  { warp, score, lead, twins, same }: ReturnType<typeof fitted>,
  seen: number,
): Sighting {
  const k = byLean(asked, corners, same);
  const back = (x: number, y: number) => onEndB(k, ...warped(warp, x, y));
  const { turnedDeg, thick } = layersSeen(warp, k, tones, { widthMm, heightMm });
  const lean = leanOf(asked, corners, k);
  const [ox, oy] = back(0, 0);
  const spread = stretchOf(warp, k);
  return {
    orientation: k,
    turn: rounded(warp.turn),
    slide: rounded(warp.slide),
    modes: USUAL.map((_, m) => rounded(warp.modes[m] ?? 0)),
    knots: Array.from(warp.spline!.knots, (v) => rounded(v)),
    correlation: rounded(score, 3),
    lead: rounded(lead, 3),
    endTold: asked.end !== undefined || twins.every((t) => t >= 4 === k >= 4),
    upTold: twins.every((t) => t === k || t >= 4 !== k >= 4),
    turnedDeg: rounded(turnedDeg, 2),
    turnedWithinDeg: rounded((0.2 + 0.07 * Math.abs(turnedDeg)) / Math.sqrt(seen), 2),
    leansDeg: lean && rounded(lean.leanDeg, 2),
    leansWithinDeg: lean && rounded(lean.sigmaDeg, 2),
    offMm: [rounded((-ox * widthMm) / 2, 3), rounded((-oy * heightMm) / 2, 3)],
    stretch: [rounded(spread[0], 4), rounded(spread[1], 4)],
    thick: {
      top: rounded(thick.top, 3),
      right: rounded(thick.right, 3),
      bottom: rounded(thick.bottom, 3),
      left: rounded(thick.left, 3),
    },
    seen: rounded(seen, 3),
  };
}

/** Of orientations that the pattern cannot tell apart the one in which the section is clearly seen to lean as its diagonals say; else the first. */
function byLean(asked: EndPhotographed, corners: Four, same: readonly number[]): number {
  const { diagonalsMm, sizes } = asked;
  if (!diagonalsMm || same.length < 2) return same[0];
  const leanDeg = leanByDiagonals(sizes, diagonalsMm);
  const off = (k: number) => {
    const seen = leanOf({ ...asked, diagonalsMm: undefined }, corners, k);
    return { deg: seen ? Math.abs(seen.leanDeg - leanDeg) : 0, withinDeg: seen?.sigmaDeg ?? 0 };
  };
  return same.reduce((best, k) => {
    const [one, other] = [off(best), off(k)];
    return other.deg + 2 * other.withinDeg < one.deg ? k : best;
  });
}

/** By diagonals where they were measured, else by how the corners are seen. */
function leanOf({ photo, sizes, diagonalsMm, focalPx }: EndPhotographed, corners: Four, k: number) {
  if (diagonalsMm) return { leanDeg: leanByDiagonals(sizes, diagonalsMm), sigmaDeg: 0.1 };
  if (focalPx === undefined) return null;
  const onB = CORNERS.map(([x, y]) => onEndB(k, x, y));
  const camera = { focalPx, middle: [photo.width / 2, photo.height / 2] as const };
  return leanBySight(corners, onB, sizes, k >= 4, camera);
}

/** How much wider and higher the pattern is in the middle than foreseen, over the disc of 0.6. */
function stretchOf(warp: Warp, k: number): [number, number] {
  const R = 0.6;
  const mean = (axis: 0 | 1) => {
    let [sum, count] = [0, 0];
    for (let t = -5; t <= 5; t++) {
      const other = (R * t) / 8;
      const at = (v: number) =>
        onEndB(k, ...warped(warp, ...onPhoto(k, axis === 0 ? v : other, axis === 0 ? other : v)));
      sum += (at(R)[axis] - at(-R)[axis]) / (2 * R);
      count++;
    }
    return count / sum;
  };
  return [mean(0), mean(1)];
}

/** A point of end B as it lies in a photograph of orientation k: the way back of `onEndB`. */
export function onPhoto(k: number, x: number, y: number): readonly [number, number] {
  // Mirrored ones are their own way back; turned ones go back by turning on.
  return onEndB(k >= 4 ? k : (4 - k) % 4, x, y);
}

/** The warp that a sighting keeps. */
export const warpOf = ({ turn, slide, modes, knots }: Sighting): Warp => ({
  turn,
  slide,
  modes,
  spline: { cells: CELLS, knots: Float64Array.from(knots) },
});

/** Where a point of the real section lies in the predicted one, both on end B, in half sides. */
export function patternAt(sighting: Sighting): (x: number, y: number) => readonly [number, number] {
  const warp = warpOf(sighting);
  return (x, y) => onEndB(sighting.orientation, ...warped(warp, ...onPhoto(sighting.orientation, x, y)));
}
