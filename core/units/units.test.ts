import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import {
  stopDivisionMm,
  type LengthDisplay,
  editableLength,
  editableTemperature,
  formatFine,
  formatFineArea,
  formatFineSizes,
  formatLength,
  formatMass,
  formatSizes,
  formatTemperature,
  parseLength,
  parseMass,
  parseTemperature,
  toDivisionMm,
  divisionMm,
} from './index.ts';

const inches64: LengthDisplay = { unit: 'in', division: 64 };
const mmOf = (text: string, unit: 'in' | 'mm' = 'in') => {
  const parsed = parseLength(text, unit);
  if (!parsed.ok) throw new Error(parsed.message);
  return parsed.value;
};

describe('reading lengths', () => {
  // 1 in = 25.4 mm exactly: international inch, 1959.
  it.each([
    ['1 7/16', 36.5125],
    ['1-7/16"', 36.5125],
    ['36.5 mm', 36.5],
    ['2 3/8 in', 60.325],
    ['.125', 3.175],
    ['2 7/16 / 2', 30.95625],
    ['3 * 1/4 + 1/8', 22.225],
    ['5 - 7/16', 115.8875],
    ['(1 1/2 + 1/4) * 2', 88.9],
    ['1 in + 10 mm', 35.4],
    ['36,5 mm', 36.5],
    ['1/2 + 1/4 mm', 0.75],
    ['2 ft', 609.6],
    ['-1/4', -6.35],
  ])('%s is %d mm', (text, mm) => expect(mmOf(text)).toBeCloseTo(mm, 9));

  it('takes a bare number in the shop’s unit', () => {
    expect(mmOf('36.5', 'mm')).toBe(36.5);
    expect(mmOf('36.5', 'in')).toBeCloseTo(927.1, 9);
  });

  it.each([
    '',
    '  ',
    '1 7/',
    'abc',
    '3 *',
    '1/0',
    '2 mm * 3 mm',
    '4 / 2 mm',
    '12 mm / 3 mm',
    '(1',
    '1 2',
    '7 $',
    '3 mm mm',
    '/',
  ])('says what is wrong with “%s”', (text) => {
    const parsed = parseLength(text, 'in');
    expect(parsed.ok).toBe(false);
    if (!parsed.ok) expect(parsed.message.length).toBeGreaterThan(15);
  });

  it('says where an unfinished fraction stops', () => {
    expect(parseLength('1 7/', 'in')).toEqual({
      ok: false,
      message: expect.stringContaining('stops after “/”'),
    });
  });

  it('never throws, whatever is typed', () => {
    fc.assert(fc.property(fc.string(), (text) => typeof parseLength(text, 'mm').ok === 'boolean'));
  });
});

describe('writing lengths', () => {
  it('reduces fractions and rounds to the finest division', () => {
    expect(formatLength(36.5125, inches64)).toBe('1 7/16"');
    expect(formatLength(36.5125, { unit: 'in', division: 16 })).toBe('1 7/16"');
    expect(formatLength(25.3, { unit: 'in', division: 16 })).toBe('1"');
    expect(formatLength(0, inches64)).toBe('0"');
    expect(formatLength(-6.35, inches64)).toBe('-1/4"');
    expect(formatLength(36.54, { unit: 'mm', division: 0.5 })).toBe('36.5 mm');
    expect(formatLength(-0.01, { unit: 'mm', division: 0.1 })).toBe('0 mm');
    expect(formatLength(36, { unit: 'mm', division: 0.5 })).toBe('36 mm');
    expect(formatSizes([30, 16], { unit: 'mm', division: 1 })).toBe('30 × 16 mm');
    expect(formatFineArea(0.64516, { unit: 'in', division: 16 })).toBe('0.0010 sq in');
    expect(formatFineArea(0.645, { unit: 'mm', division: 0.1 })).toMatch(/^0.6[45] mm²$/);
    expect(stopDivisionMm({ unit: 'in', division: 16 })).toBe(25.4 / 64);
    expect(stopDivisionMm({ unit: 'mm', division: 1 })).toBe(0.1);
    expect(formatFine(0.2, { unit: 'in', division: 16 })).toBe('0.008"');
  });

  it('rounds by at most half a division, and an opened field gives the value back', () => {
    const anyDisplay = fc.constantFrom<LengthDisplay>(
      inches64,
      { unit: 'in', division: 16 },
      { unit: 'mm', division: 0.1 },
      { unit: 'mm', division: 1 },
    );
    fc.assert(
      fc.property(fc.double({ min: 0, max: 5000, noNaN: true }), anyDisplay, (mm, display) => {
        expect(Math.abs(toDivisionMm(mm, display) - mm)).toBeLessThanOrEqual(divisionMm(display) / 2 + 1e-9);
        expect(mmOf(formatLength(mm, display), 'mm')).toBeCloseTo(toDivisionMm(mm, display), 6);
        expect(mmOf(editableLength(mm, display), 'mm')).toBeCloseTo(mm, 5);
      }),
    );
  });
});

describe('mass and temperature', () => {
  it('reads and writes both systems', () => {
    expect(parseMass('2 lb 3 oz', 'kg')).toEqual({ ok: true, value: expect.closeTo(0.99223331, 6) }); // 1 lb = 0.45359237 kg, 1959
    expect(parseMass('350 g', 'lb')).toEqual({ ok: true, value: expect.closeTo(0.35, 9) });
    expect(parseMass('5 stone', 'lb').ok).toBe(false);
    expect(parseMass('heavy', 'lb').ok).toBe(false);
    expect(formatMass(0.14, 'kg')).toBe('140 g');
    expect(formatMass(2.81, 'kg')).toBe('2.81 kg');
    expect(formatMass(1, 'lb')).toBe('2 lb 3.3 oz');
    expect(formatMass(0.45359236, 'lb')).toBe('1 lb 0.0 oz');
    expect(parseTemperature('2100 F', 'C')).toEqual({ ok: true, value: expect.closeTo(1148.89, 2) });
    expect(parseTemperature('hot', 'C').ok).toBe(false);
    expect(formatTemperature(1150, 'F')).toBe('2102 °F');
    expect(formatTemperature(1150, 'C')).toBe('1150 °C');
  });
});

describe('what is put into a field to be edited', () => {
  it('brings the temperature back exactly, in either unit', () => {
    for (const c of [0, 20, 738.5, 1148, 1200, 1287.3])
      for (const unit of ['C', 'F'] as const) {
        const back = parseTemperature(editableTemperature(c, unit), 'C');
        expect(back.ok && back.value).toBeCloseTo(c, 8);
      }
  });

  it('writes fine sections with one unit', () => {
    expect(formatFineSizes([45, 4.5], { unit: 'mm', division: 1 })).toBe('45 × 4.5 mm');
    expect(formatFineSizes([38.1, 3.175], { unit: 'in', division: 16 })).toBe('1.5 × 0.125"');
  });
});
