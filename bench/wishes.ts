import { seeded } from '../core/canister/packing.ts';
import { WorkedOutFlows } from '../core/flow/flows.ts';
import { readPlan, wishSchema } from '../core/plan/index.ts';
import { drawnSpec } from '../core/recipes/gallery.ts';
import { type Piece, RECIPES, offerOf } from '../core/recipes/index.ts';
import { shopSchema } from '../core/shop/shop.ts';

/** Twenty random wishes for every family: how many are met, how near the element comes, what is to be lived with, and why the others are not. */
const EACH = Number(process.argv[2] ?? 20);

const INCHES = shopSchema.parse({ lengths: { unit: 'in', division: 32 }, masses: 'lb', temperatures: 'F' });
const MM = shopSchema.parse({});

const percent = (share: number): string => `${(100 * share).toFixed(2)} %`;

let [asked, met, clean, far, invalid] = [0, 0, 0, 0, 0];
for (const [at, recipe] of RECIPES.entries()) {
  const flows = new WorkedOutFlows();
  const random = seeded(977 + at);
  const between = (low: number, high: number) => low + (high - low) * random();
  let [own, ownClean, worst, ms] = [0, 0, 0, 0];
  const reasons = new Set<string>();
  for (let i = 0; i < EACH; i++) {
    const piece: Piece = {
      name: 'A wish',
      goal: { lengthMm: between(120, 340), widthMm: between(25, 105), thicknessMm: between(3.5, 7) },
      shop: i % 2 ? INCHES : MM,
      materials: [],
    };
    const wish = wishSchema.parse({ alongMm: between(9, 32) });
    const spec = drawnSpec(recipe, piece, wish, random, i === 0);
    if (!spec) continue;
    asked++;
    const from = performance.now();
    const made = offerOf(spec, piece, wish, flows);
    ms += performance.now() - from;
    if (!made.ok) {
      reasons.add(made.reason.replace(/\d[\d.,/" ]*/g, '# '));
      continue;
    }
    const { offer } = made;
    own++;
    if (offer.remaining.length === 0) ownClean++;
    if (offer.element) worst = Math.max(worst, Math.abs(offer.element.alongMm / wish.alongMm! - 1));
    if (offer.element && Math.abs(offer.element.alongMm / wish.alongMm! - 1) > 0.01) far++;
    if (!readPlan(JSON.parse(JSON.stringify(offer.plan))).ok) invalid++;
  }
  met += own;
  clean += ownClean;
  console.log(
    `${recipe.id}: ${own} of ${EACH} met, ${ownClean} without a warning, element at most ${percent(worst)} off, ${(ms / EACH).toFixed(0)} ms each`,
  );
  for (const reason of reasons) console.log(`   not: ${reason}`);
}
console.log(
  `${asked} asked, ${met} met, ${clean} without a warning; ${far} more than 1 % off, ${invalid} no valid plan`,
);
