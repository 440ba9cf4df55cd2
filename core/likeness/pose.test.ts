import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seeded } from '../canister/packing.ts';
import { FOUR_WAYS, agreements, cellOf, coarser, directionsOf, lyingAs, spectrumOfCell } from './cells.ts';
import { type Grey, grey } from './grey.ts';
import { laidTogether, likenessOf, patternOf, roughly, runAlike, soughtIn } from './pose.ts';

/** Rounds in a repeat, none of them where it would be its own mirror image. */
const rounds = (u: number, v: number): number =>
  [
    [0.3, 0.25, 0.16],
    [0.72, 0.4, 0.1],
    [0.45, 0.8, 0.13],
  ].some(([x, y, r]) => {
    const d = (a: number) => Math.abs(a - Math.round(a));
    return Math.hypot(d(u - x), d(v - y)) < r;
  })
    ? 1
    : 0;

/** A face that repeats for ever, looked at through a window of one repeat: moved, turned about its middle, with other sides. */
const windowOf = (
  face: (u: number, v: number) => number,
  { wide = 200, high = 200, turnDeg = 0, x = 0, y = 0 },
): Grey => {
  const picture = grey(wide, high);
  const [cos, sin] = [Math.cos((turnDeg * Math.PI) / 180), Math.sin((turnDeg * Math.PI) / 180)];
  for (let row = 0; row < high; row++)
    for (let column = 0; column < wide; column++) {
      const [p, q] = [column + 0.5 - wide / 2, row + 0.5 - high / 2];
      picture.values[row * wide + column] = face(
        0.5 + x + (p * cos - q * sin) / wide,
        0.5 + y + (p * sin + q * cos) / high,
      );
    }
  return picture;
};

describe('a repeat set square', () => {
  const random = seeded(3);
  const cell = cellOf({ ...grey(64, 64), values: Float64Array.from({ length: 4096 }, () => random()) }, 64);

  it('agrees wholly with itself at the shift by which it was moved, and nowhere else', () => {
    fc.assert(
      fc.property(fc.nat(63), fc.nat(63), (dx, dy) => {
        const moved = {
          ...cell,
          values: cell.values.map(
            (_, i) => cell.values[(((i >> 6) + dy) % 64) * 64 + (((i & 63) + dx) % 64)],
          ),
        };
        const all = agreements(spectrumOfCell(moved), spectrumOfCell(cell), 64);
        expect(all[dy * 64 + dx]).toBeCloseTo(1, 6);
        expect([...all].filter((v) => v > 0.5)).toHaveLength(1);
      }),
      { numRuns: 10 },
    );
  });

  it('lies in four ways, each of which takes itself back', () => {
    const all = FOUR_WAYS.map((way) => lyingAs(cell, way));
    expect(new Set(all.map((c) => c.values.slice(0, 5).join())).size).toBe(4);
    FOUR_WAYS.forEach((way, i) => expect(lyingAs(all[i], way)).toEqual(cell));
    expect(coarser(cell, 32).values).toHaveLength(32 * 32);
  });

  it('knows how its lines run: upright and level ones are opposite, however many there are', () => {
    const lines = (count: number, isUpright: boolean) =>
      windowOf((u, v) => Math.sign(Math.sin(2 * Math.PI * count * (isUpright ? u : v))), {});
    expect(runAlike(lines(5, true), lines(9, true))).toBeGreaterThan(0.95);
    expect(runAlike(lines(5, true), lines(5, false))).toBeLessThan(-0.9);
    const { real, imaginary } = directionsOf(cellOf(lines(7, true), 128), 32);
    // Gradients point across upright lines: their square is real and positive.
    expect(Math.min(...real)).toBeGreaterThan(0);
    expect(Math.max(...imaginary.map(Math.abs))).toBeLessThan(0.2);
  });
});

describe('how a picture lies on a pattern', () => {
  const pattern = patternOf(windowOf(rounds, {}));

  it('is found for any shift and small turn, whatever its sides, end for end and from behind', () => {
    fc.assert(
      fc.property(
        fc.record({
          turnDeg: fc.double({ min: -5, max: 5, noNaN: true }),
          x: fc.double({ min: -0.5, max: 0.5, noNaN: true }),
          y: fc.double({ min: -0.5, max: 0.5, noNaN: true }),
          high: fc.integer({ min: 110, max: 320 }),
        }),
        fc.constantFrom(...FOUR_WAYS),
        (how, { isTurned, isMirrored }) => {
          const face = (u: number, v: number): number => {
            let [x, y] = [u - 0.5, v - 0.5];
            if (isMirrored) x = -x;
            if (isTurned) [x, y] = [-x, -y];
            return rounds(0.5 + x, 0.5 + y);
          };
          const picture = windowOf(face, how);
          const { correlation, directions } = likenessOf(soughtIn(picture), pattern);
          expect(correlation).toBeGreaterThan(0.93);
          expect(directions).toBeGreaterThan(0.9);
        },
      ),
      { numRuns: 12 },
    );
  });

  it('is another a quarter turned: stripes along a blade are not stripes across it', () => {
    const stripes = (isUpright: boolean) =>
      windowOf((u, v) => Math.sign(Math.sin(2 * Math.PI * 5 * (isUpright ? u : v))), {});
    const upright = patternOf(stripes(true));
    expect(likenessOf(soughtIn(stripes(true)), upright).correlation).toBeGreaterThan(0.95);
    const { correlation, directions } = likenessOf(soughtIn(stripes(false)), upright);
    expect(correlation).toBeLessThan(0.3);
    expect(directions).toBeLessThan(-0.8);
  });

  it('says by how much it was turned and moved', () => {
    const sought = soughtIn(windowOf(rounds, { turnDeg: 3, x: 0.2, y: -0.1, high: 260 }));
    const { pose } = likenessOf(sought, pattern);
    const { wanted, found } = laidTogether(sought, pattern, pose);
    const apart = wanted.values.reduce((sum, v, i) => sum + Math.abs(v - found.values[i]), 0);
    expect(apart / wanted.values.length).toBeLessThan(0.35);
    // It has no symmetry: it lies one way alone.
    expect(pose.lying).toEqual({ isTurned: false, isMirrored: false });
    expect(Math.abs(pose.turnDeg - 3)).toBeLessThan(0.5);
    // A whole repeat further it lies the same.
    const part = (shift: number) => shift - Math.round(shift);
    expect(Math.abs(part(pose.x - 0.2))).toBeLessThan(0.02);
    expect(Math.abs(part(pose.y + 0.1))).toBeLessThan(0.02);
  });

  it('is refused by what is another picture', () => {
    const stripes = windowOf((u, v) => Math.sign(Math.sin(2 * Math.PI * (3 * u + v))), {});
    const { correlation } = likenessOf(soughtIn(stripes), pattern);
    expect(correlation).toBeLessThan(0.5);
    expect(roughly(soughtIn(stripes), pattern, 3)).toHaveLength(6);
  });
});
