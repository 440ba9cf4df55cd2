import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makePoints } from '../../billet/fields/field.ts';
import {
  type Outline,
  isSeenFromAxis,
  outlineArea,
  outlineSize,
  rectangle,
  regularPolygon,
} from '../outline.ts';
import type { PointMap } from './pointMap.ts';
import { shaping, squaring } from './squaring.ts';

function taken(map: PointMap, way: 'forward' | 'backward', points: readonly (readonly [number, number])[]) {
  const p = makePoints(points.length);
  points.forEach(([x, y], i) => ([p.x[i], p.y[i]] = [x, y]));
  p.count = points.length;
  map[way](p);
  return points.map((_, i) => [p.x[i], p.y[i]] as const);
}

/** A square with worn corners, as flat dies leave it: every corner cut by so much of the side. */
const worn = (w: number, h: number, cut: number): Outline => {
  const [a, b, c] = [w / 2, h / 2, cut * Math.min(w, h)];
  return [
    [a, c - b],
    [a, b - c],
    [a - c, b],
    [c - a, b],
    [-a, b - c],
    [-a, c - b],
    [c - a, -b],
    [a - c, -b],
  ];
};

/** Four pieces of which the upper right one stands back on both sides: not all of it is seen from the axis. */
const notched = (w: number, h: number, share: number): Outline => {
  const [a, b, g] = [w / 2, h / 2, share * Math.min(w, h)];
  return [
    [-a, -b],
    [a, -b],
    [a, -g],
    [a - 2 * g, -g],
    [a - 2 * g, b - 2 * g],
    [-g, b - 2 * g],
    [-g, b],
    [-a, b],
  ];
};

const anyWorn = fc
  .tuple(
    fc.double({ min: 20, max: 40, noNaN: true }),
    fc.double({ min: 20, max: 40, noNaN: true }),
    fc.double({ min: 0.02, max: 0.14, noNaN: true }),
  )
  .map(([w, h, cut]) => worn(w, h, cut));
/** Each works out a grid of its own. */
const FEW = { numRuns: 15, endOnFailure: true };

const inside = fc.array(
  fc.tuple(
    fc.double({ min: -0.45, max: 0.45, noNaN: true }),
    fc.double({ min: -0.45, max: 0.45, noNaN: true }),
  ),
  { minLength: 1, maxLength: 20 },
);

describe('corners that are filled', () => {
  it('come to a rectangle of the same area and proportions', () => {
    fc.assert(
      fc.property(anyWorn, (outline) => {
        const { widthMm, heightMm } = squaring(outline);
        const size = outlineSize(outline);
        expect(widthMm * heightMm).toBeCloseTo(outlineArea(outline), 9);
        expect(widthMm / heightMm).toBeCloseTo(size.widthMm / size.heightMm, 9);
      }),
      FEW,
    );
  });

  it('take the rim to the rim: what lay in a worn corner lies in the sharp one', () => {
    fc.assert(
      fc.property(anyWorn, (outline) => {
        const { map, widthMm, heightMm } = squaring(outline);
        for (const [x, y] of taken(map, 'forward', outline)) {
          const beyond = Math.max(Math.abs(x) / (widthMm / 2), Math.abs(y) / (heightMm / 2));
          // The rim's nodes lie a few hundredths of the side apart.
          expect(Math.abs(beyond - 1)).toBeLessThan(2e-2);
        }
      }),
      FEW,
    );
  });

  it('leave the middle as it is and go there and back', () => {
    fc.assert(
      fc.property(anyWorn, inside, (outline, shares) => {
        const { map, widthMm, heightMm } = squaring(outline);
        const points = shares.map(([u, v]) => [u * widthMm, v * heightMm] as const);
        const again = taken(map, 'forward', taken(map, 'backward', points));
        again.forEach(([x, y], i) => {
          expect(x).toBeCloseTo(points[i][0], 7);
          expect(y).toBeCloseTo(points[i][1], 7);
        });
        const near = shares.map(([u, v]) => [0.1 * u * widthMm, 0.1 * v * heightMm] as const);
        taken(map, 'forward', near).forEach(([x, y], i) => {
          expect(Math.hypot(x - near[i][0], y - near[i][1])).toBeLessThan(4e-3 * widthMm);
        });
      }),
      FEW,
    );
  });

  it.each([0.01, 0.03, 0.06])(
    'that stand back by %d of the side, not all seen from the axis, are filled too',
    (share) => {
      const outline = notched(36, 30, share);
      expect(isSeenFromAxis(outline)).toBe(false);
      const { map, widthMm, heightMm } = squaring(outline);
      expect(widthMm * heightMm).toBeCloseTo(outlineArea(outline), 9);
      for (const [x, y] of taken(map, 'forward', outline)) {
        const beyond = Math.max(Math.abs(x) / (widthMm / 2), Math.abs(y) / (heightMm / 2));
        // A step is drawn out over a cell of the grid: no further off than it is high.
        expect(Math.abs(beyond - 1)).toBeLessThan(2e-2 + 4 * share);
      }
      const points = Array.from({ length: 600 }, (_, i) => {
        const [u, v] = [(i * 0.7548776662466927) % 1, (i * 0.5698402909980532) % 1];
        return [(u - 0.5) * 0.96 * widthMm, (v - 0.5) * 0.96 * heightMm] as const;
      });
      const back = taken(map, 'backward', points);
      const astray = taken(map, 'forward', back)
        .map(([x, y], i) => Math.hypot(x - points[i][0], y - points[i][1]))
        .filter((mm) => mm > 1e-6);
      // Beside a corner a hair of it may come from the same place twice.
      expect(astray.length).toBeLessThanOrEqual(3);
      for (const mm of astray) expect(mm).toBeLessThan(0.01 * widthMm);
      // Pieces move by what the step is, not more.
      back.forEach(([x, y], i) =>
        expect(Math.hypot(x - points[i][0], y - points[i][1])).toBeLessThan(5 * share * widthMm),
      );
    },
  );

  it('are found again on both sides of the grid’s kinks, in a section that is not square', () => {
    const { map, widthMm, heightMm } = squaring(worn(36, 30, 0.1));
    const points = Array.from({ length: 1600 }, (_, i) => {
      const [u, v] = [((i % 40) + 0.5) / 40 - 0.5, (Math.floor(i / 40) + 0.5) / 40 - 0.5];
      return [u * 0.98 * widthMm, v * 0.98 * heightMm] as const;
    });
    taken(map, 'forward', taken(map, 'backward', points)).forEach(([x, y], i) =>
      expect(Math.hypot(x - points[i][0], y - points[i][1])).toBeLessThan(1e-9),
    );
  });

  it('to a smaller area, where the section is to close further, take the rim in', () => {
    const outline = worn(30, 24, 0.1);
    const { widthMm, heightMm } = squaring(outline, 0.8 * outlineArea(outline));
    expect(widthMm * heightMm).toBeCloseTo(0.8 * outlineArea(outline), 9);
  });
});

