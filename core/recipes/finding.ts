import { type Billet, sizeOf } from '../billet/billet.ts';
import { type Plane, facePlane, partOf, shortFace } from '../billet/face.ts';
import { seeded } from '../canister/packing.ts';
import type { Flows } from '../flow/flows.ts';
import { type Grey, cropped, greyOf, resampled } from '../likeness/grey.ts';
import {
  FINE,
  type Likeness,
  type Pattern,
  type Pose,
  type Sought,
  likenessOf,
  patternOf,
  roughly,
  runAlike,
  scoreOf,
} from '../likeness/pose.ts';
import { type Evaluation, type Wish, wishSchema } from '../plan/index.ts';
import { shopSchema } from '../shop/shop.ts';
import { lacking } from './allowed.ts';
import { aboutMm, built } from './build.ts';
import { type Element, elementOn } from '../plan/element.ts';
import { RECIPES, recipeOf, recipesFor } from './families/index.ts';
import { NotMade } from './making.ts';
import { type Layout, type Recipe, drawnNumbers, settledNumber } from './recipe.ts';
import { ALL, type Offer, type Piece, type Share, type Spec } from './spec.ts';

/** Whether a single element is shown, or all of a face that comes again. */
export type Shown = 'one' | 'repeat';

/** A picture that a recipe makes: the plan it is of, how much of it is shown, and how many elements that is along and across. */
export interface Known {
  readonly spec: Spec;
  readonly shown: Shown;
  readonly elements: readonly [along: number, across: number];
  readonly pattern: Pattern;
}

/** What comes near a picture that is looked for. */
export interface Near extends Omit<Known, 'pattern'>, Likeness {}

/** How many elements come before a face repeats, if its element has no mirror: rows of a tile that is rolled beside the next. */
function repeatsAfter({ layout, rows }: Spec): readonly [along: number, across: number] {
  if (layout === 'mirrored' || layout === 'turned') return [2, 2];
  return [2 * rows, 1];
}

/** mm from end A of a finished bar, where its face is looked at; a start is laid so much longer, that there is enough of it. */
const FROM_MM = 40;
const LONG_ENOUGH = 1.5;

/** A repeat of a finished face, from its middle, `x` along: at most as wide as the bar. */
function faceOf(
  evaluation: Evaluation,
  element: Element,
  [along, across]: readonly [number, number],
  dots: number,
): Grey | null {
  const [bar] = evaluation.goalLane.steps.at(-1)?.after ?? [];
  if (!bar) return null;
  const { widthMm } = sizeOf(bar);
  const long = Math.min(along * element.alongMm, bar.lengthMm);
  const wide = Math.min(across * element.acrossMm, widthMm);
  const from = Math.min(FROM_MM, bar.lengthMm - long);
  const plane = partOf(facePlane(bar, 'top'), from, (widthMm - wide) / 2, long, wide);
  return greyOf(bar, plane, dots, dots, evaluation.shop);
}

/** One element in the end grain of what the tiles are cut from; null where none are. */
function elementIn(
  evaluation: Evaluation,
  { columns, rows }: Spec,
): { readonly bar: Billet; readonly plane: Plane } | null {
  const cut = evaluation.goalLane.steps.find((s) => s.step.kind === 'tile' || s.step.kind === 'accordion');
  const [bar] = cut?.before ?? [];
  if (!bar) return null;
  const { widthMm, heightMm } = sizeOf(bar);
  return { bar, plane: partOf(facePlane(bar, 'middle'), 0, 0, widthMm / columns, heightMm / rows) };
}

/** The same, turned so that `x` runs along the blade as on the face. */
function oneOf(evaluation: Evaluation, spec: Spec, dots: number): Grey | null {
  const element = elementIn(evaluation, spec);
  if (!element) return null;
  const upright = greyOf(element.bar, element.plane, dots, dots, evaluation.shop);
  return resampled(upright, dots, dots, (x, y) => [y, x]);
}

/** What a recipe shows with its usual numbers: one element of it, or a stretch of the face of what is left along the bar. */
export function picturedBy(
  recipe: Recipe,
  flows: Flows,
): { readonly bar: Billet; readonly plane: Plane; readonly evaluation: Evaluation } | null {
  const spec: Spec = {
    recipe: recipe.id,
    numbers: drawnNumbers(recipe, null),
    side: recipe.make ? 'slanted' : 'along',
    ...LEAST_PLACES.alike,
    layout: 'alike',
    around: 'plain',
    alongMm: ELEMENT_MM,
  };
  const { making } = built(spec, TRIAL, WISH, flows, LONG_ENOUGH * aboutMm(TRIAL.goal));
  const { evaluation } = making;
  const element = elementIn(evaluation, spec);
  if (element) return { ...element, evaluation };
  const [bar] = making.bars;
  return bar ? { bar, plane: shortFace(bar, 'top', 1), evaluation } : null;
}

