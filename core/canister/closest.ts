import { type Outline, type Point2, contains, isConvex, outlineArea } from '../geometry/outline.ts';
import { shapeOf } from '../geometry/shapes.ts';
import { seeded } from './packing.ts';
import { type Room, beyondWall, lineInside, nearestOn } from './room.ts';

/** Rounds of one size side by side in a section, as close as they go. Lengths mm. */

/** Share of a diameter that two may overlap and still count as touching: a shop presses them in. And no more than so much, mm. */
const TOUCHING = 2e-3;
const MOST_TOUCHING_MM = 0.03;
const touching = (dMm: number): number => Math.min(TOUCHING * dMm, MOST_TOUCHING_MM);
/** Up to so many are also looked for off any lattice. */
const MOST_SOUGHT = 64;
/** Pairs pushed apart in all starts for one number, half of them from a lattice; and rounds for each. */
const PAIRS = 5e6;
const MOST_STARTS = 120;
const ROUNDS = 400;
/** After so many rounds a start that still overlaps by so much of a diameter is given up. */
const GIVEN_UP = [
  [60, 0.2],
  [150, 0.06],
] as const;
const PUSH = 0.45;
const MOMENTUM = 0.7;

/** Lattices by where the middle of the room lies in one, in diameters: on a rod, between three, between two, and on the way between. */
const SHIFTS: readonly Point2[] = [
  [0, 0],
  [0.5, Math.sqrt(3) / 6],
  [0.5, 0],
  ...Array.from({ length: 24 }, (_, i): Point2 => [((i % 6) + 0.5) / 12, (Math.floor(i / 6) + 0.5) * 0.11]),
];
const TURNS_DEG = [0, 90, 15, 45, 75];

/** A can's room is made anew with every change to the can: layouts are known by what they depend on. */
const known = new Map<string, Found>();
const MOST_KNOWN = 100;

/** Layouts of a room and a diameter, the tidiest first, each of more than the one before; `all` where no larger one was found. */
interface Found {
  readonly layouts: Point2[][];
  all: boolean;
}

function foundIn(room: Room, dMm: number): Found {
  const key = JSON.stringify([dMm, room.outline ?? [room.widthMm, room.heightMm]]);
  const there = known.get(key);
  if (there) return there;
  if (known.size >= MOST_KNOWN) known.clear();
  const found = { layouts: lattices(room, dMm), all: false };
  known.set(key, found);
  return found;
}

/** Places for so many rounds, those nearest the middle first; fewer where no more find room. */
export function closest(room: Room, dMm: number, wanted: number): Point2[] {
  const found = foundIn(room, dMm);
  const { layouts } = found;
  for (;;) {
    const enough = layouts.find((layout) => layout.length >= wanted);
    const most = layouts.at(-1) ?? [];
    if (enough || found.all) return enough ?? most;
    const more = most.length < MOST_SOUGHT ? sought(room, dMm, most.length + 1) : null;
    if (more) layouts.push(more);
    else found.all = true;
  }
}

function lattices(room: Room, dMm: number): Point2[][] {
  const inside = fits(room, dMm / 2);
  const found: Point2[][] = [];
  for (const turn of TURNS_DEG)
    for (const shift of SHIFTS) {
      const layout = lattice(room, dMm, turn, shift).filter(([x, y]) => inside(x, y));
      if (layout.length > (found.at(-1)?.length ?? 0)) found.push(fromMiddle(layout));
    }
  return found;
}

const fromMiddle = (places: Point2[]): Point2[] =>
  [...places].sort((p, q) => Math.hypot(...p) - Math.hypot(...q));

/** Whether the middle of a round may stand at a point: a little over the wall counts as touching it. */
function fits(room: Room, rMm: number): (x: number, y: number) => boolean {
  return (x, y) => beyondWall(room, x, y, rMm, rMm, true) < touching(2 * rMm) / 2;
}

function lattice(room: Room, dMm: number, turnDeg: number, [sx, sy]: Point2): Point2[] {
  const reach = Math.hypot(room.widthMm, room.heightMm) / 2;
  const n = Math.ceil(reach / dMm) + 1;
  const [c, s] = [Math.cos((turnDeg * Math.PI) / 180), Math.sin((turnDeg * Math.PI) / 180)];
  const places: Point2[] = [];
  for (let j = -Math.ceil(1.16 * n); j <= Math.ceil(1.16 * n); j++)
    for (let i = -n; i <= n; i++) {
      const x = (i + (j % 2 === 0 ? 0 : 0.5) - sx) * dMm;
      const y = ((j * Math.sqrt(3)) / 2 - sy) * dMm;
      if (Math.hypot(x, y) <= reach) places.push([c * x - s * y, s * x + c * y]);
    }
  return places;
}

type Start = (room: Room, dMm: number, count: number, random: () => number) => Point2[];

