import { describe, expect, it } from 'vitest';
import { seeded } from '../canister/packing.ts';
import { featuresOf, unlikeness } from './features.ts';
import { type Grey, correlation, cropped, grey, resampled } from './grey.ts';
import { PLANE_GROUPS, type PlaneGroup, planeGroupOf } from './symmetry.ts';

type Op = (x: number, y: number) => readonly [number, number];
type Tone = (x: number, y: number) => number;

/** General positions of the plane groups in their own axes, shares of the cell (International Tables for Crystallography, vol. A). */
const POSITIONS: Record<Exclude<PlaneGroup, `p3${string}` | `p6${string}`>, Op[]> = {
  p1: [(x, y) => [x, y]],
  p2: [(x, y) => [x, y], (x, y) => [-x, -y]],
  pm: [(x, y) => [x, y], (x, y) => [-x, y]],
  pg: [(x, y) => [x, y], (x, y) => [-x, y + 0.5]],
  cm: [(x, y) => [x, y], (x, y) => [-x, y], (x, y) => [x + 0.5, y + 0.5], (x, y) => [-x + 0.5, y + 0.5]],
  pmm: [(x, y) => [x, y], (x, y) => [-x, -y], (x, y) => [-x, y], (x, y) => [x, -y]],
  pmg: [(x, y) => [x, y], (x, y) => [-x, -y], (x, y) => [-x + 0.5, y], (x, y) => [x + 0.5, -y]],
  pgg: [(x, y) => [x, y], (x, y) => [-x, -y], (x, y) => [-x + 0.5, y + 0.5], (x, y) => [x + 0.5, -y + 0.5]],
  cmm: [
    ...[0, 0.5].flatMap((s): Op[] => [
      (x, y) => [x + s, y + s],
      (x, y) => [-x + s, -y + s],
      (x, y) => [-x + s, y + s],
      (x, y) => [x + s, -y + s],
    ]),
  ],
  p4: [(x, y) => [x, y], (x, y) => [-x, -y], (x, y) => [-y, x], (x, y) => [y, -x]],
  p4m: [
    ...[1, -1].flatMap((s): Op[] => [
      (x, y) => [s * x, y],
      (x, y) => [-s * x, -y],
      (x, y) => [-s * y, x],
      (x, y) => [s * y, -x],
    ]),
  ],
  p4g: [
    (x, y) => [x, y],
    (x, y) => [-x, -y],
    (x, y) => [-y, x],
    (x, y) => [y, -x],
    (x, y) => [-x + 0.5, y + 0.5],
    (x, y) => [x + 0.5, -y + 0.5],
    (x, y) => [y + 0.5, x + 0.5],
    (x, y) => [-y + 0.5, -x + 0.5],
  ],
};

/** Blots strewn over a cell, that have no symmetry of their own. */
function blots(seed: number): Tone {
  const random = seeded(seed);
  const all = Array.from({ length: 12 }, (_, i) => ({
    x: random(),
    y: random(),
    r: 0.045 + 0.03 * random(),
    t: i % 2 ? 1 : -1,
  }));
  const wrap = (d: number) => d - Math.round(d);
  return (x, y) =>
    all.reduce((sum, b) => sum + b.t * Math.exp(-(wrap(x - b.x) ** 2 + wrap(y - b.y) ** 2) / b.r ** 2), 0);
}

function paintedBy(
  group: keyof typeof POSITIONS,
  [wide, high]: readonly [number, number],
  seed: number,
): Grey {
  const tone = blots(seed);
  const picture = grey(260, 170);
  for (let row = 0; row < picture.height; row++)
    for (let column = 0; column < picture.width; column++) {
      const [x, y] = [column / wide, row / high];
      picture.values[row * picture.width + column] = POSITIONS[group].reduce(
        (sum, op) => sum + tone(...op(x, y)),
        0,
      );
    }
  return picture;
}