/** Dots a side of what is looked at first: enough to see what comes again. */
const ROUGHLY = 64;

/** What a finished face shows again and again, and of how many elements that is. */
export function repeatOfFace(
  evaluation: Evaluation,
  element: Element,
  spec: Spec,
  dots = FINE,
): { readonly picture: Grey; readonly elements: readonly [number, number] } | null {
  const most = repeatsAfter(spec);
  const rough = faceOf(evaluation, element, most, ROUGHLY);
  if (!rough) return null;
  const elements = leastOf(rough, most);
  if (dots === ROUGHLY && elements.join() === most.join()) return { picture: rough, elements };
  return { picture: faceOf(evaluation, element, elements, dots)!, elements };
}

/** Lines of two halves run alike from here on: the whole repeats them, though one be trimmed more than the other. */
const REPEATS = 0.7;

/** Of so many elements, how many come again already: halved along and across for as long as both halves agree. */
function leastOf(
  picture: Grey,
  [along, across]: readonly [number, number],
): readonly [along: number, across: number] {
  const { width, height } = picture;
  const agree = (wide: number, high: number): boolean =>
    runAlike(cropped(picture, 0, 0, wide, high), cropped(picture, width - wide, height - high, wide, high)) >
    REPEATS;
  const [half, low] = [Math.floor(width / 2), Math.floor(height / 2)];
  if (along % 2 === 0 && agree(half, height))
    return leastOf(cropped(picture, 0, 0, half, height), [along / 2, across]);
  if (across % 2 === 0 && agree(width, low))
    return leastOf(cropped(picture, 0, 0, width, low), [along, across / 2]);
  return [along, across];
}

/** The bar that the pictures of the library are of, and its element: only how it looks counts. */
const TRIAL: Piece = {
  name: 'Found',
  goal: { lengthMm: 200, widthMm: 50, thicknessMm: 5 },
  shop: shopSchema.parse({}),
  materials: [],
};
const ELEMENT_MM = 24;
const WISH = wishSchema.parse({ toldApart: false });

/** What a plan's finished face shows of what was found to be near a picture; null where it shows none. */
export function shownBy(
  evaluation: Evaluation,
  { element, spec }: Pick<Offer, 'element' | 'spec'>,
  { shown, elements }: Pick<Near, 'shown' | 'elements'>,
): Pattern | null {
  const picture =
    shown === 'one' ? oneOf(evaluation, spec, FINE) : element && faceOf(evaluation, element, elements, FINE);
  return picture ? patternOf(picture) : null;
}

/** What one spec shows: its element alone and its repeat, where the two differ; or just one of them. Nothing where it cannot be made. */
function knownOf(spec: Spec, flows: Flows, only: Shown | null, dots: number): Known[] {
  let evaluation;
  let mark;
  try {
    const made = built(spec, TRIAL, WISH, flows, LONG_ENOUGH * aboutMm(TRIAL.goal));
    ({ evaluation } = made.making);
    ({ mark } = made);
  } catch (error) {
    if (error instanceof NotMade) return [];
    throw error;
  }
  const element = mark && elementOn(evaluation, mark);
  if (!element) return [];
  const known: Known[] = [];
  if (only !== 'one') {
    const repeat = repeatOfFace(evaluation, element, spec, dots);
    if (repeat)
      known.push({ spec, shown: 'repeat', elements: repeat.elements, pattern: patternOf(repeat.picture) });
  }
  const isOne = known[0]?.elements.join() === '1,1';
  if (only === 'one' || (only === null && !isOne && spec.layout === 'alike')) {
    const one = oneOf(evaluation, spec, dots);
    if (one) known.push({ spec, shown: 'one', elements: [1, 1], pattern: patternOf(one) });
  }
  return known;
}

/** The least that shows how pieces lie. */
export const LEAST_PLACES: Record<Layout, Pick<Spec, 'columns' | 'rows'>> = {
  alike: { columns: 2, rows: 1 },
  mirrored: { columns: 2, rows: 1 },
  turned: { columns: 2, rows: 2 },
  brick: { columns: 2, rows: 2 },
};

/** Sets of numbers of each recipe that are looked at first. */
const EACH = 12;

