import { writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { PNG } from 'pngjs';
import type { Billet } from '../core/billet/billet.ts';
import { FACES, type FaceName, type Plane, facePlane, sectionPlane } from '../core/billet/face.ts';
import { type Evaluation, materialOrder, stepResult } from '../core/plan/index.ts';
import { summarize } from '../core/print/summary.ts';
import { sampleCodes } from '../core/render/codes.ts';
import { paint } from '../core/render/paint.ts';
import { type View, makePalette } from '../core/render/palette.ts';
import type { Shop } from '../core/shop/shop.ts';
import { readPhotograph } from './read.ts';
import { foretell, learn } from './learn.ts';
import { plansFor, plansLike } from './wish.ts';
import { USAGE, UsageError, planOf, wholeNumber } from './usage.ts';

const VIEWS = ['etched', 'materials', 'codes'] as const;

interface FaceOptions {
  out?: string;
  step?: string;
  face?: string;
  at?: string;
  piece?: string;
  size?: string;
  view?: string;
}

const MOST_PIXELS = 8192;

/** The bar that is drawn: a piece of what a step comes to. */
function billetFor(
  evaluation: Evaluation,
  { step, piece = '1' }: FaceOptions,
): { id: string; billet: Billet } {
  const steps = evaluation.lanes.flatMap((l) => l.steps);
  const result = step ? stepResult(evaluation, step) : steps.at(-1);
  if (!result?.after?.length)
    throw new UsageError(
      step
        ? `There is nothing to draw after step “${step}”.`
        : 'The plan does not come to a bar: see its findings.',
    );
  return { id: result.step.id, billet: result.after[wholeNumber('piece', piece, result.after.length) - 1] };
}

function planeFor(billet: Billet, { face = 'end B', at }: FaceOptions): Plane {
  if (at === undefined) {
    if (!FACES.includes(face as FaceName)) throw new UsageError(`--face must be one of: ${FACES.join(', ')}`);
    return facePlane(billet, face as FaceName);
  }
  const mm = Number(at);
  if (at.trim() === '' || !(mm >= 0 && mm <= billet.lengthMm))
    throw new UsageError(`--at must be mm from end A, 0 to ${billet.lengthMm.toFixed(2)}`);
  return sectionPlane(billet, mm);
}

/** Grey = number of the material; the list of numbers goes into a file beside the picture. */
function drawCodes(
  billet: Billet,
  plane: Plane,
  widthPx: number,
  heightPx: number,
  shop: Shop,
  out: string,
): Buffer {
  const codes = sampleCodes(billet, plane, widthPx, heightPx);
  const rgba = Buffer.alloc(4 * codes.length, 255);
  codes.forEach((code, i) => rgba.fill(code, 4 * i, 4 * i + 3));
  const materials = Object.fromEntries(shop.materials.map((m, i) => [i + 1, m.id]));
  const { widthMm, heightMm } = plane;
  const list = { widthPx, heightPx, widthMm, heightMm, materials: { 0: null, ...materials } };
  writeFileSync(out.replace(/(\.png)?$/i, '.json'), JSON.stringify(list, null, 2));
  return rgba;
}

function drawFace(evaluation: Evaluation, options: FaceOptions): string {
  const { out, view = 'etched' } = options;
  if (!out) throw new UsageError('Say where to write the picture: --out FACE.png');
  if (!(VIEWS as readonly string[]).includes(view))
    throw new UsageError(`--view must be one of: ${VIEWS.join(', ')}`);
  const size = wholeNumber('size', options.size ?? '800', MOST_PIXELS);
  const { id, billet } = billetFor(evaluation, options);
  const plane = planeFor(billet, options);
  const perMm = size / Math.max(plane.widthMm, plane.heightMm);
  const widthPx = Math.max(1, Math.round(plane.widthMm * perMm));
  const heightPx = Math.max(1, Math.round(plane.heightMm * perMm));
  const { shop } = evaluation;
  const png = new PNG({ width: widthPx, height: heightPx });
  if (view === 'codes') png.data = drawCodes(billet, plane, widthPx, heightPx, shop, out);
  else {
    const palette = makePalette(shop, view as View, materialOrder(evaluation));
    png.data = Buffer.from(paint({ billet, plane, widthPx, heightPx, palette }).rgba);
  }
  writeFileSync(out, PNG.sync.write(png));
  const where = options.at === undefined ? (options.face ?? 'end B') : `section at ${options.at} mm`;
  return `${out}: ${where} of step ${id}, ${widthPx} × ${heightPx} pixels`;
}

/** What a command line comes to, in words; what it writes besides are the files it names. Throws what the caller can mend. */
export async function run(args: string[]): Promise<string> {
  const text = { type: 'string' } as const;
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      ...{ out: text, step: text, face: text, at: text, piece: text, size: text, view: text },
      ...{ predicted: text, plan: text, width: text, height: text, taps: text, focal: text },
      ...{ count: text, seed: text, corners: text, wish: text, learned: text, among: text },
      ...{ diagonals: text, end: text, lattice: text, from: text, to: text, left: text },
    },
  });
  const [command, path] = positionals;
  if (command === 'figures') return JSON.stringify(summarize(planOf(path)), null, 2);
  if (command === 'face') return drawFace(planOf(path), values);
  if (command === 'wish') return plansFor(path, values);
  if (command === 'find') return plansLike(path, values);
  if (command === 'learn') return learn(path);
  if (command === 'forecast') return foretell(path, values);
  if (command === 'read') return readPhotograph(path, values);
  throw new UsageError(USAGE);
}
