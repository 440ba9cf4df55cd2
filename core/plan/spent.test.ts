import { expect, it } from 'vitest';
import type { Material } from '../materials/material.ts';
import { cameOf } from '../tests/records.ts';
import { FLOWS, cutInto, drawSquare, planOf, stackOf, weldIt } from '../tests/plans.ts';
import { type Plan, cutList, evaluate, spentOn, withRecords } from './index.ts';

const PLAN = planOf([stackOf(5), weldIt, drawSquare(20), cutInto(2)]);
const [, weld, draw, cut] = PLAN.lanes[0].steps.map((s) => s.id);
const spent = (plan: Plan, ...records: ReturnType<typeof cameOf>[]) =>
  spentOn(evaluate(withRecords(plan, records), undefined, FLOWS));

it('gas burns while moves with heats are done, and no others; a test piece is not the bar’s', () => {
  const { fireHours, gasKg, gasPrice } = spent(
    { ...PLAN, shop: { ...PLAN.shop, forge: { ...PLAN.shop.forge, gasKgPerH: 1.5, gasPricePerKg: 4 } } },
    // Each an hour long.
    cameOf(weld, [], 0, { heats: 2 }),
    cameOf(draw, [], 1),
    cameOf(draw, [], 2, { kind: 'test' }),
    cameOf(cut, [], 3),
  );
  expect([fireHours, gasKg, gasPrice]).toEqual([2, 3, 12]);
});

it('what it cost is not known without a price, and says of what', () => {
  const { gasPrice, steelPrice, unpriced } = spent(PLAN, cameOf(weld, []));
  expect([gasPrice, steelPrice]).toEqual([null, null]);
  expect(unpriced.length).toBe(new Set(cutList(evaluate(PLAN)).map((r) => r.material)).size);
});

it('steel is paid for by the length that was cut', () => {
  const rows = cutList(evaluate(PLAN));
  // Of two bars of the section the one that is cheaper by its length: 0.02 a millimetre.
  const materials = [...new Set(rows.map((r) => r.material))].map((id): Material => {
    const row = rows.find((r) => r.material === id)!;
    const { widthMm, thicknessMm } = row;
    const known = evaluate(PLAN).shop.materials.find((m) => m.id === id)!;
    return {
      ...known,
      packages: [
        { widthMm, thicknessMm, lengthMm: 500, price: 20 },
        { widthMm, thicknessMm, lengthMm: 1000, price: 20 },
        { widthMm, thicknessMm: thicknessMm + 2, lengthMm: 1000, price: 1 },
      ],
    };
  });
  const { steelPrice, unpriced } = spent({ ...PLAN, materials });
  expect(unpriced).toEqual([]);
  expect(steelPrice).toBeCloseTo(0.02 * rows.reduce((sum, r) => sum + r.count * r.lengthMm, 0), 9);
});
