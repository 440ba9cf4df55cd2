import { z } from 'zod';
import { HANDLES, type Handle } from '../forging/handle.ts';
import { handyNumbers } from '../units/handy.ts';
import type { Units } from '../units/quantityText.ts';
import { type ShopSettings, shopSchema } from './shop.ts';

/** How inches or millimetres bring weights and temperatures with them. */
const UNITS = {
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

/** A shop in inches, pounds and °F, or in millimetres, kilograms and °C: what its maker never set is set anew, nothing else of it changes. */
export function inUnit(settings: ShopSettings, unit: 'in' | 'mm'): ShopSettings {
  const here: Units = {
    lengths: settings.lengths,
    masses: settings.masses,
    temperatures: settings.temperatures,
  };
  const to = UNITS[unit];
  return { ...moved(settings, proposed(here), proposed(to)), ...to };
}