/** What is pushed apart: a piece of a lattice, rings about the middle from outside in, or anything. */
const STARTS_FROM: readonly Start[] = [
  (room, dMm, count, random) =>
    fromMiddle(lattice(room, 0.97 * dMm, 360 * random(), [random(), random()])).slice(0, count),
  rings,
  ({ widthMm, heightMm }, _d, count, random) =>
    Array.from({ length: count }, (): Point2 => [(random() - 0.5) * widthMm, (random() - 0.5) * heightMm]),
];

/** Curved hexagons come of these: the best known for 19, 37 and 61 in a bore. B. D. Lubachevsky and R. L. Graham, 1997. */
function rings({ widthMm, heightMm }: Room, dMm: number, count: number, random: () => number): Point2[] {
  const places: Point2[] = [];
  const [a, b] = [(widthMm - dMm) / 2, (heightMm - dMm) / 2];
  const deep = Math.max(1, Math.round(Math.min(a, b) / (0.96 * dMm)));
  for (let k = deep; places.length < count; k--) {
    const share = Math.max(0, k) / deep;
    const most =
      k <= 0 ? 1 : Math.round(Math.PI / Math.asin(Math.min(1, dMm / (2 * Math.min(a, b) * share))));
    const from = 2 * Math.PI * random();
    for (let i = 0; i < most && places.length < count; i++) {
      const angle = from + (2 * Math.PI * i) / most;
      places.push([a * share * Math.cos(angle), b * share * Math.sin(angle)]);
    }
  }
  return places;
}

/** So many rounds found room for by pushing them apart from many starts; null where none of them came to rest. Always the same answer. */
function sought(room: Room, dMm: number, count: number): Point2[] | null {
  const fence = lineInside(room, dMm / 2);
  if (!fence || count > bound(fence, dMm)) return null;
  const within = keptIn(room, fence, dMm / 2);
  const random = seeded(count);
  const starts = Math.min(MOST_STARTS, Math.ceil(PAIRS / (ROUNDS * count * count)) + 4);
  for (let start = 0; start < starts; start++) {
    const from = STARTS_FROM[start % STARTS_FROM.length](room, dMm, count, random);
    const rest = pushedApart(from.map(within), dMm, within);
    if (rest) return fromMiddle(rest);
  }
  return null;
}

/** Oler's inequality: points no nearer than d in a convex set X are at most 2A/(√3 d²) + P/2d + 1. N. Oler, Acta Math. 105 (1961). */
function bound(middles: Outline, dMm: number): number {
  if (!isConvex(middles)) return Infinity;
  const round = middles.reduce((sum, [x, y], i) => {
    const [u, v] = middles[(i + 1) % middles.length];
    return sum + Math.hypot(u - x, v - y);
  }, 0);
  const spare = 1 + 2 * TOUCHING;
  return (
    ((2 * outlineArea(middles) * spare) / (Math.sqrt(3) * dMm * dMm) + (round * spare) / (2 * dMm) + 1) | 0
  );
}

/** Puts the middle of a round back inside the wall. */
function keptIn(room: Room, fence: Outline, rMm: number): (p: Point2) => Point2 {
  const [w, h] = [room.widthMm / 2 - rMm, room.heightMm / 2 - rMm];
  if (!room.outline) return ([x, y]) => [Math.min(w, Math.max(-w, x)), Math.min(h, Math.max(-h, y))];
  if (shapeOf(room.outline) === 'round') {
    const reach = Math.min(...fence.map(([x, y]) => Math.hypot(x, y))) * Math.cos(Math.PI / fence.length);
    return ([x, y]) => {
      const far = Math.hypot(x, y);
      return far <= reach ? [x, y] : [(x / far) * reach, (y / far) * reach];
    };
  }
  return ([x, y]) => (contains(fence, x, y) ? [x, y] : nearestOn(fence, x, y));
}

function pushedApart(places: Point2[], dMm: number, within: (p: Point2) => Point2): Point2[] | null {
  let now = places;
  let moved = places.map((): Point2 => [0, 0]);
  for (let round = 0; round < ROUNDS; round++) {
    const push = now.map((): [number, number] => [0, 0]);
    let worst = 0;
    for (let i = 0; i < now.length; i++)
      for (let j = i + 1; j < now.length; j++) {
        const [dx, dy] = [now[j][0] - now[i][0], now[j][1] - now[i][1]];
        const apart = Math.hypot(dx, dy);
        const over = dMm - apart;
        if (over <= 0) continue;
        worst = Math.max(worst, over);
        const [ux, uy] = apart > 1e-9 ? [dx / apart, dy / apart] : [1, 0];
        push[i][0] -= PUSH * over * ux;
        push[i][1] -= PUSH * over * uy;
        push[j][0] += PUSH * over * ux;
        push[j][1] += PUSH * over * uy;
      }
    if (worst <= touching(dMm)) return now;
    if (GIVEN_UP.some(([at, share]) => round === at && worst > share * dMm)) return null;
    const next = now.map(([x, y], i) =>
      within([x + push[i][0] + MOMENTUM * moved[i][0], y + push[i][1] + MOMENTUM * moved[i][1]]),
    );
    moved = next.map(([x, y], i): Point2 => [x - now[i][0], y - now[i][1]]);
    now = next;
  }
  return null;
}
