import { z } from 'zod';

/** What an instrument of the shop measures, and the units it may say it in, with what one of them is in the unit that is kept. */
export const QUANTITIES = {
  length: { mm: 1, in: 25.4 },
  mass: { kg: 1, g: 0.001, lb: 0.453_592_37, oz: 0.028_349_523_125 },
  temperature: { C: 1, F: 1 },
} as const;

export type MeasuredQuantity = keyof typeof QUANTITIES;

const UNITS = Object.values(QUANTITIES).flatMap((units) => Object.keys(units));

/**
 * One reading as an instrument sends it (docs/instruments.md): a small open protocol, so that any caliper, scale or pyrometer with a
 * few lines of glue can speak it.
 */
export const readingSchema = z
  .strictObject({
    instrument: z.string().trim().min(1, 'instrument must be named').max(60),
    quantity: z.enum(Object.keys(QUANTITIES) as [MeasuredQuantity, ...MeasuredQuantity[]], {
      error: 'quantity must be one of: length, mass, temperature',
    }),
    value: z.number({ error: 'value must be a number' }).min(-1e6).max(1e6),
    unit: z.enum(UNITS as [string, ...string[]], { error: `unit must be one of: ${UNITS.join(', ')}` }),
    at: z.iso.datetime('at must be an instant such as 2026-01-31T12:00:00Z'),
  })
  .refine(({ quantity, unit }) => unit in QUANTITIES[quantity], {
    path: ['unit'],
    error: 'unit is not one of this quantity',
  });

export type Reading = z.infer<typeof readingSchema>;

/** A reading in the unit that is kept: mm, kg or °C. */
export function keptValue({ quantity, value, unit }: Reading): number {
  if (quantity === 'temperature') return unit === 'F' ? ((value - 32) * 5) / 9 : value;
  const units: Readonly<Record<string, number>> = QUANTITIES[quantity];
  return value * units[unit];
}
