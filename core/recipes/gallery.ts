import { seeded } from '../canister/packing.ts';
import type { Flows } from '../flow/flows.ts';
import { makeShop } from '../shop/shop.ts';
import { recipeOf, recipesFor } from './families/index.ts';
import { aroundsOf, sidesOf } from './allowed.ts';
import { rounds } from './build.ts';
import { offerOf } from './offer.ts';
import type { Near } from './finding.ts';
import { type Layout, type Recipe, drawnNumbers, settledNumber } from './recipe.ts';
import { WAYS, toRule } from './sides.ts';
import { ALL, type Around, type Offered, type Piece, type Share, type Spec } from './spec.ts';
import type { Side, Wish } from '../plan/wish.ts';

/** Of the width the outermost elements lose this much by grinding and scale. */
const KEPT_ACROSS = 0.955;
/** How high a bar before the tiles is best, mm; elements that lie on one another in it, at most. */
const HANDY_HIGH_MM = 24;
const MOST_ROWS = 6;
/** Elements across the blade, where nothing was wished. */
const ACROSS = [1, 2, 2, 3, 3, 4] as const;
/** mm. No element is asked to be smaller. */
const LEAST_MM = 8;
/** How often the way to the side that suits best is taken; elements along a bar that is stood on end, at most. */
const FIRST_WAY = 0.5;
const MOST_ON_END = 3;
/** How often something is married to the bar, of plans beyond the first of a recipe. */
const MARRIED = 0.22;

type Random = () => number;
const oneOf = <T>(list: readonly T[], random: Random): T => list[Math.floor(random() * list.length)];

/** So many elements on one another in the bar that it is handy to saw; of a bar that is stood on end, as many as its length takes. */
function rowsFor(side: Side, alongMm: number, perY: number, piece: Piece): number {
  if (side === 'along') return 1;
  const { widthMm, thicknessMm, lengthMm } = piece.goal;
  if (side === 'upset') return Math.max(1, Math.round(lengthMm / (alongMm * perY)));
  const shop = makeShop(piece.shop);
  const thick = toRule(thicknessMm + 2 * shop.fayingMm, shop, Math.ceil);
  const cost = (rows: number) => {
    const { heightMm } = WAYS[side].bar(
      { widthMm, thicknessMm: thick, lengthMm, alongMm, rows: rows * perY },
      shop,
    );
    return Math.abs(Math.log(heightMm / HANDY_HIGH_MM));
  };
  const all = Array.from({ length: MOST_ROWS }, (_, i) => i + 1);
  return all.reduce((best, rows) => (cost(rows) < cost(best) ? rows : best));
}

/** A plan of a recipe for a wish: its usual numbers the first time, others by chance after. What is left open is chosen too. */
export function drawnSpec(
  recipe: Recipe,
  piece: Piece,
  wish: Wish,
  random: Random,
  isFirst: boolean,
): Spec | null {
  const sides = sidesOf(recipe, wish);
  if (sides.length === 0) return null;
  const numbers = drawnNumbers(recipe, isFirst ? null : random);
  const side = isFirst || random() < FIRST_WAY ? sides[0] : oneOf(sides, random);
  const { widthMm } = piece.goal;
  const most = Math.max(1, Math.floor(widthMm / LEAST_MM));
  const acrossMm = wish.acrossMm ?? wish.alongMm ?? widthMm / Math.min(most, oneOf(ACROSS, random));
  const alongMm = wish.alongMm ?? (wish.acrossMm ?? acrossMm) * (isFirst ? 1 : 0.8 + 0.6 * random());
  const layout = isFirst ? recipe.layouts[0] : oneOf(recipe.layouts, random);
  const places = placesFor(recipe, { numbers, side, layout }, { alongMm, acrossMm }, piece);
  if (side === 'upset' && places.rows > MOST_ON_END) return null;
  const around: Around = isFirst || random() > MARRIED ? 'plain' : oneOf(aroundsOf(piece), random);
  const inner = isFirst || !hasFours(places) ? undefined : oneOf(recipe.layouts, random);
  return {
    recipe: recipe.id,
    numbers,
    side,
    ...places,
    layout,
    ...(inner && inner !== layout && { inner }),
    around,
    alongMm,
  };
}

/** Whether elements are laid as four-ways before they are laid to the block. */
const hasFours = ({ columns, rows }: Pick<Spec, 'columns' | 'rows'>): boolean =>
  rounds(columns, rows).fours > 0;

/** Elements that a layout needs each way to come out whole in a tile. */
const WHOLE: Record<Layout, { readonly columns: number; readonly rows: number }> = {
  alike: { columns: 1, rows: 1 },
  mirrored: { columns: 1, rows: 1 },
  turned: { columns: 2, rows: 2 },
  brick: { columns: 1, rows: 2 },
};
const upTo = (count: number, whole: number): number => whole * Math.max(1, Math.round(count / whole));

