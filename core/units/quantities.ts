import { z } from 'zod';

/** The longest bar and the widest section that a plan may name, mm: past any shop, short of nonsense. */
export const MOST_LENGTH_MM = 10_000;
export const MOST_SECTION_MM = 500;

const number = (label: string) => z.number({ error: `${label} must be a number` });

/** A length that must be there. */
export const lengthMm = (label: string, most = MOST_LENGTH_MM) =>
  number(label).positive(`${label} must be more than 0 mm`).max(most, `${label} may be at most ${most} mm`);

/** A length that may be nothing. */
export const lengthOrNoneMm = (label: string, most = MOST_SECTION_MM) =>
  number(label).min(0, `${label} cannot be less than 0 mm`).max(most, `${label} may be at most ${most} mm`);

/** A distance to either side. */
export const signedMm = (label: string, most = MOST_SECTION_MM) =>
  number(label)
    .min(-most, `${label} must be at least −${most} mm`)
    .max(most, `${label} may be at most ${most} mm`);

export const count = (label: string, least: number, most: number) =>
  number(label)
    .int(`${label} must be a whole number`)
    .min(least, `${label} must be at least ${least}`)
    .max(most, `${label} may be at most ${most}`);

export const angleDeg = (label: string, least: number, most: number) =>
  number(label)
    .min(least, `${label} must be at least ${least}°`)
    .max(most, `${label} may be at most ${most}°`);

/** Times in the fire: each costs scale. */
export const heats = count('Heats', 0, 40);

export const materialId = (label: string) =>
  z.string({ error: `${label} must name a material` }).min(1, `${label} must name a material`);
