import { type Outline, regularPolygon } from '../geometry/outline.ts';
import { ROUND_SIDES } from '../geometry/tolerances.ts';
import type { BenchAction } from '../instruct/action.ts';
import type { ForgeAction } from '../instruct/forgeAction.ts';
import {
  type Thing,
  type V,
  agrees,
  box,
  clipped,
  corners,
  dot,
  flipped,
  prism,
  rotation,
  steelAt,
  times,
  turned,
} from './bodies.ts';

/** What the literal hand does in the fire: it keeps the volume, lets every part of a face do alike, and knows no flow. mm. */

/** Where the hollows in a top face lie, and how deep they are there: `across` from the middle line, `along` from end A. */
type Hollows = Extract<ForgeAction, { do: 'groove' }>;

const sizeOf = (thing: Thing): V => {
  const { low, high } = box(thing);
  return [high[0] - low[0], high[1] - low[1], high[2] - low[2]];
};

/** A thing forged to a section (round its middle) and a length: what is at a point of it was where `from` tells; both from the middle of end A. */
function forged(thing: Thing, outline: Outline, longMm: number, from: (p: V) => V): Thing {
  const { low, high } = box(thing);
  const middle: V = [(low[0] + high[0]) / 2, (low[1] + high[1]) / 2, low[2]];
  const within = (p: V): V => [p[0] + middle[0], p[1] + middle[1], p[2] + middle[2]];
  const steel = (p: V): number => steelAt(thing, within(from(p))) ?? -1;
  const [{ turn, toB, toTop }] = thing;
  return [{ ...prism(steel, outline, longMm), toB: times(turn, toB), toTop: times(turn, toTop) }];
}

/** The outline of a straight bar as it lies, counter-clockwise about its middle. */
function outlineOf(thing: Thing): Outline {
  const { low, high } = box(thing);
  const [x, y] = [(low[0] + high[0]) / 2, (low[1] + high[1]) / 2];
  const points = thing
    .flatMap(corners)
    .filter((p) => p[2] < low[2] + 1e-6)
    .map((p) => [p[0] - x, p[1] - y] as const)
    .sort((p, q) => Math.atan2(p[1], p[0]) - Math.atan2(q[1], q[0]));
  return points.filter(
    (p, i) => i === 0 || Math.hypot(p[0] - points[i - 1][0], p[1] - points[i - 1][1]) > 1e-6,
  );
}

const areaOf = (outline: Outline): number =>
  outline.reduce((sum, [x, y], i) => {
    const [u, v] = outline[(i + 1) % outline.length];
    return sum + (x * v - u * y) / 2;
  }, 0);

const square = (side: number): Outline => flat(side, side);
const flat = (wide: number, high: number): Outline => [
  [-wide / 2, -high / 2],
  [wide / 2, -high / 2],
  [wide / 2, high / 2],
  [-wide / 2, high / 2],
];

const scaledTo = (thing: Thing, wide: number, high: number): Thing => {
  const [w, h, l] = sizeOf(thing);
  const [kx, ky] = [wide / w, high / h];
  return forged(thing, flat(wide, high), l / (kx * ky), ([x, y, z]) => [x / kx, y / ky, z * kx * ky]);
};

/** How deep the top and the bottom are hollow there. */
const hollowsAt = (a: Hollows, across: number, along: number): { top: number; bottom: number } => ({
  top: a.top ? hollowAt(a, across, along) : 0,
  bottom: a.bottomShiftMm === null ? 0 : hollowAt(a, across, along - a.bottomShiftMm),
});

function hollowAt(a: Hollows, across: number, along: number): number {
  const off = (d: number) => d - a.pitchMm * Math.round(d / a.pitchMm);
  const round = (d: number) =>
    Math.abs(d) < a.widthMm / 2 ? (a.depthMm * (1 + Math.cos((2 * Math.PI * d) / a.widthMm))) / 2 : 0;
  if (a.pattern !== 'dimples') {
    const slant = a.pattern === 'across' ? 0 : Math.tan((a.slantDeg * Math.PI) / 180);
    return round(off(along + across * slant));
  }
  const row = Math.round(across / a.pitchMm);
  return round(Math.hypot(off(across), off(along - (Math.abs(row) % 2) * (a.pitchMm / 2))));
}

const STEPS = 96;

