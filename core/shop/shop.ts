import { z } from 'zod';
import { nameText } from '../units/names.ts';
import { HOT_WORKING, type HotClass, hotClass, hotConstants, withinRow } from '../forging/force.ts';
import { HANDLES } from '../forging/handle.ts';
import type { LengthDisplay } from '../units/length.ts';
import {
  choice,
  count,
  differenceK,
  forceKN,
  lengthOrNoneMm,
  lengthWithinMm,
  plainNumber,
  rateKPerH,
  share,
  temperatureC,
  weightKg,
} from '../units/quantities.ts';
import { type Material, materialSchema } from '../materials/material.ts';
import { MATERIALS } from '../materials/table.ts';

const displaySchema = z.union([
  z.strictObject({ unit: z.literal('in'), division: z.union([z.literal(16), z.literal(32), z.literal(64)]) }),
  z.strictObject({
    unit: z.literal('mm'),
    division: z.union([z.literal(0.1), z.literal(0.5), z.literal(1)]),
  }),
]);

export const handleSchema = z.strictObject({
  name: nameText(60, 'A handle needs a name'),
  shape: choice('Shape', { round: 'round', square: 'square' }),
  sizeMm: lengthWithinMm('Size', 3, 80, { fine: true }),
});

/** The press: force kN, dies mm along and across the bar, ram mm/s, friction between scale and dies. */
export const pressSchema = z.strictObject({
  kind: choice('Machine', {
    press: 'Hydraulic press',
    'power hammer': 'Power hammer',
    'rolling mill': 'Rolling mill',
  }).default('press'),
  ratingKN: forceKN('Force', 10, 20_000).default(245),
  dieLengthMm: lengthWithinMm('Dies, along the bar', 10, 1500).default(300),
  ramMmPerS: lengthWithinMm('Ram, a second', 1, 2000).default(25),
  friction: plainNumber('Friction at the dies', 0, 0.577).default(0.3),
});

/** The forge: °C, W/m²K, seconds from fire to dies with the first bites. */
export const forgeSchema = z.strictObject({
  weldingC: temperatureC('Welding heat', 900, 1350).default(1200),
  forgingC: temperatureC('Forging heat', 700, 1300).default(1100),
  /** Where forging stops: below it steel cracks rather than moves. */
  stopC: temperatureC('Stop forging at', 600, 1000).default(850),
  surfaceWm2K: plainNumber('Heat from the fire', 50, 1000, 'W/m²K').default(300),
  /** The middle counts as hot through when it is this near the fire, K. */
  withinK: differenceK('Hot through, within', 2, 200).default(20),
  carryS: plainNumber('Fire to dies', 1, 120, 's').default(4),
  /** A two-burner propane forge at welding heat: common practice, no source. */
  gasKgPerH: weightKg('Gas, an hour', 0, 100).default(1.2),
  /** 0: not known. */
  gasPricePerKg: plainNumber('Price of gas, a kg', 0, 1e6).default(0),
});

/** The kiln: hottest °C, ramp when cold at full power K/h, thermocouple lag s. */
export const kilnSchema = z.strictObject({
  maxC: temperatureC('Hottest', 300, 1400).default(1150),
  fullRateKPerH: rateKPerH('Full power, from cold', 50, 5000).default(900),
  lagS: plainNumber('Thermocouple lags', 0, 600, 's').default(40),
});

/** How close the shop measures: sections by the caliper, lengths by the rule, mass by the scale. Common practice, no source. */
export const measuringSchema = z.strictObject({
  caliperMm: lengthWithinMm('Caliper, right to', 0.005, 2, { fine: true }).default(0.05),
  ruleMm: lengthWithinMm('Rule, right to', 0.05, 5, { fine: true }).default(0.5),
  scaleKg: weightKg('Scale, right to', 0.0001, 1).default(0.005),
});

const WORKING_DAYS = {
  week: 'Monday to Friday',
  six: 'Monday to Saturday',
  weekend: 'Saturday and Sunday',
  all: 'every day',
} as const;

/** When the shop works, and how long its cold work takes. Hours of the clock, minutes. Common practice, no source. */
export const workSchema = z.strictObject({
  days: choice('Days', WORKING_DAYS).default('week'),
  fromH: plainNumber('From', 0, 24, 'h').default(8),
  toH: plainNumber('To', 0, 24, 'h').default(17),
  makers: count('Makers', 1, 2).default(1),
  /** Side by side in the fire. */
  barsInFire: count('Bars in the fire', 1, 8).default(2),
  /** Until a forge that was cold is hot enough. */
  lightMin: plainNumber('To heat the forge', 0, 240, 'min').default(20),
  /** Out of the fire: carried, pressed or hammered, put back. */
  heatMin: plainNumber('At the dies, each heat', 0.5, 30, 'min').default(3),
  sawMin: plainNumber('To saw through 50 × 50 mm (2 × 2")', 0.5, 120, 'min').default(5),
  grindMin: plainNumber('To grind 1 mm (3/64") off it', 0.1, 120, 'min').default(3),
  lineMin: plainNumber('For anything else, each line', 0, 60, 'min').default(2),
});

const against = (kind: HotClass, label: string) => {
  const { cMPa, fromC, toC, within, by } = HOT_WORKING[kind];
  const row = `${cMPa[0]} to ${cMPa[1]} MPa from ${fromC} to ${toC} °C, ± ${Math.round(100 * within)} %`;
  return plainNumber(label, 0.2, 5, '×', `1 × is ${row}: ${by}`).default(1);
};

