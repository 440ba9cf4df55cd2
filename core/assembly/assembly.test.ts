import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { evaluate } from '../plan/index.ts';
import { type AssembleParameters, laidPieces } from '../moves/lay/assemble/laid.ts';
import { ORIENTATION_NAMES } from '../geometry/orientation.ts';
import {
  cutInto,
  drawSquare,
  evaluated,
  planOf,
  planOfLanes,
  resquareTo,
  stackOf,
  weldIt,
} from '../tests/plans.ts';
import { bestMatch, seamFigures, seamsOf } from './index.ts';

const KERF = 1;
const TWISTED = ['measure', { turnDeg: 0, twistDegPerM: 60, zoneAMm: 0, zoneBMm: 0 }] as const;
const bars = (pieces: number, more: readonly (readonly [string, unknown])[] = []) =>
  [stackOf(8, 40, 4, 500), weldIt, drawSquare(24), resquareTo(20, 4), ...more, cutInto(pieces)] as const;

function assembled(
  pieces: number,
  p: AssembleParameters,
  more: readonly (readonly [string, unknown])[] = [],
) {
  const steps = evaluate(planOf([...bars(pieces, more), ['assemble', p]])).lanes[0].steps;
  const { before, after, findings } = steps.at(-1)!;
  if (!after) throw new Error(findings[0].text);
  return { before, block: after[0], piece: before[0].lengthMm, figures: seamFigures(before, p, after[0]) };
}

describe('seams', () => {
  it('of a book-matched row have the handbook’s stations: mates in front, then at the back', () => {
    const { figures, piece } = assembled(4, { columns: 4, rows: 1, layout: 'mirrored' });
    // Handbook, geometry, "Mates": at the front 1|2 and 3|4 are mates (one kerf), 2|3 two piece lengths and a kerf apart; at
    // the back 2|3 are mates.
    expect(figures.map((f) => f.frontMm!)).toEqual([
      expect.closeTo(KERF, 6),
      expect.closeTo(2 * piece + KERF, 6),
      expect.closeTo(KERF, 6),
    ]);
    expect(figures[1].backMm).toBeCloseTo(KERF, 6);
    expect(figures[0].backMm).toBeCloseTo(2 * piece + KERF, 6);
  });

  it('of a mirrored four-way: two pieces show end B, two end A, and a constant pattern matches at both ends', () => {
    const { figures } = assembled(4, { columns: 2, rows: 2, layout: 'mirrored' });
    expect(figures).toHaveLength(4);
    for (const f of figures) {
      expect(f.frontMismatch).toBe(0);
      expect(f.backMismatch).toBe(0);
    }
    const [right, down] = figures;
    expect(right.frontMm).toBeCloseTo(KERF, 6);
    expect(down.names).toEqual(['1', '3']);
  });

  it('of a twisted bar mismatch the more, the farther apart their faces stood', () => {
    const { figures } = assembled(4, { columns: 4, rows: 1, layout: 'mirrored' }, [TWISTED]);
    expect(figures[0].frontMismatch).toBeLessThan(0.03);
    expect(figures[1].frontMismatch).toBeGreaterThan(figures[0].frontMismatch + 0.02);
    expect(figures[1].backMismatch).toBeLessThan(0.03);
  });

  it('are asked on both sides of a strip, and a wrong piece is found', () => {
    const strips = { material: 'nickel', thicknessMm: 2, where: 'cross and frame' as const };
    const right = assembled(4, { columns: 2, rows: 2, layout: 'mirrored', strips });
    expect(Math.max(...right.figures.map((f) => f.frontMismatch))).toBe(0);
    const places = ORIENTATION_NAMES.slice(0, 4).map((_, i) => ({
      piece: i + 1,
      orientation: (['as it lies', 'rolled left–right', 'turned 90°', 'turned 180°'] as const)[i],
    }));
    const wrong = assembled(4, { columns: 2, rows: 2, layout: 'free', places, strips });
    expect(Math.max(...wrong.figures.map((f) => f.frontMismatch))).toBeGreaterThan(0.1);
  });

  it('between two bars are judged like any others, and one may be meant to clash', () => {
    const lanes = {
      one: [...bars(2)],
      two: [stackOf(5, 40, 4, 500), weldIt, drawSquare(20), cutInto(2)],
      both: [
        ['assemble', { columns: 2, rows: 1, layout: 'alike', from: ['one', 'two'], clash: [[0, 1]] }],
      ] as const,
    };
    const { before, after, step } = evaluated(planOfLanes(lanes)).goalLane.steps[0];
    const p = step.parameters as AssembleParameters;
    const [seam] = seamFigures(before, p, after![0]);
    expect(seam).toMatchObject({ frontMm: null, meantToClash: true });
    expect(seam.frontMismatch).toBeGreaterThan(0.1);
    expect(seamFigures(before, { ...p, clash: undefined }, after![0])[0].meantToClash).toBe(false);
  });

  it('count (columns − 1)·rows + columns·(rows − 1)', () => {
    expect(seamsOf(3, 3)).toHaveLength(12);
    expect(seamsOf(5, 2)).toHaveLength(13);
  });
});

