import { z } from 'zod';
import { count, lengthMm, materialId, signedMm } from '../steps/fields.ts';
import type { Room, Round } from './packing.ts';

/** Where a placed insert has its middle, mm: across and up from the can's axis, along from the near cap (balls). */
const placeSchema = z.strictObject({
  x: signedMm('Place across'),
  y: signedMm('Place up'),
  z: lengthMm('Place along').or(z.literal(0)),
});

/** Inserts of one kind: what they are, and how they lie. Rods, square bars and strips run the whole length. */
export const insertSchema = z.strictObject({
  shape: z.enum(['ball', 'rod', 'square bar', 'strip']),
  material: materialId('Insert'),
  /** Diameter, side, or the strip's width. */
  sizeMm: lengthMm('Insert size', 300),
  /** Thickness of a strip. */
  thicknessMm: lengthMm('Strip thickness', 300).optional(),
  count: count('Inserts', 1, 2000),
  lay: z.enum(['rows', 'hexagonal', 'rim', 'placed']),
  /** For those that were poured or moved by hand. */
  places: z.array(placeSchema).max(2000, 'At most 2000 inserts may be placed').optional(),
});

export type Insert = z.infer<typeof insertSchema>;
export type Place = z.infer<typeof placeSchema>;

/** Half the width and half the height of an insert's own section, mm. */
export const halfSizes = (i: Insert): [number, number] =>
  i.shape === 'strip' ? [i.sizeMm / 2, (i.thicknessMm ?? i.sizeMm) / 2] : [i.sizeMm / 2, i.sizeMm / 2];

export const isRound = ({ shape }: Insert): boolean => shape === 'ball' || shape === 'rod';

/** Volume of one insert, mm³; those that run along are as long as the room. */
export function insertVolume(insert: Insert, depthMm: number): number {
  const [a, b] = halfSizes(insert);
  switch (insert.shape) {
    case 'ball':
      return (4 / 3) * Math.PI * a ** 3;
    case 'rod':
      return Math.PI * a * a * depthMm;
    default:
      return 4 * a * b * depthMm;
  }
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
  return places.sort((p, q) => Math.hypot(...p) - Math.hypot(...q));
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

const sectionOf = (insert: Insert, room: Room): [number, number][] =>
  insert.lay === 'rim' ? rim(insert, room) : lattice(insert, room, insert.lay === 'hexagonal');

/** How many of a kind can lie as it is laid, at most. */
export const mostThatLie = (insert: Insert, room: Required<Room>): number =>
  insert.lay === 'placed'
    ? (insert.places?.length ?? 0)
    : placesOf({ ...insert, count: Infinity }, room).length;

/** Where the inserts of a kind lie, as many as are wanted and find room. */
export function placesOf(insert: Insert, room: Required<Room>): Place[] {
  if (insert.lay === 'placed') return (insert.places ?? []).slice(0, insert.count);
  const section = sectionOf(insert, room);
  if (insert.shape !== 'ball') return section.slice(0, insert.count).map(([x, y]) => ({ x, y, z: 0 }));
  const r = insert.sizeMm / 2;
  const close = insert.lay === 'hexagonal';
  const rise = close ? insert.sizeMm * Math.sqrt(2 / 3) : insert.sizeMm;
  const layers = close
    ? closeLayers(room.depthMm, insert.sizeMm)
    : Math.floor(room.depthMm / insert.sizeMm + 1e-9);
  const places: Place[] = [];
  for (let k = 0; k < layers && places.length < insert.count; k++) {
    // Every other layer of a close packing lies in the hollows of the one below, as far as the walls let it.
    const dy = close && k % 2 === 1 ? insert.sizeMm / Math.sqrt(3) : 0;
    for (const [x, y] of section)
      if (y + dy + r <= room.heightMm / 2 + 1e-6 && places.length < insert.count)
        places.push({ x, y: y + dy, z: r + k * rise });
  }
  return places;
}

/** A placed insert, ready to be asked about. */
export interface Placed extends Place {
  readonly insert: Insert;
  readonly halfX: number;
  readonly halfY: number;
}

export const allPlaced = (inserts: readonly Insert[], room: Required<Room>): Placed[] =>
  inserts.flatMap((insert) => {
    const [halfX, halfY] = halfSizes(insert);
    return placesOf(insert, room).map((place) => ({ ...place, insert, halfX, halfY }));
  });

/** mm. Inserts that run into each other by less count as touching. */
const TOUCH_MM = 0.05;

/** By how much two placed inserts run into each other, mm; 0 or less where they do not. */
export function overlapMm(p: Placed, q: Placed): number {
  const along = p.insert.shape === 'ball' && q.insert.shape === 'ball' ? q.z - p.z : 0;
  const [dx, dy] = [Math.abs(q.x - p.x), Math.abs(q.y - p.y)];
  if (isRound(p.insert) && isRound(q.insert)) return p.halfX + q.halfX - Math.hypot(dx, dy, along);
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
  placed: readonly Placed[],
  room: Required<Room>,
): { first: number; second: number | 'wall'; mm: number } | null {
  let worst: { first: number; second: number | 'wall'; mm: number } | null = null;
  const note = (first: number, second: number | 'wall', mm: number) => {
    if (mm > (worst?.mm ?? TOUCH_MM)) worst = { first, second, mm };
  };
  const order = placed.map((_, i) => i).sort((a, b) => placed[a].x - placed[b].x);
  const widest = placed.reduce((most, p) => Math.max(most, p.halfX), 0);
  order.forEach((i, k) => {
    const p = placed[i];
    note(
      i,
      'wall',
      Math.max(Math.abs(p.x) + p.halfX - room.widthMm / 2, Math.abs(p.y) + p.halfY - room.heightMm / 2),
    );
    if (p.insert.shape === 'ball') note(i, 'wall', Math.max(p.halfX - p.z, p.z + p.halfX - room.depthMm));
    for (let m = k + 1; m < order.length; m++) {
      const q = placed[order[m]];
      if (q.x - p.x > p.halfX + widest) break;
      note(i, order[m], overlapMm(p, q));
    }
  });
  return worst;
}

/** What already lies there, as rounds that poured ones must go round; square and flat bars count by the circle about them. */
export const standing = (placed: readonly Placed[]): Round[] =>
  placed.map((p) => ({
    x: p.x,
    y: p.y,
    z: p.z,
    r: isRound(p.insert) ? p.halfX : Math.hypot(p.halfX, p.halfY),
    long: p.insert.shape !== 'ball',
  }));