/** How strong the shop finds its steels hot, against the rows of the table. */
export const hotSchema = z.strictObject({
  'ordinary steel': against('ordinary steel', 'Ordinary steels'),
  stainless: against('stainless', 'Stainless'),
  'chromium steel': against('chromium steel', 'Chromium steels'),
  nickel: against('nickel', 'Nickel'),
  copper: against('copper', 'Copper'),
});

/**
 * What a shop's saw, dies and fire take. Every default is the handbook's (mechanics, "Losses"; heat): common practice, no
 * source.
 */
export const shopSchema = z.strictObject({
  /** The named set-up that these numbers came from. */
  name: nameText(60, 'The set-up needs a name').default('Our shop'),
  lengths: displaySchema.default({ unit: 'mm', division: 0.5 }),
  masses: z.enum(['kg', 'lb']).default('kg'),
  temperatures: z.enum(['C', 'F']).default('C'),
  /** Saw kerf, mm. */
  kerfMm: lengthOrNoneMm('Kerf', 10, { fine: true }).default(1),
  saw: choice('Saw', { 'band saw': 'Band saw', 'abrasive saw': 'Abrasive saw', hacksaw: 'Hacksaw' }).default(
    'band saw',
  ),
  grinder: choice('Grinder', {
    disc: 'Disc',
    belt: 'Belt',
    'surface grinder': 'Surface grinder',
    mill: 'Mill',
  }).default('disc'),
  /** Off each faying face, and off each end after welding and drawing, mm. */
  fayingMm: lengthOrNoneMm('Off a faying face', 5, { fine: true }).default(0.4),
  cropMm: lengthOrNoneMm('End crop', 100).default(10),
  /** Stock as the dealer sells it where a material names no packages; shortest offcut that goes back on the rack. mm. */
  stockLengthMm: lengthWithinMm('Bars are sold in', 100, 10_000).default(1000),
  keepMm: lengthOrNoneMm('Offcuts kept from', 2000).default(80),
  currency: z.string().max(6).default(''),
  /** 0: not known. */
  hourPrice: plainNumber('An hour of work', 0, 1e6).default(0),
  abrasivePrice: plainNumber('Belts and discs, an hour of grinding', 0, 1e6).default(0),
  press: pressSchema.default(() => pressSchema.parse({})),
  forge: forgeSchema.default(() => forgeSchema.parse({})),
  kiln: kilnSchema.default(() => kilnSchema.parse({})),
  hot: hotSchema.default(() => hotSchema.parse({})),
  measuring: measuringSchema.default(() => measuringSchema.parse({})),
  work: workSchema.default(() => workSchema.parse({})),
  handles: z
    .array(handleSchema)
    .min(1, 'Name at least one handle bar')
    .max(30)
    .default(() => HANDLES.map((h) => ({ ...h }))),
  /** The handle in use, by its name, and how hot its root gets, °C. */
  handle: z.string().max(60).default('No. 6 reinforcing bar'),
  // Bright orange where it leaves a fire for welding: there it bends (common practice, no source).
  handleRootC: temperatureC('Its root gets', 20, 1100).default(900),
  /** Share of the mass lost to scale in each heat, 0…1. */
  scalePerHeat: share('Scale each heat', 0, 0.2).default(0.01),
  /** Length of bar under the dies at one bite, mm. */
  biteMm: lengthWithinMm('Bite', 1, 500).default(30),
  /** How much a bite spreads, against Tomlinson and Stringer. */
  spread: plainNumber(
    'Spread',
    0.3,
    2.5,
    '×',
    '1 × is Tomlinson and Stringer’s relation for open dies',
  ).default(1),
  /** Most of the height taken in one pass, 0…1. */
  reductionPerPass: share('Taken in a pass', 0.01, 0.6).default(0.15),
  /** Distance from which the finished picture is looked at, mm. */
  viewingMm: lengthWithinMm('Looked at from', 50, 5000).default(300),
});

/** The shop's settings as stored in a plan. */
export type ShopSettings = z.infer<typeof shopSchema>;

/** Settings together with the materials that may be used. */
export interface Shop extends ShopSettings {
  readonly lengths: LengthDisplay;
  readonly materials: readonly Material[];
}

export const customMaterialsSchema = z.array(materialSchema).max(200);

/** The shop a plan is worked out for: its settings, and the first table with the plan's own materials over it. */
export function shopWith(settings: ShopSettings, own: readonly Material[] = []): Shop {
  const ids = new Set(own.map((m) => m.id));
  return { ...settings, materials: [...MATERIALS.filter((m) => !ids.has(m.id)), ...own] };
}

/** The same from some of the settings, the rest as first proposed. Throws what the schema refuses. */
export const makeShop = (settings: Partial<ShopSettings> = {}, own: readonly Material[] = []): Shop =>
  shopWith(shopSchema.parse(settings), own);

/** The code a field uses for a material: its place in the table, from 1; 0 is "no steel here". */
export function materialCode(shop: Shop, id: string): number {
  const index = shop.materials.findIndex((m) => m.id === id);
  if (index < 0) throw new Error(`no material “${id}”`);
  return index + 1;
}

export const codedMaterial = (shop: Shop, code: number): Material => shop.materials[code - 1];

/** C (MPa) and m of a material at a temperature, by its row of the table, as the shop finds it. */
export function hotOf(shop: Shop, material: Material, atC: number): { cMPa: number; m: number } {
  const kind = hotClass(material);
  const { cMPa, m } = hotConstants(kind, atC);
  return { cMPa: cMPa * shop.hot[kind] * withinRow(material, atC), m };
}
