import { scoreOf } from '../../../../core/likeness/pose.ts';
import { GROUPS, type Group, recipeOf } from '../../../../core/recipes/index.ts';
import type { PlaneGroup } from '../../../../core/likeness/symmetry.ts';
import type { Found } from '../../document/wishes.ts';

/** Which of the plans found are looked at. */
export interface Filters {
  readonly group: Group | 'all';
  /** Of one recipe alone. */
  readonly recipe?: string;
  readonly turns: keyof typeof TURNS;
  readonly takes: keyof typeof TAKES;
  readonly order: keyof typeof ORDERS;
  readonly isClean: boolean;
}

export const FAMILIES = { all: 'All', ...GROUPS } as const;

const FOURFOLD: readonly PlaneGroup[] = ['p4', 'p4m', 'p4g'];
const MIRRORED: readonly PlaneGroup[] = [
  'pm',
  'cm',
  'pmm',
  'cmm',
  'pmg',
  'p4m',
  'p4g',
  'p6m',
  'p3m1',
  'p31m',
];

/** What a face does, in a maker's words. */
export const TURNS = {
  any: 'Any symmetry',
  mirrors: 'Mirrors',
  quarter: 'Quarter turns',
  plain: 'No mirror',
} as const;

const DOES: Record<keyof typeof TURNS, (group: PlaneGroup | null) => boolean> = {
  any: () => true,
  mirrors: (g) => g !== null && MIRRORED.includes(g),
  quarter: (g) => g !== null && FOURFOLD.includes(g),
  plain: (g) => g === null || !MIRRORED.includes(g),
};

/** Against the others that were found. */
export const TAKES = { any: 'Any', steel: 'The lighter half', work: 'The quicker half' } as const;

const OF: Record<keyof typeof TAKES, (one: Found) => number> = {
  any: () => 0,
  steel: (one) => one.offer.steelKg,
  work: (one) => one.offer.hours,
};

/** The middle one of some numbers. */
const middle = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor((values.length - 1) / 2)] ?? 0;

export const ORDERS = {
  unlike: 'Unlike ones first',
  steel: 'Least steel',
  work: 'Least work',
  picture: 'Most like the picture',
} as const;

const BY: Record<keyof typeof ORDERS, (one: Found) => number> = {
  unlike: (one) => one.id,
  steel: (one) => one.offer.steelKg,
  work: (one) => one.offer.hours,
  picture: (one) => (one.likePicture ? -scoreOf(one.likePicture) : 0),
};

/** Those that pass; as they came, or the least first; by a picture those alone that were found for it. */
export function passing(
  found: readonly Found[],
  { recipe, group, turns, takes, order, isClean }: Filters,
): Found[] {
  const most = middle(found.map(OF[takes]));
  return found
    .filter(
      (one) =>
        (recipe === undefined || one.offer.spec.recipe === recipe) &&
        (group === 'all' || recipeOf(one.offer.spec.recipe).group === group) &&
        DOES[turns](one.group) &&
        OF[takes](one) <= most &&
        (order !== 'picture' || one.likePicture !== undefined) &&
        (!isClean || one.offer.remaining.length === 0),
    )
    .sort((a, b) => BY[order](a) - BY[order](b));
}
