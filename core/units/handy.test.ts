import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MOVES, MOVE_KINDS, firstNumbers } from '../moves/index.ts';
import { makeShop, shopSchema } from '../shop/shop.ts';
import { inUnit } from '../shop/units.ts';
import { evaluated, planOf, stackOf, weldIt, drawSquare } from '../tests/plans.ts';
import { handy, handyNumbers } from './handy.ts';
import { formatStockSizes, parseLength } from './length.ts';
import { angleDeg, entriesOf, lengthMm, quantityOf, temperatureC, twistDegPerM } from './quantities.ts';
import { readQuantity, showQuantity } from './quantityText.ts';

const INCHES = { lengths: { unit: 'in', division: 32 }, masses: 'lb', temperatures: 'F' } as const;
const METRIC = { lengths: { unit: 'mm', division: 0.5 }, masses: 'kg', temperatures: 'C' } as const;
const inches = (mm: number, most?: number): number =>
  handy(mm, quantityOf(lengthMm('Length', most)), INCHES) / 25.4;

describe('first numbers', () => {
  it.each([
    [25, 1],
    [38, 1.5],
    [40, 1 + 9 / 16],
    [4, 5 / 32],
    [200, 8],
    [1000, 36],
  ])('of %i mm are %f inches in an inch shop', (mm, inch) => expect(inches(mm)).toBeCloseTo(inch, 9));

  it('leave an angle alone, set temperatures to tens of °F, and never leave their bounds', () => {
    expect(handy(44.9, quantityOf(angleDeg('Angle', 0, 90)), INCHES)).toBe(44.9);
    const c = handy(740, quantityOf(temperatureC('Heat', 0, 1400)), INCHES);
    expect((c * 9) / 5 + 32).toBeCloseTo(1360, 9);
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 600, noNaN: true }),
        fc.double({ min: 0.02, max: 600, noNaN: true }),
        fc.constantFrom(INCHES, METRIC),
        (mm, most, units) => {
          const value = Math.min(mm, most);
          const set = handy(value, quantityOf(lengthMm('Length', most)), units);
          expect(set).toBeGreaterThan(0);
          expect(set).toBeLessThanOrEqual(most);
          expect(handy(set, quantityOf(lengthMm('Length', most)), units)).toBeCloseTo(set, 9);
        },
      ),
    );
  });

  it('of every move lie on the divisions of an inch shop, and can be done where those in millimetres can', () => {
    const shop = makeShop(inUnit(shopSchema.parse({}), 'in'));
    const before = evaluated(planOf([stackOf(9, 38.1, 3.175, 203.2), weldIt, drawSquare(31.75)])).goalLane
      .ends;
    for (const kind of MOVE_KINDS) {
      const steel = MOVES[kind].begins === true ? [] : before;
      const p = firstNumbers(kind, steel, shop) as Record<string, unknown>;
      const wrong = (of: unknown) =>
        (MOVES[kind] as { check(b: unknown, p: unknown, s: unknown): { severity: string }[] })
          .check(steel, of, shop)
          .some((f) => f.severity === 'error');
      if (wrong(p)) expect(wrong(MOVES[kind].begin(steel, shop)), kind).toBe(true);
      for (const [key, entry] of entriesOf(MOVES[kind].parameters)) {
        const value = p[key];
        if (entry.kind !== 'length' || typeof value !== 'number' || entry.fine) continue;
        const steps = (value / 25.4) * 32;
        expect(Math.abs(steps - Math.round(steps)), `${kind} ${key} ${value / 25.4}"`).toBeLessThan(1e-6);
      }
    }
  });
});

describe('a shop in inches', () => {
  const metric = shopSchema.parse({});

  it('begins with sizes of its own; what its maker set stays; and the way back is the way there', () => {
    const shop = inUnit({ ...metric, biteMm: 22 }, 'in');
    expect(shop.stockLengthMm).toBeCloseTo(914.4, 9);
    expect(shop.cropMm / 25.4).toBeCloseTo(3 / 8, 9);
    expect(shop.biteMm).toBe(22);
    expect(shop.handles.map((h) => h.name).join()).not.toContain('mm');
    expect(((shop.forge.weldingC * 9) / 5 + 32) % 10).toBeCloseTo(0, 6);
    expect(inUnit(shop, 'mm')).toEqual({ ...metric, biteMm: 22 });
    // The handle in use stays in use under its other name.
    const square = { ...metric, handle: 'Square bar 25 mm' };
    expect(inUnit(square, 'in').handle).toBe('Square bar 1 in');
    expect(inUnit(inUnit(square, 'in'), 'mm')).toEqual(square);
  });

  it('says a twist to the foot', () => {
    const q = quantityOf(twistDegPerM('Twist', 720));
    expect(showQuantity(q, 10, METRIC)).toBe('10 °/m');
    expect(showQuantity(q, 10 / 0.3048, INCHES)).toBe('10 °/ft');
    expect(readQuantity(q, '10', INCHES)).toEqual({
      ok: true,
      value: expect.closeTo(10 / 0.3048, 9) as number,
    });
  });
});

describe('gauges', () => {
  // Manufacturers' Standard Gauge, Steel Wire Gauge and ASTM B258; values from memory.
  it.each([
    ['20 ga', 0.0359],
    ['16 gauge', 0.0598],
    ['10 ga sheet', 0.1345],
    ['9 ga wire', 0.1483],
    ['10 awg', 0.1019],
    ['2 * 20 ga + 1/8"', 2 * 0.0359 + 0.125],
  ])('“%s” is read', (text, inch) => {
    for (const unit of ['in', 'mm'] as const) {
      const parsed = parseLength(text, unit);
      expect(parsed.ok && parsed.value / 25.4).toBeCloseTo(inch, 3);
    }
  });

  it('that do not exist are refused with those that do', () => {
    expect(parseLength('45 ga', 'in')).toMatchObject({
      ok: false,
      message: expect.stringContaining('3 to 38') as string,
    });
    expect(parseLength('33 ga wire', 'in').ok).toBe(false);
  });

  it('name sheet of an inch shop on its cut list; bars have fractions', () => {
    expect(formatStockSizes([38.1, 3.175], INCHES.lengths)).toBe('1 1/2 × 1/8"');
    expect(formatStockSizes([50.8, 1.5], INCHES.lengths)).toBe(
      '2 × 0.059"'.replace('0.059', '16 ga = 0.059'),
    );
    expect(formatStockSizes([60, 3.2], METRIC.lengths)).toBe('60 × 3.2 mm');
  });
});

it('every number inside lists and parts is set too', () => {
  const stack = handyNumbers(MOVES.stack.parameters, MOVES.stack.begin([], makeShop()), INCHES);
  for (const { thicknessMm } of stack.pattern) {
    const steps = (thicknessMm / 25.4) * 64;
    expect(Math.abs(steps - Math.round(steps))).toBeLessThan(1e-6);
  }
});
