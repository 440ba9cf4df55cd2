import { type Outline, type Point2, boundingBox, contains, rectangle, placeOn } from '../geometry/outline.ts';
import { grown } from '../geometry/regions.ts';

/** The room inside a can, centred across, from 0 along. Without a depth it is a section, and everything lies in it. mm. */
export interface Room {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly depthMm?: number;
  /** Where the room is not square or flat: its outline, as wide and high as said. */
  readonly outline?: Outline;
}

const outlineOf = (room: Room): Outline => room.outline ?? rectangle(room.widthMm, room.heightMm);

/** The nearest point of an outline. */
export const nearestOn = (outline: Outline, x: number, y: number): Point2 => placeOn(outline, x, y).at;

/** How far a point is inside the wall, mm; negative beyond it. */
function clearance(room: Room, x: number, y: number): number {
  if (!room.outline) return Math.min(room.widthMm / 2 - Math.abs(x), room.heightMm / 2 - Math.abs(y));
  const [nx, ny] = nearestOn(room.outline, x, y);
  const far = Math.hypot(nx - x, ny - y);
  return contains(room.outline, x, y) ? far : -far;
}

/** Where a section of half sizes a, b, standing at a point, reaches beyond the wall, mm; negative or 0 where it does not. */
export function beyondWall(room: Room, x: number, y: number, a: number, b: number, round: boolean): number {
  if (!room.outline) return Math.max(Math.abs(x) + a - room.widthMm / 2, Math.abs(y) + b - room.heightMm / 2);
  if (round) return a - clearance(room, x, y);
  return Math.max(...[-1, 1].flatMap((i) => [-1, 1].map((j) => -clearance(room, x + i * a, y + j * b))));
}

/** The line on which middles of inserts of a radius stand that touch the wall; null where none find room. */
export function lineInside(room: Room, radiusMm: number): Outline | null {
  const rings = grown([outlineOf(room)], -radiusMm, 'sharp');
  return rings.length > 0 ? rings.reduce((a, b) => (spread(b) > spread(a) ? b : a)) : null;
}

const spread = (ring: Outline): number => {
  const box = boundingBox(ring);
  return (box.maxX - box.minX) * (box.maxY - box.minY);
};

/** So many places along a closed line, evenly, no nearer than `leastMm`; fewer where it is too short. */
export function alongLine(line: Outline, count: number, leastMm: number): Point2[] {
  const sides = line.map((p, i) => ({ p, q: line[(i + 1) % line.length] }));
  const lengths = sides.map(({ p, q }) => Math.hypot(q[0] - p[0], q[1] - p[1]));
  const whole = lengths.reduce((a, b) => a + b, 0);
  const n = Math.min(count, Math.floor(whole / leastMm + 1e-9));
  const places: Point2[] = [];
  let side = 0;
  let before = 0;
  for (let k = 0; k < n; k++) {
    const at = (whole * k) / n;
    while (side < sides.length - 1 && before + lengths[side] < at) before += lengths[side++];
    const t = (at - before) / (lengths[side] || 1);
    const { p, q } = sides[side];
    places.push([p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t]);
  }
  return places;
}
