import { describe, expect, it } from 'vitest';
import { type Plan, evaluate } from '../plan/index.ts';
import { makeShop } from '../shop/shop.ts';
import { evaluated } from '../tests/plans.ts';
import { anyPiece } from '../tests/shops.ts';
import { wallSheet } from '../print/wall.ts';
import { handsSeconds, quoteOf } from './index.ts';

const plan = anyPiece(2);
const priced: Plan = {
  ...plan,
  shop: {
    ...plan.shop,
    hourPrice: 40,
    abrasivePrice: 6,
    currency: '€',
    forge: { ...plan.shop.forge, gasKgPerH: 1.5, gasPricePerKg: 2 },
  },
};

const row = (p: Plan, what: string) => quoteOf(evaluated(p)).rows.find((r) => r.what === what)!;

describe('what a piece takes', () => {
  it('is hours, steel, gas and abrasives, each times its price', () => {
    const { rows, total, unpriced } = quoteOf(evaluated(priced));
    const evaluation = evaluated(priced);
    const steps = evaluation.lanes[0].steps;
    const hours = steps.reduce((sum, s) => sum + handsSeconds(s, evaluation), 0) / 3600;
    const hot = steps.filter((s) => 'heats' in s.step.parameters);
    const fire = hot.reduce((sum, s) => sum + handsSeconds(s, evaluation), 0) / 3600;
    expect(row(priced, 'Work')).toEqual({ what: 'Work', amount: hours, unit: 'h', price: hours * 40 });
    expect(row(priced, 'Gas').amount).toBeCloseTo(1.5 * fire, 9);
    expect(row(priced, 'Gas').price).toBeCloseTo(3 * fire, 9);
    const grinding = steps.filter((s) => s.step.kind === 'grind');
    expect(row(priced, 'Belts and discs').amount).toBeCloseTo(
      grinding.reduce((sum, s) => sum + handsSeconds(s, evaluation), 0) / 3600,
      9,
    );
    expect(total).toBeCloseTo(
      rows.reduce((sum, r) => sum + (r.price ?? 0), 0),
      9,
    );
    // Steels of the table have no price.
    expect(unpriced).toEqual(['1084', '15N20']);
  });

  it('has a price for steel that is cut from bars as they are sold', () => {
    const steel = makeShop().materials.find((m) => m.id === '1084')!;
    const bar = { widthMm: 200, thicknessMm: 3, lengthMm: 1000, price: 50 };
    const [strip] = evaluated(plan).lanes[0].steps;
    const { widthMm, lengthMm } = strip.step.parameters as { widthMm: number; lengthMm: number };
    const sold = { ...priced, materials: [{ ...steel, packages: [{ ...bar, widthMm }] }] };
    const layers = (strip.step.parameters as { layers: number }).layers;
    // Every other layer, from bars that cost 50 a metre.
    expect(row(sold, '1084').price).toBeCloseTo(Math.ceil(layers / 2) * lengthMm * 0.05, 6);
    expect(row(sold, '15N20').price).toBeNull();
  });

  it('is what was written down where a move is done', () => {
    const [first] = plan.lanes[0].steps;
    const [began, ended] = ['2026-03-02T08:00:00.000Z', '2026-03-02T12:00:00.000Z'];
    const record = {
      id: 'r',
      step: first.id,
      kind: 'came',
      began,
      ended,
      written: ended,
      workedS: 7200,
    } as const;
    const before = evaluated(priced);
    const more =
      quoteOf(evaluate({ ...priced, records: [record] })).rows[0].amount - row(priced, 'Work').amount;
    expect(more).toBeCloseTo(2 - handsSeconds(before.lanes[0].steps[0], before) / 3600, 9);
  });

  it('stands on the wall sheet with its sum, where any price is known', () => {
    const costs = wallSheet(evaluated(priced)).costs;
    expect(costs.at(-1)![0]).toBe('Together');
    expect(costs.find(([what]) => what === '15N20')![2]).toBe('no price');
    expect(costs.find(([what]) => what === 'Work')![2]).toMatch(/^\d+\.\d\d €$/);
    expect(wallSheet(evaluated(plan)).costs).toEqual([]);
  });
});
