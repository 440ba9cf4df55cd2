import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MATERIALS } from '../materials/table.ts';
import { codedMaterial, customMaterialsSchema, makeShop, materialCode, shopSchema } from './shop.ts';

describe('a shop', () => {
  it('has every number from the first moment, and reads its own settings back unchanged', () => {
    const settings = shopSchema.parse({});
    expect(shopSchema.parse(JSON.parse(JSON.stringify(settings)))).toEqual(settings);
    expect(makeShop()).toEqual({ ...settings, materials: MATERIALS });
  });

  it('takes some numbers and leaves the others as they are; two shops never share a list', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 10, noNaN: true }),
        fc.double({ min: 0, max: 0.2, noNaN: true }),
        (kerfMm, scalePerHeat) => {
          const shop = makeShop({ kerfMm, scalePerHeat });
          expect(shop).toEqual({ ...makeShop(), kerfMm, scalePerHeat });
        },
      ),
    );
    expect(makeShop().handles).not.toBe(makeShop().handles);
    expect(makeShop().handles[0]).not.toBe(makeShop().handles[0]);
  });

  it.each([
    [{ kerfMm: 11 }, 'Kerf may be at most 10 mm'],
    [{ kerfMm: 'thin' }, 'Kerf must be a number'],
    [{ fayingMm: -0.1 }, 'Off a faying face cannot be less than 0 mm'],
    [{ scalePerHeat: 0.5 }, 'Scale each heat may be at most 0.2'],
    [{ reductionPerPass: 0.7 }, 'Taken in a pass may be at most 0.6'],
    [{ forge: { weldingC: 1400 } }, 'Welding heat may be at most 1350 °C'],
    [{ press: { ramMmPerS: 0 } }, 'Ram, a second must be at least 1 mm'],
    [{ press: { friction: 0.8 } }, 'Friction at the dies may be at most 0.577'],
    [{ kiln: { lagS: -1 } }, 'Thermocouple lags must be at least 0 s'],
    [{ handles: [] }, 'Name at least one handle bar'],
    [{ name: '   ' }, 'The set-up needs a name'],
  ])('refuses %j by the name of the number: %s', (wrong, said) => {
    const read = shopSchema.safeParse(wrong);
    expect(read.success).toBe(false);
    expect(read.error!.issues.map((i) => i.message)).toContain(said);
  });

  it('knows nothing of what it was not asked for', () => {
    expect(shopSchema.safeParse({ anvilKg: 100 }).success).toBe(false);
  });
});

describe('its materials', () => {
  const own = { ...MATERIALS[0], id: 'river', name: 'River iron' };
  const changed = { ...MATERIALS[2], tone: 0.9 };

  it('are the first table’s, with its own added and its changed ones in their place', () => {
    const shop = makeShop({}, [own, changed]);
    expect(shop.materials).toHaveLength(MATERIALS.length + 1);
    expect(shop.materials.filter((m) => m.id === changed.id)).toEqual([changed]);
    expect(shop.materials).toContainEqual(own);
  });

  it('have codes that lead back to them, from 1; 0 is no steel', () => {
    const shop = makeShop({}, [own, changed]);
    for (const m of shop.materials) expect(codedMaterial(shop, materialCode(shop, m.id))).toBe(m);
    expect(Math.min(...shop.materials.map((m) => materialCode(shop, m.id)))).toBe(1);
    expect(() => materialCode(shop, 'mithril')).toThrow('no material “mithril”');
  });

  it('that are none are refused', () => {
    expect(customMaterialsSchema.safeParse([own]).success).toBe(true);
    expect(customMaterialsSchema.safeParse([{ ...own, densityKgM3: 1 }]).success).toBe(false);
    expect(customMaterialsSchema.safeParse([{ ...own, tone: 2 }]).success).toBe(false);
    expect(customMaterialsSchema.safeParse([{ id: 'x' }]).success).toBe(false);
  });
});
