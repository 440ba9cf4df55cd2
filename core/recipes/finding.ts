import type { Flows } from '../flow/flows.ts';
import { type Likeness, type Pose, type Sought, likenessOf, roughly, scoreOf } from '../likeness/pose.ts';
import type { Wish } from '../plan/index.ts';
import { lacking } from './allowed.ts';
import { recipeOf } from './families/index.ts';
import { Trials, shownBy } from './library.ts';
import { type Recipe, settledNumber } from './recipe.ts';
import type { Known } from './shipped.ts';
import { ALL, type Share, type Spec } from './spec.ts';

/** What comes near a picture that is looked for. */
export interface Near extends Omit<Known, 'pattern'>, Likeness {}

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

/** Looked at finely, of all that were looked at; families that are climbed from; of one recipe, answers at most. */
const FINELY = 50;
const FAMILIES = 3;
const ROUGH_FAMILIES = 2;
const MOST_OF_ONE = 4;
/** Answers at most. */
export const ANSWERS = 12;

const firstFamilies = (sorted: readonly { readonly known: Known }[], count: number): string[] =>
  [...new Set(sorted.map((r) => r.known.spec.recipe))].slice(0, count);

/**
 * What of a library comes nearest to one repeat of a picture: first roughly, then finely, then climbed from the best of each family
 * over its numbers; of fewer families where others look through the rest of the library. The best dozen that a wish allows, nearest first;
 * told how far it is, 0 … 1.
 */
export function nearest(
  sought: Sought,
  known: readonly Known[],
  wish: Wish,
  flows: Flows,
  progress: (share: number) => void = () => undefined,
  { of }: Share = ALL,
): Near[] {
  const byRough = known
    .filter((k) => lacking(recipeOf(k.spec.recipe), wish) === null)
    .map((k) => ({ known: k, score: Math.max(...roughly(sought, k.pattern, 1).map((r) => r.score)) }))
    .sort((a, b) => b.score - a.score);
  const firsts = new Map([...byRough].reverse().map((r) => [r.known.spec.recipe, r]));
  const chosen = new Set(
    [...byRough.slice(0, Math.ceil(FINELY / of)), ...firsts.values()].map((r) => r.known),
  );
  const all = [...chosen].map((k) => rated(sought, k)).sort((a, b) => b.score - a.score);
  const families = [
    ...new Set([
      ...firstFamilies(all, Math.ceil(FAMILIES / of)),
      // Where only its numbers are others, the right one is seen roughly before it is seen finely.
      ...firstFamilies(byRough, Math.ceil(ROUGH_FAMILIES / of)),
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
  const [seen, counts] = [new Set<string>(), new Map<string, number>()];
  return [...all, ...better]
    .sort((a, b) => b.score - a.score)
    .filter(({ known: { spec, shown } }) => {
      const { recipe, layout, numbers } = spec;
      const key = JSON.stringify([recipe, layout, shown, Object.values(numbers).map((v) => v.toFixed(1))]);
      const count = counts.get(recipe) ?? 0;
      if (seen.has(key) || count === MOST_OF_ONE) return false;
      seen.add(key);
      counts.set(recipe, count + 1);
      return true;
    })
    .slice(0, ANSWERS)
    .map(({ known: { spec, shown, elements }, likeness }) => ({ spec, shown, elements, ...likeness }));
}

/** Begun from so many of a family, whose pieces lie alike. */
const STARTS = 2;
const liesAs =
  ({ known }: Rated) =>
  (other: Rated): boolean =>
    other.known.spec.layout === known.spec.layout && other.known.shown === known.shown;

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
 * From the best of a family: every count of its layers is tried with the other numbers that come nearest, and these are changed for as
 * long as it comes nearer; then the counts beside it once more, for which is right is seen only when the others are.
 */
function climbed([from, ...others]: readonly Rated[], sought: Sought, flows: Flows): Rated[] {
  const recipe = recipeOf(from.known.spec.recipe);
  const { shown, elements } = from.known;
  const trials = new Trials(flows);
  const tried = (numbers: Spec['numbers'], pose?: Pose): Rated | null => {
    const spec = { ...from.known.spec, numbers };
    const made = trials.of(spec);
    const pattern = made && shownBy(made.evaluation, { ...made, spec }, from.known);
    return pattern && rated(sought, { spec, shown, elements, pattern }, pose);
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
  let starts: readonly Rated[] = [from, ...others.filter(liesAs(from))].slice(0, STARTS);
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
  const isCounted = Object.values(recipe.numbers).every((n) => n.whole || n.odd);
  const [again] = isCounted ? [] : nearestFirst(counted(best, 'layers', beside));
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
