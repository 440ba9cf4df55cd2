import { describe, expect, it } from 'vitest';
import { seeded } from '../canister/packing.ts';
import { likenessOf, soughtIn } from '../likeness/pose.ts';
import { wishSchema } from '../plan/index.ts';
import { shopSchema } from '../shop/shop.ts';
import { FLOWS } from '../tests/plans.ts';
import { photographedRepeat } from '../tests/targets.ts';
import {
  type Face,
  type Piece,
  type Spec,
  RECIPES,
  isNear,
  facesShown,
  knownOf,
  lacking,
  librarySpecs,
  nearest,
  offerOf,
  recipeOf,
  shippedFaces,
  shownBy,
  shownRecipes,
  specKey,
  specLike,
} from './index.ts';

const PIECE: Piece = {
  name: 'Trial',
  goal: { lengthMm: 300, widthMm: 50, thicknessMm: 5 },
  shop: shopSchema.parse({}),
  materials: [],
};
const WISH = wishSchema.parse({ alongMm: 22, acrossMm: 22, toldApart: false });

const FACES = await shippedFaces();

describe('the library as it is shipped', () => {
  it('holds what recipes that have an element show now (where it does not: npm run library)', () => {
    const shown = new Map<string, Face[]>();
    for (const face of FACES) shown.set(face.spec.recipe, [...(shown.get(face.spec.recipe) ?? []), face]);
    for (const { id, isBare } of RECIPES) expect(shown.has(id), id).toBe(!isBare);
    for (const recipe of shownRecipes()) {
      const specs = librarySpecs(recipe);
      for (const { spec } of shown.get(recipe.id)!) expect(specs).toContainEqual(spec);
      const [first] = specs;
      const [now] = [...facesShown([first], FLOWS)].flat();
      const then = shown.get(recipe.id)!.find((face) => specKey(face.spec) === specKey(first))!;
      expect([then.shown, then.elements], recipe.id).toEqual([now.shown, now.elements]);
      // In fifteen tones.
      const apart = now.picture.values.map((v, i) => Math.abs(v - then.picture.values[i]));
      expect(Math.max(...apart), recipe.id).toBeLessThan(0.5 / 15 + 1e-9);
    }
  });

  it('comes in parts, and of recipes that are named', async () => {
    const parts = await Promise.all([0, 1, 2].map((part) => shippedFaces({ part, of: 3 })));
    expect(parts.map((p) => p.length).reduce((a, b) => a + b)).toBe(FACES.length);
    const named = await shippedFaces(undefined, ['ladder', 'star']);
    expect(new Set(named.map((face) => face.spec.recipe))).toEqual(new Set(['ladder', 'star']));
  });
});

describe('plans from a picture', () => {
  const known = FACES.map(knownOf);
  const hidden: Pick<Spec, 'recipe' | 'numbers'>[] = [
    { recipe: 'star', numbers: { layers: 7, share: 0.5 } },
    { recipe: 'framed', numbers: { motif: 3, layers: 9 } },
    { recipe: 'ladder', numbers: { layers: 25, share: 0.4, deep: 0.3 } },
  ];

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
