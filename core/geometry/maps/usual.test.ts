import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Outline, outlineArea } from '../outline.ts';
import { cellAreas } from './areaKept.ts';
import { type BakedMap, lookingUp, packed, sharesAt } from './baked.ts';
import type { PointMap } from './pointMap.ts';
import {
  MOST_LEAN_DEG,
  cornersFilled,
  knockedOutline,
  knocking,
  leaningBar,
  missForTurn,
  resquareMap,
  turnForMiss,
} from './usual.ts';

type Point = readonly [number, number];

const asked = fc.record({
  sideShare: fc.double({ min: 0.6, max: 0.96, noNaN: true }),
  biteShare: fc.double({ min: 0.4, max: 1.6, noNaN: true }),
  missDeg: fc.constant(0),
});
const inSquare = fc.tuple(
  fc.double({ min: -0.999, max: 0.999, noNaN: true }),
  fc.double({ min: -0.999, max: 0.999, noNaN: true }),
);

const back = (map: BakedMap, u: number, v: number): Point => {
  const out: [number, number] = [0, 0];
  lookingUp(map)(u, v, out);
  return out;
};

function taken(map: PointMap, way: 'forward' | 'backward', [x, y]: Point): Point {
  const points = { x: Float64Array.of(x), y: Float64Array.of(y), z: new Float64Array(1), count: 1 };
  map[way](points);
  return [points.x[0], points.y[0]];
}

/** Of every cell, by how much of it the steel it comes from differs in area. */
function offByCell(map: BakedMap): number[] {
  const across = 2 * map.cells + 1;
  const places = Float64Array.from([...map.grid.at].flatMap((v) => [...map.grid.at].flatMap((u) => [u, v])));
  const [after, before] = [places, Float64Array.from(map.sources)].map((xy) => cellAreas({ across, xy }));
  return Array.from(after, (area, c) => Math.abs(before[c] / area - 1));
}

describe('the usual re-square', () => {
  it('keeps area: to 1e-3 by and large, to a fiftieth in every cell, at any size and bite', () => {
    fc.assert(
      fc.property(asked, (how) => {
        const off = offByCell(resquareMap(how)).sort((a, b) => a - b);
        expect(off[Math.floor(0.6 * off.length)]).toBeLessThan(1e-3);
        expect(off[off.length - 1]).toBeLessThan(2e-2);
      }),
      { numRuns: 30 },
    );
  });

  it('keeps it to 1e-3 where it was turned wrong too', () => {
    for (const missDeg of [-15, -3, 4, 9, 19]) {
      const off = offByCell(resquareMap({ sideShare: 0.8, biteShare: 0.6, missDeg })).sort((a, b) => a - b);
      expect(off[Math.floor(0.98 * off.length)]).toBeLessThan(1e-3);
      expect(off[off.length - 1]).toBeLessThan(2e-2);
    }
  });

  it('brings the old corners to the middles of the sides, and the line from the middle of a side to the corner', () => {
    fc.assert(
      fc.property(asked, (how) => {
        const map = resquareMap(how);
        const [x, y] = back(map, 1, 0);
        expect(x).toBeCloseTo(Math.SQRT2, 3);
        expect(y).toBeCloseTo(0, 3);
        for (const reach of [0.2, 0.6, 0.95]) {
          const [a, b] = back(map, reach, reach);
          expect(a).toBeCloseTo(b, 3);
        }
        const [a, b] = back(map, 1, 1);
        expect(a).toBeCloseTo(Math.SQRT1_2, 3);
        expect(b).toBeCloseTo(Math.SQRT1_2, 3);
      }),
    );
  });

  it('lands the old outline on the new one', () => {
    fc.assert(
      fc.property(asked, fc.double({ min: -1, max: 1, noNaN: true }), (how, v) => {
        const [a, b] = back(resquareMap(how), 1, v);
        expect(Math.abs((Math.abs(a) + Math.abs(b)) / Math.SQRT2 - 1)).toBeLessThan(5e-3);
      }),
    );
  });

  it('comes from one place only, and goes back to it', () => {
    fc.assert(
      fc.property(asked, inSquare, (how, [u, v]) => {
        const map = resquareMap(how);
        const [a, b] = back(map, u, v);
        // The way there, by Newton's method from the node that comes from nearest.
        const { at } = map.grid;
        let [p, q, least] = [0, 0, Infinity];
        at.forEach((y, j) =>
          at.forEach((x, i) => {
            const n = 2 * (j * at.length + i);
            const far = Math.hypot(map.sources[n] - a, map.sources[n + 1] - b);
            // Not from the rim itself: at its corners two sides come from one.
            if (far < least) [p, q, least] = [0.99 * x, 0.99 * y, far];
          }),
        );
        for (let k = 0; k < 60; k++) {
          // A step inward: past the rim nothing is asked.
          const h = 1e-7;
          const [f, g] = back(map, p, q);
          const [hp, hq] = [p > 0 ? -h : h, q > 0 ? -h : h];
          const [fu, gu] = back(map, p + hp, q);
          const [fv, gv] = back(map, p, q + hq);
          const [m11, m21, m12, m22] = [(fu - f) / hp, (gu - g) / hp, (fv - f) / hq, (gv - g) / hq];
          const det = m11 * m22 - m12 * m21;
          expect(det).toBeGreaterThan(0);
          const [dp, dq] = [(m22 * (f - a) - m12 * (g - b)) / det, (m11 * (g - b) - m21 * (f - a)) / det];
          const slow = Math.min(1, 0.05 / Math.hypot(dp, dq));
          [p, q] = [p - slow * dp, q - slow * dq];
        }
        expect(Math.hypot(p - u, q - v)).toBeLessThan(1e-4);
      }),
      { numRuns: 60 },
    );
  });

  it('misses the corner by just so much as it is asked to, seen from the middle', () => {
    for (const missDeg of [-14, -5, -1, 2, 7, 16]) {
      const map = resquareMap({ sideShare: 0.86, biteShare: 0.9, missDeg });
      const angle = ((45 + missDeg) * Math.PI) / 180;
      const reach = 0.985 / Math.max(Math.cos(angle), Math.sin(angle));
      const [a, b] = back(map, reach * Math.cos(angle), reach * Math.sin(angle));
      // A degree at the corner is a fiftieth of the half-side or more.
      expect(Math.abs(a - b)).toBeLessThan(0.012);
    }
  });

  it('is turned a little further than its line misses, and back again', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -20, max: 20, noNaN: true }).filter((d) => Math.abs(d) > 1e-6),
        (deg) => {
          expect(missForTurn(turnForMiss(deg))).toBeCloseTo(deg, 9);
          expect(Math.abs(turnForMiss(deg))).toBeGreaterThanOrEqual(Math.abs(deg));
          expect(turnForMiss(-deg)).toBeCloseTo(-turnForMiss(deg), 9);
        },
      ),
    );
  });

  // Handbook, geometry: the point halfway between corner and mid-side goes to 0.463 by the flow, not to the ideal map's 0.825.
  it('does not gather the layers into the corners', () => {
    const map = resquareMap({ sideShare: 0.86, biteShare: 0.6, missDeg: 0 });
    const wanted: Point = [0.75 * Math.SQRT2, 0.25 * Math.SQRT2];
    let least = Infinity;
    let at = 0;
    for (let v = 0; v <= 1; v += 0.001) {
      const [a, b] = back(map, 1, v);
      const far = Math.hypot(a - wanted[0], b - wanted[1]);
      if (far < least) [least, at] = [far, v];
    }
    expect(Math.abs(at - 0.463)).toBeLessThan(0.02);
  });
});

