import { Cells } from './neighbours.ts';
import { z } from 'zod';
import {
  choice,
  count,
  lengthMm,
  lengthOrNoneMm,
  lengthWithinMm,
  materialId,
  share,
  signedMm,
} from '../units/quantities.ts';
import { type Body, bodyVolume } from '../geometry/bodies.ts';
import { type Outline, rectangle } from '../geometry/outline.ts';
import type { Round } from './packing.ts';
import { type Room, beyondWall } from './room.ts';

/** Where a placed insert has its middle, mm: across and up from the can's axis, along from the near cap (balls). */
const placeSchema = z.strictObject({
  x: signedMm('Place across', undefined, { fine: true }),
  y: signedMm('Place up', undefined, { fine: true }),
  z: lengthMm('Place along').or(z.literal(0)),
});

const INSERT_SHAPES = [
  'ball',
  'rod',
  'square bar',
  'strip',
  'saw blade',
  'bent rod',
  'springs',
  'chain',
  'offcuts',
  'bar',
] as const;

const MOST_LIFTS = 12;
/** In so many lifts balls of several sizes are poured in turn; 1: all together. */
export const liftsSchema = count('Lifts', 1, MOST_LIFTS);

/** Of one kind in one can. */
export const MOST_INSERTS = 2000;

/** Inserts of one kind: what they are, and how they lie. Rods, bars and strips run the whole length unless they are cut. */
export const insertSchema = z.strictObject({
  shape: z.enum(INSERT_SHAPES),
  material: materialId('Insert'),
  /** Diameter, side, or the strip's width; of springs and chain their width outside; of what is weighed the ball that is as large as one. */
  sizeMm: lengthMm('Insert size', 300, { fine: true }),
  /** Of springs and chain: the wire, and the rise of a turn or the inside of a link along the chain; without them they go by weight. */
  wireMm: lengthMm('Wire', 100, { fine: true }).optional(),
  pitchMm: lengthMm('Turn to turn', 300, { fine: true }).optional(),
  /** Springs alike threaded into one another, each counted as one. */
  strands: count('Threaded into one another', 1, 6).optional(),
  /** Of strips and blades: how far the middle stands out of the line of its edges, or of its ends, by turns up and down. mm */
  bowMm: lengthOrNoneMm('Bowed', 200, { fine: true }).optional(),
  bowed: choice('Bowed which way', { across: 'across', along: 'along' }).optional(),
  /** Of saw blades: how deep the teeth are on the right edge, and from tooth to tooth. mm */
  toothMm: lengthOrNoneMm('Teeth deep', 100, { fine: true }).optional(),
  teethMm: lengthWithinMm('Tooth to tooth', 0.5, 200, { fine: true }).optional(),
  /** Thickness of a strip; height of a bar. */
  thicknessMm: lengthMm('Insert thick', 300, { fine: true }).optional(),
  count: count('Inserts', 1, MOST_INSERTS),
  /** `outline`: along the outline of the picture. */
  lay: z.enum(['rows', 'hexagonal', 'rim', 'outline', 'placed']),
  /** For those that were poured or moved by hand. */
  places: z.array(placeSchema).max(MOST_INSERTS, `At most ${MOST_INSERTS} inserts may be placed`).optional(),
  /** How balls with places of their own were poured: 0 by themselves, 1 together with the others that were, more: in so many lifts by turns with those. Nothing where they were set by hand. */
  poured: count('Poured', 0, MOST_LIFTS).optional(),
  /** Long ones cut to lengths, with powder between. mm */
  cutMm: lengthOrNoneMm('Cut to', 2000, { fine: true }).optional(),
  gapMm: lengthOrNoneMm('Gap between', 2000, { fine: true }).optional(),
  /** Balls in beds: from one layer to the next. mm */
  bedMm: lengthOrNoneMm('From bed to bed', 2000, { fine: true }).optional(),
  /** How many are ready, where it was said; 0 is not said. */
  readyCount: count('Ready', 0, 5000).optional(),
  /** Of bars that are neither square nor flat: the share of their box that is steel; taken from their lanes. */
  fills: share('Share of its box', 0.01, 1).optional(),
  /** The pieces of other lanes that stand here as bars, or that offcuts are sawn from, with their pictures. */
  pieces: z
    .array(z.strictObject({ lane: z.string().max(40), piece: count('Piece', 1, 999) }))
    .max(64, 'At most 64 bars may stand in a can')
    .optional(),
});

export type Insert = z.infer<typeof insertSchema>;
export type Place = z.infer<typeof placeSchema>;

/** Offcuts are known by weight alone, springs and chain where their wire is not said: each counts as much as a ball of its size. */
const LUMPS: readonly Insert['shape'][] = ['springs', 'chain', 'offcuts'];
const FLATS: readonly Insert['shape'][] = ['strip', 'saw blade', 'bar'];

