import { z } from 'zod';
import { divisionMm } from './length.ts';
import { type Quantity, quantityWithin, schemaOfEach, schemaWithin } from './quantities.ts';
import type { Units } from './quantityText.ts';

/** First numbers as a maker would set them in his own units: an inch shop begins with 1 1/2", not with 1.496". */

const INCH = 25.4;

/** From so many inches on, to so many. */
const INCH_STEPS: readonly (readonly [from: number, step: number])[] = [
  [24, 12],
  [6, 1 / 2],
  [1 / 4, 1 / 16],
  [1 / 8, 1 / 32],
  [1 / 32, 1 / 64],
];
/** Finer than any fraction: thousandths, and twentieths of a millimetre. */
const FINE_INCH = 0.005;
const FINE_MM = 0.05;
const STEP_F = 10;
const STEP_C = 5;
const STEP_F_PER_H = 10;

const toStep = (value: number, step: number): number => Math.round(value / step) * step;

function handyLength(mm: number, q: Quantity, { lengths }: Units): number {
  if (lengths.unit === 'mm') return toStep(mm, q.fine ? FINE_MM : divisionMm(lengths));
  const inches = Math.abs(mm) / INCH;
  const step =
    INCH_STEPS.find(([from]) => inches >= from)?.[1] ?? (q.fine ? FINE_INCH : 1 / lengths.division);
  return toStep(mm, INCH * step);
}

function nearest(value: number, q: Quantity, units: Units): number {
  switch (q.kind) {
    case 'length':
      return handyLength(value, q, units);
    case 'temperature':
      return units.temperatures === 'F'
        ? ((toStep((value * 9) / 5 + 32, STEP_F) - 32) * 5) / 9
        : toStep(value, STEP_C);
    case 'rate':
      return units.temperatures === 'F' ? toStep(value * 1.8, STEP_F_PER_H) / 1.8 : value;
    default:
      return value;
  }
}

/** The nearest value that a maker would set; itself where that would leave its bounds, or make nothing of something. */
export function handy(value: number, q: Quantity, units: Units): number {
  const near = nearest(value, q, units);
  const allowed = q.above ? near > q.least : near >= q.least;
  return allowed && near <= q.most && (near !== 0 || value === 0) ? near : value;
}

/** The same for every number of an object that its schema says something of. */
export function handyNumbers<T>(schema: z.ZodType, value: T, units: Units): T {
  if (typeof value === 'number') {
    const q = quantityWithin(schema);
    return (q ? handy(value, q, units) : value) as T;
  }
  if (Array.isArray(value)) {
    const each = schemaOfEach(schema);
    return (each ? value.map((v: unknown) => handyNumbers(each, v, units)) : value) as T;
  }
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, v]: [string, unknown]) => {
      const own = schemaWithin(schema, key);
      return [key, own ? handyNumbers(own, v, units) : v];
    }),
  ) as T;
}