/** Sum of f over 0 to `to`. */
const summed = (f: (at: number) => number, to: number): number => {
  let sum = 0;
  for (let i = 0; i < STEPS; i++) sum += f(((i + 0.5) / STEPS) * to);
  return (sum * to) / STEPS;
};

/** Where a growing sum from 0 comes to so much. */
function whereSum(f: (at: number) => number, is: number, most: number): number {
  let [low, high] = [0, most];
  for (let i = 0; i < 24; i++) {
    const middle = (low + high) / 2;
    if (summed(f, middle) < is) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** How far a bar reaches across at a distance from its end A. */
function acrossAt([b]: Thing, z: number): [number, number] {
  let [low, high] = [-Infinity, Infinity];
  for (const [n, c] of b.inside) {
    const way = times(b.turn, n);
    const left = c + dot(way, b.shift) - way[2] * z;
    if (way[0] > 1e-9) high = Math.min(high, left / way[0]);
    else if (way[0] < -1e-9) low = Math.max(low, left / way[0]);
  }
  return [low, high];
}

const SLICES = 4000;

/** Sums up to so many even slices of a length. */
function sums(f: (z: number) => number, long: number): { at(z: number): number; where(sum: number): number } {
  const upTo = [0];
  for (let i = 0; i < SLICES; i++) upTo.push(upTo[i] + (f(((i + 0.5) / SLICES) * long) * long) / SLICES);
  return {
    at: (z) => {
      const s = Math.min(SLICES - 1e-9, Math.max(0, (z / long) * SLICES));
      const i = Math.floor(s);
      return upTo[i] + (s - i) * (upTo[i + 1] - upTo[i]);
    },
    where(sum) {
      const i = Math.max(0, Math.min(SLICES - 1, upTo.findIndex((u) => u > sum) - 1));
      return ((i + (sum - upTo[i]) / (upTo[i + 1] - upTo[i])) / SLICES) * long;
    },
  };
}

/** Straight between the sections that were told; slice by slice the bar's steel goes there, spread by what lies below it. */
function shaped(thing: Thing, a: Extract<ForgeAction, { do: 'forge to shape' }>): Thing {
  const { low } = box(thing);
  const [, t, l] = sizeOf(thing);
  const { sections } = a;
  const long = sections.at(-1)!.atMm;
  const at = (z: number) => {
    const i = Math.max(
      1,
      sections.findIndex((s) => s.atMm >= z - 1e-9),
    );
    const [p, q] = [sections[i - 1], sections[i]];
    const f = (z - p.atMm) / (q.atMm - p.atMm);
    const mix = (key: 'toEdgeMm' | 'toSpineMm' | 'spineMm' | 'edgeMm') => p[key] + f * (q[key] - p[key]);
    return {
      edgeAt: -mix('toEdgeMm'),
      spineAt: mix('toSpineMm'),
      spine: mix('spineMm'),
      edge: mix('edgeMm'),
    };
  };
  const thickness = (q: number, { spine, edge }: { spine: number; edge: number }): number => {
    const from = a.edges === 2 ? 2 * Math.min(q, 1 - q) : q;
    return from < a.bevel ? edge + ((spine - edge) * from) / a.bevel : spine;
  };
  const area = (z: number): number => {
    const s = at(z);
    return (s.spineAt - s.edgeAt) * (s.spine - (a.bevel * (s.spine - s.edge)) / 2);
  };
  const blank = sums(area, long);
  const bar = sums((z) => {
    const [from, to] = acrossAt(thing, low[2] + z);
    return (to - from) * t;
  }, l);
  // What is said of the sections is rounded to as few as tell the shape.
  agrees(blank.at(long) / bar.at(l), 1, 0.01);
  // All of it goes there.
  const all = bar.at(l) / blank.at(long);
  for (const s of sections) agrees(bar.where(all * blank.at(s.atMm)), s.barMm, 1);
  const half = Math.max(...sections.flatMap((s) => [s.toEdgeMm, s.toSpineMm]));
  const thick = Math.max(...sections.flatMap((s) => [s.spineMm, s.edgeMm]));
  return forged(thing, flat(2 * half, thick), long, ([x, y, z]) => {
    const s = at(z);
    const q = Math.min(1, Math.max(0, (x - s.edgeAt) / (s.spineAt - s.edgeAt)));
    const was = bar.where(all * blank.at(z));
    const [from, to] = acrossAt(thing, low[2] + was);
    const below = summed((p) => thickness(p, s), q) / summed((p) => thickness(p, s), 1);
    const middle = (box(thing).low[0] + box(thing).high[0]) / 2;
    return [from + (to - from) * below - middle, (y * t) / thickness(q, s), was];
  });
}

/** What was ground out of the top is gone, and every column is brought to one height, its volume kept along the bar. */
function forgedFlat(thing: Thing, toMm: number, a: Hollows): Thing {
  const [w, h, l] = sizeOf(thing);
  const pitch = a.markMm;
  return forged(thing, flat(w, toMm), l, ([x, y, z]) => {
    const high = (along: number): number => h - hollowsAt(a, x, along).top - hollowsAt(a, x, along).bottom;
    // Slanting ones are the same line everywhere, shifted along the bar.
    const slant = a.pattern === 'diagonal' ? x * Math.tan((a.slantDeg * Math.PI) / 180) : 0;
    const turn = Math.floor((z + slant) / pitch);
    const was =
      whereSum((s) => high(s - slant), (z + slant - turn * pitch) * toMm, pitch) + turn * pitch - slant;
    return [x, ((y + toMm / 2) * high(was)) / toMm - h / 2 + hollowsAt(a, x, was).bottom, was];
  });
}

/** The top was pressed in where the hollows lie, and what is under them went along the bar. */
function pressedIn(thing: Thing, toMm: number, told: Hollows): Thing {
  const [w, h, l] = sizeOf(thing);
  // Marked on the bar before; half of what a hollow pushes aside goes to either side of its middle.
  const faces = (told.top ? 1 : 0) + (told.bottomShiftMm === null ? 0 : 1);
  const a = { ...told, pitchMm: told.markMm + (faces * told.depthMm * told.widthMm) / (2 * h) };
  agrees(a.pitchMm, told.pitchMm, 0.01);
  const share = (x: number, z: number): number =>
    (h - hollowsAt(a, x, z).top - hollowsAt(a, x, z).bottom) / h;
  const slant = (x: number): number =>
    a.pattern === 'diagonal' ? x * Math.tan((a.slantDeg * Math.PI) / 180) : 0;
  const mean = summed((z) => share(0, z), a.pitchMm) / a.pitchMm;
  return forged(thing, flat(w, toMm), l / mean, ([x, y, z]) => {
    const s = z + slant(x);
    const turn = Math.floor(s / a.pitchMm);
    const was =
      turn * a.pitchMm * mean +
      summed((at) => share(x, at - slant(x)), s - turn * a.pitchMm) -
      slant(x) * mean;
    // Ground: what stands over the bottom of the hollows, on each face that has them.
    const under = h / 2 - (a.bottomShiftMm === null ? 0 : a.depthMm) + hollowsAt(a, x, z).bottom;
    return [x, (y + toMm / 2 + h / 2 - under) / share(x, z) - h / 2, was];
  });
}

/** The legs between the Vs of a bar, each cut out along its walls. */
function legsOf(thing: Thing, a: Extract<BenchAction, { do: 'cut Vs' }>): Thing[] {
  const { low, high } = box(thing);
  const [bottom, top] = [low[1], high[1]];
  const half = (a.openingDeg * Math.PI) / 360;
  const mouth = a.deepMm * Math.tan(half);
  /** A plane across the bar through a point of its side and another: normal towards B. */
  const through = (y: number, z: number, y2: number, z2: number): { n: V; c: number } => {
    const long = Math.hypot(y2 - y, z2 - z);
    const n: V = [0, -(z2 - z) / long, (y2 - y) / long];
    return { n, c: dot(n, [0, y, z]) };
  };
  const walls = a.middlesMm.map((mm, i) =>
    i % 2 === 0
      ? [-mouth, mouth].map((m) => through(top - a.deepMm, mm, top, mm + m))
      : [mouth, -mouth].map((m) => through(bottom, mm - m, bottom + a.deepMm, mm)),
  );
  const end = ({ bottomMm, topMm }: { bottomMm: number; topMm: number }) =>
    through(bottom, bottomMm, top, topMm);
  const nearA = [end(a.ends.A), ...walls.map(([, right]) => right)];
  const nearB = [...walls.map(([left]) => left), end(a.ends.B)];
  return nearA.map((from, i) => {
    const to = nearB[i];
    const leg = clipped(clipped(thing, to.n, to.c), [0, -from.n[1], -from.n[2]], -from.c);
    return leg.map((b) => ({ ...b, toB: to.n, toTop: [0, to.n[2], -to.n[1]] as V }));
  });
}

/** Opened: the walls of the first V come up, those of the next down, and so on; every leg takes so much of the length. */
function opened(
  legs: readonly Thing[],
  a: Extract<BenchAction, { do: 'open Vs' }>,
  laid: (leg: Thing, up: 'A' | 'B') => Thing,
): Thing {
  return legs.flatMap((leg, i) => {
    const flatLeg = laid(leg, i % 2 === 0 ? 'B' : 'A');
    const { low, high } = box(flatLeg);
    agrees(high[1] - low[1], a.thickMm);
    const to: V = [-(low[0] + high[0]) / 2, -low[1], (i + 0.5) * a.eachMm - (low[2] + high[2]) / 2];
    const moved = flatLeg.map((b) => ({
      ...b,
      shift: [b.shift[0] + to[0], b.shift[1] + to[1], b.shift[2] + to[2]] as V,
    }));
    // Where one bends into the next they share the room.
    return clipped(clipped(moved, [0, 0, 1], (i + 1) * a.eachMm), [0, 0, -1], -i * a.eachMm);
  });
}

export const accordion = { legsOf, opened };

/** Quarter by quarter until the arrow is up. */
function arrowUp(thing: Thing): Thing {
  const to = times(thing[0].turn, thing[0].toTop);
  return turned(thing, rotation(2, (Math.atan2(to[0], to[1]) * 180) / Math.PI));
}

/** The thing after an action of the forge; hollows that were made in it before are given. */
export function struck(
  thing: Thing,
  a: ForgeAction | Extract<BenchAction, { do: 'grind to the hollows' }>,
  hollows: Hollows | null,
): Thing {
  const [w, h, l] = sizeOf(thing);
  switch (a.do) {
    case 'draw':
      return scaledTo(thing, ...a.toMm);
    case 'press solid': {
      if (a.flatMm) agrees(a.flatMm.at(-1)!, a.longMm);
      // Its powder closes evenly, so only the sizes are told, and the last stops are those.
      const [wide, high] = a.toMm;
      for (const [side, mm] of [
        ['width', wide],
        ['height', high],
      ] as const)
        agrees(a.passes.findLast((p) => p.pressed === side)?.stopMm ?? mm, mm);
      const [kx, ky, kz] = [wide / w, high / h, a.longMm / l];
      return forged(thing, flat(wide, high), a.longMm, ([x, y, z]) => [x / kx, y / ky, z / kz]);
    }
    case 'press on end': {
      const k = Math.sqrt(l / a.toMm);
      return scaledTo(thing, w * k, h * k);
    }
    case 'press both ways': {
      const area = areaOf(outlineOf(thing));
      // As high as it stands on what it was turned to.
      agrees(sizeOf(thing)[1], a.fromMm, 0.02 * a.fromMm);
      [a.fromMm, ...a.stopsMm].forEach((mm, i, all) => {
        if ((all[i + 1] ?? a.toSideMm) > mm) throw new Error('A stop is not lower than the one before');
      });
      const k = a.toSideMm / Math.sqrt(area);
      return forged(thing, square(a.toSideMm), l / k ** 2, ([x, y, z]) => [x / k, y / k, z * k ** 2]);
    }
    case 'new arrow': {
      const [{ turn, toTop }] = thing;
      const old = times(turn, toTop);
      const left = old[0] < 0 ? 'upper left' : 'upper right';
      if (left !== a.oldTo || Math.abs(Math.abs(old[0]) - old[1]) > 0.4)
        throw new Error(`The old arrow is not ${a.oldTo}`);
      return thing.map((b) => ({ ...b, toTop: times(flipped(b.turn), [0, 1, 0]) }));
    }
    case 'arrow up':
      return arrowUp(thing);
    case 'knock corners': {
      const area = areaOf(outlineOf(thing));
      agrees(2 * Math.sqrt(area / (8 * Math.tan(Math.PI / 8))), a.octagonMm);
      if (a.roundMm !== undefined) agrees(2 * Math.sqrt(area / Math.PI), a.roundMm);
      return forged(thing, regularPolygon(a.roundMm === undefined ? 8 : ROUND_SIDES, area), l, (p) => p);
    }
    case 'lean': {
      // The corners that are pressed come nearer; the section leans towards the others.
      const way = a.corners === 'upper left and lower right' ? 1 : -1;
      if (a.leansDeg > 0 && way > 0 !== (a.towards === 'right'))
        throw new Error(`It is not ${a.towards} that it leans`);
      const t = way * Math.tan((a.leansDeg * Math.PI) / 180);
      const outline = flat(w, h).map(([x, y]) => [x + t * y, y] as const);
      return forged(thing, outline, l, ([x, y, z]) => [x - t * y, y, z]);
    }
    case 'press': {
      // Half of what goes from the height goes to either side.
      const to = a.takePercent === undefined ? a.toMm : h * (1 - a.takePercent / 100);
      const k = Math.sqrt(h / to);
      return scaledTo(thing, w * k, to);
    }
    case 'twist': {
      agrees(l / a.turns, a.everyMm);
      const perMm = ((a.way === 'clockwise' ? -1 : 1) * 360 * a.turns) / l;
      return forged(thing, outlineOf(thing), l, (p) => times(rotation(2, -perMm * p[2]), p));
    }
    case 'press wedge': {
      const tip = Math.tan((a.apexDeg * Math.PI) / 360);
      agrees(a.acrossMm, 2 * a.deepMm * tip);
      agrees((a.acrossMm * a.deepMm) / 2, w * h, 0.01);
      const outline: Outline = [
        [0, -a.deepMm / 2],
        [a.acrossMm / 2, a.deepMm / 2],
        [-a.acrossMm / 2, a.deepMm / 2],
      ];
      // Level lines stay level: as much steel lies below each as before.
      return forged(thing, outline, l, ([x, y, z]) => {
        const up = y + a.deepMm / 2;
        return [(x * w) / Math.max(1e-9, 2 * up * tip), (up * up * tip) / w - h / 2, z];
      });
    }
    case 'press bow-tie': {
      const slope = Math.tan((a.apexDeg * Math.PI) / 360);
      const [out, waist] = [a.acrossMm / 2, a.waistMm];
      agrees(a.deepMm, waist + 2 * slope * out);
      agrees((a.deepMm + waist) * out, w * h, 0.01);
      const half = (side: -1 | 1): Outline => {
        const edge: Outline = [
          [0, -waist / 2],
          [side * out, -a.deepMm / 2],
          [side * out, a.deepMm / 2],
          [0, waist / 2],
        ];
        return side > 0 ? edge : edge.toReversed();
      };
      // Upright lines stay upright: as much steel lies between each and the middle as before.
      const was = ([x, y, z]: V): V => {
        const high = waist + 2 * slope * Math.abs(x);
        return [(x * (waist + high)) / 2 / h, (y * h) / high, z];
      };
      return [...forged(thing, half(-1), l, was), ...forged(thing, half(1), l, was)];
    }
    case 'split': {
      // What goes down at the cut comes up beside it.
      const lost = (a.dragMm * 2 * a.fadesMm * (1 - Math.exp(-w / 2 / a.fadesMm))) / w;
      return forged(thing, flat(...a.toMm), l, ([x, y, z]) => [
        x,
        y + a.dragMm * Math.exp(-Math.abs(x) / a.fadesMm) - lost,
        z,
      ]);
    }
    case 'cut tip': {
      const { low, high } = box(thing);
      const from = high[2] - a.alongMm;
      const long = (offMm: number): number => Math.hypot(a.alongMm, offMm);
      const cut = (it: Thing, side: 1 | -1, offMm: number): Thing => {
        if (offMm === 0) return it;
        const n: V = [(side * a.alongMm) / long(offMm), 0, offMm / long(offMm)];
        return clipped(it, n, dot(n, [side > 0 ? high[0] : low[0], 0, from]));
      };
      return cut(cut(thing, 1, a.offSpineMm), -1, a.offEdgeMm);
    }
    case 'forge to shape':
      return shaped(thing, a);
    case 'forge flat':
      return forgedFlat(thing, a.toMm, hollows!);
    case 'grind to the hollows':
      agrees(h - (a.faces === 'both' ? 2 : 1) * hollows!.depthMm, a.toMm);
      return pressedIn(thing, a.toMm, hollows!);
    case 'groove':
    case 'soak':
    case 'hold':
    case 'straighten':
      return thing;
  }
}
