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

/** One steel or other metal as the shop knows it. Temperatures °C, density kg/m³, tone 0 (black) … 1 (bright) when etched. */
export const materialSchema = z.strictObject({
  id: z.string().min(1).max(40),
  name: z.string().min(1).max(60),
  source: z.string().max(200),
  composition,
  densityKgM3: z.number().min(1000).max(25000),
  tone: z.number().min(0).max(1),
  etches: z.string().max(80),
  /** Welding window; null when it does not weld to steel in the fire. */
  weldC: window.nullable(),
  /** The hottest it may ever be taken in the fire. */
  limitC: z.number(),
  /** Colour of the etched face where it is not a grey, as [r, g, b] 0…255 at full brightness. */
  tint: z.tuple([z.number(), z.number(), z.number()]).optional(),
});

export type Material = z.infer<typeof materialSchema>;

export const materialById = (materials: readonly Material[], id: string): Material | undefined =>
  materials.find((m) => m.id === id);
