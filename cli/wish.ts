import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { bladeSchema } from '../core/blade/index.ts';
import { WorkedOutFlows } from '../core/flow/flows.ts';
import { PLANE_GROUPS } from '../core/likeness/symmetry.ts';
import { evaluate, goalSchema, wishSchema } from '../core/plan/index.ts';
import { type Offer, type Piece, looksOf, recipeOf, sought } from '../core/recipes/index.ts';
import { customMaterialsSchema, shopSchema } from '../core/shop/shop.ts';
import { UsageError, wholeNumber } from './usage.ts';

/** What a wish file holds: the bar, and what a plan file has of the rest. */
const fileSchema = z.strictObject({
  name: z.string().max(120).default('A wish'),
  goal: goalSchema,
  blade: bladeSchema.optional(),
  shop: shopSchema.default(() => shopSchema.parse({})),
  materials: customMaterialsSchema.default([]),
  wish: wishSchema.default(() => wishSchema.parse({})),
});

export interface WishOptions {
  out?: string;
  count?: string;
  seed?: string;
}

/** Plans looked for where nothing is said; ms after which no other is begun. */
const COUNT = 16;
const MOST_COUNT = 200;
const MOST_MS = 45_000;

function read(path: string): z.infer<typeof fileSchema> {
  let content: unknown;
  try {
    content = JSON.parse(readFileSync(path, 'utf8'));
  } catch (error) {
    throw new UsageError(`Cannot read ${path}: ${(error as Error).message}`);
  }
  const parsed = fileSchema.safeParse(content);
  if (parsed.success) return parsed.data;
  throw new UsageError(
    parsed.error.issues.map((i) => `${i.path.map(String).join('.') || path}: ${i.message}`).join('\n'),
  );
}

const round = (value: number, digits = 3): number => Number(value.toFixed(digits));

function said({ spec, element, ...offer }: Offer, flows: WorkedOutFlows) {
  const { group } = looksOf(evaluate(offer.plan, undefined, flows), element) ?? { group: null };
  return {
    recipe: spec.recipe,
    name: recipeOf(spec.recipe).name,
    numbers: spec.numbers,
    side: spec.side,
    columns: spec.columns,
    rows: spec.rows,
    layout: spec.layout,
    around: spec.around,
    element: element && { alongMm: round(element.alongMm), acrossMm: round(element.acrossMm) },
    face: group && { group, words: PLANE_GROUPS[group] },
    steelKg: round(offer.steelKg),
    fourWays: offer.fourWays,
    heats: offer.heats,
    hours: round(offer.hours, 1),
    thinnestBandMm: round(offer.bandMm),
    toldApart: offer.isToldApart,
    remaining: offer.remaining.map(({ code, text }) => ({ code, text })),
  };
}

/** Plans for a wish as JSON, each written as a plan file where a folder is named; and why others could not be made. */
export function plansFor(path: string | undefined, { out, count, seed }: WishOptions): string {
  if (!path) throw new UsageError('Say which wish: retablo wish WISH.json');
  const { wish, ...piece } = read(path);
  const most = wholeNumber('count', count ?? String(COUNT), MOST_COUNT);
  const flows = new WorkedOutFlows();
  const candidates: object[] = [];
  const refused: object[] = [];
  const until = Date.now() + MOST_MS;
  if (out) mkdirSync(out, { recursive: true });
  for (const { spec, offered } of sought(
    piece as Piece,
    wish,
    flows,
    wholeNumber('seed', seed ?? '1', 1e6),
  )) {
    if (offered.ok) {
      const file = out && join(out, `${candidates.length + 1}-${spec.recipe}.json`);
      if (file) writeFileSync(file, JSON.stringify({ ...offered.offer.plan, wish }, null, 2));
      candidates.push({ ...said(offered.offer, flows), ...(file && { file }) });
    } else refused.push({ recipe: spec.recipe, reason: offered.reason });
    if (candidates.length >= most || Date.now() > until) break;
  }
  return JSON.stringify({ candidates, refused }, null, 2);
}
