import { USUAL_TAP } from '../canister/can.ts';
import type { Step } from '../plan/index.ts';
import { shopSchema } from '../shop/shop.ts';
import type { ShopSettings } from '../shop/shop.ts';
import { COMMON_PRACTICE } from '../units/figure.ts';
import type { Prior } from './estimate.ts';

/** What a number is one of: of everything done under one set-up, of one handle, powder, or kind of move. */
export type Per = 'set-up' | 'handle' | 'powder' | 'move';

/** How a number is written. */
export type Written = 'fine' | 'length' | 'percent' | 'degrees' | 'degrees a metre' | 'times';

/** A number that nobody knows beforehand. Lengths mm, angles degrees, shares of 1. */
export interface ShopNumber {
  readonly title: string;
  readonly per: Per;
  readonly written: Written;
  /** As the table has it, before anything was measured. */
  readonly table: Prior;
  /** How it follows from what was written down. */
  readonly formula: string;
  /** Where the table's value comes from. */
  readonly source: string;
  /** The number of the shop that it is, where plans are reckoned with it; a share of more than so much is refused there. */
  readonly field?: 'scalePerHeat' | 'kerfMm' | 'cropMm' | 'fayingMm' | 'spread';
  /** The tool or way of which each has a number of its own, and where the table begins by it. */
  readonly by?: Readonly<Record<string, number>>;
}

const shop = shopSchema.parse({});

const HANDBOOK = `${COMMON_PRACTICE}; how far shops differ is a judgement of ours`;

export const NUMBERS = {
  scale: {
    title: 'Scale, each heat',
    per: 'set-up',
    written: 'percent',
    table: { value: shop.scalePerHeat, sure: 0.004, spread: 0.002 },
    formula: '1 − (m₁ ÷ m₀)^(1 ÷ heats), from one weighing to the next with nothing else taken off between',
    source: `${HANDBOOK} (0.5 % fluxed or reducing, 3 % oxidising)`,
    field: 'scalePerHeat',
  },
  kerf: {
    title: 'Saw kerf',
    per: 'set-up',
    written: 'fine',
    table: { value: shop.kerfMm, sure: 0.4, spread: 0.1 },
    formula: '(length before − crops − lengths of all pieces) ÷ cuts',
    source: `${HANDBOOK} (band saw 0.9–1.1 mm, hacksaw about as much, abrasive 2–3 mm)`,
    field: 'kerfMm',
    by: { 'band saw': shop.kerfMm, hacksaw: shop.kerfMm, 'abrasive saw': 2.5 },
  },
  crop: {
    title: 'Cropped off an end',
    per: 'set-up',
    written: 'length',
    table: { value: shop.cropMm, sure: 3, spread: 3 },
    formula:
      'what the plan takes off and what was cut back beyond it; where nothing was, it was at most what the plan takes',
    source: `${HANDBOOK} (6–12 mm)`,
    field: 'cropMm',
  },
  faying: {
    title: 'Off a faying face',
    per: 'set-up',
    written: 'fine',
    table: { value: shop.fayingMm, sure: 0.2, spread: 0.1 },
    formula: '(size before − size after) ÷ faces ground',
    source: `${HANDBOOK} (disc or surface grinder 0.4 mm, belt 0.8 mm; a mill as a grinder)`,
    field: 'fayingMm',
    by: { disc: shop.fayingMm, 'surface grinder': shop.fayingMm, mill: shop.fayingMm, belt: 0.8 },
  },
  spread: {
    title: 'Spread under the dies',
    per: 'set-up',
    written: 'times',
    table: { value: shop.spread, sure: 0.15, spread: 0.06 },
    formula:
      'ln(w₁ ÷ w₀) ÷ ln(h₀ ÷ h₁) of a bar pressed on its height alone, against what the relation says of its passes',
    source:
      'A. Tomlinson, J. D. Stringer, Spread and elongation in flat tool forging, J. Iron Steel Inst. 193 (1959) 157–162; coefficients from memory',
    field: 'spread',
  },
  bite: {
    title: 'Bite, against the plan',
    per: 'set-up',
    written: 'times',
    table: { value: 1, sure: 0.12, spread: 0.08 },
    formula: 'length of bar under the dies at one bite ÷ bite planned',
    source: HANDBOOK,
  },
  section: {
    title: 'Sizes against the stop',
    per: 'set-up',
    written: 'percent',
    table: { value: 0, sure: 0.003, spread: 0.006 },
    formula: 'size that came ÷ size reckoned − 1, of a bar that was pressed or drawn to size',
    source: `${HANDBOOK}: a stop of 30 mm is met within some 0.2 mm`,
  },
  turn: {
    title: 'Turned too far at a re-square',
    per: 'handle',
    written: 'degrees',
    table: { value: 0, sure: 1.5, spread: 1.5 },
    formula: 'how far the pattern stood turned at the etched ends after a re-square, their mean',
    source: `${HANDBOOK}: a corner is met within a degree or two by eye`,
  },
  twist: {
    title: 'Twisted in drawing',
    per: 'handle',
    written: 'degrees a metre',
    table: { value: 0, sure: 8, spread: 6 },
    formula: '(turned at end B − turned at end A) ÷ length',
    source: HANDBOOK,
  },
  lean: {
    title: 'Leans after pressing',
    per: 'set-up',
    written: 'degrees',
    table: { value: 0, sure: 1.5, spread: 0.8 },
    formula: 'how far a section that should be upright leans to the right',
    source: HANDBOOK,
  },
  unaccounted: {
    title: 'Lost in cold work, unaccounted for',
    per: 'set-up',
    written: 'percent',
    table: { value: 0, sure: 0.004, spread: 0.002 },
    formula: '1 − mass that came ÷ mass reckoned, of moves without a heat',
    source: HANDBOOK,
  },
  tap: {
    title: 'Powder shaken down to',
    per: 'powder',
    written: 'percent',
    table: { value: USUAL_TAP.tapped, sure: 0.025, spread: 0.012 },
    formula: '(mass of the filled can − mass of all else in it) ÷ (density × room left for powder)',
    source: `${COMMON_PRACTICE}: of spherical powder 50–55 % poured, 60–65 % tapped or shaken`,
    by: USUAL_TAP,
  },
  heats: {
    title: 'Heats, against the plan',
    per: 'move',
    written: 'times',
    table: { value: 1, sure: 0.2, spread: 0.25 },
    formula: 'heats counted ÷ heats planned',
    source: HANDBOOK,
  },
  minutes: {
    title: 'Time, against the plan',
    per: 'move',
    written: 'times',
    table: { value: 1, sure: 0.25, spread: 0.3 },
    formula:
      'time worked at it ÷ (soaks, work at the dies, sawing, grinding as reckoned, for the heats that were taken)',
    source: HANDBOOK,
  },
  cooling: {
    title: 'Cooling, against the law',
    per: 'set-up',
    written: 'times',
    table: { value: 1, sure: 0.25, spread: 0.2 },
    formula: 'time from the last heat until it could be held ÷ time in still air as reckoned',
    source: `${HANDBOOK}; the law is that of a body losing heat by radiation and still air`,
  },
  etch: {
    title: 'Time in the bath, against the plan',
    per: 'set-up',
    written: 'times',
    table: { value: 1, sure: 0.4, spread: 0.25 },
    formula: 'minutes in the bath ÷ (dips × minutes each)',
    source: `${HANDBOOK}: how strong and how warm the bath is decides`,
  },
  passes: {
    title: 'Passes, against the plan',
    per: 'move',
    written: 'times',
    table: { value: 1, sure: 0.2, spread: 0.2 },
    formula: 'passes counted ÷ passes planned',
    source: HANDBOOK,
  },
} as const satisfies Record<string, ShopNumber>;

