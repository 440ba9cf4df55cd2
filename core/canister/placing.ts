import type { Point2 } from '../geometry/outline.ts';
import {
  type Insert,
  type Place,
  type PlacedPiece,
  type RoomWithPicture,
  halfSizes,
  isRound,
} from './inserts.ts';
import { beyondWall, lineInside, nearestOn } from './room.ts';

/** mm. What is moved by hand snaps to what it is this near to. */
const SNAPS_MM = 0.8;

/** An insert with a place of its own for each piece. */
export type PlacedInsert = Insert & { readonly places: NonNullable<Insert['places']> };

/** The same inserts, each with its own place, so that any of them can be moved by hand: then they are no longer as they were poured. */
export const freed = (insert: Insert, lying: readonly Place[]): PlacedInsert => {
  const places = lying.map(({ x, y, z }) => ({ x: fine(x), y: fine(y), z: fine(z) }));
  return { ...insert, lay: 'placed', poured: undefined, places, count: Math.max(1, places.length) };
};

const fine = (mm: number): number => Math.round(mm * 1000) / 1000;

/**
 * Where an insert that is let go comes to lie: touching the wall or a neighbour, on a middle line, or level with a neighbour,
 * whichever is nearest and near enough; where it was let go otherwise. mm
 */
export function snapped(
  at: Point2,
  insert: Insert,
  others: readonly PlacedPiece[],
  room: RoomWithPicture,
): Point2 {
  const [a, b] = halfSizes(insert);
  const [x, y] = at;
  const wanted: Point2[] = [
    [0, y],
    [x, 0],
    [0, 0],
  ];
  const line = lineInside(room, a);
  if (line && isRound(insert)) wanted.push(nearestOn(line, x, y));
  if (!isRound(insert))
    for (const s of [-1, 1]) wanted.push([s * (room.widthMm / 2 - a), y], [x, s * (room.heightMm / 2 - b)]);
  for (const o of others) {
    const far = Math.hypot(x - o.x, y - o.y);
    if (far > 3 * (a + o.halfX) + SNAPS_MM) continue;
    wanted.push([o.x, y], [x, o.y]);
    if (isRound(insert) && isRound(o.insert) && far > 1e-6) {
      const reach = a + o.halfX;
      wanted.push([o.x + ((x - o.x) / far) * reach, o.y + ((y - o.y) / far) * reach]);
    }
  }
  const near = wanted
    .map((p) => ({ p, far: Math.hypot(p[0] - x, p[1] - y) }))
    .filter(({ p, far }) => far <= SNAPS_MM && beyondWall(room, p[0], p[1], a, b, isRound(insert)) < 1e-6)
    .sort((p, q) => p.far - q.far);
  const [px, py] = near[0]?.p ?? at;
  return [fine(px), fine(py)];
}

export type Alignment = 'in a row' | 'in a column' | 'spread across' | 'spread up';

/** Chosen places put in a row or a column on their mean, or spread evenly between the outermost. */
export function aligned(places: readonly Place[], chosen: readonly number[], how: Alignment): Place[] {
  if (chosen.length < 2) return [...places];
  const key = how === 'in a row' || how === 'spread up' ? 'y' : 'x';
  const picked = chosen.map((i) => places[i][key]);
  const mean = picked.reduce((s, v) => s + v, 0) / picked.length;
  const order = [...chosen].sort((i, k) => places[i][key] - places[k][key]);
  const [low, high] = [Math.min(...picked), Math.max(...picked)];
  const spread = how === 'spread across' || how === 'spread up';
  return places.map((place, i) => {
    const at = order.indexOf(i);
    if (at < 0) return place;
    return { ...place, [key]: fine(spread ? low + ((high - low) * at) / (order.length - 1) : mean) };
  });
}

/** Copies of the chosen places, one size to the right (or left, where that is beyond the wall). */
export function copied(insert: Insert, chosen: readonly number[], room: RoomWithPicture): Insert {
  const places = insert.places ?? [];
  const [a, b] = halfSizes(insert);
  const more = chosen.map((i) => {
    const { x, y, z } = places[i];
    const right = beyondWall(room, x + 2 * a, y, a, b, isRound(insert)) < 1e-6;
    return { x: fine(x + (right ? 2 * a : -2 * a)), y, z };
  });
  return { ...insert, places: [...places, ...more], count: places.length + more.length };
}
