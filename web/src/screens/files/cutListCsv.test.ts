import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { cutList, evaluate } from '../../../../core/plan/index.ts';
import { planOf, stackOf } from '../../../../core/tests/plans.ts';
import { cutListCsv } from './cutListCsv.ts';

describe('the cut list as CSV', () => {
  it('reads back to the same pieces, exactly in mm and as the shop writes them', () => {
    const plan = planOf([stackOf(5, 40.123456789, 3.175, 203.2)]);
    const evaluation = evaluate({ ...plan, shop: { ...plan.shop, lengths: { unit: 'in', division: 64 } } });
    const { data, errors } = Papa.parse<Record<string, string>>(cutListCsv(evaluation), { header: true });
    expect(errors).toEqual([]);
    const rows = cutList(evaluation);
    expect(data).toHaveLength(rows.length);
    rows.forEach((row, i) => {
      expect(Number(data[i]['length mm'])).toBe(row.lengthMm);
      expect(Number(data[i]['width mm'])).toBe(row.widthMm);
      expect(Number(data[i].pieces)).toBe(row.count);
    });
    expect(data[0]).toMatchObject({ steel: '1084', length: '8"', thickness: '0.125"' });
  });
});