/** The recipes whose faces show an element, or a part of them. */
const shownRecipes = ({ part, of }: Share): Recipe[] =>
  recipesFor(WISH).filter((r, i) => !r.isBare && i % of === part);

/** How many there are of them. */
export const librarySize = (share: Share = ALL): number =>
  shownRecipes(share).reduce((n, r) => n + Math.ceil(EACH / (r.everyRounds ?? 1)), 0);

/** Numbers by chance whose faces are unlike: of layers as often from three to six as from twenty to forty, for among many of them few more are not seen. */
const unlikeNumbers = (recipe: Recipe, random: () => number): Spec['numbers'] => ({
  ...drawnNumbers(recipe, random),
  ...Object.fromEntries(
    Object.entries(recipe.numbers).flatMap(([key, n]) =>
      n.odd ? [[key, settledNumber(n, n.least * (n.most / n.least) ** random())]] : [],
    ),
  ),
});

/** What recipes make, by chance but always the same: worked out one by one, so that it can be waited for; or part of it. */
export function* library(flows: Flows, share: Share = ALL): Generator<readonly Known[]> {
  const recipes = shownRecipes(share);
  // Each by its own chance: whatever part it is worked out in, it shows the same.
  const chances = new Map(recipes.map((recipe) => [recipe, seeded(4711 + RECIPES.indexOf(recipe))]));
  for (let i = 0; i < EACH; i++)
    for (const recipe of recipes) {
      // What is slow to reckon is looked at less often.
      if (i % (recipe.everyRounds ?? 1) !== 0) continue;
      const numbers = i === 0 ? drawnNumbers(recipe, null) : unlikeNumbers(recipe, chances.get(recipe)!);
      yield recipe.layouts.flatMap((layout) => {
        const spec: Spec = {
          recipe: recipe.id,
          numbers,
          ...(recipe.make
            ? { side: 'slanted', ...LEAST_PLACES[layout] }
            : { side: 'along', columns: 1, rows: 1 }),
          layout,
          around: 'plain',
          alongMm: ELEMENT_MM,
        };
        return knownOf(spec, flows, null, ROUGHLY);
      });
    }
}

interface Rated {
  readonly known: Known;
  readonly likeness: Likeness;
  readonly score: number;
}

function rated(sought: Sought, known: Known, from?: Pose): Rated {
  const likeness = likenessOf(sought, known.pattern, from);
  return { known, likeness, score: scoreOf(likeness) };
}

/** A picture is near another from here on: its lines run so, and greys and lines together agree so far. */
const LINES_NEAR = 0.8;
const NEAR = 0.65;
export const isNear = (likeness: Pick<Likeness, 'correlation' | 'directions'>): boolean =>
  likeness.directions > LINES_NEAR && scoreOf(likeness) > NEAR;

/** Looked at finely, of all that were looked at; families that are climbed from; answers at most, and of one recipe. */
const FINELY = 50;
const FAMILIES = 3;
const ROUGH_FAMILIES = 2;
const ANSWERS = 12;
const MOST_OF_ONE = 4;

const firstFamilies = (sorted: readonly { readonly known: Known }[], count: number): string[] =>
  [...new Set(sorted.map((r) => r.known.spec.recipe))].slice(0, count);

/**
 * What of a library comes nearest to one repeat of a picture: first roughly, then finely, then climbed from the best of each family
 * over its numbers. The best dozen that a wish allows, nearest first; told how far it is, 0 … 1.
 */
export function nearest(
  sought: Sought,
  known: readonly Known[],
  wish: Wish,
  flows: Flows,
  progress: (share: number) => void = () => undefined,
): Near[] {
  const byRough = known
    .filter((k) => lacking(recipeOf(k.spec.recipe), wish) === null)
    .map((k) => ({ known: k, score: Math.max(...roughly(sought, k.pattern, 1).map((r) => r.score)) }))
    .sort((a, b) => b.score - a.score);
  const firsts = new Map([...byRough].reverse().map((r) => [r.known.spec.recipe, r]));
  const chosen = new Set([...byRough.slice(0, FINELY), ...firsts.values()].map((r) => r.known));
  const all = [...chosen].map((k) => rated(sought, k)).sort((a, b) => b.score - a.score);
  const families = [
    ...new Set([
      ...firstFamilies(all, FAMILIES),
      // Where only its numbers are others, the right one is seen roughly before it is seen finely.
      ...firstFamilies(byRough, ROUGH_FAMILIES),
    ]),
  ];
  const better = families.flatMap((family, i) => {
    progress((i + 1) / (families.length + 1));
    return climbed(
      all.filter((r) => r.known.spec.recipe === family),
      sought,
      flows,
    );
  });
  const [seen, of] = [new Set<string>(), new Map<string, number>()];
  return [...all, ...better]
    .sort((a, b) => b.score - a.score)
    .filter(({ known: { spec, shown } }) => {
      const { recipe, layout, numbers } = spec;
      const key = JSON.stringify([recipe, layout, shown, Object.values(numbers).map((v) => v.toFixed(1))]);
      const count = of.get(recipe) ?? 0;
      if (seen.has(key) || count === MOST_OF_ONE) return false;
      seen.add(key);
      of.set(recipe, count + 1);
      return true;
    })
    .slice(0, ANSWERS)
    .map(({ known: { spec, shown, elements }, likeness }) => ({ spec, shown, elements, ...likeness }));
}

