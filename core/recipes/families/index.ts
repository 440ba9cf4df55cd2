import { lacking } from '../allowed.ts';
import type { Recipe } from '../recipe.ts';
import type { Wish } from '../../plan/wish.ts';
import { drops, ladder, plain, stripes, twisted } from './layered.ts';
import { checker, halfStar, pinwheel, quarter, ringed, star } from './stars.ts';
import { bows, hooks, leanedBows, links, waves } from './waves.ts';
import { bowTie, feather, featherCross, sunburst } from './wedges.ts';
import { ballsInOrder, ballsPoured, drawing, framed, rods } from './cans.ts';
import { folds, ninePiece } from './mixed.ts';

/** Every recipe, in the order their families are shown. */
export const RECIPES: readonly Recipe[] = [
  star,
  ringed,
  quarter,
  checker,
  halfStar,
  pinwheel,
  bows,
  leanedBows,
  waves,
  hooks,
  links,
  sunburst,
  bowTie,
  feather,
  featherCross,
  ninePiece,
  folds,
  stripes,
  plain,
  ladder,
  drops,
  twisted,
  rods,
  ballsInOrder,
  ballsPoured,
  drawing,
  framed,
];

/** What takes longer to reckon comes later: what is pressed pass by pass last. */
const cost = ({ needs = [], group }: Recipe): number => {
  if (needs.includes('press')) return 3;
  if (group === 'can') return 2;
  return group === 'layered' || group === 'stars' ? 0 : 1;
};

/** The recipes that this shop can do, the quickest to reckon first. */
export const recipesFor = (wish: Wish): Recipe[] =>
  RECIPES.filter((r) => lacking(r, wish) === null).sort((a, b) => cost(a) - cost(b));

/** A recipe by its id; throws where there is none. */
export function recipeOf(id: string): Recipe {
  const recipe = RECIPES.find((r) => r.id === id);
  if (!recipe) throw new Error(`There is no recipe “${id}”`);
  return recipe;
}