/** Every permutation, for checking against. */
function permutations(n: number): number[][] {
  if (n === 0) return [[]];
  return permutations(n - 1).flatMap((rest) =>
    Array.from({ length: n }, (_, i) => [...rest.slice(0, i), n - 1, ...rest.slice(i)]),
  );
}

const orientations = (n: number) =>
  fc.array(fc.constantFrom(...ORIENTATION_NAMES), { minLength: n, maxLength: n });

/** Pieces in a random order, in random orientations. */
const anyLaying = (columns: number, rows: number) =>
  fc
    .tuple(
      fc.shuffledSubarray(
        Array.from({ length: columns * rows }, (_, i) => i + 1),
        { minLength: columns * rows },
      ),
      orientations(columns * rows),
    )
    .map(([order, ways]): AssembleParameters => ({
      columns,
      rows,
      layout: 'free',
      places: order.map((piece, i) => ({ piece, orientation: ways[i] })),
    }));

describe('best match', () => {
  const before = evaluate(planOf(bars(9))).lanes[0].ends;

  it.each([
    [2, 1],
    [3, 1],
    [2, 2],
    [5, 1],
    [3, 2],
    [7, 1],
    [4, 2],
    [3, 3],
  ])(
    'equals brute force for %d × %d',
    (columns, rows) => {
      const n = columns * rows;
      const all = permutations(n);
      fc.assert(
        fc.property(anyLaying(columns, rows), (p) => {
          const laid = laidPieces(before, p);
          const match = bestMatch(laid, columns, rows);
          expect(match.exact).toBe(true);
          const costOf = (order: number[]) => bestCost(laid, order, columns, rows);
          let least = Infinity;
          for (const order of all) least = Math.min(least, costOf(order));
          expect(match.afterMm).toBeCloseTo(least, 6);
          expect(costOf([...match.order])).toBeCloseTo(least, 6);
        }),
        { numRuns: n >= 9 ? 1 : n >= 7 ? 2 : 6 },
      );
    },
    60_000,
  );

  it('beyond nine states a bound, never above what it found, and never makes it worse', () => {
    const many = evaluate(planOf(bars(16))).lanes[0].ends;
    fc.assert(
      fc.property(anyLaying(4, 4), (p) => {
        const match = bestMatch(laidPieces(many, p), 4, 4);
        expect(match.exact).toBe(false);
        expect(match.afterMm).toBeLessThanOrEqual(match.beforeMm);
        expect(match.boundMm).toBeLessThanOrEqual(match.afterMm + 1e-9);
        expect([...match.order].sort((a, b) => a - b)).toEqual(Array.from({ length: 16 }, (_, i) => i));
      }),
      { numRuns: 4 },
    );
  });
});

/** The sum of distances written out again from the handbook's rule, apart from the search. */
function bestCost(
  laid: ReturnType<typeof laidPieces>,
  order: readonly number[],
  columns: number,
  rows: number,
): number {
  const shown = order.map((piece, place) => {
    const { fromMm, toMm } = laid[piece].billet.piece!;
    const rolled = laid[place].place.orientation.startsWith('rolled');
    return rolled ? [fromMm, toMm] : [toMm, fromMm];
  });
  return seamsOf(columns, rows).reduce(
    (sum, s) =>
      sum +
      Math.abs(shown[s.first][0] - shown[s.second][0]) +
      Math.abs(shown[s.first][1] - shown[s.second][1]),
    0,
  );
}