describe('a section brought to another outline', () => {
  it.each([
    ['a rhombus', rectangle(20, 20).map(([x, y]) => [x + 0.2 * y, y] as const)],
    ['an octagon', regularPolygon(8, 400)],
    ['a round', regularPolygon(48, 400)],
  ] as [string, Outline][])('%s has its rim there, and is undone exactly', (_name, target) => {
    const from = worn(20, 20, Math.sqrt(1 - Math.SQRT1_2) / 8);
    const grow = Math.sqrt(outlineArea(from) / outlineArea(target));
    const goal = target.map(([x, y]) => [grow * x, grow * y] as const);
    const map = shaping(from, goal);
    const corners = taken(map, 'backward', goal);
    const again = taken(map, 'forward', corners);
    again.forEach(([x, y], i) => expect(Math.hypot(x - goal[i][0], y - goal[i][1])).toBeLessThan(2e-2));
    // What is the corner there lies on the rim here.
    const reach = taken(shaping(from, from), 'forward', corners);
    reach.forEach(([x, y], i) => expect(Math.hypot(x - corners[i][0], y - corners[i][1])).toBeLessThan(1e-2));
  });

  it('that it has already is left alone', () => {
    const outline = worn(25, 22, 0.12);
    const points = [
      [3, 4],
      [-9, 2],
      [0, -10],
    ] as const;
    taken(shaping(outline, outline), 'forward', points).forEach(([x, y], i) => {
      expect(x).toBeCloseTo(points[i][0], 4);
      expect(y).toBeCloseTo(points[i][1], 4);
    });
  });

  it.each([0.05, 0.12, 0.18])('keeps the share of every part, worn by %d of its side', (cut) => {
    const outline = worn(30, 28, cut);
    const { map, widthMm, heightMm } = squaring(outline);
    const n = 12;
    const at = (i: number, side: number) => (i / n - 0.5) * side * (1 - 1e-9);
    for (let j = 0; j < n; j++)
      for (let i = 0; i < n; i++) {
        // Its rim closely, for it bends between the corners.
        const rim = [0, 1, 2, 3].flatMap((side) =>
          Array.from({ length: 40 }, (_, k): [number, number] => {
            const t = k / 40;
            const [u, v] = [[t, 0], [1, t], [1 - t, 1], [0, 1 - t]][side]; // prettier-ignore
            return [at(i + u, widthMm), at(j + v, heightMm)];
          }),
        );
        const share = outlineArea(taken(map, 'backward', rim)) / outlineArea(rim);
        // Between the grid's nodes the more, the more it was worn.
        expect(Math.abs(share - 1)).toBeLessThan(4e-3 + 0.05 * cut);
      }
  });
});