export type NumberId = keyof typeof NUMBERS;

export const NUMBER_IDS = Object.keys(NUMBERS) as NumberId[];

export const numberOf = (id: NumberId): ShopNumber => NUMBERS[id];

/** What parts a subject from the tool or way that it is by. */
const BY = '\n';

/** Of which set-up, handle, powder or kind of move a number is, with the saw, grinder or filling that it is by: one text by which it is known. `step`: where it depends on the move. */
export function subjectOf(
  id: NumberId,
  settings: Pick<ShopSettings, 'name' | 'handle' | 'saw' | 'grinder'>,
  step?: Step,
): string {
  const { per } = numberOf(id);
  const can = step?.kind === 'can' ? step.parameters : null;
  const of = {
    'set-up': settings.name,
    handle: settings.handle,
    powder: can?.powder ?? '',
    move: step?.kind ?? '',
  }[per];
  const by =
    id === 'kerf'
      ? settings.saw
      : id === 'faying'
        ? settings.grinder
        : id === 'tap'
          ? can?.filling
          : undefined;
  return by === undefined ? of : `${of}${BY}${by}`;
}

/** A subject in its two parts; no tool or way where the number knows none. */
export const partsOf = (of: string): { readonly of: string; readonly by?: string } => {
  const [whole, by] = of.split(BY);
  return by === undefined ? { of: whole } : { of: whole, by };
};

/** What the table has for a number of a subject. */
export function tableFor(id: NumberId, of = ''): Prior {
  const { table, by } = numberOf(id);
  const value = by?.[partsOf(of).by ?? ''];
  return value === undefined ? table : { ...table, value };
}

/** A shop's own number, where plans are reckoned with it. */
export const ownNumber = (id: NumberId, settings: ShopSettings): number | null => {
  const { field } = numberOf(id);
  return field ? settings[field] : null;
};
