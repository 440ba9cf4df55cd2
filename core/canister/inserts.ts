import { closest } from './closest.ts';
import { Cells } from './neighbours.ts';
import { z } from 'zod';
import { count, lengthMm, lengthOrNoneMm, materialId, signedMm } from '../units/quantities.ts';
import type { Outline, Point2 } from '../geometry/outline.ts';
import type { Round } from './packing.ts';
import { type Room, alongLine, beyondWall, lineInside } from './room.ts';

/** Where a placed insert has its middle, mm: across and up from the can's axis, along from the near cap (balls). */
const placeSchema = z.strictObject({
  x: signedMm('Place across'),
  y: signedMm('Place up'),
  z: lengthMm('Place along').or(z.literal(0)),
});

const INSERT_SHAPES = [
  'ball',
  'rod',
  'square bar',
  'strip',
  'saw blade',
  'springs',
  'chain',
  'offcuts',
  'bar',
] as const;

/** Of one kind in one can. */
export const MOST_INSERTS = 2000;

/** Inserts of one kind: what they are, and how they lie. Rods, bars and strips run the whole length unless they are cut. */
export const insertSchema = z.strictObject({
  shape: z.enum(INSERT_SHAPES),
  material: materialId('Insert'),
  /** Diameter, side, or the strip's width; of springs, chain and offcuts the lump that one counts as. */
  sizeMm: lengthMm('Insert size', 300, { fine: true }),
  /** Thickness of a strip; height of a bar. */
  thicknessMm: lengthMm('Insert thick', 300, { fine: true }).optional(),
  count: count('Inserts', 1, MOST_INSERTS),
  /** `outline`: along the outline of the picture. */
  lay: z.enum(['rows', 'hexagonal', 'rim', 'outline', 'placed']),
  /** For those that were poured or moved by hand. */
  places: z.array(placeSchema).max(MOST_INSERTS, `At most ${MOST_INSERTS} inserts may be placed`).optional(),
  /** Long ones cut to lengths, with powder between. mm */
  cutMm: lengthOrNoneMm('Cut to', 2000, { fine: true }).optional(),
  gapMm: lengthOrNoneMm('Gap between', 2000, { fine: true }).optional(),
  /** Balls in beds: from one layer to the next. mm */
  bedMm: lengthOrNoneMm('From bed to bed', 2000, { fine: true }).optional(),
  /** How many are ready, where it was said; 0 is not said. */
  readyCount: count('Ready', 0, 5000).optional(),
  /** The pieces of other lanes that stand here as bars. */
  pieces: z
    .array(z.strictObject({ lane: z.string().max(40), piece: count('Piece', 1, 999) }))
    .max(64, 'At most 64 bars may stand in a can')
    .optional(),
});

export type Insert = z.infer<typeof insertSchema>;
export type Place = z.infer<typeof placeSchema>;

/** Springs, chain and offcuts are known by weight alone; each is counted as a lump of its size, wherever it falls. */
const LUMPS: readonly Insert['shape'][] = ['springs', 'chain', 'offcuts'];
const FLATS: readonly Insert['shape'][] = ['strip', 'saw blade', 'bar'];

/** Weighed, not counted. */
export const isLump = ({ shape }: Insert): boolean => LUMPS.includes(shape);

/** Has a place of its own along the can. */
export const isBall = (i: Insert): boolean => i.shape === 'ball' || isLump(i);

/** Has a thickness of its own. */
export const isFlat = ({ shape }: Insert): boolean => FLATS.includes(shape);

/** Half the width and half the height of an insert's own section, mm. */
export const halfSizes = (i: Insert): [number, number] =>
  isFlat(i) ? [i.sizeMm / 2, (i.thicknessMm ?? i.sizeMm) / 2] : [i.sizeMm / 2, i.sizeMm / 2];

export const isRound = (i: Insert): boolean => i.shape === 'rod' || isBall(i);

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

/** Volume of one insert, mm³; those that run along are as long as the room, or as their lengths together. */
export function insertVolume(insert: Insert, depthMm: number): number {
  const [a, b] = halfSizes(insert);
  if (isBall(insert)) return (4 / 3) * Math.PI * a ** 3;
  const longMm = lengthsOf(insert, depthMm).reduce((sum, l) => sum + 2 * l.half, 0);
  return (insert.shape === 'rod' ? Math.PI * a * a : 4 * a * b) * longMm;
}