/** Of a whole number no more values are tried than these, one after the other; so many of the best are climbed on from. */
const MOST_VALUES = 24;
const COUNTS = 2;
/** Layers more or less that are tried once more. */
const BESIDE = 4;
/** Steps of other numbers, as shares of all that they may be. */
const STRIDES = [0.16, 0.08, 0.04, 0.02];
/** Steps on of one number. */
const STEPS_ON = 2;

/**
 * From the best of a family: every count of its layers is tried, and the other numbers of the best are changed for as long as it comes
 * nearer; then the counts beside it once more, for which is right is seen only when the others are.
 */
function climbed([from]: readonly Rated[], sought: Sought, flows: Flows): Rated[] {
  const recipe = recipeOf(from.known.spec.recipe);
  const tried = (numbers: Spec['numbers'], pose?: Pose): Rated | null => {
    const [one] = knownOf({ ...from.known.spec, numbers }, flows, from.known.shown, FINE);
    return one ? rated(sought, one, pose) : null;
  };
  const nearestFirst = (all: readonly (Rated | null)[]): Rated[] =>
    all.filter((r) => r !== null).sort((a, b) => b.score - a.score);
  const counted = (start: Rated, key: string, values: readonly number[]) =>
    // Other layers lie as these do; another drawing may lie otherwise.
    values.map((value) =>
      tried(
        { ...start.known.spec.numbers, [key]: value },
        key === 'layers' ? start.likeness.pose : undefined,
      ),
    );
  const settled = (start: Rated): Rated => {
    let best = start;
    const step = (key: string, by: number): boolean => {
      const { numbers } = best.known.spec;
      const value = settledNumber(recipe.numbers[key], numbers[key] + by);
      const here = value !== numbers[key] && tried({ ...numbers, [key]: value }, best.likeness.pose);
      if (!here || here.score <= best.score) return false;
      best = here;
      return true;
    };
    for (const stride of STRIDES)
      for (const [key, n] of Object.entries(recipe.numbers)) {
        if (n.whole || n.odd) continue;
        const by = stride * (n.most - n.least);
        // On the way that it came nearer, for as long as it does.
        const way = [-by, by].find((b) => step(key, b));
        for (let k = 0; way && k < STEPS_ON && step(key, way); k++);
      }
    return best;
  };
  const counts = wholeNumbers(recipe);
  let starts: readonly Rated[] = [from];
  for (const [key, values] of counts)
    starts = nearestFirst([...starts, ...starts.flatMap((start) => counted(start, key, values))]).slice(
      0,
      COUNTS,
    );
  const ends = nearestFirst(starts.map(settled));
  const [best] = ends;
  const beside = (counts.find(([key]) => key === 'layers')?.[1] ?? []).filter((n) => {
    const off = Math.abs(n - best.known.spec.numbers.layers);
    return off > 0 && off <= BESIDE;
  });
  if (Object.values(recipe.numbers).every((n) => n.whole || n.odd)) return ends;
  const [again] = nearestFirst(counted(best, 'layers', beside));
  return again && again.score > best.score ? [settled(again), ...ends] : ends;
}

/** The whole numbers of a recipe, and every value that each may have; of one that may have many, some. */
function wholeNumbers({ numbers }: Recipe): [string, number[]][] {
  return Object.entries(numbers).flatMap(([key, n]): [string, number[]][] => {
    if (!n.whole && !n.odd) return [];
    const count = Math.min(MOST_VALUES, n.most - n.least + 1);
    const values = Array.from({ length: count }, (_, i) =>
      settledNumber(n, n.least + (i * (n.most - n.least)) / Math.max(1, count - 1)),
    );
    return [[key, [...new Set(values)]]];
  });
}
