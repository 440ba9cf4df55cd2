import { z } from 'zod';
import './ownWords.ts';

/** The longest bar and the widest section that a plan may name, mm: past any shop, short of nonsense. */
export const MOST_LENGTH_MM = 10_000;
export const MOST_SECTION_MM = 500;

/** What a number is. `least` and `most` are in the unit it is kept in: mm, degrees, 0…1, °C, kg, kN, K/h, K. */
export interface Quantity {
  readonly kind:
    | 'length'
    | 'angle'
    /** An angle along a bar: kept in degrees to the metre. */
    | 'twist'
    | 'number'
    | 'share'
    | 'temperature'
    | 'temperature difference'
    | 'mass'
    | 'force'
    | 'rate';
  readonly label: string;
  readonly least: number;
  readonly most: number;
  /** More than `least`, never as little. */
  readonly above?: boolean;
  readonly whole?: boolean;
  /** A length finer than the shop's division: thin layers, kerfs, grinding. */
  readonly fine?: boolean;
  /** Of a plain number, where it has one. */
  readonly unit?: string;
  /** A line for someone who does not know it. */
  readonly hint?: string;
  /** Where it may be left out: the number of the shop that holds instead. */
  readonly shop?: string;
}

/** One of a few, with the words for each. */
export interface Choosing {
  readonly kind: 'choice';
  readonly label: string;
  readonly options: readonly (readonly [value: string, words: string])[];
}

/** The id of a material of the table. */
export interface Naming {
  readonly kind: 'material';
  readonly label: string;
}

/** What is said once of an entry, beside its schema: fields, messages, documentation and tests read it here. */
export type Entry = Quantity | Choosing | Naming;

const entries = z.registry<Entry>();

type Extra = Pick<Quantity, 'fine' | 'hint' | 'shop'>;

const KEPT_IN: Record<Quantity['kind'], string> = {
  length: ' mm',
  angle: '°',
  twist: '°/m',
  number: '',
  share: '',
  temperature: ' °C',
  'temperature difference': ' K',
  mass: ' kg',
  force: ' kN',
  rate: ' K/h',
};

const bound = (q: Quantity, value: number): string =>
  `${value < 0 ? `−${-value}` : value}${q.unit ? ` ${q.unit}` : KEPT_IN[q.kind]}`;

const tooLittle = (q: Quantity): string =>
  q.above
    ? `${q.label} must be more than ${bound(q, q.least)}`
    : q.kind === 'length' && q.least === 0
      ? `${q.label} cannot be less than 0 mm`
      : `${q.label} must be at least ${bound(q, q.least)}`;
const tooMuch = (q: Quantity): string => `${q.label} may be at most ${bound(q, q.most)}`;

/** A number of a kind, within its bounds. */
function quantity(q: Quantity): z.ZodNumber {
  const number = z.number({ error: `${q.label} must be a number` });
  const whole = q.whole ? number.int(`${q.label} must be a whole number`) : number;
  const low = q.above ? whole.gt(q.least, tooLittle(q)) : whole.min(q.least, tooLittle(q));
  return low.max(q.most, tooMuch(q)).register(entries, q);
}

/** A length that must be there, mm. */
export const lengthMm = (label: string, most = MOST_LENGTH_MM, extra: Extra = {}) =>
  quantity({ kind: 'length', label, least: 0, above: true, most, ...extra });

/** A length that may be nothing, mm. */
export const lengthOrNoneMm = (label: string, most = MOST_SECTION_MM, extra: Extra = {}) =>
  quantity({ kind: 'length', label, least: 0, most, ...extra });

/** A distance to either side, mm. */
export const signedMm = (label: string, most = MOST_SECTION_MM, extra: Extra = {}) =>
  quantity({ kind: 'length', label, least: -most, most, ...extra });

export const lengthWithinMm = (label: string, least: number, most: number, extra: Extra = {}) =>
  quantity({ kind: 'length', label, least, most, ...extra });

export const count = (label: string, least: number, most: number, hint?: string) =>
  quantity({ kind: 'number', label, whole: true, least, most, ...(hint && { hint }) });

export const plainNumber = (label: string, least: number, most: number, unit?: string, hint?: string) =>
  quantity({ kind: 'number', label, least, most, ...(unit && { unit }), ...(hint && { hint }) });

export const angleDeg = (label: string, least: number, most: number, hint?: string) =>
  quantity({ kind: 'angle', label, least, most, ...(hint && { hint }) });

/** An angle along a bar, degrees to the metre. */
export const twistDegPerM = (label: string, most: number, hint?: string) =>
  quantity({ kind: 'twist', label, least: -most, most, ...(hint && { hint }) });

/** A part of a whole, 0…1. */
export const share = (label: string, least: number, most: number, extra: Extra = {}) =>
  quantity({ kind: 'share', label, least, most, ...extra });

export const temperatureC = (label: string, least: number, most: number) =>
  quantity({ kind: 'temperature', label, least, most });

/** A difference of temperatures, K. */
export const differenceK = (label: string, least: number, most: number) =>
  quantity({ kind: 'temperature difference', label, least, most });

export const weightKg = (label: string, least: number, most: number) =>
  quantity({ kind: 'mass', label, least, most });

export const forceKN = (label: string, least: number, most: number) =>
  quantity({ kind: 'force', label, least, most });

