import type { Blade } from '../blade/index.ts';
import type { Material } from '../materials/material.ts';
import type { Finding } from '../moves/index.ts';
import type { Evaluation, Goal, Plan } from '../plan/index.ts';
import type { ShopSettings } from '../shop/shop.ts';
import type { Element } from '../plan/element.ts';
import type { Layout } from './recipe.ts';
import type { Side } from '../plan/wish.ts';

/** The piece that plans are sought for: its bar, blade and shop. */
export interface Piece {
  readonly name: string;
  readonly goal: Goal;
  readonly shop: ShopSettings;
  readonly materials: readonly Material[];
  readonly blade?: Blade | undefined;
}

/** What else is married to the bar. */
export const AROUND = {
  plain: 'as it is',
  core: 'over a core',
  edge: 'with an edge of plain steel',
  jacket: 'in a jacket of plain steel',
  cladding: 'between plates of plain steel',
} as const;
export type Around = keyof typeof AROUND;

/** One plan of a recipe, by all its numbers. */
export interface Spec {
  /** The recipe's id. */
  readonly recipe: string;
  readonly numbers: Readonly<Record<string, number>>;
  readonly side: Side;
  /** Elements across the finished bar, and in one tile. */
  readonly columns: number;
  readonly rows: number;
  /** How the pieces lie in the block before the tiles. */
  readonly layout: Layout;
  /** And in the four-ways before that; as in the block where nothing is said. */
  readonly inner?: Layout;
  readonly around: Around;
  /** mm along the blade. */
  readonly alongMm: number;
}

/** A plan that is offered, and what it comes to. */
export interface Offer {
  readonly spec: Spec;
  readonly plan: Plan;
  /** Null where the face shows none. */
  readonly element: Element | null;
  readonly steelKg: number;
  readonly fourWays: number;
  readonly heats: number;
  readonly hours: number;
  /** The longest bar that is in the fire, mm. */
  readonly longestMm: number;
  readonly bandMm: number;
  /** Whether the eye tells its thinnest bands apart. */
  readonly isToldApart: boolean;
  readonly reached: boolean;
  /** How much longer, wider and thicker than the goal; null where there is no bar. mm */
  readonly spare: Goal | null;
  /** Warnings and errors that remain. */
  readonly remaining: readonly Finding[];
}

/** With the offer its plan worked through; or why there is none. */
export type Offered = { ok: true; offer: Offer; evaluation: Evaluation } | { ok: false; reason: string };

/** Part of a search: this one of so many that go on side by side, each with recipes of its own. */
export interface Share {
  readonly part: number;
  readonly of: number;
}
/** One that goes on alone. */
export const ALL: Share = { part: 0, of: 1 };
