import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Forged, type Stations } from './forged.ts';

/** The handbook's test blank: lo = −w/2, w 40 → 4 over z 0–100, te 2, ts 6, the bevel over all of it; of a bar 20 × 8. */
function handbook(more: Partial<Stations> = {}, every = 0.5): Stations {
  const count = 100 / every + 1;
  const width = Float64Array.from({ length: count }, (_, i) => 40 - 0.36 * i * every);
  return {
    everyMm: every,
    lo: width.map((w) => -w / 2),
    hi: width.map((w) => w / 2),
    spine: new Float64Array(count).fill(6),
    edge: new Float64Array(count).fill(2),
    bevel: 1,
    edges: 1,
    ...more,
  };
}
const BAR = { widthMm: 20, thicknessMm: 8, cut: null };
const at = (map: Forged, way: 'forward' | 'backward', [x, y, z]: readonly number[]): number[] => {
  const points = { x: Float64Array.of(x), y: Float64Array.of(y), z: Float64Array.of(z), count: 1 };
  map[way](points);
  return [points.x[0], points.y[0], points.z[0]];
};

describe('a bar forged to a blank', () => {
  it('comes from where the handbook’s check figures say', () => {
    const map = new Forged(handbook(), BAR);
    expect(map.barLengthMm).toBeCloseTo(55, 9);
    for (const [blank, bar] of [
      [
        [-10, 0, 50],
        [-9.5248, 0, 38.75],
      ],
      [
        [0, 1, 50],
        [-2.5, 2, 38.75],
      ],
      [
        [5, -1, 25],
        [0.986, -1.7222, 22.1875],
      ],
      [
        [0, 0, 90],
        [-2.5, 0, 53.55],
      ],
    ])
      at(map, 'backward', blank).forEach((mm, k) => expect(mm).toBeCloseTo(bar[k], 4));
  });

  const wavy = handbook({
    lo: Float64Array.from({ length: 201 }, (_, i) => -18 + 5 * Math.sin(i / 30) + i / 30),
    hi: Float64Array.from({ length: 201 }, (_, i) => 17 - i / 16),
    spine: Float64Array.from({ length: 201 }, (_, i) => 6 - i / 60),
    edge: Float64Array.from({ length: 201 }, (_, i) => 2 + Math.cos(i / 40) / 2),
    bevel: 0.6,
  });
  const MAPS: [string, Forged][] = [
    ['the handbook’s', new Forged(handbook(), BAR)],
    ['a wavy outline, its bevel part of the way', new Forged(wavy, BAR)],
    ['two edges', new Forged({ ...wavy, edges: 2, bevel: 1 }, BAR)],
    [
      'a tip cut on the spine',
      new Forged(wavy, { ...BAR, cut: { alongMm: 20, offEdgeMm: 0, offSpineMm: 16 } }),
    ],
    [
      'a tip cut on both sides',
      new Forged(handbook(), { ...BAR, cut: { alongMm: 12, offEdgeMm: 5, offSpineMm: 8 } }),
    ],
  ];

  it.each(MAPS)('%s: every slice keeps its steel, to 1e-9', (_name, map) => {
    const { widthMm, thicknessMm } = map.bar;
    // The same volumes summed by a rule of their own: Gauss in thin slices, kinks at their ends.
    const gauss = [0.5 - Math.sqrt(15) / 10, 0.5, 0.5 + Math.sqrt(15) / 10];
    const weights = [5 / 18, 8 / 18, 5 / 18];
    let [blank, bar] = [0, 0];
    for (let i = 0; i < 200; i++) {
      const [from, to] = [map.barPlace(i / 2), map.barPlace((i + 1) / 2)];
      const kink = map.bar.cut ? Math.min(to, Math.max(from, map.barLengthMm - map.bar.cut.alongMm)) : from;
      for (const [a, b] of [
        [from, kink],
        [kink, to],
      ])
        gauss.forEach((g, k) => {
          const [lo, hi] = map.barSpan(a + g * (b - a));
          bar += weights[k] * (b - a) * (hi - lo) * thicknessMm;
        });
      gauss.forEach((g, k) => (blank += weights[k] * 0.5 * map.areaAt((i + g) / 2)));
      expect(Math.abs(blank / bar - 1), String(i)).toBeLessThan(1e-9);
    }
    expect(Math.abs((blank + map.cutOffMm3) / (widthMm * thicknessMm * map.barLengthMm) - 1)).toBeLessThan(
      1e-9,
    );
  });

  it.each(MAPS)('%s: there and back returns to 1e-9, and nothing folds', (_name, map) => {
    fc.assert(
      fc.property(
        fc.record({
          across: fc.double({ min: 0.001, max: 0.999, noNaN: true }),
          up: fc.double({ min: -0.999, max: 0.999, noNaN: true }),
          z: fc.double({ min: 0.2, max: 99.8, noNaN: true }),
        }),
        ({ across, up, z }) => {
          const { lo, hi } = map.sectionAt(z);
          const x = lo + across * (hi - lo);
          const point = [x, (up * map.thicknessAt(x, z)) / 2, z];
          const back = at(map, 'forward', at(map, 'backward', point));
          back.forEach((mm, k) => expect(Math.abs(mm - point[k])).toBeLessThan(1e-9));
          // The determinant, by differences within the cells.
          const h = 1e-5;
          const d = (dx: number, dy: number, dz: number) => {
            const [a, b] = [1, -1].map((s) =>
              at(map, 'backward', [point[0] + s * dx, point[1] + s * dy, point[2] + s * dz]),
            );
            return a.map((v, k) => (v - b[k]) / (2 * h));
          };
          const [a, b, c] = [d(h, 0, 0), d(0, h, 0), d(0, 0, h)];
          const det =
            a[0] * (b[1] * c[2] - b[2] * c[1]) -
            b[0] * (a[1] * c[2] - a[2] * c[1]) +
            c[0] * (a[1] * b[2] - a[2] * b[1]);
          expect(det).toBeGreaterThan(0.99);
          expect(det).toBeLessThan(1.01);
        },
      ),
      { numRuns: 150 },
    );
  });

  it('a bar without a point lengthens ever more towards it; one whose tip is cut beforehand does not', () => {
    const plain = new Forged(handbook(), BAR);
    expect(plain.lengtheningAt(0)).toBeCloseTo(1, 9);
    expect(plain.lengtheningAt(100)).toBeCloseTo(10, 9);
    const cut = new Forged(handbook(), { ...BAR, cut: { alongMm: 50, offEdgeMm: 0, offSpineMm: 18 } });
    expect(cut.lengtheningAt(100)).toBeCloseTo(1, 9);
  });
});