/** How many elements lie across the blade and in one tile, for one so large. */
function placesFor(
  recipe: Recipe,
  { numbers, side, layout }: Pick<Spec, 'numbers' | 'side' | 'layout'>,
  { alongMm, acrossMm }: { alongMm: number; acrossMm: number },
  piece: Piece,
): Pick<Spec, 'columns' | 'rows'> {
  const [perX, perY] = recipe.elements?.(numbers) ?? [1, 1];
  const columns = Math.max(1, Math.round((KEPT_ACROSS * piece.goal.widthMm) / (acrossMm * perX)));
  const rows = rowsFor(side, alongMm, perY, piece);
  // One element in a tile, or across, lies as it does: nothing is laid beside it.
  if (columns * rows === 1) return { columns, rows };
  return { columns: upTo(columns, WHOLE[layout].columns), rows: upTo(rows, WHOLE[layout].rows) };
}

/** mm along. Smaller elements alone in a tile would want too low a bar. */
const LEAST_ALONE_MM = 15;

/** A plan of what was found to look like a picture: its element as wished for, or as wide as it was found, with the picture's own proportions. */
export function specLike({ spec, pose, elements }: Near, piece: Piece, wish: Wish): Spec {
  const recipe = recipeOf(spec.recipe);
  const sides = sidesOf(recipe, wish);
  const side = sides.includes(spec.side) ? spec.side : sides[0];
  // Width to height of one element: `x` of the pattern runs along the blade.
  const alongToAcross = (pose.aspect * pose.high * elements[1]) / (pose.wide * elements[0]);
  const acrossMm =
    wish.acrossMm ?? (wish.alongMm ? wish.alongMm / alongToAcross : piece.goal.widthMm / spec.columns);
  const alongMm = wish.alongMm ?? acrossMm * alongToAcross;
  const { columns, rows } = placesFor(recipe, { ...spec, side }, { alongMm, acrossMm }, piece);
  // As it was found; of what repeats after one small element alone so many lie in a tile as are handy.
  const isFree = side === 'upset' || (elements[0] === 1 && alongMm < LEAST_ALONE_MM);
  return { ...spec, side, columns, rows: isFree ? rows : spec.rows, alongMm };
}

/** Two specs alike have one key. */
export const specKey = ({ recipe, numbers, ...rest }: Spec): string =>
  JSON.stringify([recipe, Object.entries(numbers).map(([k, v]) => [k, Math.round(1000 * v)]), rest]);

/** Rounds without anything new after which there is nothing more to look for. */
const FRUITLESS = 60;

/**
 * Plans for a wish, one recipe after the other for as long as there are others: of each its usual one first, then others by chance, the same for the
 * same seed; of one recipe alone where it is named. What cannot be made comes with its reason.
 */
export function* sought(
  piece: Piece,
  wish: Wish,
  flows: Flows,
  seed = 1,
  { part, of }: Share = ALL,
  only?: string,
): Generator<{ readonly spec: Spec; readonly offered: Offered }> {
  const random = seeded(seed * 7919 + part);
  const recipes = recipesFor(wish).filter((r, i) => (only === undefined ? i % of === part : r.id === only));
  const seen = new Set<string>();
  let last = 0;
  for (let round = 0; recipes.length > 0 && round - last <= FRUITLESS; round++)
    for (const recipe of recipes) {
      const every = only === undefined ? (recipe.everyRounds ?? 1) : 1;
      // What is slow is first tried in the last of its rounds.
      if (round % every !== every - 1) continue;
      const spec = drawnSpec(recipe, piece, wish, random, round === every - 1 && seed === 1);
      if (!spec || seen.has(specKey(spec))) continue;
      seen.add(specKey(spec));
      last = round;
      yield { spec, offered: offerOf(spec, piece, wish, flows) };
    }
}

/** Of a number that may be chosen, the values looked at beside the present one: so many, over all that it may be. */
const BESIDE = 4;

/** The neighbours of a plan: one thing of it changed at a time. */
export function neighbours(spec: Spec, wish: Wish, piece: Piece): Spec[] {
  const recipe = recipeOf(spec.recipe);
  const layouts = spec.columns * spec.rows > 1 ? recipe.layouts : [];
  const numbers = Object.entries(recipe.numbers).flatMap(([key, n]) =>
    Array.from({ length: BESIDE }, (_, i) => {
      const some = n.least + ((i + 0.5) / BESIDE) * (n.most - n.least);
      return { ...spec, numbers: { ...spec.numbers, [key]: settledNumber(n, some) } };
    }),
  );
  const all: Spec[] = [
    ...layouts.map((layout) => ({ ...spec, layout })),
    ...(hasFours(spec) ? layouts.map((inner) => ({ ...spec, inner })) : []),
    ...numbers,
    ...sidesOf(recipe, wish).map((side) => ({ ...spec, side })),
    ...aroundsOf(piece).map((around) => ({ ...spec, around })),
    ...[spec.rows - 1, spec.rows + 1].filter((rows) => rows > 0).map((rows) => ({ ...spec, rows })),
    ...[spec.columns - 1, spec.columns + 1].filter((n) => n > 0).map((columns) => ({ ...spec, columns })),
  ];
  const seen = new Set([specKey(spec)]);
  return all.filter((one) => !seen.has(specKey(one)) && seen.add(specKey(one)));
}