/** Has a wire that is bent: a spring, a chain. */
export const isWire = ({ shape, wireMm, pitchMm }: Insert): boolean =>
  (shape === 'springs' || shape === 'chain') && wireMm !== undefined && pitchMm !== undefined;

/** Weighed, not counted. */
export const isLump = (i: Insert): boolean => LUMPS.includes(i.shape) && !isWire(i);

/** Sawn off anyhow: a body with flat faces, lying as it fell. */
export const isOffcut = ({ shape }: Insert): boolean => shape === 'offcuts';

/** Bent round inside the wall, one above another. */
export const isBent = ({ shape }: Insert): boolean => shape === 'bent rod';

/** Has a place of its own along the can. */
export const isBall = (i: Insert): boolean => i.shape === 'ball' || isLump(i);

/** Has a thickness of its own. */
export const isFlat = ({ shape }: Insert): boolean => FLATS.includes(shape);

/** Takes pieces of other lanes. */
export const isOfLanes = ({ shape, pieces }: Insert): boolean =>
  shape === 'bar' || (shape === 'offcuts' && pieces !== undefined && pieces.length > 0);

/** Has teeth along its right edge. */
export const isToothed = ({ shape, toothMm = 0 }: Insert): boolean => shape === 'saw blade' && toothMm > 0;

/** How thick a flat one is, mm. */
export const thicknessOf = (i: Insert): number => i.thicknessMm ?? i.sizeMm;

/** How far a strip or blade is bowed, mm. */
const bowOf = ({ shape, bowMm = 0 }: Insert): number => (shape === 'bar' ? 0 : bowMm);

/** Half the width and half the height that an insert takes up in the section, mm. */
export const halfSizes = (i: Insert): [number, number] =>
  isFlat(i) ? [i.sizeMm / 2, (thicknessOf(i) + bowOf(i)) / 2] : [i.sizeMm / 2, i.sizeMm / 2];

/** Which share of the height that it takes up is bow, not steel. */
export const bowShare = (i: Insert): number =>
  isFlat(i) && bowOf(i) > 0 ? bowOf(i) / (thicknessOf(i) + bowOf(i)) : 0;

/** From tooth to tooth where nothing is said, times their depth. */
export const TOOTH_PITCH = 1.5;

/** Teeth along one length, whole ones, and how deep they are as a share of the width. */
export function teethOn(i: Insert, lengthMm: number): { count: number; share: number } {
  const { toothMm = 0, teethMm = TOOTH_PITCH * toothMm, sizeMm } = i;
  return { count: Math.max(1, Math.round(lengthMm / teethMm)), share: toothMm / sizeMm };
}

export const isRound = (i: Insert): boolean => i.shape === 'rod' || isBall(i) || isWire(i);

/** Places that one kind may be looked for in, and pieces of all kinds together: a can with more is refused, and nothing is laid. */
export const MOST_PLACES = 20_000;
export const MOST_PIECES = 3000;

/** How many places a section would have for a kind, about, without looking for them. */
export function placeCount(insert: Insert, room: RoomWithPicture): number {
  const [a, b] = halfSizes(insert);
  return (room.widthMm * room.heightMm) / (4 * a * b);
}

/** How many lengths an insert is cut into, however many they are. */
export function lengthCount(insert: Insert, depthMm: number): number {
  const { cutMm = 0, gapMm = 0 } = insert;
  if (isBall(insert) || cutMm <= 0) return 1;
  return Math.max(1, Math.floor((depthMm + gapMm) / (cutMm + gapMm) + 1e-9));
}

/** Where the cut lengths of a long insert lie along the room: one from end to end, or so many with gaps between. mm */
export function lengthsOf(insert: Insert, depthMm: number): { middle: number; half: number }[] {
  const { cutMm = 0, gapMm = 0 } = insert;
  if (isBall(insert) || cutMm <= 0 || cutMm >= depthMm) return [{ middle: depthMm / 2, half: depthMm / 2 }];
  const n = Math.min(MOST_PIECES, lengthCount(insert, depthMm));
  const over = depthMm - n * cutMm - (n - 1) * gapMm;
  return Array.from({ length: n }, (_, k) => ({
    middle: over / 2 + cutMm / 2 + k * (cutMm + gapMm),
    half: cutMm / 2,
  }));
}

/** The bent wire of one length of an insert; null of what is straight or a ball. */
export function bodyOf(insert: Insert, room: RoomWithPicture, lengthMm: number): Body | null {
  const { shape, sizeMm, wireMm = 0, pitchMm = 0, strands = 1 } = insert;
  if (isBent(insert))
    return {
      kind: 'bent rod',
      wireMm: sizeMm,
      outline: room.outline ?? rectangle(room.widthMm, room.heightMm),
    };
  if (!isWire(insert)) return null;
  return shape === 'springs'
    ? { kind: 'spring', wireMm, coilMm: sizeMm - wireMm, pitchMm, lengthMm, strands }
    : { kind: 'chain', wireMm, pitchMm, insideMm: sizeMm - 2 * wireMm, lengthMm };
}

