import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PowderMap } from '../billet/fields/powders.ts';
import { type Point2, rectangle } from './outline.ts';
import { type Region, checked, common, grown, joined, regionArea, tidied, without } from './regions.ts';

describe('regions', () => {
  const any = fc
    .array(
      fc.tuple(fc.double({ min: -20, max: 20, noNaN: true }), fc.double({ min: -20, max: 20, noNaN: true })),
      { minLength: 3, maxLength: 9 },
    )
    .map((ring) => tidied([ring], 'nonzero'));
  it('joined, cut and common keep area: |A| + |B| = |A ∪ B| + |A ∩ B|, |A \\ B| = |A| − |A ∩ B|', () => {
    fc.assert(
      fc.property(any, any, (a, b) => {
        const both = regionArea(common(a, b));
        expect(regionArea(joined(a, b))).toBeCloseTo(regionArea(a) + regionArea(b) - both, 2);
        expect(regionArea(without(a, b))).toBeCloseTo(regionArea(a) - both, 2);
      }),
    );
  });

  it('grow by Steiner’s formula: A + P·d + π·d²', () => {
    expect(regionArea(grown([rectangle(20, 10)], 2))).toBeCloseTo(200 + 60 * 2 + Math.PI * 4, 0);
    expect(regionArea(grown([rectangle(20, 10)], -2))).toBeCloseTo(16 * 6, 6);
  });

  it('whose edges lie upon each other cover, joined and cut, what a point by point count says; grown they hold what they were', () => {
    // As they are drawn, crossing themselves and running back: of such the library alone loses a part in one of twelve.
    const corner = fc.integer({ min: 0, max: 4 });
    const onGrid = fc.array(fc.array(fc.tuple(corner, corner), { minLength: 3, maxLength: 12 }), {
      minLength: 1,
      maxLength: 3,
    });
    const inside = (region: Region, x: number, y: number): boolean =>
      region.reduce((sum, ring) => {
        ring.forEach(([x0, y0], i) => {
          const [x1, y1] = ring[(i + 1) % ring.length];
          if (y0 > y !== y1 > y && x < x0 + ((y - y0) * (x1 - x0)) / (y1 - y0)) sum += y1 > y0 ? 1 : -1;
        });
        return sum;
      }, 0) !== 0;
    fc.assert(
      fc.property(onGrid, onGrid, (a, b) => {
        const [all, left, both] = [joined(a, b), without(a, b), common(a, b)];
        const proper = tidied(a, 'nonzero');
        const [more, less] = [grown(proper, 0.3), grown(proper, -0.2)];
        // Off the grid, so that no place lies on an edge of either; of a few beside a slanting edge another may be said.
        let off = 0;
        for (let x = 0.013; x < 4; x += 0.19)
          for (let y = 0.017; y < 4; y += 0.19) {
            const [inA, inB] = [inside(a, x, y), inside(b, x, y)];
            if (inside(all, x, y) !== (inA || inB)) off++;
            if (inside(left, x, y) !== (inA && !inB)) off++;
            if (inside(both, x, y) !== (inA && inB)) off++;
            if ((inA && !inside(more, x, y)) || (inside(less, x, y) && !inA)) off++;
          }
        expect(off).toBeLessThan(4);
      }),
      { numRuns: 150 },
    );
  });

  it('lost on the way are noticed, and tried again with their corners moved', () => {
    const square: Region = [rectangle(10, 10)];
    const tries: Region[] = [];
    const careless = (a: Region) => {
      tries.push(a);
      return tries.length === 1 ? [] : a.map((ring) => ring.map(([x, y]) => ({ x, y })));
    };
    const made = checked(square, [], 'nonzero', (inA) => inA, careless);
    expect(regionArea(made)).toBeCloseTo(100, 1);
    expect(tries).toHaveLength(2);
    expect(tries[1][0][0][0]).not.toBe(square[0][0][0]);
    expect(Math.abs(tries[1][0][0][0] - square[0][0][0])).toBeLessThan(0.001);
  });

  it('as a map of powders answer as the plain count of edges does, and cover their areas', () => {
    fc.assert(
      fc.property(any, any, fc.integer(), (a, b, seed) => {
        const map = new PowderMap(
          [
            { code: 7, region: a },
            { code: 9, region: b },
          ],
          3,
          20,
          20,
        );
        const inside = (region: Region, x: number, y: number): boolean =>
          region.reduce((odd, ring) => {
            ring.forEach(([x0, y0], i) => {
              const [x1, y1] = ring[(i + 1) % ring.length];
              if (y0 > y !== y1 > y && x < x0 + ((y - y0) * (x1 - x0)) / (y1 - y0)) odd = !odd;
            });
            return odd;
          }, false);
        for (let i = 0; i < 200; i++) {
          const [x, y] = [((Math.abs(seed % 97) + i * 7.31) % 40) - 20, ((i * 3.77) % 40) - 20];
          expect(map.codeAt(x, y)).toBe(inside(b, x, y) ? 9 : inside(a, x, y) ? 7 : 3);
        }
      }),
      { numRuns: 60 },
    );
  });
});

describe('a drawing whose edge runs back over the one before', () => {
  const spiked: Region = [
    [
      [2.5, 2],
      [2.5, 14],
      [14, 14],
      [14, 2],
      [2, 2],
    ],
  ];

  it('keeps its corners', () => {
    expect(regionArea(tidied(spiked, 'nonzero'))).toBeCloseTo(11.5 * 12, 4);
    expect(regionArea(tidied(spiked, 'evenodd'))).toBeCloseTo(11.5 * 12, 4);
  });

  it('or with spikes anywhere, is as large as without them', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 20 }), fc.integer({ min: 0, max: 20 })), {
          minLength: 3,
          maxLength: 9,
        }),
        fc.array(fc.tuple(fc.nat(8), fc.double({ min: 0.1, max: 3, noNaN: true })), { maxLength: 4 }),
        (corners, spikes) => {
          const plain = corners.map(([x, y]): Point2 => [x, y]);
          const ring = plain.flatMap((p, i): Point2[] => {
            const [u, v] = plain[(i + 1) % plain.length];
            const over = spikes.find(([at]) => at === i)?.[1];
            if (over === undefined) return [p];
            // On past the next corner and straight back to it.
            return [p, [u + over * (u - p[0]), v + over * (v - p[1])]];
          });
          for (const rule of ['nonzero', 'evenodd'] as const) {
            const [a, b] = [tidied([plain], rule), tidied([ring], rule)].map(regionArea);
            expect(Math.abs(a - b)).toBeLessThan(1e-3 * (1 + a));
          }
        },
      ),
      { numRuns: 200 },
    ));
});
