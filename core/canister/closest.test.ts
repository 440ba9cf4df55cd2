import { describe, expect, it } from 'vitest';
import { regularPolygon } from '../geometry/outline.ts';
import { ROUND_SIDES } from '../geometry/tolerances.ts';
import { closest } from './closest.ts';
import { TOUCHING, poured, pouredCount } from './packing.ts';

const bore = (mm: number) => ({
  widthMm: mm,
  heightMm: mm,
  outline: regularPolygon(ROUND_SIDES, (Math.PI * mm * mm) / 4),
});
const square = (mm: number) => ({ widthMm: mm, heightMm: mm });

/** D/d of the bore, and side/d of the square, at which N = 2… equal rounds fit. Best known packings, values from memory (handbook, inserts). */
const IN_BORE = [2, 2.155, 2.414, 2.701, 3, 3, 3.305, 3.613, 3.813, 3.924, 4.03, 4.236, 4.328, 4.521, 4.615, 4.792, 4.864, 4.864, 5.122]; // prettier-ignore
const IN_SQUARE = [1.707, 1.966, 2, 2.414, 2.664, 2.866, 2.932, 3, 3.374, 3.511, 3.573, 3.732, 3.866, 3.932, 4]; // prettier-ignore

describe('equal rounds side by side', () => {
  // A layout found proves that they fit; that no more do rests on the tables.
  it.each([
    ['a bore', bore, IN_BORE, 1.005],
    ['a square', square, IN_SQUARE, 1.02],
  ])('in %s: as many as the best known packings hold, and never more', (_, room, sizes, above) => {
    sizes.forEach((size, i) => {
      const n = i + 2;
      expect(closest(room(10 * size * above), 10, n).length, `${n} at ${size}`).toBeGreaterThanOrEqual(n);
      expect(closest(room(10 * size * 0.993), 10, n).length, `under ${size}`).toBeLessThan(n);
    });
  });

  it('stand clear of each other and of the wall', () => {
    const room = bore(39);
    const places = closest(room, 10, 1000);
    expect(places).toHaveLength(10);
    places.forEach(([x, y], i) => {
      expect(Math.hypot(x, y) + 5).toBeLessThan(19.5 + 0.03);
      places.slice(i + 1).forEach(([u, v]) => expect(Math.hypot(u - x, v - y)).toBeGreaterThan(9.97));
    });
  });

  it('hold the known numbers: 7 of 10 mm in 30.2, 19, 37 and 61 in hexagons', () => {
    expect(closest(bore(30.2), 10, 1000)).toHaveLength(7);
    expect(closest(bore(10 * 4.864 * 1.003), 10, 1000)).toHaveLength(19);
    expect(closest(bore(10 * 6.759 * 1.003), 10, 1000)).toHaveLength(37);
    expect(closest(bore(10 * 8.661 * 1.004), 10, 1000).length).toBeGreaterThanOrEqual(61);
  });

  it('give the same answer again, also where no more were found', () => {
    const room = bore(37.2);
    const most = closest(room, 10, 1000);
    expect(closest({ ...room }, 10, 1000)).toBe(most);
    expect(closest(room, 10, 4).length).toBeGreaterThanOrEqual(4);
  });

  it('lie tidily where fewer are wanted: seven about the middle of a bore for nineteen', () => {
    const [middle, ...round] = closest(bore(49), 10, 7).slice(0, 7);
    expect(Math.hypot(...middle)).toBeLessThan(1e-9);
    round.forEach((p) => expect(Math.hypot(...p)).toBeCloseTo(10, 9));
  });
});

describe('balls poured', () => {
  // Our own settling of soft balls, shaken ever more weakly: what it still takes, and what it no longer does.
  it.each([
    [5, 5, 5],
    [7, 7, 1.02],
    [4, 4, 12],
    [10, 10, 3],
  ])('into a room of %f × %f × %f diameters are about as many as settle there', (w, h, d) => {
    const room = { widthMm: 10 * w, heightMm: 10 * h, depthMm: 10 * d };
    const about = pouredCount(room, 10);
    const settles = (many: number) =>
      poured(
        Array.from({ length: many }, () => 5),
        room,
        [],
        1,
      ).overlap < TOUCHING;
    expect(settles(Math.floor(0.86 * about))).toBe(true);
    expect(settles(Math.ceil(1.16 * about))).toBe(false);
  });

  it('find no room where one is too large, and a tube holds less than its box', () => {
    expect(pouredCount({ widthMm: 40, heightMm: 40, depthMm: 9 }, 10)).toBe(0);
    expect(pouredCount({ ...bore(60), depthMm: 100 }, 10)).toBeLessThan(
      pouredCount({ ...square(60), depthMm: 100 }, 10),
    );
  });
});
