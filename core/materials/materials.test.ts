import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { materialSchema, mixed, proposedTone } from './material.ts';
import { MATERIALS } from './table.ts';
import { addVolumes, massByMaterial, massKg, scaleVolumes, subtractVolumes, totalVolume } from './volumes.ts';

const of = (id: string) => MATERIALS.find((m) => m.id === id)!;
const ids = MATERIALS.map((m) => m.id);
const anyVolumes = fc.dictionary(fc.constantFrom(...ids), fc.double({ min: 0, max: 1e7, noNaN: true }));

describe('the first table', () => {
  it.each(MATERIALS)(
    '$name is a material as the shop would enter it, with where its values come from',
    (m) => {
      expect(materialSchema.parse(m)).toEqual(m);
      expect(m.source).toMatch(/value from memory of|common practice, no source/);
      expect(Object.values(m.composition).reduce((a, b) => a + (b ?? 0), 0)).toBeLessThanOrEqual(100);
      if (m.weldC) expect(m.weldC[1]).toBeLessThanOrEqual(m.limitC);
      if (m.weldC) expect(m.weldC[0]).toBeLessThan(m.weldC[1]);
    },
  );

  it('names each material once', () => {
    expect(new Set(ids).size).toBe(ids.length);
    expect(new Set(MATERIALS.map((m) => m.name)).size).toBe(ids.length);
  });

  /** SAE J403: carbon and manganese of the 10xx steels lie within these, mass % (values from memory of the standard). */
  it.each([
    ['1018', [0.15, 0.2], [0.6, 0.9]],
    ['1075', [0.7, 0.8], [0.4, 0.7]],
    ['1080', [0.75, 0.88], [0.6, 0.9]],
    ['1084', [0.8, 0.93], [0.6, 0.9]],
    ['1095', [0.9, 1.03], [0.3, 0.5]],
  ] as [string, [number, number], [number, number]][])(
    '%s lies within its standard',
    (id, carbon, manganese) => {
      const { C = 0, Mn = 0 } = of(id).composition;
      expect(C).toBeGreaterThanOrEqual(carbon[0]);
      expect(C).toBeLessThanOrEqual(carbon[1]);
      expect(Mn).toBeGreaterThanOrEqual(manganese[0]);
      expect(Mn).toBeLessThanOrEqual(manganese[1]);
    },
  );

  it('nothing is taken hotter than it melts: copper 1084.62 °C (ITS-90), nickel 1455 °C, both from memory', () => {
    expect(of('copper').limitC).toBeLessThan(1084.62);
    // Brass C260 begins to melt at 915 °C (value from memory of ASTM B36).
    expect(of('brass').limitC).toBeLessThan(915);
    expect(of('nickel').limitC).toBeLessThan(1455);
  });

  it('what resists the acid is brighter: nickel steel than plain, nickel than either, manganese darker', () => {
    const tone = (id: string) => of(id).tone;
    expect(tone('nickel')).toBeGreaterThan(tone('15n20'));
    expect(tone('15n20')).toBeGreaterThan(tone('1084') + 0.5);
    expect(tone('o2')).toBeLessThan(tone('1084'));
  });
});

describe('the proposed tone (a rule of thumb, invented; handbook, materials)', () => {
  it('starts at 0.2 for a steel of 0.8 % carbon and is bright with 2 % of nickel', () => {
    expect(proposedTone({ C: 0.8 })).toBeCloseTo(0.2, 9);
    expect(proposedTone({ C: 0.8, Ni: 2 })).toBeGreaterThan(0.8);
    expect(proposedTone({ C: 0.8, Mn: 1 })).toBeCloseTo(0.1, 9);
    expect(proposedTone({ C: 0.8, Cr: 1 })).toBeCloseTo(0.25, 9);
  });

  it('agrees with the table for the same composition, but for the slag of wrought iron', () => {
    for (const { id, composition, tone } of MATERIALS)
      if (!['wrought', '316l', 'copper', 'brass'].includes(id))
        expect(Math.abs(proposedTone(composition) - tone), id).toBeLessThan(0.1);
  });

  it('2 and 4 % of nickel in a high-carbon powder are clearly bright beside it; mixed by mass', () => {
    for (const percent of [2, 4]) {
      const mixed = of(`1084ni${percent}`);
      expect(mixed.tone - of('1084').tone).toBeGreaterThan(0.5);
      expect(mixed.composition.Ni).toBeCloseTo(percent * 0.996, 2);
      expect(mixed.composition.C).toBeCloseTo(0.86 * (1 - percent / 100) + 0.0008 * percent, 3);
      // A kilogram takes up the room of both.
      expect(1 / mixed.densityKgM3).toBeCloseTo((1 - percent / 100) / 7850 + percent / 100 / 8890, 7);
    }
  });

  it('is always a tone, rises with nickel and falls with manganese', () => {
    const share = fc.double({ min: 0, max: 40, noNaN: true });
    fc.assert(
      fc.property(fc.double({ min: 0, max: 2, noNaN: true }), share, share, share, (C, Mn, Cr, Ni) => {
        const tone = proposedTone({ C, Mn, Cr, Ni });
        expect(tone).toBeGreaterThanOrEqual(0);
        expect(tone).toBeLessThanOrEqual(1);
        expect(proposedTone({ C, Mn: Mn + 0.1, Cr, Ni })).toBeLessThanOrEqual(tone + 1e-12);
      }),
    );
    for (let Ni = 0; Ni < 30; Ni += 2)
      expect(proposedTone({ C: 0.8, Ni: Ni + 2 })).toBeGreaterThanOrEqual(proposedTone({ C: 0.8, Ni }));
    expect(proposedTone({ Ni: 100 })).toBeCloseTo(0.97, 6);
  });
});

