import { type Facets, type Turn, anyTurn, corners, facetsGauge, lying, offcut } from '../geometry/offcut.ts';
import type { RoomWithPicture } from './inserts.ts';
import { Cells } from './neighbours.ts';
import { seeded } from './packing.ts';
import { beyondWall } from './room.ts';

/** An offcut as it lies in a can: its faces about its middle, how it is turned out of its own frame, and how far it reaches. mm */
export interface LyingOffcut {
  readonly facets: Facets;
  readonly turn: Turn;
  readonly farthestMm: number;
}

interface Middle {
  readonly x: number;
  readonly y: number;
  readonly z: number;
}

interface Tried extends LyingOffcut {
  readonly at: Middle;
  readonly points: readonly (readonly number[])[];
}

/** Ways of lying that are tried for each: it slips to where it presses least on the others. */
const TRIED = 8;
/** No offcut reaches further from its middle, as a share of its size. */
export const REACH = 0.9;

/** How far the corners of one reach into another, together: shares of its own size. */
function into(one: Tried, other: Tried): number {
  let sum = 0;
  const [dx, dy, dz] = [one.at.x - other.at.x, one.at.y - other.at.y, one.at.z - other.at.z];
  for (const p of one.points)
    sum += Math.max(0, 1 - facetsGauge(other.facets, dx + p[0], dy + p[1], dz + p[2]));
  return sum;
}

function intoWall({ at, points }: Tried, sizeMm: number, room: RoomWithPicture): number {
  let sum = 0;
  for (const [x, y, z] of points) {
    const out = Math.max(
      beyondWall(room, at.x + x, at.y + y, 0, 0, true),
      -at.z - z,
      at.z + z - room.depthMm,
    );
    sum += Math.max(0, out) / sizeMm;
  }
  return sum;
}

const known = new WeakMap<readonly Middle[], LyingOffcut[]>();

/** The same, kept as long as their middles are. */
export function offcutsAt(middles: readonly Middle[], sizeMm: number, room: RoomWithPicture): LyingOffcut[] {
  const lie = known.get(middles) ?? lieAbout(middles, sizeMm, room);
  known.set(middles, lie);
  return lie;
}

/**
 * Offcuts of a size at their middles, one after the other each turned so that it presses least into those before and into the
 * wall: the same ones each time. Each has the volume of a ball as wide as they are said to be. mm
 */
export function lieAbout(middles: readonly Middle[], sizeMm: number, room: RoomWithPicture): LyingOffcut[] {
  const random = seeded(7919 + Math.round(100 * sizeMm));
  const made: Tried[] = [];
  const spots = middles.map((m) => ({ ...m, reachMm: REACH * sizeMm }));
  const cells = new Cells(
    spots,
    middles.map((_, i) => i),
  );
  const nearWall = (at: Middle): boolean =>
    Math.max(beyondWall(room, at.x, at.y, 0, 0, true), -at.z, at.z - room.depthMm) > -REACH * sizeMm;
  middles.forEach((at, i) => {
    const own = offcut(random);
    const ends = corners(own).map((p) => p.map((v) => v * sizeMm));
    const farthestMm = ends.reduce((most, p) => Math.max(most, Math.hypot(...p)), 0);
    const before = [...cells.near(spots[i])].filter((k) => {
      if (k >= i) return false;
      const { x, y, z } = middles[k];
      return Math.hypot(x - at.x, y - at.y, z - at.z) < farthestMm + made[k].farthestMm;
    });
    const isByWall = nearWall(at);
    let best: Tried | null = null;
    let least = Infinity;
    for (let k = 0; k < TRIED && least > 0; k++) {
      const turn = anyTurn(random);
      const [u, v, w] = turn;
      const points = ends.map(([x, y, z]) => [0, 1, 2].map((d) => u[d] * x + v[d] * y + w[d] * z));
      const tried: Tried = { at, turn, points, farthestMm, facets: lying(own, turn, sizeMm) };
      let pressed = isByWall ? intoWall(tried, sizeMm, room) : 0;
      for (const other of before) {
        if (pressed >= least) break;
        pressed += into(tried, made[other]) + into(made[other], tried);
      }
      if (pressed >= least) continue;
      least = pressed;
      best = tried;
    }
    made.push(best!);
  });
  return made;
}
