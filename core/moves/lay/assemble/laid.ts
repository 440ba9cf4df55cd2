import { z } from 'zod';
import { type Billet, type Removal, atPlace, sizeOf } from '../../../billet/billet.ts';
import { grindFace } from '../../../billet/removal.ts';
import { SIDES } from '../../../instruct/action.ts';
import { addVolumes } from '../../../materials/volumes.ts';
import type { Shop } from '../../../shop/shop.ts';
import { orientationNamed, swapsSides } from '../../../geometry/orientation.ts';
import { MOST_SECTION_MM, count, lengthMm, materialId } from '../../../units/quantities.ts';
import { FILLS, PRESETS, orientationNames, presetPlaces } from './layout.ts';
import { type Placed } from '../../contract/move.ts';
import { areWedges, pointed } from './wedges.ts';

/** A place by its number in reading order, from 0. */
const placeIndex = z.number().int().min(0).max(399);

const laneId = z.string().min(1, 'A lane must be named').max(60);

const placed = z.strictObject({
  lane: laneId.optional(),
  piece: count('Piece', 1, 400),
  orientation: z.enum(orientationNames, {
    error: `Orientation must be one of: ${orientationNames.join(', ')}`,
  }),
});

export const STRIPS = ['cross', 'upright', 'level', 'frame', 'cross and frame'] as const;

const strips = z.strictObject({
  material: materialId('Strip'),
  thicknessMm: lengthMm('Strip thickness', MOST_SECTION_MM, { fine: true }),
  where: z.enum(STRIPS),
});

/**
 * Pieces in columns × rows: the lane's own, or those of the lanes in `from`, shared out by `fill`. `places` is read row by row
 * from the top when the layout is free; `clash`: seams, by their two places, whose pictures are not meant to meet. Lengths mm.
 */
export const parameters = z.strictObject({
  columns: count('Pieces across', 1, 20),
  rows: count('Pieces up', 1, 20),
  layout: z.enum([...PRESETS, 'free']),
  from: z.array(laneId).min(1, 'Name at least one lane, or none').max(20).optional(),
  fill: z.enum(FILLS).optional(),
  places: z.array(placed).max(400).optional(),
  strips: strips.optional(),
  clash: z
    .array(z.tuple([placeIndex, placeIndex]))
    .max(800)
    .optional(),
});

export type AssembleParameters = z.infer<typeof parameters>;
export type P = AssembleParameters;

/** Places written out before, by their parameters: asked for many times in one evaluation. */
const writtenOut = new WeakMap<P, Placed[]>();

/** Every place of the assembly, rows from the top. */
export function gridPlacesOf(p: P): Placed[] {
  if (p.layout === 'free') return p.places ?? [];
  const known = writtenOut.get(p);
  if (known) return known;
  const { columns, rows, layout: preset, from, fill } = p;
  const places = presetPlaces({ columns, rows, preset, from, fill });
  writtenOut.set(p, places);
  return places;
}

/** mm. Pieces that differ by more than this in a column or row do not fit as they are. */
export const FIT_MM = 0.05;
/** mm. Pieces that differ by more than this in length are worth a word. */
export const LENGTH_MM = 1;

/** A place with the piece in it: its size as it lies, and what is ground off it for that, half on each side. mm */
export interface Laid {
  billet: Billet;
  place: Placed;
  widthMm: number;
  heightMm: number;
  offWidthMm: number;
  offHeightMm: number;
}

export const isOwn = (billet: Billet): boolean => billet.piece?.lane === undefined;

/** The piece that a place asks for. */
export const pieceAt = (before: readonly Billet[], place: Placed): Billet | undefined =>
  place.lane === undefined
    ? atPlace(before.filter(isOwn), place.piece)
    : before.find((b) => b.piece?.lane === place.lane && b.piece?.number === place.piece);

/** Wedges have their places round the middle: of a layout that is written out by itself only the rolling holds for them, every other one. */
function wedgePlaces(before: readonly Billet[], p: P): Placed[] {
  const places = gridPlacesOf(p);
  if (p.layout === 'free' || !areWedges(places.flatMap((place) => pieceAt(before, place) ?? [])))
    return places;
  const rolls = p.layout === 'mirrored';
  return places.map((place, i) => ({
    ...place,
    orientation: rolls && i % 2 === 1 ? 'rolled left–right' : 'as it lies',
  }));
}

export function laidPieces(before: readonly Billet[], p: P): Laid[] {
  const laid = wedgePlaces(before, p).flatMap((place): Laid[] => {
    const billet = pieceAt(before, place);
    if (!billet) return [];
    const { widthMm: w, heightMm: h } = sizeOf(billet);
    const [widthMm, heightMm] = swapsSides(orientationNamed(place.orientation)) ? [h, w] : [w, h];
    return [{ billet, place, widthMm, heightMm, offWidthMm: 0, offHeightMm: 0 }];
  });
  return p.layout === 'brick' || areWedges(laid.map((l) => l.billet)) ? laid : fitted(laid, p.columns);
}

/** Every piece as wide as the narrowest of its column and as high as the lowest of its row: the others are ground to that. */
function fitted(laid: readonly Laid[], columns: number): Laid[] {
  const [widths, heights]: [number[], number[]] = [[], []];
  laid.forEach((l, i) => {
    const [column, row] = [i % columns, Math.floor(i / columns)];
    widths[column] = Math.min(widths[column] ?? Infinity, l.widthMm);
    heights[row] = Math.min(heights[row] ?? Infinity, l.heightMm);
  });
  return laid.map((l, i) => {
    const [widthMm, heightMm] = [widths[i % columns], heights[Math.floor(i / columns)]];
    return { ...l, widthMm, heightMm, offWidthMm: l.widthMm - widthMm, offHeightMm: l.heightMm - heightMm };
  });
}

/** The piece itself ground to the size it is laid with, and what came off; a wedge to its point. */
export function groundToFit({ billet, place, offWidthMm, offHeightMm }: Laid, shop: Shop): Removal {
  if (areWedges([billet])) return pointed(billet, shop);
  const [w, h] = swapsSides(orientationNamed(place.orientation))
    ? [offHeightMm, offWidthMm]
    : [offWidthMm, offHeightMm];
  const off = { left: w / 2, right: w / 2, top: h / 2, bottom: h / 2 };
  let ground: Removal = { billet, lost: {} };
  for (const side of SIDES) {
    if (off[side] <= 0) continue;
    const removal = grindFace(ground.billet, side, off[side], shop);
    ground = { billet: removal.billet, lost: addVolumes(ground.lost, removal.lost) };
  }
  return ground;
}

/** Column widths and row heights (rows from the top): the largest piece in each. */
export function gridSizes(laid: Laid[], columns: number, rows: number) {
  const widths = Array.from({ length: columns }, (_, c) =>
    Math.max(...laid.filter((_, i) => i % columns === c).map((l) => l.widthMm)),
  );
  const heights = Array.from({ length: rows }, (_, r) =>
    Math.max(...laid.slice(r * columns, (r + 1) * columns).map((l) => l.heightMm)),
  );
  return { widths, heights };
}

/** Thickness of strips between pieces one way, and of the frame, mm. */
export function stripSizes({ strips: s }: P): { uprightMm: number; levelMm: number; frameMm: number } {
  const mm = s?.thicknessMm ?? 0;
  const has = (...where: (typeof STRIPS)[number][]) => (s && where.includes(s.where) ? mm : 0);
  return {
    uprightMm: has('cross', 'upright', 'cross and frame'),
    levelMm: has('cross', 'level', 'cross and frame'),
    frameMm: has('frame', 'cross and frame'),
  };
}
