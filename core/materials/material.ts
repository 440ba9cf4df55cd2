import { z } from 'zod';

/** Nominal composition, mass %. */
const composition = z.strictObject({
  C: z.number().min(0).max(100).optional(),
  Mn: z.number().min(0).max(100).optional(),
  Cr: z.number().min(0).max(100).optional(),
  Ni: z.number().min(0).max(100).optional(),
  Mo: z.number().min(0).max(100).optional(),
  V: z.number().min(0).max(100).optional(),
  W: z.number().min(0).max(100).optional(),
  Cu: z.number().min(0).max(100).optional(),
});

const window = z.tuple([z.number(), z.number()]);

/** A bar, sheet or rod as it is sold: section and length, mm; the price in the shop's own money. */
export const packageSchema = z.strictObject({
  widthMm: z.number({ error: 'Package width must be a number' }).positive().max(2000),
  thicknessMm: z.number({ error: 'Package thickness must be a number' }).positive().max(500),
  lengthMm: z.number({ error: 'Package length must be a number' }).positive().max(10_000),
  price: z.number().min(0).max(1e6).optional(),
});

export type Package = z.infer<typeof packageSchema>;

/** A span of temperatures, °C. */
const span = z.tuple([z.number().min(-200).max(1700), z.number().min(-200).max(1700)]);

/** How it is hardened and tempered: a starting point; the maker of the steel says better. °C, hours. */
export const hardeningSchema = z.strictObject({
  austenitiseC: span,
  quench: z.string().max(60),
  temperC: span,
  temperHours: z.number().positive().max(48),
  temperTimes: z.number().int().min(1).max(5),
  hrc: z.tuple([z.number(), z.number()]),
  source: z.string().max(200),
});

export type Hardening = z.infer<typeof hardeningSchema>;

/** One steel or other metal as the shop knows it. Temperatures °C, density kg/m³, tone 0 (black) … 1 (bright) when etched. */
export const materialSchema = z.strictObject({
  id: z.string().min(1).max(40),
  name: z.string().trim().min(1, 'The material needs a name').max(60),
  source: z.string().max(200),
  composition,
  densityKgM3: z.number().min(1000).max(25000),
  tone: z.number().min(0).max(1),
  etches: z.string().max(80),
  /** Welding window; null when it does not weld to steel in the fire. */
  weldC: window.nullable(),
  /** The hottest it may ever be taken in the fire. */
  limitC: z.number(),
  /** As it is sold. */
  packages: z.array(packageSchema).max(40).optional(),
  hardening: hardeningSchema.optional(),
  /** Colour of the etched face where it is not a grey, as [r, g, b] 0…255 at full brightness. */
  tint: z.tuple([z.number(), z.number(), z.number()]).optional(),
});

export type Material = z.infer<typeof materialSchema>;

export const materialById = (materials: readonly Material[], id: string): Material | undefined =>
  materials.find((m) => m.id === id);

/**
 * A first tone for a material of this composition, 0…1: 0.25 at 0.8 % C, +0.3 at 2 % Ni levelling off towards 1 at pure
 * nickel, −0.1 per 1 % Mn, +0.05 per 1 % Cr, lighter below 0.3 % C. A rule of thumb, invented; the shop sets its own.
 */
export function proposedTone({ C = 0, Mn = 0, Cr = 0, Ni = 0 }: Material['composition']): number {
  const plain = 0.25 + (C < 0.3 ? 0.35 * (1 - C / 0.3) : 0) - 0.1 * Mn + 0.05 * Cr;
  // Half the way to white that 2 % nickel makes, 0.3 of 0.75, sets how fast it levels off.
  const nickel = 1 - Math.exp((Math.log(1 - 0.3 / 0.75) * Ni) / 2);
  return Math.min(1, Math.max(0, plain + (1 - plain) * nickel));
}