/** Layers of close-packed balls that a depth takes, 1 + ⌊(D − d)/(d√(2/3))⌋ (handbook, canister; follows from the tetrahedron's height). */
export const closeLayers = (depthMm: number, ballMm: number): number =>
  depthMm < ballMm ? 0 : 1 + Math.floor((depthMm - ballMm) / (ballMm * Math.sqrt(2 / 3)) + 1e-9);

/** Places of a lattice in a section: rows one above the other, every other one shifted by half where hexagonal. Middle of the room first. */
function lattice(insert: Insert, room: Room, shifted: boolean): [number, number][] {
  const [a, b] = halfSizes(insert);
  const [w, h] = [2 * a, 2 * b];
  // Round ones sink into the hollows of the row below; square ones only shift.
  const rise = shifted && isRound(insert) ? h * (Math.sqrt(3) / 2) : h;
  const rows = room.heightMm < h ? 0 : 1 + Math.floor((room.heightMm - h) / rise + 1e-9);
  const places: [number, number][] = [];
  const full = Math.floor(room.widthMm / w + 1e-9);
  for (let j = 0; j < rows; j++) {
    // A shifted row stands half a pitch from a full one, and ends where the wall does.
    const left = -(full * w) / 2 + (shifted && j % 2 === 1 ? a : 0);
    const columns = Math.floor((room.widthMm / 2 - left) / w + 1e-9);
    for (let i = 0; i < columns; i++) places.push([left + w * (i + 0.5), (j - (rows - 1) / 2) * rise]);
  }
  return places
    .filter(([x, y]) => beyondWall(room, x, y, a, b, isRound(insert)) < 1e-6)
    .sort((p, q) => Math.hypot(...p) - Math.hypot(...q));
}

/** Along the insides of the walls: how long each side is for an insert's middle, and how many of it stand there, corner to corner. */
function rimSides(insert: Insert, room: Room): { lengthMm: number; most: number }[] {
  const [a, b] = halfSizes(insert);
  const [w, h] = [room.widthMm - 2 * a, room.heightMm - 2 * b];
  if (w < 0 || h < 0) return [];
  const side = (lengthMm: number, sizeMm: number) => ({
    lengthMm,
    most: Math.floor(lengthMm / sizeMm + 1e-9),
  });
  return [side(w, 2 * a), side(h, 2 * b), side(w, 2 * a), side(h, 2 * b)];
}

/** So many places along the inside of the walls, touching them, spread over the four sides as evenly as they go. */
function rim(insert: Insert, room: Room): [number, number][] {
  if (room.outline) {
    const [a, b] = halfSizes(insert);
    const line = lineInside(room, isRound(insert) ? a : Math.hypot(a, b));
    return line
      ? alongLine(line, insert.count, 2 * Math.hypot(a, isRound(insert) ? 0 : b)).map(([x, y]) => [x, y])
      : [];
  }
  const sides = rimSides(insert, room);
  if (sides.length === 0) return [];
  const taken = sides.map(() => 0);
  for (let n = 0; n < insert.count; n++) {
    // Where they stand furthest apart the next one goes.
    const free = sides.map((s, i) => (taken[i] < s.most ? s.lengthMm / (taken[i] + 1) : -1));
    const widest = free.indexOf(Math.max(...free));
    if (free[widest] < 0) break;
    taken[widest]++;
  }
  const [w, h] = [sides[0].lengthMm / 2, sides[1].lengthMm / 2];
  const along = [
    (t: number): [number, number] => [-w + t, -h],
    (t: number): [number, number] => [w, -h + t],
    (t: number): [number, number] => [w - t, h],
    (t: number): [number, number] => [-w, h - t],
  ];
  return sides.flatMap(({ lengthMm }, i) =>
    Array.from({ length: taken[i] }, (_, k) => along[i]((lengthMm * k) / taken[i])),
  );
}

