import { describe, expect, it } from 'vitest';
import { type Can, fillOf } from '../canister/can.ts';
import { evaluate } from '../plan/index.ts';
import { makeShop } from '../shop/shop.ts';
import { moveOf } from '../moves/index.ts';
import { planOf } from '../tests/plans.ts';
import { formatMass } from '../units/mass.ts';
import { can, filledSquare } from '../tests/cans.ts';
import { findingsOf, judge } from './index.ts';

const shop = makeShop();
const box = moveOf('can').begin([], shop) as Can;
const filled: Can = {
  ...box,
  inserts: [{ shape: 'rod', material: '15n20', sizeMm: 10, count: 9, lay: 'rows' }],
};
const figures = (p: Can, at: number) => {
  const e = evaluate(
    planOf([
      ['can', p],
      ['consolidate', { endMm: 0, sides: 'two ways', passMm: 2.5, heats: 2, temperatureC: 1200 }],
    ]),
  );
  return new Map(judge(e, e.lanes[0].steps[at]).figures.map((f) => [f.what, f]));
};

describe('figures of a can', () => {
  it('say what to put on the scale: by hand for a 54 × 54 × 120 mm room', () => {
    const all = figures(filled, 0);
    expect(all.get('Room inside')!.value).toBe('349.9 cm³');
    // Nine rods: 9 · π · 5² · 120 mm³ of 7.85 g/cm³.
    const rods = (9 * Math.PI * 25 * 120 * 7.85) / 1e6;
    expect(all.get('15N20 rods')!.value).toBe(`9, ${formatMass(rods, 'kg')}`);
    const powder = ((54 * 54 * 120 - 9 * Math.PI * 25 * 120) * 0.62 * 7.85) / 1e6;
    expect(all.get('Powder goes in')!.value).toBe(formatMass(powder, 'kg'));
    expect(all.get('Powder to make ready')!.value).toBe(formatMass(1.04 * powder, 'kg'));
    expect(all.get('Full weight')!.value).toBe(formatMass(fillOf(filled, shop.materials).fullKg, 'kg'));
  });

  it('say what it comes to pressed solid, as the handbook’s worked figure (powder alone, 49.92 mm)', () => {
    const all = figures(box, 1);
    expect(all.get('Solid outside')!.value).toBe('49.92 × 49.92 mm');
    expect(all.get('Picture shrinks to')!.value).toBe('78.7 %');
    // 10.08 mm each way at 2.5 mm a pass: five passes a side.
    expect(all.get('Passes')!.value).toBe('10');
    expect(all.has('Hot through in')).toBe(true);
    expect(all.get('Hot through in')!.inputs.map(([name]) => name)).toContain('powder and inserts');
  });
});

it('a picture in powders is said to be of one kind, beyond the wall, too thin, or not walked back', () => {
  const codes = (some: Partial<Can>) => {
    const e = evaluate(planOf([['can', can(some)]]));
    return findingsOf(e, e.lanes[0].steps[0]).map((f) => f.code);
  };
  const placed = (some: Partial<typeof filledSquare.place> | { on: 'top' }) => ({
    picture: { ...filledSquare, place: { ...filledSquare.place, ...some } },
  });
  expect(codes({ picture: filledSquare })).not.toContain('one powder');
  expect(codes({ picture: filledSquare, powder: '15n20' })).toContain('one powder');
  expect(codes(placed({ x: 25 }))).toContain('beyond the wall');
  expect(codes(placed({ widthMm: 1.2 }))).toContain('too thin to fill');
  expect(codes(placed({ on: 'top' }))).toContain('not walked back');
});
