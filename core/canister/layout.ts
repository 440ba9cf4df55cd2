import { type Outline, type Point2, outlineArea, rectangle } from '../geometry/outline.ts';
import { lengthAround } from '../geometry/bodies.ts';
import { grown } from '../geometry/regions.ts';
import { closest } from './closest.ts';
import {
  type Insert,
  MOST_PLACES,
  type Place,
  type PlacedPiece,
  type RoomWithPicture,
  TOUCH_MM,
  halfSizes,
  insertVolume,
  isBall,
  isLump,
  isBent,
  isOffcut,
  isRound,
  overlapMm,
  placeCount,
} from './inserts.ts';
import { Cells } from './neighbours.ts';
import { type Room, alongLine, beyondWall, lineInside } from './room.ts';

/** Layers of close-packed balls that a depth takes, 1 + ⌊(D − d)/(d√(2/3))⌋ (handbook, canister; follows from the tetrahedron's height). */
export const closeLayers = (depthMm: number, ballMm: number): number =>
  depthMm < ballMm ? 0 : 1 + Math.floor((depthMm - ballMm) / (ballMm * Math.sqrt(2 / 3)) + 1e-9);

/** Where a lattice stands: moved by shares of its pitch, and lying on its side or not. */
interface Standing {
  readonly across: number;
  readonly up: number;
  readonly turned: boolean;
}

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

/** Shares of a pitch that a lattice is tried at, each way. */
const SHIFTS = Array.from({ length: 8 }, (_, i) => i / 8);
const TRIES: readonly Standing[] = SHIFTS.flatMap((across) =>
  SHIFTS.flatMap((up) => [false, true].map((turned) => ({ across, up, turned }))),
);

