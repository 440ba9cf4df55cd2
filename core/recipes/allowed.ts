import { SIDES, type Side, type Wish } from '../plan/wish.ts';
import type { Recipe } from './recipe.ts';
import { AROUND, type Around, type Piece } from './spec.ts';

/** The ways to the side that a recipe has in a shop; without a saw nothing but what is left along the bar. */
export function sidesOf(recipe: Recipe, wish: Wish): Side[] {
  const own = recipe.sides ?? (Object.keys(SIDES) as Side[]).filter((s) => s !== 'along');
  return own.filter((s) => (!wish.sides || wish.sides.includes(s)) && (wish.hasSaw || s === 'along'));
}

/** What a recipe needs that the wish says the shop has not; null where nothing is missing. */
export function lacking(recipe: Recipe, wish: Wish): string | null {
  const { needs = [] } = recipe;
  if (needs.includes('press') && !wish.hasPress) return 'a press';
  if (needs.includes('powder') && !wish.hasPowder) return 'powder and cans';
  if (sidesOf(recipe, wish).length > 0) return null;
  return wish.hasSaw ? 'another way to the side' : 'a saw';
}

/** What may be married to a piece: plates that hide the pattern only where a blade is ground through them. */
export const aroundsOf = ({ blade }: Piece): Around[] =>
  (Object.keys(AROUND) as Around[]).filter((around) => around !== 'cladding' || blade !== undefined);
