import { z } from 'zod';
import type { LengthDisplay } from '../units/length.ts';
import { type Material, materialSchema } from '../materials/material.ts';
import { MATERIALS } from '../materials/table.ts';

const displaySchema = z.union([
  z.strictObject({ unit: z.literal('in'), division: z.union([z.literal(16), z.literal(32), z.literal(64)]) }),
  z.strictObject({
    unit: z.literal('mm'),
    division: z.union([z.literal(0.1), z.literal(0.5), z.literal(1)]),
  }),
]);

const above0 = (max: number) => z.number().positive().max(max);

/**
 * What a shop's saw, dies and fire take. Every default is the handbook's (mechanics, "Losses"): common practice, no source.
 */
export const shopSchema = z.strictObject({
  lengths: displaySchema.default({ unit: 'mm', division: 0.5 }),
  masses: z.enum(['kg', 'lb']).default('kg'),
  temperatures: z.enum(['C', 'F']).default('C'),
  /** Saw kerf, mm. */
  kerfMm: z.number().min(0).max(10).default(1),
  /** Share of the mass lost to scale in each heat, 0…1. */
  scalePerHeat: z.number().min(0).max(0.2).default(0.01),
  /** Length of bar under the dies at one bite, mm. */
  biteMm: above0(500).default(30),
  /** Most of the height taken in one pass, 0…1. */
  reductionPerPass: z.number().min(0.01).max(0.6).default(0.15),
  /** Distance from which the finished picture is looked at, mm. */
  viewingMm: above0(5000).default(300),
});

/** The shop's settings as stored in a plan. */
export type ShopSettings = z.infer<typeof shopSchema>;

/** Settings together with the materials that may be used. */
export interface Shop extends ShopSettings {
  readonly lengths: LengthDisplay;
  readonly materials: readonly Material[];
}

export const customMaterialsSchema = z.array(materialSchema).max(200);

/** The shop a plan is reckoned for: its settings, and the first table with the plan's own materials over it. */
export function makeShop(settings: Partial<ShopSettings> = {}, own: readonly Material[] = []): Shop {
  const ids = new Set(own.map((m) => m.id));
  return { ...shopSchema.parse(settings), materials: [...MATERIALS.filter((m) => !ids.has(m.id)), ...own] };
}

/** The code a field uses for a material: its place in the table, from 1; 0 is "no steel here". */
export function materialCode(shop: Shop, id: string): number {
  const index = shop.materials.findIndex((m) => m.id === id);
  if (index < 0) throw new Error(`no material “${id}”`);
  return index + 1;
}

export const codedMaterial = (shop: Shop, code: number): Material => shop.materials[code - 1];
