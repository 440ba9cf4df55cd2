import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { PNG } from 'pngjs';
import { sizeOf } from '../core/billet/billet.ts';
import { facePlane, partOf } from '../core/billet/face.ts';
import { seeded } from '../core/canister/packing.ts';
import { WorkedOutFlows } from '../core/flow/flows.ts';
import { type Grey, greyOf } from '../core/likeness/grey.ts';
import { soughtIn } from '../core/likeness/pose.ts';
import { wishSchema } from '../core/plan/index.ts';
import { drawnSpec, specLike } from '../core/recipes/gallery.ts';
import { LEAST_PLACES } from '../core/recipes/library.ts';
import {
  type Near,
  type Piece,
  type Spec,
  RECIPES,
  knownOf,
  nearest,
  offerOf,
  shippedFaces,
} from '../core/recipes/index.ts';
import { shopSchema } from '../core/shop/shop.ts';
import { photographedRepeat } from '../core/tests/targets.ts';

/**
 * Faces of random recipes with hidden numbers, photographed turned and with noise: how often the family is among the first three found.
 * npm run finds [-- how many [seed [folder]]]; into the folder go the photographs, and some repeats of the face of the plan that was
 * found first, to be compared by others.
 */
const [targets = '30', seed = '1', folder] = process.argv.slice(2);
const TARGETS = Number(targets);
const MOST_TURN_DEG = 4;
const WIDE_MM = 50;

const piece = (widthMm: number): Piece => ({
  name: 'Hidden',
  goal: { lengthMm: 300, widthMm, thicknessMm: 5 },
  shop: shopSchema.parse({}),
  materials: [],
});
const WISH = wishSchema.parse({ alongMm: 22, acrossMm: 22 });

/** Families whose faces coincide by symmetry. */
const SAME: Readonly<Record<string, string>> = {
  'quarter-star': 'star',
  stripes: 'checker',
  feather: 'feather-cross',
};
const family = (recipe: string): string => SAME[recipe] ?? recipe;

const seconds = (from: number): string => `${((performance.now() - from) / 1000).toFixed(1)} s`;

function write(name: string, { width, height, values }: Grey): void {
  if (!folder) return;
  mkdirSync(folder, { recursive: true });
  const png = new PNG({ width, height });
  for (const [i, v] of values.entries()) {
    const tone = Math.max(0, Math.min(255, Math.round(255 * v)));
    png.data.set([tone, tone, tone, 255], 4 * i);
  }
  writeFileSync(join(folder, name), PNG.sync.write(png));
}

/** Repeats of a found face along, and dots to the millimetre. */
const REPEATS = 2.6;
const PER_MM = 6;

/** Some repeats of the face of a plan for what was found, each as wide as high, as the photograph is once it is set square. */
function faceOf(near: Near): Grey | null {
  const [along, across] = near.elements;
  const wish = wishSchema.parse({ toldApart: false });
  const made = offerOf(specLike(near, piece(WIDE_MM), wish), piece(WIDE_MM), wish, flows);
  const bar = made.ok && made.evaluation.goal.bar;
  if (!bar || !made.offer.element) return null;
  const { widthMm } = sizeOf(bar);
  const { alongMm, acrossMm } = made.offer.element;
  const longMm = Math.min(bar.lengthMm - 40, REPEATS * along * alongMm);
  const plane = partOf(facePlane(bar, 'top'), 40, 0, longMm, widthMm);
  const squeezed = (across * acrossMm) / (along * alongMm);
  return greyOf(
    bar,
    plane,
    Math.round(PER_MM * longMm * squeezed),
    Math.round(PER_MM * widthMm),
    made.evaluation.shop,
  );
}

const flows = new WorkedOutFlows();
const begun = performance.now();
const known = (await shippedFaces()).map(knownOf);
console.log(`${known.length} faces made ready in ${seconds(begun)}`);
const random = seeded(Number(seed));
const pool = RECIPES.filter((r) => !r.isBare);
const found: { near: Near; layers: number | undefined }[] = [];
let among = 0;
while (found.length < TARGETS) {
  const recipe = pool[Math.floor(random() * pool.length)];
  const drawn = drawnSpec(recipe, piece(WIDE_MM), WISH, random, false);
  if (!drawn) continue;
  const spec: Spec = recipe.make
    ? { ...drawn, side: 'slanted', around: 'plain', ...LEAST_PLACES[drawn.layout] }
    : { ...drawn, around: 'plain' };
  const made = offerOf(spec, piece(WIDE_MM), WISH, flows);
  if (!made.ok || !made.offer.element) continue;
  const turnDeg = MOST_TURN_DEG * (2 * random() - 1);
  const picture = photographedRepeat(made.evaluation, made.offer, turnDeg, random);
  const from = performance.now();
  const all = nearest(soughtIn(picture), known, WISH, flows);
  const took = seconds(from);
  const families = [...new Set(all.map((f) => family(f.spec.recipe)))];
  const place = families.indexOf(family(recipe.id));
  if (place >= 0 && place < 3) among++;
  const [near] = all;
  found.push({ near, layers: made.offer.spec.numbers.layers });
  write(`${found.length}-target.png`, picture);
  const face = folder ? faceOf(near) : null;
  if (face) write(`${found.length}-found.png`, face);
  console.log(
    `${recipe.id} ${spec.layout} ${JSON.stringify(made.offer.spec.numbers)}: place ${place + 1} of ${families.slice(0, 4).join(', ')}; first ${near.spec.recipe} ${near.spec.layout} ${JSON.stringify(near.spec.numbers)}: ${near.correlation.toFixed(2)}, lines ${near.directions.toFixed(2)}; ${took}`,
  );
}
const median = (all: readonly number[]): string =>
  [...all].sort((a, b) => a - b)[all.length >> 1]?.toFixed(2) ?? '–';
const few = found.filter(({ layers }) => layers !== undefined && layers <= 9);
console.log(
  `${among} of ${TARGETS} among the first three; correlation median ${median(found.map((f) => f.near.correlation))}, up to nine layers ${median(few.map((f) => f.near.correlation))}`,
);