describe('powders mixed by mass', () => {
  it('give the blends of the table', () => {
    for (const percent of [1, 2, 4]) {
      const known = of(`1084ni${percent}`);
      const { composition, densityKgM3, tone } = mixed(of('1084'), of('nickel'), percent / 100, 'x');
      expect({ composition, densityKgM3, tone }).toEqual({
        composition: known.composition,
        densityKgM3: known.densityKgM3,
        tone: known.tone,
      });
    }
  });

  it('are the same whichever is named first, weigh what both do, and are a material', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...ids),
        fc.constantFrom(...ids),
        fc.double({ min: 0.001, max: 0.999, noNaN: true }),
        (a, b, part) => {
          fc.pre(a !== b && Math.abs(part - 0.5) > 1e-6);
          const made = mixed(of(a), of(b), part, 'ours-1');
          expect(materialSchema.safeParse(made).success).toBe(true);
          const turned = mixed(of(b), of(a), 1 - part, 'ours-1');
          expect(turned.name).toBe(made.name);
          expect(turned.densityKgM3).toBe(made.densityKgM3);
          // A gram of each share fills what both fill apart.
          expect(1 / made.densityKgM3).toBeCloseTo(
            (1 - part) / of(a).densityKgM3 + part / of(b).densityKgM3,
            7,
          );
          expect(made.limitC).toBe(Math.min(of(a).limitC, of(b).limitC));
          if (made.weldC) expect(made.weldC[1]).toBeLessThanOrEqual(made.limitC);
        },
      ),
    );
  });
});

describe('volumes', () => {
  it('added, taken off and scaled keep their sums', () => {
    fc.assert(
      fc.property(anyVolumes, anyVolumes, fc.double({ min: 0, max: 10, noNaN: true }), (a, b, factor) => {
        const both = addVolumes(a, b);
        expect(totalVolume(both)).toBeCloseTo(totalVolume(a) + totalVolume(b), 4);
        const back = subtractVolumes(both, b);
        for (const id of Object.keys(a)) expect(back[id]).toBeCloseTo(a[id], 4);
        expect(totalVolume(scaleVolumes(a, factor))).toBeCloseTo(factor * totalVolume(a), 3);
      }),
    );
  });

  it('weigh what their densities say, each material by itself', () => {
    expect(massKg({ '1084': 1e6 }, MATERIALS)).toBeCloseTo(7.85, 9);
    // A kilogram of each: 8.89 and 8.94 g/cm³ (values from memory of ASTM B162 and B152).
    const kilograms = { nickel: 1e6 / 8.89, copper: 1e6 / 8.94 };
    expect(massByMaterial(kilograms, MATERIALS).nickel).toBeCloseTo(1, 9);
    expect(massByMaterial(kilograms, MATERIALS).copper).toBeCloseTo(1, 9);
    fc.assert(
      fc.property(anyVolumes, anyVolumes, (a, b) => {
        expect(massKg(addVolumes(a, b), MATERIALS)).toBeCloseTo(
          massKg(a, MATERIALS) + massKg(b, MATERIALS),
          6,
        );
      }),
    );
  });

  it('of what no table knows are an error that names it', () => {
    expect(() => massKg({ mithril: 1 }, MATERIALS)).toThrow('no material “mithril”');
  });
});