/** Along every outline of the picture, spread by how long each is. */
function onLines(insert: Insert, lines: readonly Outline[]): [number, number][] {
  const [a, b] = halfSizes(insert);
  const least = 2 * Math.hypot(a, isRound(insert) ? 0 : b);
  const lengths = lines.map(lengthAround);
  const whole = lengths.reduce((sum, l) => sum + l, 0);
  return lines.flatMap((line, i) =>
    alongLine(line, Math.round((insert.count * lengths[i]) / whole), least).map(
      ([x, y]): [number, number] => [x, y],
    ),
  );
}

const lengthAround = (line: Outline): number =>
  line.reduce((sum, [x, y], i) => {
    const [x1, y1] = line[(i + 1) % line.length];
    return sum + Math.hypot(x1 - x, y1 - y);
  }, 0);

function sectionOf(insert: Insert, room: RoomWithPicture): readonly Point2[] {
  if (insert.lay === 'rim') return rim(insert, room);
  if (insert.lay === 'outline') return onLines(insert, room.lines ?? []);
  if (insert.lay === 'hexagonal' && insert.shape === 'rod') return closest(room, insert.sizeMm, insert.count);
  return lattice(insert, room, insert.lay === 'hexagonal');
}

/** The room of a can, with the outlines of the picture in it. */
export interface RoomWithPicture extends Required<Pick<Room, 'widthMm' | 'heightMm' | 'depthMm'>> {
  readonly outline?: Outline;
  readonly lines?: readonly Outline[];
}

/** How many of a kind can lie as it is laid, at most. */
export const mostThatLie = (insert: Insert, room: RoomWithPicture): number =>
  insert.lay === 'placed' ? (insert.places?.length ?? 0) : placesOf({ ...insert, count: MANY }, room).length;

/** More than ever lie in a can. */
const MANY = 100_000;

/** Where the inserts of a kind lie, as many as are wanted and find room. */
export function placesOf(insert: Insert, room: RoomWithPicture): Place[] {
  if (insert.lay === 'placed') return (insert.places ?? []).slice(0, insert.count);
  if (placeCount(insert, room) > MOST_PLACES) return [];
  const section = sectionOf(insert, room);
  if (!isBall(insert)) return section.slice(0, insert.count).map(([x, y]) => ({ x, y, z: 0 }));
  const r = insert.sizeMm / 2;
  const bedded = (insert.bedMm ?? 0) >= insert.sizeMm;
  const close = insert.lay === 'hexagonal' && !bedded;
  const rise = bedded ? insert.bedMm! : close ? insert.sizeMm * Math.sqrt(2 / 3) : insert.sizeMm;
  const layers = close
    ? closeLayers(room.depthMm, insert.sizeMm)
    : room.depthMm < insert.sizeMm
      ? 0
      : 1 + Math.floor((room.depthMm - insert.sizeMm) / rise + 1e-9);
  const places: Place[] = [];
  for (let k = 0; k < layers && places.length < insert.count; k++) {
    // Every other layer of a close packing lies in the hollows of the one below, as far as the walls let it.
    const dy = close && k % 2 === 1 ? insert.sizeMm / Math.sqrt(3) : 0;
    for (const [x, y] of section)
      if (beyondWall(room, x, y + dy, r, r, true) < 1e-6 && places.length < insert.count)
        places.push({ x, y: y + dy, z: r + k * rise });
  }
  return places;
}

/** A placed insert, ready to be asked about. */
export interface PlacedPiece extends Place {
  readonly insert: Insert;
  readonly halfX: number;
  readonly halfY: number;
}

export const allPlaced = (inserts: readonly Insert[], room: RoomWithPicture): PlacedPiece[] =>
  inserts.flatMap((insert) => {
    const [halfX, halfY] = halfSizes(insert);
    return placesOf(insert, room).map((place) => ({ ...place, insert, halfX, halfY }));
  });

/** mm. Inserts that run into each other by less count as touching. */
const TOUCH_MM = 0.05;

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
  const widest = spots.reduce((most, s) => Math.max(most, s.reachMm), 0);
  const indices = placed.map((_, i) => i);
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
  placed.forEach((p, i) => {
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
  placed.map((p) => ({
    x: p.x,
    y: p.y,
    z: p.z,
    r: isRound(p.insert) ? p.halfX : Math.hypot(p.halfX, p.halfY),
    long: !isBall(p.insert),
  }));