/** Volume of one insert, mm³; those that run along are as long as the room, or as their lengths together. */
export function insertVolume(insert: Insert, room: RoomWithPicture): number {
  const [a, b] = halfSizes(insert);
  if (isBall(insert)) return (Math.PI / 6) * insert.sizeMm ** 3;
  const lengths = lengthsOf(insert, room.depthMm);
  const body = bodyOf(insert, room, 2 * lengths[0].half);
  if (body) return bodyVolume(body) * (isBent(insert) ? 1 : lengths.length);
  const longMm = lengths.reduce((sum, l) => sum + 2 * l.half, 0);
  if (insert.shape === 'rod') return Math.PI * a * a * longMm;
  // A bow only shears it; between triangular teeth half their depth is missing.
  const toothed = isToothed(insert) ? 1 - insert.toothMm! / (2 * insert.sizeMm) : 1;
  return 4 * a * b * (1 - bowShare(insert)) * toothed * (insert.fills ?? 1) * longMm;
}

/** The room of a can, with the outlines of the picture in it. */
export interface RoomWithPicture extends Required<Pick<Room, 'widthMm' | 'heightMm' | 'depthMm'>> {
  readonly outline?: Outline;
  readonly lines?: readonly Outline[];
}

/** A placed insert, ready to be asked about. */
export interface PlacedPiece extends Place {
  readonly insert: Insert;
  readonly halfX: number;
  readonly halfY: number;
}

/** mm. Inserts that run into each other by less count as touching. */
export const TOUCH_MM = 0.05;

/** By how much two placed inserts run into each other, mm; 0 or less where they do not. */
export function overlapMm(p: PlacedPiece, q: PlacedPiece): number {
  const apartZ = isBall(p.insert) && isBall(q.insert) ? q.z - p.z : 0;
  const [dx, dy] = [Math.abs(q.x - p.x), Math.abs(q.y - p.y)];
  if (isRound(p.insert) && isRound(q.insert)) return p.halfX + q.halfX - Math.hypot(dx, dy, apartZ);
  if (isRound(p.insert) || isRound(q.insert)) {
    const [round, box] = isRound(p.insert) ? [p, q] : [q, p];
    const out = [Math.max(0, dx - box.halfX), Math.max(0, dy - box.halfY)];
    const apart = Math.hypot(out[0], out[1]);
    return apart > 0 ? round.halfX - apart : round.halfX + Math.min(box.halfX - dx, box.halfY - dy);
  }
  return Math.min(p.halfX + q.halfX - dx, p.halfY + q.halfY - dy);
}

/** The two that run furthest into each other or into the wall, if any do by more than touching. */
export function worstOverlap(
  placed: readonly PlacedPiece[],
  room: RoomWithPicture,
): { first: number; second: number | 'wall'; mm: number } | null {
  let worst: { first: number; second: number | 'wall'; mm: number } | null = null;
  const note = (first: number, second: number | 'wall', mm: number) => {
    if (mm > (worst?.mm ?? TOUCH_MM)) worst = { first, second, mm };
  };
  const spots = placed.map((p) => ({
    x: p.x,
    y: p.y,
    z: isBall(p.insert) ? p.z : 0,
    reachMm: Math.max(p.halfX, p.halfY),
  }));
  const indices = placed.flatMap((p, i) => (isBent(p.insert) ? [] : [i]));
  const widest = indices.reduce((most, i) => Math.max(most, spots[i].reachMm), 0);
  // What runs the whole depth is met at any height: it is looked for on the floor.
  const balls = new Cells(
    spots,
    indices.filter((i) => isBall(placed[i].insert)),
  );
  const long = new Cells(
    spots,
    indices.filter((i) => !isBall(placed[i].insert)),
    widest,
  );
  indices.forEach((i) => {
    const p = placed[i];
    note(i, 'wall', beyondWall(room, p.x, p.y, p.halfX, p.halfY, isRound(p.insert)));
    if (isBall(p.insert)) {
      note(i, 'wall', Math.max(p.halfX - p.z, p.z + p.halfX - room.depthMm));
      for (const k of balls.near(spots[i])) if (k > i) note(i, k, overlapMm(p, placed[k]));
    }
    for (const k of long.near({ ...spots[i], z: 0 }))
      if (k !== i && (k > i || isBall(p.insert))) note(i, k, overlapMm(p, placed[k]));
  });
  return worst;
}

/** What already lies there, as rounds that poured ones must go round; square and flat bars count by the circle about them. */
export const standing = (placed: readonly PlacedPiece[]): Round[] =>
  placed
    .filter((p) => !isBent(p.insert))
    .map((p) => ({
      x: p.x,
      y: p.y,
      z: p.z,
      r: isRound(p.insert) ? p.halfX : Math.hypot(p.halfX, p.halfY),
      long: !isBall(p.insert),
    }));
