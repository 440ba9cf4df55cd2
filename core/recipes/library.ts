import { type Billet, sizeOf } from '../billet/billet.ts';
import { type Plane, facePlane, partOf, shortFace } from '../billet/face.ts';
import { seeded } from '../canister/packing.ts';
import type { Flows } from '../flow/flows.ts';
import { type Grey, cropped, greyOf, resampled } from '../likeness/grey.ts';
import { FINE, type Pattern, patternOf, runAlike } from '../likeness/pose.ts';
import { type Element, elementOn } from '../plan/element.ts';
import { type Evaluation, wishSchema } from '../plan/index.ts';
import { shopSchema } from '../shop/shop.ts';
import { aboutMm, built } from './build.ts';
import { RECIPES, recipesFor } from './families/index.ts';
import { NotMade } from './making.ts';
import { type Layout, type Recipe, drawnNumbers, settledNumber } from './recipe.ts';
import type { Offer, Piece, Spec } from './spec.ts';

/** Whether a single element is shown, or all of a face that comes again. */
export type Shown = 'one' | 'repeat';

/** A picture that a recipe makes: the plan it is of, how much of it is shown, and how many elements that is along and across. */
export interface Face {
  readonly spec: Spec;
  readonly shown: Shown;
  readonly elements: readonly [along: number, across: number];
  readonly picture: Grey;
}

/** How many elements come before a face repeats, if its element has no mirror: rows of a tile that is rolled beside the next. */
function repeatsAfter({ layout, rows }: Spec): readonly [along: number, across: number] {
  if (layout === 'mirrored' || layout === 'turned') return [2, 2];
  return [2 * rows, 1];
}

/** mm from end A of a finished bar, where its face is looked at; a start is laid so much longer, that there is enough of it. */
const FROM_MM = 40;
const LONG_ENOUGH = 1.5;

/** Dots a side of what is looked at first: enough to see what comes again. */
export const ROUGHLY = 64;

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
const REPEATS = 0.95;

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
  { shown, elements }: Pick<Face, 'shown' | 'elements'>,
): Pattern | null {
  const picture =
    shown === 'one' ? oneOf(evaluation, spec, FINE) : element && faceOf(evaluation, element, elements, FINE);
  return picture ? patternOf(picture) : null;
}

/** A plan of a spec with its element on the face. */
interface Shows {
  readonly evaluation: Evaluation;
  readonly element: Element;
}

/** Makes one spec after the other: what is alike in two is made once. */
export class Trials {
  private readonly flows: Flows;
  private last: Evaluation | undefined;

  constructor(flows: Flows) {
    this.flows = flows;
  }

  /** Nothing where it cannot be made, or its element not be followed. */
  of(spec: Spec): Shows | null {
    try {
      const { making, mark } = built(
        spec,
        TRIAL,
        WISH,
        this.flows,
        LONG_ENOUGH * aboutMm(TRIAL.goal),
        this.last,
      );
      this.last = making.evaluation;
      const element = mark && elementOn(making.evaluation, mark);
      return element && { evaluation: making.evaluation, element };
    } catch (error) {
      if (error instanceof NotMade) return null;
      throw error;
    }
  }
}

/** What one spec shows: its element alone and its repeat, where the two differ. */
function facesOf({ evaluation, element }: Shows, spec: Spec): Face[] {
  const faces: Face[] = [];
  const repeat = repeatOfFace(evaluation, element, spec, ROUGHLY);
  if (repeat) faces.push({ spec, shown: 'repeat', ...repeat });
  const isOne = faces[0]?.elements.join() === '1,1';
  const one = !isOne && spec.layout === 'alike' ? oneOf(evaluation, spec, ROUGHLY) : null;
  if (one) faces.push({ spec, shown: 'one', elements: [1, 1], picture: one });
  return faces;
}

/** The least that shows how pieces lie. */
export const LEAST_PLACES: Record<Layout, Pick<Spec, 'columns' | 'rows'>> = {
  alike: { columns: 2, rows: 1 },
  mirrored: { columns: 2, rows: 1 },
  turned: { columns: 2, rows: 2 },
  brick: { columns: 2, rows: 2 },
};

/** Sets of numbers of each recipe. */
const EACH = 16;

/** Numbers by chance whose faces are unlike: of layers as often from three to six as from twenty to forty, for among many of them few more are not seen. */
const unlikeNumbers = (recipe: Recipe, random: () => number): Spec['numbers'] => ({
  ...drawnNumbers(recipe, random),
  ...Object.fromEntries(
    Object.entries(recipe.numbers).flatMap(([key, n]) =>
      n.odd ? [[key, settledNumber(n, n.least * (n.most / n.least) ** random())]] : [],
    ),
  ),
});

/** The recipes whose faces show an element, or a part of them. */
export const shownRecipes = (): Recipe[] => recipesFor(WISH).filter((r) => !r.isBare);

/** What is looked at of a recipe: its usual numbers first, then others by chance but always the same, each in every way that its pieces may lie. */
export function librarySpecs(recipe: Recipe): Spec[] {
  const random = seeded(4711 + RECIPES.indexOf(recipe));
  return Array.from({ length: EACH }, (_, i) =>
    i === 0 ? drawnNumbers(recipe, null) : unlikeNumbers(recipe, random),
  ).flatMap((numbers) => recipe.layouts.map((layout) => librarySpec(recipe, numbers, layout)));
}

export const librarySpec = (recipe: Recipe, numbers: Spec['numbers'], layout: Layout): Spec => ({
  recipe: recipe.id,
  numbers,
  ...(recipe.make ? { side: 'slanted', ...LEAST_PLACES[layout] } : { side: 'along', columns: 1, rows: 1 }),
  layout,
  around: 'plain',
  alongMm: ELEMENT_MM,
});

/** What specs show, one after the other. */
export function* facesShown(specs: readonly Spec[], flows: Flows): Generator<readonly Face[]> {
  const trials = new Trials(flows);
  for (const spec of specs) {
    const made = trials.of(spec);
    yield made ? facesOf(made, spec) : [];
  }
}