describe('corners knocked down, and a lean', () => {
  const areaOf = (map: PointMap, around: Point, half: number): number => {
    const rim: Outline = Array.from({ length: 200 }, (_, i): Point => {
      const turn = (2 * Math.PI * i) / 200;
      return [around[0] + half * Math.cos(turn), around[1] + half * Math.sin(turn)];
    });
    return outlineArea(rim.map((p) => taken(map, 'backward', p))) / outlineArea(rim);
  };
  const MAPS: [string, PointMap][] = [
    ['to an octagon', knocking('octagon', 10)],
    ['to a round', knocking('round', 10)],
    ['back from an octagon', cornersFilled('octagon', 10)],
    ['back from a round', cornersFilled('round', 10)],
    ...[-MOST_LEAN_DEG, -7, 3, 12].map((deg): [string, PointMap] => [
      `leaned ${deg}°`,
      leaningBar(deg, 10, 10),
    ]),
  ];
  const inner = fc.tuple(
    fc.double({ min: -6, max: 6, noNaN: true }),
    fc.double({ min: -6, max: 6, noNaN: true }),
  );

  it.each(MAPS)('%s: goes there and back, and keeps area', (_name, map) => {
    fc.assert(
      fc.property(inner, (at) => {
        const [x, y] = taken(map, 'forward', taken(map, 'backward', at));
        expect(Math.hypot(x - at[0], y - at[1])).toBeLessThan(1e-4);
        expect(Math.abs(areaOf(map, at, 2) - 1)).toBeLessThan(4e-3);
      }),
      { numRuns: 25 },
    );
  });

  it.each(['octagon', 'round'] as const)('to the rim of the %s comes the rim of the square', (shape) => {
    for (const [x, y] of knockedOutline(shape)) {
      const [a, b] = taken(knocking(shape, 10), 'backward', [10 * x, 10 * y]);
      expect(Math.abs(Math.max(Math.abs(a), Math.abs(b)) / 10 - 1)).toBeLessThan(5e-3);
    }
  });
});

describe('baked numbers', () => {
  it('come to three bytes each', () => {
    expect([...packed([0])]).toEqual([255, 255, 127]);
    expect(packed([1.6, -1.6, 0.3])).toHaveLength(9);
  });

  it('shares add up to one, and are whole at a node', () => {
    fc.assert(
      fc.property(fc.double({ min: -3, max: 12, noNaN: true }), (place) => {
        const nodes = [0, 1, 2.5, 4, 7, 9];
        const shares = sharesAt(nodes, place);
        expect(shares.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
        const at = Math.min(9, Math.max(0, place));
        // A cubic is met exactly.
        const cubic = (x: number) => x ** 3 - 2 * x * x + x - 5;
        expect(shares.reduce((sum, s, i) => sum + s * cubic(nodes[i]), 0)).toBeCloseTo(cubic(at), 6);
      }),
    );
    expect(sharesAt([1, 2, 3], 2).map(Math.abs)).toEqual([0, 1, 0]);
  });
});
