import { describe, expect, it } from 'vitest';
import { seeded } from '../canister/packing.ts';
import { likenessOf, soughtIn } from '../likeness/pose.ts';
import { wishSchema } from '../plan/index.ts';
import { shopSchema } from '../shop/shop.ts';
import { FLOWS } from '../tests/plans.ts';
import { photographedRepeat } from '../tests/targets.ts';
import {
  type Known,
  type Piece,
  type Spec,
  RECIPES,
  isNear,
  lacking,
  library,
  librarySize,
  nearest,
  offerOf,
  recipeOf,
  shownBy,
  specLike,
} from './index.ts';
import { recipesFor } from './families/index.ts';

const PIECE: Piece = {
  name: 'Trial',
  goal: { lengthMm: 300, widthMm: 50, thicknessMm: 5 },
  shop: shopSchema.parse({}),
  materials: [],
};
const WISH = wishSchema.parse({ alongMm: 22, acrossMm: 22, toldApart: false });

/** One picture of each recipe that is quick to reckon. */
const firstOfEach = (): Known[] => {
  const known: Known[] = [];
  const seen = new Set<string>();
  for (const some of library(FLOWS)) {
    const [one] = some;
    if (!one) continue;
    if (seen.has(one.spec.recipe)) break;
    seen.add(one.spec.recipe);
    known.push(...some);
  }
  return known;
};

describe('plans from a picture', () => {
  const known = firstOfEach();
  const hidden: Pick<Spec, 'recipe' | 'numbers'>[] = [
    { recipe: 'star', numbers: { layers: 7, share: 0.5 } },
    { recipe: 'framed', numbers: { motif: 3, layers: 9 } },
    { recipe: 'ladder', numbers: { layers: 25, share: 0.4, deep: 0.3 } },
  ];

  it('the library shows every recipe that has an element, brought to the side or along the bar', () => {
    const shown = new Set(known.map((k) => k.spec.recipe));
    for (const { id, isBare } of RECIPES) expect(shown.has(id), id).toBe(!isBare);
    const halves = [0, 1].map((part) => librarySize({ part, of: 2 }));
    expect(halves[0] + halves[1]).toBe(librarySize());
  });

  it('a recipe shows the same in whatever part of the library it is worked out', () => {
    const at = recipesFor(wishSchema.parse({ toldApart: false })).findIndex((r) => r.id === 'ladder');
    const numbersIn = (of: number): unknown[] => {
      const numbers: unknown[] = [];
      for (const [one] of library(FLOWS, { part: at % of, of })) {
        if (one?.spec.recipe === 'ladder') numbers.push(one.spec.numbers);
        if (numbers.length === 3) break;
      }
      return numbers;
    };
    expect(numbersIn(40)).toHaveLength(3);
    expect(numbersIn(20)).toEqual(numbersIn(40));
  });

  it.each(hidden)('a turned and noisy photograph of $recipe leads back to it', ({ recipe, numbers }) => {
    const spec: Spec = {
      recipe,
      numbers,
      ...(recipeOf(recipe).make
        ? { side: 'slanted', columns: 2, rows: 1 }
        : { side: 'along', columns: 1, rows: 1 }),
      layout: 'alike',
      around: 'plain',
      alongMm: 22,
    };
    const made = offerOf(spec, PIECE, WISH, FLOWS);
    if (!made.ok) throw new Error(made.reason);
    const picture = photographedRepeat(made.evaluation, made.offer, 3, seeded(12));
    const sought = soughtIn(picture);
    const found = nearest(sought, known, WISH, FLOWS);
    expect([...new Set(found.map((n) => n.spec.recipe))].slice(0, 3)).toContain(recipe);
    for (const n of found) expect(recipeOf(n.spec.recipe).layouts).toContain(n.spec.layout);
    // The plan that is offered for it shows the picture too, with its own proportions.
    const near = found.find((n) => n.spec.recipe === recipe)!;
    const like = specLike(near, PIECE, wishSchema.parse({ toldApart: false }));
    const again = offerOf(like, PIECE, WISH, FLOWS);
    if (!again.ok) throw new Error(again.reason);
    const pattern = shownBy(again.evaluation, again.offer, near)!;
    const likeness = likenessOf(sought, pattern);
    expect(likeness.correlation).toBeGreaterThan(0.75);
    expect(isNear(likeness)).toBe(true);
    const { alongMm, acrossMm } = again.offer.element!;
    const { alongMm: wide, acrossMm: high } = made.offer.element!;
    expect(Math.abs(Math.log((alongMm / acrossMm) * (high / wide)))).toBeLessThan(0.2);
  });

  it('what the wish leaves out is not found', () => {
    const stripes = {
      width: 64,
      height: 64,
      values: Float64Array.from({ length: 4096 }, (_, i) => (i >> 3) & 1),
    };
    const few = known.filter((k) => ['star', 'rods', 'drawing'].includes(k.spec.recipe));
    const wish = wishSchema.parse({ hasPowder: false });
    const shares: number[] = [];
    const found = nearest(soughtIn(stripes), few, wish, FLOWS, (share) => shares.push(share));
    expect(new Set(found.map((n) => n.spec.recipe))).toEqual(new Set(['star']));
    expect(shares).toEqual([0.5]);
    expect(lacking(recipeOf('drawing'), wish)).toBe('powder and cans');
    expect(lacking(recipeOf('bows'), wishSchema.parse({ hasPress: false }))).toBe('a press');
    expect(lacking(recipeOf('star'), wishSchema.parse({ hasSaw: false }))).toBe('a saw');
    expect(lacking(recipeOf('star'), wishSchema.parse({ sides: ['along'] }))).toBe('another way to the side');
    const straight = wishSchema.parse({ sides: ['straight'] });
    expect(specLike(found[0], PIECE, straight).side).toBe('straight');
  });

  it('what is near nothing is not said to be', () => {
    const random = seeded(5);
    const noise = { width: 160, height: 160, values: Float64Array.from({ length: 25_600 }, () => random()) };
    const sought = soughtIn(noise);
    for (const k of known.slice(0, 12)) expect(isNear(likenessOf(sought, k.pattern))).toBe(false);
  });
});
