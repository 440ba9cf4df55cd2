import { seeded } from '../core/canister/packing.ts';
import { WorkedOutFlows } from '../core/flow/flows.ts';
import { wishSchema } from '../core/plan/index.ts';
import { soughtIn } from '../core/likeness/pose.ts';
import { drawnSpec } from '../core/recipes/gallery.ts';
import { leastPlaces } from '../core/recipes/finding.ts';
import { type Piece, RECIPES, library, nearest, offerOf } from '../core/recipes/index.ts';
import { shopSchema } from '../core/shop/shop.ts';
import { photographedRepeat } from '../core/tests/targets.ts';

/** Faces of random recipes with hidden numbers, photographed turned and with noise: how often the family is among the first three found. */
const TARGETS = Number(process.argv[2] ?? 30);

const PIECE: Piece = {
  name: 'Hidden',
  goal: { lengthMm: 300, widthMm: 50, thicknessMm: 5 },
  shop: shopSchema.parse({}),
  materials: [],
};
const WISH = wishSchema.parse({ alongMm: 22, acrossMm: 22 });

const seconds = (from: number): string => `${((performance.now() - from) / 1000).toFixed(1)} s`;

const flows = new WorkedOutFlows();
const begun = performance.now();
const known = [...library(flows)].flat();
console.log(`${known.length} faces known in ${seconds(begun)}`);
const random = seeded(Number(process.argv[3] ?? 1));
const pool = RECIPES.filter((r) => r.make);
const correlations: number[] = [];
let among = 0;
/** Families whose faces coincide by symmetry. */
const SAME: Readonly<Record<string, string>> = {
  'quarter-star': 'star',
  'stripes turned': 'checker',
  stripes: 'checker',
  feather: 'feather-cross',
};
const family = (recipe: string): string => SAME[recipe] ?? recipe;
for (let done = 0; done < TARGETS;) {
  const recipe = pool[Math.floor(random() * pool.length)];
  const drawn = drawnSpec(recipe, PIECE, WISH, random, false);
  if (!drawn) continue;
  const made = offerOf(
    { ...drawn, side: 'slanted', around: 'plain', ...leastPlaces(drawn.layout) },
    PIECE,
    WISH,
    flows,
  );
  if (!made.ok || !made.offer.element) continue;
  done++;
  const { spec } = made.offer;
  const picture = photographedRepeat(made.evaluation, made.offer, 8 * random() - 4, random);
  const from = performance.now();
  const found = nearest(soughtIn(picture), known, flows);
  const families = [...new Set(found.map((f) => family(f.spec.recipe)))];
  const place = families.indexOf(family(recipe.id));
  if (place >= 0 && place < 3) among++;
  correlations.push(found[0]?.correlation ?? 0);
  console.log(
    `${recipe.id} ${spec.layout} ${spec.columns} × ${spec.rows} ${JSON.stringify(spec.numbers)}: place ${place + 1} of ${families.slice(0, 4).join(', ')}; ${found[0]?.spec.layout} ${found[0]?.shown} ${found[0]?.elements.join('×')} ${JSON.stringify(found[0]?.spec.numbers)} correlation ${found[0]?.correlation.toFixed(2)}, ${found[0]?.directions.toFixed(2)} ${seconds(from)}`,
  );
}
correlations.sort((a, b) => a - b);
console.log(
  `${among} of ${TARGETS} among the first three; correlation median ${correlations[TARGETS >> 1].toFixed(2)}`,
);