/** A lattice moved and perhaps turned a quarter, as far as the walls let it. */
function moved(insert: Insert, room: Room, shifted: boolean, s: Standing): [number, number][] {
  const [a, b] = halfSizes(insert);
  const [w, h] = s.turned ? [room.heightMm, room.widthMm] : [room.widthMm, room.heightMm];
  const [wide, high] = [2 * a, 2 * b];
  const rise = shifted && isRound(insert) ? high * (Math.sqrt(3) / 2) : high;
  const places: [number, number][] = [];
  for (let j = 0; j * rise <= h; j++)
    for (let i = -1; i * wide <= w; i++) {
      const x = -w / 2 + (i + s.across + (shifted && j % 2 === 1 ? 0.5 : 0)) * wide + a;
      const y = -h / 2 + (j + s.up) * rise + b;
      const [px, py] = s.turned ? [y, x] : [x, y];
      if (beyondWall(room, px, py, a, b, isRound(insert)) < 1e-6) places.push([px, py]);
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

/** Tells of a piece whether it runs into nothing that stands there. */
function clearOf(standing: readonly PlacedPiece[]): (piece: PlacedPiece) => boolean {
  const spots = standing.map((p) => ({
    x: p.x,
    y: p.y,
    z: isBall(p.insert) ? p.z : 0,
    reachMm: Math.max(p.halfX, p.halfY),
  }));
  const kinds = (ball: boolean) => standing.flatMap((p, i) => (isBall(p.insert) === ball ? [i] : []));
  const [balls, long] = [kinds(true), kinds(false)];
  const made = new Map<string, Cells>();
  return (piece) => {
    const reachMm = Math.max(piece.halfX, piece.halfY);
    const near = (which: readonly number[], z: number) => {
      const cells = cellsFor(which, reachMm);
      for (const k of cells.near({ x: piece.x, y: piece.y, z, reachMm }))
        if (overlapMm(piece, standing[k]) > TOUCH_MM) return true;
      return false;
    };
    return !near(long, 0) && !(balls.length > 0 && near(balls, isBall(piece.insert) ? piece.z : 0));
  };

  function cellsFor(which: readonly number[], reachMm: number): Cells {
    const key = `${which === balls} ${reachMm}`;
    const known = made.get(key) ?? new Cells(spots, which, reachMm);
    made.set(key, known);
    return known;
  }
}

/** The section that a kind has for itself among what stands there: of a lattice that has to give way the one of many that holds most. */
function sectionOf(
  insert: Insert,
  room: RoomWithPicture,
  standing: readonly PlacedPiece[],
): readonly Point2[] {
  if (insert.lay === 'rim') return rim(insert, room);
  if (insert.lay === 'outline') return onLines(insert, room.lines ?? []);
  const shifted = insert.lay === 'hexagonal';
  const alone =
    shifted && insert.shape === 'rod'
      ? closest(room, insert.sizeMm, insert.count)
      : lattice(insert, room, shifted);
  const long = standing.filter((p) => !isBall(p.insert));
  if (long.length === 0) return alone;
  const [halfX, halfY] = halfSizes(insert);
  const clear = clearOf(long);
  const free = (section: readonly (readonly [number, number])[]) =>
    section.filter(([x, y]) => clear({ x, y, z: 0, insert, halfX, halfY }));
  const first = free(alone);
  if (first.length === alone.length) return alone;
  // Rods may as well stand in plain rows where those hold more; layers of balls lie in each other's hollows.
  const ways = shifted && !isBall(insert) ? [true, false] : [shifted];
  const every = Math.max(1, Math.ceil((ways.length * TRIES.length * placeCount(insert, room)) / MOST_TRIED));
  const tries = TRIES.filter((_, i) => i % every === 0);
  return ways
    .flatMap((way) => tries.map((s) => ({ way, s })))
    .reduce<readonly (readonly [number, number])[]>((best, { way, s }) => {
      const other = free(moved(insert, room, way, s));
      return other.length > best.length ? other : best;
    }, first);
}

/** Places that are tried for one kind in all: of a large lattice fewer ways of standing are. */
const MOST_TRIED = 20_000;

/** More than ever lie in a can. */
const MANY = 100_000;

/** Rods bent round inside the wall, of all kinds one above another, evenly from cap to cap, as many as the depth holds. */
function bent(inserts: readonly Insert[], room: RoomWithPicture): Place[][] {
  let left = room.depthMm;
  const counts = inserts.map((insert) => {
    if (!isBent(insert)) return 0;
    const n = Math.min(insert.count, Math.floor(left / insert.sizeMm + 1e-9));
    left -= n * insert.sizeMm;
    return n;
  });
  const rods = counts.reduce((sum, n) => sum + n, 0);
  const gap = rods > 1 ? Math.max(0, left) / (rods - 1) : 0;
  let low = rods > 1 ? 0 : left / 2;
  return inserts.map(({ sizeMm }, i) =>
    Array.from({ length: counts[i] }, () => {
      const z = low + sizeMm / 2;
      low += sizeMm + gap;
      return { x: 0, y: 0, z };
    }),
  );
}

/** What is left of the room inside rods that are bent round it. */
export function insideBent(inserts: readonly Insert[], room: RoomWithPicture): RoomWithPicture {
  const thick = Math.max(0, ...inserts.filter(isBent).map((i) => i.sizeMm));
  if (thick === 0) return room;
  if (!room.outline)
    return {
      ...room,
      widthMm: Math.max(0, room.widthMm - 2 * thick),
      heightMm: Math.max(0, room.heightMm - 2 * thick),
    };
  const rings = grown([room.outline], -thick, 'sharp') as Outline[];
  const nothing = rectangle(1e-6, 1e-6);
  return {
    ...room,
    outline: rings.reduce((a, b) => (lengthAround(b) > lengthAround(a) ? b : a), rings[0] ?? nothing),
  };
}

/** Offcuts fill no more of the room than this, however they are shaken (handbook, inserts: 0.54 to 0.64). */
const MOST_OFFCUTS = 0.64;

function placesAmong(given: Insert, room: RoomWithPicture, standing: readonly PlacedPiece[]): Place[] {
  const area = room.outline ? outlineArea(room.outline) : room.widthMm * room.heightMm;
  const most = Math.floor((MOST_OFFCUTS * area * room.depthMm) / insertVolume(given, room));
  const insert = isOffcut(given) ? { ...given, count: Math.min(given.count, most) } : given;
  if (insert.lay === 'placed') return (insert.places ?? []).slice(0, insert.count);
  if (placeCount(insert, room) > MOST_PLACES) return [];
  const section = sectionOf(insert, room, standing);
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
  const clear = standing.length > 0 ? clearOf(standing) : () => true;
  const places: Place[] = [];
  for (let k = 0; k < layers && places.length < insert.count; k++) {
    // Every other layer of a close packing lies in the hollows of the one below, as far as the walls let it.
    const dy = close && k % 2 === 1 ? insert.sizeMm / Math.sqrt(3) : 0;
    for (const [x, y] of section) {
      const place = { x, y: y + dy, z: r + k * rise };
      if (
        places.length < insert.count &&
        beyondWall(room, x, y + dy, r, r, true) < 1e-6 &&
        clear({ ...place, insert, halfX: r, halfY: r })
      )
        places.push(place);
    }
  }
  return isLump(insert) && !standing.some((p) => isBall(p.insert)) ? strewn(places, r, room.depthMm) : places;
}

/** Strewn in with the powder they lie all along, not in layers and not in a heap at the near cap: the same way each time. */
function strewn(places: readonly Place[], r: number, depthMm: number): Place[] {
  const layers = [...new Set(places.map(({ z }) => z))].sort((a, b) => a - b);
  const room = depthMm / Math.max(1, layers.length) - 2 * r;
  if (room <= 0) return [...places];
  return places.map((place, i) => {
    const first = layers.indexOf(place.z) * (room + 2 * r);
    return { ...place, z: first + r + room * ((GOLDEN * (i + 1)) % 1) };
  });
}

/** The golden section: its multiples lie evenly in a stretch, however many there are. */
const GOLDEN = (Math.sqrt(5) - 1) / 2;

const laid = new WeakMap<readonly Insert[], WeakMap<RoomWithPicture, readonly (readonly Place[])[]>>();

/** What stands where it stands whatever else goes in comes first; lattices, in their order, give way to what is there. */
const givesWay = (insert: Insert): boolean => insert.lay === 'rows' || insert.lay === 'hexagonal';

/** Where the inserts of every kind lie, as many as are wanted and find room among the others. Kept as long as the inserts are. */
export function layOut(inserts: readonly Insert[], room: RoomWithPicture): readonly (readonly Place[])[] {
  const byRoom = laid.get(inserts) ?? new WeakMap<RoomWithPicture, readonly (readonly Place[])[]>();
  laid.set(inserts, byRoom);
  const known = byRoom.get(room);
  if (known) return known;
  const within = insideBent(inserts, room);
  const order = inserts.map((_, i) => i).sort((i, k) => rank(inserts[i]) - rank(inserts[k]) || i - k);
  const standing: PlacedPiece[] = [];
  const places = bent(inserts, room);
  for (const i of order) {
    const insert = inserts[i];
    if (isBent(insert)) continue;
    places[i] = placesAmong(insert, within, givesWay(insert) ? standing : []);
    const [halfX, halfY] = halfSizes(insert);
    standing.push(...places[i].map((place) => ({ ...place, insert, halfX, halfY })));
  }
  byRoom.set(room, places);
  return places;
}

const rank = (insert: Insert): number => (givesWay(insert) ? 1 : 0);

/** Where the inserts of a kind lie that are alone in a can. */
export const placesOf = (insert: Insert, room: RoomWithPicture): Place[] => [...layOut([insert], room)[0]];

/** How many of a kind can lie as it is laid, at most, beside the others. */
export const mostThatLie = (insert: Insert, room: RoomWithPicture, others: readonly Insert[] = []): number =>
  insert.lay === 'placed' && !isBent(insert)
    ? (insert.places?.length ?? 0)
    : layOut([...others, { ...insert, count: MANY }], room)[others.length].length;

export const allPlaced = (inserts: readonly Insert[], room: RoomWithPicture): PlacedPiece[] =>
  layOut(inserts, room).flatMap((places, i) => {
    const insert = inserts[i];
    const [halfX, halfY] = halfSizes(insert);
    return places.map((place) => ({ ...place, insert, halfX, halfY }));
  });
