import type { Making } from './making.ts';
import type { Side, Wish } from '../plan/wish.ts';

/** A number of a recipe that may be chosen: between which, and what is usual. */
export interface RecipeNumber {
  readonly label: string;
  readonly least: number;
  readonly most: number;
  readonly usual: number;
  readonly whole?: boolean;
  /** A whole one that is odd: layers, so that both faces are of one steel. */
  readonly odd?: boolean;
}

/** A number as it may be: within its bounds, whole or odd where it has to be. */
export function settledNumber({ least, most, whole, odd }: RecipeNumber, value: number): number {
  const within = Math.min(most, Math.max(least, value));
  if (odd) return 2 * Math.round((within - 1) / 2) + 1;
  return whole ? Math.round(within) : within;
}

/** Every number of a recipe: as is usual, or by chance within its bounds. */
export const drawnNumbers = (
  { numbers }: Pick<Recipe, 'numbers'>,
  random: (() => number) | null,
): Record<string, number> =>
  Object.fromEntries(
    Object.entries(numbers).map(([key, n]) => [
      key,
      settledNumber(n, random ? n.least + random() * (n.most - n.least) : n.usual),
    ]),
  );

/** What a recipe is asked for: a square bar of this side that shows one element, with these numbers. */
export interface Asked<N extends string = string> {
  readonly making: Making;
  readonly sideMm: number;
  /** About how much steel goes in. */
  readonly steelMm3: number;
  /** How large the start's section is to be, square. mm */
  readonly startMm: number;
  readonly numbers: Readonly<Record<N, number>>;
  readonly wish: Wish;
}

export const GROUPS = {
  layered: 'Layers',
  stars: 'Stars',
  waves: 'Waves and hooks',
  wedges: 'Wedges and feathers',
  mixed: 'Several bars together',
  can: 'From a can',
} as const;
export type Group = keyof typeof GROUPS;

/** How pieces of a bar may be laid together further on. */
export const LAYOUTS = ['alike', 'mirrored', 'turned', 'brick'] as const;
export type Layout = (typeof LAYOUTS)[number];

/** A way to a pattern, in a maker's own words: a family of plans by its numbers. */
export interface Recipe<N extends string = string> {
  readonly id: string;
  readonly name: string;
  readonly text: string;
  readonly group: Group;
  readonly numbers: Readonly<Record<N, RecipeNumber>>;
  /** Ways to the side that suit it; all but left along the bar where nothing is said. */
  readonly sides?: readonly Side[];
  /** What shows something new when its bars are laid together again; of what repeats and mirrors already, alike alone. */
  readonly layouts: readonly Layout[];
  readonly needs?: readonly ('press' | 'powder')[];
  /** Takes so long to reckon that it is tried only in one round of so many; in every one where nothing is said. */
  readonly everyRounds?: 2 | 3 | 4;
  /** Layers that stand in a pair of steels; where it has any. */
  readonly isLayered: boolean;
  /** Nothing on its face comes again: no element. */
  readonly isBare?: boolean;
  /** What goes into it is counted for its length: made anew when that is found. */
  readonly fixesLength?: boolean;
  /** Why its element cannot be as short, or as long, as any that is wished for. */
  readonly nearest?: string;
  /** How many elements lie across and up in the bar that it makes; one where nothing is said. */
  elements?(numbers: Readonly<Record<N, number>>): readonly [columns: number, rows: number];
  /** The bar that shows one element, square: begun, and brought to its side. Or, of what is left along the bar, `along`. */
  make?(asked: Asked<N>): void;
  /** What is left along the bar: all moves up to a bar that is drawn flat; the step that makes its elements, where it shows any. */
  along?(asked: Asked<N>, wanted: AlongWanted): string | null;
}

/** The bar before it is drawn flat for the last time, and one element along the finished one. mm */
export interface AlongWanted {
  readonly widthMm: number;
  readonly thickMm: number;
  readonly alongMm: number;
  /** How many times as long the last drawing makes it. */
  readonly longer: number;
  /** The finished bar. */
  readonly goal: { readonly widthMm: number; readonly thicknessMm: number };
}

export const defineRecipe = <const N extends string>(recipe: Recipe<N>): Recipe =>
  recipe as unknown as Recipe;
