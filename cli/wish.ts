import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { z } from 'zod';
import { bladeSchema } from '../core/blade/index.ts';
import { WorkedOutFlows } from '../core/flow/flows.ts';
import { isPlain, repeatIn } from '../core/likeness/repeat.ts';
import { goalSchema, wishSchema } from '../core/plan/index.ts';
import { type Piece, RECIPES, isNear, sought } from '../core/recipes/index.ts';
import type { Four, Point } from '../core/sighting/homography.ts';
import { customMaterialsSchema, shopSchema } from '../core/shop/shop.ts';
import { alikeInParts } from './inParts.ts';
import { round, said } from './said.ts';
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
      candidates.push({ ...said(offered.offer, offered.evaluation), ...(file && { file }) });
    } else refused.push({ recipe: spec.recipe, reason: offered.reason });
    if (candidates.length >= most || Date.now() > until) break;
  }
  return JSON.stringify({ candidates, refused }, null, 2);
}

/** Dots of a picture that are decoded at most. */
const MOST_PIXELS = 40e6;
/** mm. The bar that plans like a picture are of, where no wish says another. */
const A_BAR = { lengthMm: 300, widthMm: 50, thicknessMm: 5 } as const;

export interface FindOptions {
  out?: string;
  corners?: string;
  wish?: string;
  among?: string;
}

/** What comes nearest to one repeat of a picture, as JSON: the whole picture, or what lies within four corners of it. */
export async function plansLike(
  path: string | undefined,
  { out, corners, wish: wishPath, among }: FindOptions,
): Promise<string> {
  if (!path) throw new UsageError('Say which picture: retablo find PICTURE.png');
  const named = recipesIn(among);
  const decoded = await sharp(path, { limitInputPixels: MOST_PIXELS })
    // A drawing without a ground stands on white.
    .flatten({ background: '#ffffff' })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true })
    .catch((error: Error) => {
      throw new UsageError(`Cannot read ${path} as a picture: ${error.message}`);
    });
  const { width, height } = decoded.info;
  const photo = { width, height, rgba: new Uint8ClampedArray(decoded.data) };
  const { wish, ...piece } = wishPath ? read(wishPath) : fileSchema.parse({ goal: A_BAR });
  const repeat = repeatIn(photo, cornersOf(corners, width, height));
  if (isPlain(repeat))
    throw new UsageError(`${path}: what was marked is all of one tone, so there is nothing to look for`);
  const found = await alikeInParts({ picture: repeat, piece: piece as Piece, wish, among: named });
  if (out) mkdirSync(out, { recursive: true });
  const candidates = found.map((alike, i) => {
    if (!alike.ok) return { recipe: alike.recipe, reason: alike.reason };
    const { plan, shown, like } = alike;
    const file = out && join(out, `${i + 1}-${alike.said.recipe}.json`);
    if (file) writeFileSync(file, JSON.stringify({ ...plan, wish }, null, 2));
    return {
      ...alike.said,
      ...(like && {
        compared: shown === 'one' ? 'one element in the end grain' : 'the finished face',
        correlation: round(like.correlation),
        directions: round(like.directions),
        isNear: isNear(like),
      }),
      ...(file && { file }),
    };
  });
  const instead = candidates.some((c) => 'isNear' in c && c.isNear)
    ? {}
    : { instead: 'a drawing in powders' };
  return JSON.stringify({ ...instead, candidates }, null, 2);
}

/** Recipes by their names in plans, set apart by commas. */
function recipesIn(text: string | undefined): string[] {
  const ids = (text ?? '')
    .split(',')
    .map((id) => id.trim())
    .filter(Boolean);
  const unknown = ids.find((id) => !RECIPES.some((r) => r.id === id));
  if (unknown !== undefined)
    throw new UsageError(
      `--among: there is no recipe “${unknown}”; there are ${RECIPES.map((r) => r.id).join(', ')}`,
    );
  return ids;
}

function cornersOf(text: string | undefined, width: number, height: number): Four {
  if (text === undefined)
    return [
      [0, 0],
      [width, 0],
      [width, height],
      [0, height],
    ];
  const numbers = text
    .split(/[\s,]+/)
    .filter(Boolean)
    .map(Number);
  if (numbers.length !== 8 || numbers.some((n) => !Number.isFinite(n)))
    throw new UsageError('--corners must be four points “x,y x,y x,y x,y”, clockwise from the upper left');
  const [a, b, c, d] = [0, 2, 4, 6].map((i): Point => [numbers[i], numbers[i + 1]]);
  return [a, b, c, d];
}
