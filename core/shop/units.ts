import { z } from 'zod';
import { HANDLES, type Handle } from '../forging/handle.ts';
import { handyNumbers } from '../units/handy.ts';
import type { Units } from '../units/quantityText.ts';
import { type ShopSettings, shopSchema } from './shop.ts';

/** Inches bring pounds and °F with them, millimetres kilograms and °C. Taken by themselves nothing changes but how it is written. */
export const UNITS = {
  in: { lengths: { unit: 'in', division: 32 }, masses: 'lb', temperatures: 'F' },
  mm: { lengths: { unit: 'mm', division: 0.5 }, masses: 'kg', temperatures: 'C' },
} as const satisfies Record<'in' | 'mm', Units>;

/** Square bar as it is sold by the inch. */
const inchHandle = (h: Handle): Handle =>
  h.shape === 'square'
    ? { ...h, name: `Square bar ${h.sizeMm < 30 ? '1' : '1 1/4'} in`, sizeMm: h.sizeMm < 30 ? 25.4 : 31.75 }
    : h;

/** What is proposed to a shop that writes so: the defaults as such a shop would set them. */
function proposed(units: Units): ShopSettings {
  const plain = { ...shopSchema.parse({}), ...units };
  if (units.lengths.unit === 'mm') return plain;
  return { ...handyNumbers(shopSchema as z.ZodType, plain, units), handles: HANDLES.map(inchHandle) };
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Values of `now` that are still as proposed before, as they are proposed now; the maker's own stay. */
function moved<T extends object>(now: T, before: T, then: T): T {
  return Object.fromEntries(
    (Object.keys(now) as (keyof T)[]).map((key) => {
      const [mine, was, next] = [now[key], before[key], then[key]];
      if (same(mine, was)) return [key, next];
      const nested = typeof mine === 'object' && mine !== null && !Array.isArray(mine);
      return [key, nested ? moved(mine as object, was as object, next as object) : mine];
    }),
  ) as T;
}

/**
 * A shop that begins in inches, pounds and °F, or in millimetres, kilograms and °C: what its maker never set is proposed anew in
 * those. Not for a plan that is there: its numbers would change with the way they are written.
 */
export function inUnit(settings: ShopSettings, unit: 'in' | 'mm'): ShopSettings {
  const here: Units = {
    lengths: settings.lengths,
    masses: settings.masses,
    temperatures: settings.temperatures,
  };
  const to = UNITS[unit];
  const then = { ...moved(settings, proposed(here), proposed(to)), ...to };
  // The handle in use keeps its place where its name is another.
  const inUse = settings.handles.findIndex((h) => h.name === settings.handle);
  return inUse < 0 ? then : { ...then, handle: then.handles[inUse].name };
}
