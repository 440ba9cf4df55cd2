import { readFileSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { PNG } from 'pngjs';
import { FACES, type FaceName, facePlane } from '../core/billet/face.ts';
import { type Evaluation, evaluate, readPlanText, stepResult, summarize } from '../core/plan/index.ts';
import { paint } from '../core/render/paint.ts';
import { type View, makePalette } from '../core/render/palette.ts';

const USAGE = `Usage:
  retablo figures PLAN.json
      prints every step's sizes, masses, losses, findings and instruction as JSON
  retablo face PLAN.json --out FACE.png [--step ID] [--face "end B"] [--size 800] [--view etched|materials]
      draws a face after a step (the last one unless named); faces: ${FACES.join(', ')}`;

/** Something the caller can mend; the message says how. */
class UsageError extends Error {}

function load(path: string | undefined): Evaluation {
  if (!path) throw new UsageError(USAGE);
  let text: string;
  try {
    text = readFileSync(path, 'utf8');
  } catch {
    throw new UsageError(`Cannot read ${path}.`);
  }
  const read = readPlanText(text);
  if (!read.ok) throw new UsageError(read.problems.map((p) => `${p.path || path}: ${p.message}`).join('\n'));
  return evaluate(read.plan);
}

interface FaceOptions {
  out?: string;
  step?: string;
  face?: string;
  size?: string;
  view?: string;
}

const MOST_PIXELS = 8192;

function drawFace(evaluation: Evaluation, options: FaceOptions): string {
  const face = (options.face ?? 'end B') as FaceName;
  const size = Number(options.size ?? 800);
  if (!options.out) throw new UsageError('Say where to write the picture: --out FACE.png');
  if (!FACES.includes(face)) throw new UsageError(`--face must be one of: ${FACES.join(', ')}`);
  if (!Number.isInteger(size) || size < 1 || size > MOST_PIXELS)
    throw new UsageError(`--size must be a whole number of pixels from 1 to ${MOST_PIXELS}`);
  if (!['etched', 'materials', undefined].includes(options.view))
    throw new UsageError('--view must be etched or materials');
  const steps = evaluation.lanes.flatMap((l) => l.steps);
  const result = options.step ? stepResult(evaluation, options.step) : steps.at(-1);
  const billet = result?.after?.[0];
  if (!billet)
    throw new UsageError(
      options.step
        ? `There is nothing to draw after step “${options.step}”.`
        : 'The plan does not come to a bar: see its findings.',
    );
  const plane = facePlane(billet, face);
  const perMm = size / Math.max(plane.widthMm, plane.heightMm);
  const widthPx = Math.max(1, Math.round(plane.widthMm * perMm));
  const heightPx = Math.max(1, Math.round(plane.heightMm * perMm));
  const palette = makePalette(
    evaluation.shop,
    (options.view ?? 'etched') as View,
    Object.keys(billet.volumes),
  );
  const picture = paint({ billet, plane, widthPx, heightPx, palette });
  const png = new PNG({ width: widthPx, height: heightPx });
  png.data = Buffer.from(picture.rgba);
  writeFileSync(options.out, PNG.sync.write(png));
  return `${options.out}: ${face} of step ${result.step.id}, ${widthPx} × ${heightPx} pixels`;
}

function run(args: string[]): string {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      out: { type: 'string' },
      step: { type: 'string' },
      face: { type: 'string' },
      size: { type: 'string' },
      view: { type: 'string' },
    },
  });
  const [command, path] = positionals;
  if (command === 'figures') return JSON.stringify(summarize(load(path)), null, 2);
  if (command === 'face') return drawFace(load(path), values);
  throw new UsageError(USAGE);
}

try {
  console.log(run(process.argv.slice(2)));
} catch (error) {
  const known =
    error instanceof UsageError || (error as { code?: string }).code?.startsWith('ERR_PARSE_ARGS');
  if (!known) throw error;
  console.error((error as Error).message);
  process.exitCode = 2;
}
