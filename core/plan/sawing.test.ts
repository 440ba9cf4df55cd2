import { describe, expect, it } from 'vitest';
import { SQUARE_BAR, cutInto, evaluated, planOf } from '../tests/plans.ts';
import { divisionMm } from '../units/length.ts';
import { makeShop } from '../shop/shop.ts';
import { allSteps, evaluate, sawings, sawnFromTheSide, sectionsInShort, sectionsOf } from './index.ts';

describe('marks for the saw', () => {
  const plan = planOf([...SQUARE_BAR, cutInto(4)]);

  it.each([
    { unit: 'in', division: 32 } as const,
    { unit: 'mm', division: 0.5 } as const,
    { unit: 'mm', division: 1 } as const,
  ])('lie on the shop’s division, cut by cut, in $unit of $division', (lengths) => {
    const evaluation = evaluate({ ...plan, shop: { ...plan.shop, lengths } });
    const [sawing, ...more] = sawings(evaluation);
    expect(more).toEqual([]);
    expect(sawing).toMatchObject({ cutting: { pieces: 4 }, number: SQUARE_BAR.length + 1 });
    const step = divisionMm(lengths);
    for (const mm of [...sawing.marksMm, ...sawing.centresMm])
      expect(Math.abs(mm / step - Math.round(mm / step))).toBeLessThan(1e-6);
    expect(sawing.marksMm).toHaveLength(5);
    expect(sawing.centresMm).toHaveLength(4);
    expect(sawing.largestDifferenceMm).toBeLessThanOrEqual(step * (1 + 1e-9));
    // Every centre lies between its own two marks.
    sawing.centresMm.forEach((mm, i) => {
      expect(mm).toBeGreaterThan(sawing.marksMm[i]);
      expect(mm).toBeLessThan(sawing.marksMm[i + 1]);
    });
    expect(sawing.pieceMm).toBeCloseTo(evaluation.lanes[0].ends[0].lengthMm, 9);
  });

  it('are given once for pieces of one length, and apart where they have several', () => {
    const ripped = [...SQUARE_BAR, ['rip', { way: 'upright', offCentreMm: 0 }]] as const;
    const alike = sawings(evaluated(planOf([...ripped, ['cut', { pieces: 3, cropAMm: 0, cropBMm: 0 }]])));
    expect(alike.map((s) => [s.alike, s.cutting.pieces])).toEqual([[2, 3]]);
    const [bar] = evaluated(planOf([...ripped])).lanes[0].ends;
    const shorter = { ...bar, lengthMm: bar.lengthMm / 2 };
    const result = {
      ...allSteps(evaluated(planOf([...ripped, cutInto(2)])))[ripped.length],
      before: [bar, shorter],
    };
    expect(sawnFromTheSide(result, makeShop())).toBeNull();
    expect(sawnFromTheSide({ ...result, before: [bar, bar] }, makeShop())?.names).toEqual([]);
    expect(sawnFromTheSide({ ...result, before: [bar] }, makeShop())?.names).toHaveLength(2);
  });

  it('are not given for a cut that cannot be made', () => {
    expect(
      sawings(evaluate(planOf([...SQUARE_BAR, ['cut', { pieces: 60, cropAMm: 480, cropBMm: 480 }]]))),
    ).toEqual([]);
  });
});

describe('sections of pieces', () => {
  const mm = { unit: 'mm', division: 0.5 } as const;
  const piecesOf = (...moves: Parameters<typeof planOf>[0]) =>
    evaluated(planOf([...SQUARE_BAR, ...moves])).lanes[0].ends;

  it('of unlike parts are all said, in short by the side that they share', () => {
    const parts = piecesOf(['rip', { way: 'level', offCentreMm: 3 }]);
    expect(sectionsOf(parts, mm)).toEqual(['22 × 13.5 mm', '22 × 7.5 mm']);
    expect(sectionsInShort(parts, mm)).toBe('22 × 13.5, 7.5 mm');
    expect(sectionsInShort(piecesOf(['rip', { way: 'upright', offCentreMm: 3 }]), mm)).toBe(
      '13.5, 7.5 × 22 mm',
    );
  });

  it('of like pieces are said once', () => {
    expect(sectionsInShort(piecesOf(cutInto(4)), mm)).toBe('4 of 22 × 22 mm');
    expect(sectionsInShort(piecesOf(), mm)).toBe('22 × 22 mm');
  });
});
