import { z } from 'zod';
import { nameText } from '../units/names.ts';
import { count, lengthMm, plainNumber, share, temperatureC } from '../units/quantities.ts';

/** Nominal composition, mass %. */
const composition = z.strictObject({
  C: plainNumber('C', 0, 100).optional(),
  Mn: plainNumber('Mn', 0, 100).optional(),
  Cr: plainNumber('Cr', 0, 100).optional(),
  Ni: plainNumber('Ni', 0, 100).optional(),
  Mo: plainNumber('Mo', 0, 100).optional(),
  V: plainNumber('V', 0, 100).optional(),
  W: plainNumber('W', 0, 100).optional(),
  Cu: plainNumber('Cu', 0, 100).optional(),
  Zn: plainNumber('Zn', 0, 100).optional(),
});

const window = z.tuple([temperatureC('Welds from', 300, 1700), temperatureC('Welds up to', 300, 1700)]);

/** A bar, sheet or rod as it is sold: section and length, mm; the price in the shop's own money. */
export const packageSchema = z.strictObject({
  widthMm: lengthMm('Width', 2000, { fine: true }),
  thicknessMm: lengthMm('Thickness', 500, { fine: true }),
  lengthMm: lengthMm('Length'),
  price: plainNumber('Price', 0, 1e6).optional(),
});

export type Package = z.infer<typeof packageSchema>;

/** A span of temperatures, °C. */
const span = (what: string, least: number, most: number) =>
  z.tuple([temperatureC(`${what} from`, least, most), temperatureC(`${what} up to`, least, most)]);

/** How it is hardened and tempered: a starting point; the maker of the steel says better. °C, hours. */
export const hardeningSchema = z.strictObject({
  austenitiseC: span('Austenitise', 600, 1250),
  quench: z.string().max(60),
  temperC: span('Temper', -200, 700),
  temperHours: plainNumber('Each temper', 0.1, 48, 'h'),
  temperTimes: count('Tempers', 1, 5),
  hrc: z.tuple([plainNumber('Hardness from', 20, 70, 'HRC'), plainNumber('Hardness up to', 20, 70, 'HRC')]),
  source: z.string().max(200),
});

export type Hardening = z.infer<typeof hardeningSchema>;

const channel = z.number().min(0).max(255);

/** One steel or other metal as the shop knows it. Temperatures °C, density kg/m³, tone 0 (black) … 1 (bright) when etched. */
export const materialSchema = z.strictObject({
  id: z.string().min(1).max(40),
  name: nameText(60, 'The material needs a name'),
  source: z.string().max(200),
  composition,
  densityKgM3: plainNumber('Density', 1000, 25_000, 'kg/m³'),
  tone: plainNumber('Tone when etched, black to bright', 0, 1),
  etches: z.string().max(80),
  /** Welding window; null when it does not weld to steel in the fire. */
  weldC: window.nullable(),
  /** The hottest it may ever be taken in the fire. */
  limitC: temperatureC('Never above', 300, 1800),
  /** As it is sold. */
  packages: z.array(packageSchema).max(40).optional(),
  hardening: hardeningSchema.optional(),
  /** Colour of the etched face where it is not a grey, as [r, g, b] 0…255 at full brightness. */
  tint: z.tuple([channel, channel, channel]).optional(),
});

export type Material = z.infer<typeof materialSchema>;

export const materialById = (materials: readonly Material[], id: string): Material | undefined =>
  materials.find((m) => m.id === id);

/**
 * A first tone for a material of this composition, 0…1: 0.2 at 0.8 % C, −0.1 per 1 % Mn, +0.05 per 1 % Cr, lighter by up to 0.42
 * below 0.3 % C; nickel takes it towards white by 1 − e^(−0.51·Ni^1.74), 0.82 of the way at 2 %. A rule of thumb, fitted to our
 * own table of tones (within 0.1 of every steel in it but wrought iron); the shop sets its own.
 */
export function proposedTone({ C = 0, Mn = 0, Cr = 0, Ni = 0 }: Material['composition']): number {
  const plain = 0.2 + 0.42 * Math.min(1, Math.max(0, (0.3 - C) / 0.1)) - 0.1 * Mn + 0.05 * Cr;
  const nickel = 1 - Math.exp(-0.51 * Ni ** 1.74);
  return Math.min(BRIGHTEST, Math.max(0, plain + (1 - plain) * nickel));
}

/** Nothing etches brighter than nickel. */
const BRIGHTEST = 0.97;

/** What two powders come to that are mixed by mass: `share` (0…1) of the second. */
export function mixture(
  first: Material,
  second: Material,
  share: number,
): Pick<Material, 'composition' | 'densityKgM3' | 'tone'> {
  const elements = Object.keys({
    ...first.composition,
    ...second.composition,
  }) as (keyof Material['composition'])[];
  const composition = Object.fromEntries(
    elements.map((e) => [
      e,
      round((1 - share) * (first.composition[e] ?? 0) + share * (second.composition[e] ?? 0)),
    ]),
  );
  const litres = (1 - share) / first.densityKgM3 + share / second.densityKgM3;
  return {
    composition,
    densityKgM3: Math.round(1 / litres),
    tone: round(proposedTone(composition)),
  };
}

const round = (x: number): number => Math.round(1000 * x) / 1000;

/** How much of the second powder there is, 0…1 by mass. */
export const mixedShare = share('Of the second, by mass', 0.001, 0.999);

/**
 * Two powders mixed by mass as a material of its own: it welds as the one there is more of, never hotter than either bears. Hardening
 * is left open: nobody has published it.
 */
export function mixed(first: Material, second: Material, part: number, id: string): Material {
  const [more, less, percent] = part <= 0.5 ? [first, second, 100 * part] : [second, first, 100 * (1 - part)];
  const limitC = Math.min(first.limitC, second.limitC);
  const made = mixture(first, second, part);
  return {
    ...more,
    id,
    name: `${more.name} + ${Math.round(10 * percent) / 10} % ${less.name}`.slice(0, 60),
    source: 'mixed by mass; tone by the rule of thumb',
    etches: made.tone < 0.35 ? 'dark' : made.tone < 0.65 ? 'mid' : 'bright',
    ...made,
    weldC: more.weldC && more.weldC[0] < limitC ? [more.weldC[0], Math.min(more.weldC[1], limitC)] : null,
    limitC,
    packages: undefined,
    hardening: undefined,
  };
}