/** Hexagonal lattices: third turns about the origin, half turns, and mirrors through it or across it, in the oblong cell of two. */
function hexagonal(turns: 3 | 6, mirror: 'none' | 'level' | 'upright', seed: number, side: number): Grey {
  // A bright blot, and a dark one beside it on the same ring: turned the other way round in a mirror.
  const at = seeded(seed)() * 2;
  const blot = (far: number, turn: number, t: number) => ({
    x: far * Math.cos(at + turn),
    y: far * Math.sin(at + turn),
    r: 0.075,
    t,
  });
  const all = [blot(0.3, 0, 1), blot(0.3, 0.35, -1), blot(0.17, 0.25, 0.7)];
  const spots = all.flatMap((b) =>
    Array.from({ length: turns }, (_, k) => (2 * Math.PI * k) / turns).flatMap((a) => {
      const [x, y] = [b.x * Math.cos(a) - b.y * Math.sin(a), b.x * Math.sin(a) + b.y * Math.cos(a)];
      const flipped =
        mirror === 'level' ? [{ ...b, x, y: -y }] : mirror === 'upright' ? [{ ...b, x: -x, y }] : [];
      return [{ ...b, x, y }, ...flipped];
    }),
  );
  const picture = grey(260, 170);
  const row3 = Math.sqrt(3) / 2;
  for (let row = 0; row < picture.height; row++)
    for (let column = 0; column < picture.width; column++) {
      const [px, py] = [column / side, row / side];
      let tone = 0;
      for (const s of spots) {
        // The nearest of the lattice's points and its neighbours.
        const j0 = Math.round((py - s.y) / row3);
        for (let j = j0 - 1; j <= j0 + 1; j++) {
          const shift = (((j % 2) + 2) % 2) / 2;
          const i0 = Math.round(px - s.x - shift);
          for (let i = i0 - 1; i <= i0 + 1; i++) {
            const [dx, dy] = [px - s.x - shift - i, py - s.y - j * row3];
            tone += s.t * Math.exp(-(dx * dx + dy * dy) / s.r ** 2);
          }
        }
      }
      picture.values[row * picture.width + column] = tone;
    }
  return picture;
}

describe('which of the seventeen plane groups a face has', () => {
  it.each(Object.keys(POSITIONS) as (keyof typeof POSITIONS)[])(
    '%s is told from its general positions',
    (group) => {
      // A square cell where quarter turns ask for it, and one that nobody takes for a square.
      const cell = group.startsWith('p4') ? ([64, 64] as const) : ([70, 52] as const);
      const told = [3, 8, 21].map((seed) =>
        planeGroupOf(paintedBy(group, cell, seed), { alongPx: cell[0], upPx: cell[1] }),
      );
      // Blots by chance may look more regular than they are; not mostly.
      expect(told.filter((t) => t === group).length, told.join(' ')).toBeGreaterThanOrEqual(2);
    },
  );

  it.each([
    ['p3', 3, 'none'],
    ['p31m', 3, 'upright'],
    ['p3m1', 3, 'level'],
    ['p6', 6, 'none'],
    ['p6m', 6, 'level'],
  ] as const)('%s of a hexagonal lattice', (group, turns, mirror) => {
    const side = 46;
    const told = [2, 7, 9, 11].map((seed) =>
      planeGroupOf(hexagonal(turns, mirror, seed, side), { alongPx: side, upPx: side * Math.sqrt(3) }),
    );
    expect(told.filter((t) => t === group).length, told.join(' ')).toBeGreaterThanOrEqual(2);
  });

  it('says every one in words', () => {
    expect(Object.keys(PLANE_GROUPS)).toHaveLength(17);
  });
});

describe('how unlike two faces are', () => {
  const striped = (pitch: number, turn: number): Grey => {
    const picture = grey(256, 96);
    for (let row = 0; row < 96; row++)
      for (let column = 0; column < 256; column++)
        picture.values[row * 256 + column] =
          (column * Math.cos(turn) + row * Math.sin(turn)) % pitch < pitch / 2 ? 0.2 : 0.8;
    return picture;
  };
  const apart = (a: Grey, b: Grey) => unlikeness(featuresOf(a), featuresOf(b));

  it('nothing of itself, little of itself moved, and more the more it is turned or spread', () => {
    const picture = striped(12, 0);
    expect(apart(picture, picture)).toBeCloseTo(0, 9);
    const moved = cropped(
      resampled(picture, 256, 96, (x, y) => [x + 5, y]),
      0,
      0,
      240,
      96,
    );
    expect(apart(picture, moved)).toBeLessThan(0.25);
    expect(apart(picture, striped(12, Math.PI / 2))).toBeGreaterThan(1);
    expect(apart(picture, striped(24, 0))).toBeGreaterThan(apart(picture, striped(14, 0)));
  });

  it('correlation: 1 of itself, −1 of its negative, 0 of what is of one tone', () => {
    const { values } = blotted();
    expect(correlation(values, values)).toBeCloseTo(1, 9);
    expect(
      correlation(
        values,
        values.map((v) => 1 - v),
      ),
    ).toBeCloseTo(-1, 9);
    expect(correlation(values, new Float64Array(values.length).fill(0.3))).toBeCloseTo(0, 9);
  });

  const blotted = () => paintedBy('p1', [70, 52], 4);
});
