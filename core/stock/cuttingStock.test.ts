import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type CuttingAnswer,
  type StockLength,
  type WantedLengths,
  cutFromStock,
  firstFitDecreasing,
} from './cuttingStock.ts';

const bar = (lengthMm: number, count = Infinity, cost = lengthMm): StockLength => ({
  lengthMm,
  count,
  cost,
  name: `${lengthMm}`,
});

/** Least cost by trying every way to share pieces among bars, one piece at a time: slow, plain, and independent. */
function byTrying(wanted: readonly WantedLengths[], stock: readonly StockLength[], kerfMm: number): number {
  const pieces = wanted.flatMap((w) => Array.from({ length: w.count }, () => w.lengthMm));
  let best = Infinity;
  const open: { room: number }[] = [];
  const left = stock.map((s) => s.count);
  const place = (i: number, cost: number): void => {
    if (cost >= best) return;
    if (i === pieces.length) {
      best = cost;
      return;
    }
    for (const b of open)
      if (b.room + 1e-6 >= pieces[i]) {
        b.room -= pieces[i] + kerfMm;
        place(i + 1, cost);
        b.room += pieces[i] + kerfMm;
      }
    stock.forEach((s, k) => {
      if (left[k] <= 0 || s.lengthMm + 1e-6 < pieces[i]) return;
      left[k]--;
      open.push({ room: s.lengthMm - pieces[i] - kerfMm });
      place(i + 1, cost + s.cost);
      open.pop();
      left[k]++;
    });
  };
  place(0, 0);
  return best;
}

function isSound(answer: CuttingAnswer, wanted: readonly WantedLengths[], kerfMm: number): void {
  const sawn = answer.bars.flatMap((b) => b.piecesMm).sort((a, b) => a - b);
  const all = wanted.flatMap((w) => Array.from({ length: w.count }, () => w.lengthMm)).sort((a, b) => a - b);
  expect(sawn).toEqual(all);
  for (const { stock, piecesMm, restMm } of answer.bars) {
    const used = piecesMm.reduce((sum, mm) => sum + mm, 0) + (piecesMm.length - 1) * kerfMm;
    expect(used).toBeLessThanOrEqual(stock.lengthMm + 1e-5);
    expect(restMm).toBeCloseTo(Math.max(0, stock.lengthMm - used - kerfMm), 6);
  }
}

const anyWanted = fc.array(
  fc.record({ lengthMm: fc.integer({ min: 40, max: 480 }), count: fc.integer({ min: 1, max: 2 }) }),
  { minLength: 1, maxLength: 3 },
);

describe('pieces from stock lengths', () => {
  it('fills one bar to the last kerf', () => {
    const answer = cutFromStock([{ lengthMm: 199, count: 5 }], [bar(999)], 1);
    expect(answer.bars).toHaveLength(1);
    expect(answer.bars[0].restMm).toBe(0);
    expect(cutFromStock([{ lengthMm: 199, count: 5 }], [bar(998)], 1).bars).toHaveLength(2);
  });

  it('finds what first-fit decreasing misses', () => {
    const wanted = [6, 5, 4, 3, 2].map((n) => ({ lengthMm: n * 10, count: n === 2 ? 2 : 1 }));
    const stock = [bar(110)];
    const better = cutFromStock([...wanted, { lengthMm: 0.5, count: 1 }], stock, 0);
    expect(better.cost).toBeLessThanOrEqual(
      firstFitDecreasing([...wanted, { lengthMm: 0.5, count: 1 }], stock, 0).cost,
    );
    const hard = [44, 24, 24, 22, 21, 17, 8, 8, 6, 6].map((lengthMm) => ({ lengthMm, count: 1 }));
    expect(firstFitDecreasing(hard, [bar(61)], 0).bars).toHaveLength(4);
    expect(cutFromStock(hard, [bar(61)], 0).bars).toHaveLength(3);
  });

  it('uses up what is on the rack before it buys', () => {
    const answer = cutFromStock([{ lengthMm: 200, count: 3 }], [bar(1000), bar(450, 1, 0)], 2);
    expect(answer.cost).toBe(1000);
    expect(cutFromStock([{ lengthMm: 200, count: 2 }], [bar(1000), bar(450, 1, 0)], 2).cost).toBe(0);
  });

  it('says what nothing is long enough for', () => {
    const answer = cutFromStock([{ lengthMm: 1200, count: 2 }], [bar(1000)], 1);
    expect(answer.missing).toEqual([{ lengthMm: 1200, count: 2 }]);
  });

  it('is best in small cases (against trying everything), and sound', () =>
    fc.assert(
      fc.property(
        anyWanted,
        fc.array(
          fc.record({
            lengthMm: fc.integer({ min: 480, max: 1000 }),
            price: fc.integer({ min: 1, max: 30 }),
          }),
          {
            minLength: 1,
            maxLength: 2,
          },
        ),
        fc.integer({ min: 0, max: 4 }),
        fc.boolean(),
        (wanted, lengths, kerfMm, rack) => {
          const stock = [
            ...lengths.map((l) => bar(l.lengthMm, Infinity, l.price)),
            ...(rack ? [bar(500, 2, 0)] : []),
          ];
          const answer = cutFromStock(wanted, stock, kerfMm);
          isSound(answer, wanted, kerfMm);
          expect(answer.proven).toBe(true);
          expect(answer.cost).toBeCloseTo(byTrying(wanted, stock, kerfMm), 6);
        },
      ),
      { numRuns: 150 },
    ));

  it('is never worse than first-fit decreasing, however large', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({ lengthMm: fc.integer({ min: 30, max: 900 }), count: fc.integer({ min: 1, max: 30 }) }),
          { minLength: 1, maxLength: 14 },
        ),
        fc.integer({ min: 0, max: 3 }),
        (wanted, kerfMm) => {
          const stock = [bar(1000), bar(2000, 4, 1900)];
          const answer = cutFromStock(wanted, stock, kerfMm);
          isSound(answer, wanted, kerfMm);
          expect(answer.cost).toBeLessThanOrEqual(firstFitDecreasing(wanted, stock, kerfMm).cost + 1e-9);
        },
      ),
      { numRuns: 15 },
    ));
});