/** How fast a kiln goes, K/h. */
export const rateKPerH = (label: string, least: number, most: number) =>
  quantity({ kind: 'rate', label, least, most });

/** How hot a weld is taken, °C. */
export const weldingHeat = temperatureC('Welding heat', 500, 1400);

/** Times in the fire: each costs scale. */
export const heats = count('Heats', 0, 40);

export const materialId = (label: string) =>
  z
    .string({ error: `${label} must name a material` })
    .min(1, `${label} must name a material`)
    .max(60, `${label} must name a material`)
    .register(entries, { kind: 'material', label });

/** One of a few, each with its words. */
export function choice<const T extends Readonly<Record<string, string>>>(label: string, words: T) {
  const values = Object.keys(words) as (keyof T & string)[];
  return z
    .enum(values as [keyof T & string, ...(keyof T & string)[]], {
      error: `${label} must be one of: ${values.join(', ')}`,
    })
    .register(entries, { kind: 'choice', label, options: Object.entries(words) });
}

const inner = (schema: z.ZodType): z.ZodType | null =>
  schema instanceof z.ZodOptional || schema instanceof z.ZodNullable || schema instanceof z.ZodDefault
    ? (schema.unwrap() as z.ZodType)
    : schema instanceof z.ZodUnion && schema.options.length > 0
      ? (schema.options[0] as z.ZodType)
      : null;

/** What was said of a schema; of one that may be left out, what was said of what it holds. */
function entryOf(schema: z.ZodType): Entry | undefined {
  for (let s: z.ZodType | null = schema; s; s = inner(s)) {
    const entry = entries.get(s);
    if (entry) return entry;
  }
  return undefined;
}

function within(schema: z.ZodType, key: string): z.ZodType | undefined {
  if (schema instanceof z.ZodObject) return schema.shape[key] as z.ZodType | undefined;
  if (schema instanceof z.ZodArray) return within(schema.element as z.ZodType, key);
  if (schema instanceof z.ZodRecord) return schema.valueType as z.ZodType;
  if (schema instanceof z.ZodTuple) return schema.def.items[Number(key)] as z.ZodType | undefined;
  if (schema instanceof z.ZodUnion) {
    for (const option of schema.options) {
      const found = within(option as z.ZodType, key);
      if (found) return found;
    }
    return undefined;
  }
  const one = inner(schema);
  return one ? within(one, key) : undefined;
}

/** The schema at a path such as “press.dieLengthMm”; lists are passed through, of several shapes the first that has it counts. */
function schemaAt(schema: z.ZodType, path: string): z.ZodType | undefined {
  return path
    .split('.')
    .reduce<z.ZodType | undefined>((at, key) => (at ? within(at, key) : undefined), schema);
}

/** What was said of the entry at a path. Throws where nothing was: a mistake of ours. */
function entryAt(schema: z.ZodType, path: string): Entry {
  const at = schemaAt(schema, path);
  const entry = at && entryOf(at);
  if (!entry) throw new Error(`nothing is said of “${path}”`);
  return entry;
}

/** The schema of a part by its key, and of what a list holds; nothing where there is none. */
export const schemaWithin = within;
export function schemaOfEach(schema: z.ZodType): z.ZodType | undefined {
  if (schema instanceof z.ZodArray) return schema.element as z.ZodType;
  const one = inner(schema);
  return one ? schemaOfEach(one) : undefined;
}

/** What was said of a number by itself, if anything was. */
export function quantityWithin(schema: z.ZodType): Quantity | null {
  const entry = entryOf(schema);
  return entry && entry.kind !== 'choice' && entry.kind !== 'material' ? entry : null;
}

/** What was said of a number by itself. */
export const quantityOf = (schema: z.ZodType): Quantity => entryOf(schema) as Quantity;

/** The same for a number. */
function quantityAt(schema: z.ZodType, path: string): Quantity {
  const entry = entryAt(schema, path);
  if (entry.kind === 'choice' || entry.kind === 'material') throw new Error(`“${path}” is no number`);
  return entry;
}

/** The numbers of a schema by their paths. */
export const quantitiesOf =
  (schema: z.ZodType) =>
  (path: string): Quantity =>
    quantityAt(schema, path);

/** How many a list at a path may hold. Throws where its schema sets no limit: a mistake of ours. */
export function mostIn(schema: z.ZodType, path: string): number {
  let at = schemaAt(schema, path);
  while (at && !(at instanceof z.ZodArray)) at = inner(at) ?? undefined;
  const most = at && z.toJSONSchema(at, { unrepresentable: 'any' }).maxItems;
  if (most === undefined) throw new Error(`nothing is said of how many “${path}” may hold`);
  return most;
}

/** Every key of an object's schema that something was said of, in its order; of several shapes those of all. */
export function entriesOf(schema: z.ZodType): (readonly [key: string, entry: Entry])[] {
  const objects = schema instanceof z.ZodUnion ? (schema.options as z.ZodType[]) : [schema];
  const found = new Map<string, Entry>();
  for (const object of objects)
    if (object instanceof z.ZodObject)
      for (const [key, value] of Object.entries(object.shape)) {
        const entry = entryOf(value as z.ZodType);
        if (entry && !found.has(key)) found.set(key, entry);
      }
  return [...found];
}
