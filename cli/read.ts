import { writeFileSync } from 'node:fs';
import sharp from 'sharp';
import { materialOrder, stepResult } from '../core/plan/index.ts';
import { type FaceAsked, faceRead } from '../core/render/faceRead.ts';
import { FACE_REFUSED, faceSaid } from '../core/render/faceSaid.ts';
import { foreseenOf, isFourSided } from '../core/render/foreseen.ts';
import { type Four, type Point, inverted, through, toCorners } from '../core/sighting/homography.ts';
import {
  type EndPhotographed,
  type Foreseen,
  type Prediction,
  REFUSED,
  type Sight,
  onPhoto,
  patternAt,
  sightedAtAnEnd,
} from '../core/sighting/sighting.ts';
import { endOf } from '../core/sighting/said.ts';
import { onEndB } from '../core/sighting/steps.ts';
import { SIDE } from '../core/sighting/fitted.ts';
import { UsageError, planOf, wholeNumber } from './usage.ts';

export interface ReadOptions {
  predicted?: string;
  plan?: string;
  step?: string;
  piece?: string;
  face?: string;
  from?: string;
  left?: string;
  to?: string;
  width?: string;
  height?: string;
  taps?: string;
  focal?: string;
  diagonals?: string;
  end?: string;
  lattice?: string;
  out?: string;
}

/** Numbers of an option; sizes and steps are more than nothing. */
function numbers(
  option: string,
  text: string | undefined,
  count: number,
  what: string,
  more = -Infinity,
): number[] {
  const all = (text ?? '')
    .split(/[\s,]+/)
    .filter(Boolean)
    .map(Number);
  if (all.length !== count || !all.every((n) => Number.isFinite(n) && n > more))
    throw new UsageError(`--${option} must be ${what}`);
  return all;
}

/** At most so many dots of a photograph are decoded. */
const MOST_PIXELS = 120e6;

async function photographOf(path: string) {
  try {
    const { data, info } = await sharp(path, { limitInputPixels: MOST_PIXELS })
      .autoOrient()
      .flatten({ background: '#ffffff' })
      .toColourspace('srgb')
      .ensureAlpha()
      .raw({ depth: 'uchar' })
      .toBuffer({ resolveWithObject: true });
    return { width: info.width, height: info.height, rgba: data };
  } catch (error) {
    throw new UsageError(`Cannot read ${path} as a photograph (JPEG or PNG): ${(error as Error).message}`);
  }
}

async function pictured(path: string, widthMm: number, heightMm: number): Promise<Prediction> {
  try {
    const picture = sharp(path, { limitInputPixels: MOST_PIXELS })
      .flatten({ background: '#ffffff' })
      .greyscale();
    const grey = await picture.resize(SIDE, SIDE, { fit: 'fill' }).raw({ depth: 'uchar' }).toBuffer();
    return { tones: { n: SIDE, data: Float32Array.from(grey, (v) => v / 255) }, widthMm, heightMm };
  } catch (error) {
    throw new UsageError(`Cannot read ${path} as a picture: ${(error as Error).message}`);
  }
}

const SEEN_FACES = ['end A', 'end B', 'middle', 'top'] as const;

/** The bar that an option names, after a step of a plan. */
function barOf({ plan: path, step, piece = '1', face }: ReadOptions) {
  if (face !== undefined && !SEEN_FACES.some((f) => f === face))
    throw new UsageError(`--face must be one of ${SEEN_FACES.join(', ')}`);
  const evaluation = planOf(path);
  const result = step ? stepResult(evaluation, step) : evaluation.lanes.flatMap((l) => l.steps).at(-1);
  const made = (result?.reckoned ?? result)?.after ?? [];
  if (!result || made.length === 0) throw new UsageError('There is no bar after that step: see --step.');
  const at = wholeNumber('piece', piece, made.length) - 1;
  return { evaluation, stepId: result.step.id, at, bar: made[at] };
}

/** What a plan foresees of a bar's ends after a step, or of its middle. */
function foreseen(options: ReadOptions): Foreseen {
  const { evaluation, bar } = barOf(options);
  if (!isFourSided(bar))
    throw new UsageError('This bar has no four sides there: only such an end can be laid out square.');
  const where = options.face === 'middle' ? 'middle' : 'ends';
  return foreseenOf(bar, evaluation.shop, materialOrder(evaluation), where);
}

/** A stretch of the upper face against what a plan foresees of it, as JSON. */
function readFace(
  photo: FaceAsked['photo'],
  taps: Four,
  options: ReadOptions,
): { said: object; ok: boolean } {
  if (!options.plan) throw new UsageError('Of a face say what was foreseen: --plan PLAN.json --step ID');
  const { evaluation, stepId, at, bar } = barOf(options);
  const mm = (option: 'from' | 'to', usual: number) =>
    options[option] === undefined
      ? usual
      : numbers(option, options[option], 1, 'mm from end A', option === 'from' ? -1e-9 : 0)[0];
  const [fromMm, toMm] = [mm('from', 0), mm('to', bar.lengthMm)];
  if (toMm <= fromMm || toMm > bar.lengthMm + 1e-6)
    throw new UsageError(`--to must be more than --from, and at most ${bar.lengthMm.toFixed(1)} mm`);
  const left = options.left?.toUpperCase();
  if (left !== undefined && left !== 'A' && left !== 'B') throw new UsageError('--left must be A or B');
  const asked = { photo, taps, fromMm, toMm, ...(left && { turned: left === 'B' }) };
  const read = faceRead(evaluation, stepId, (after) => after[at], asked)!;
  const { sight, tiles } = read;
  return sight.ok
    ? { ok: true, said: { ...sight.along, corners: sight.corners, tiles, said: faceSaid(read, LENGTHS) } }
    : { ok: false, said: { refused: sight.why, said: FACE_REFUSED[sight.why] } };
}
const LENGTHS = { unit: 'mm', division: 0.1 } as const;

/** Where points of a lattice over the photograph lie in the predicted section: [px, py, x mm, y mm]. */
function latticeOf(
  sight: Extract<Sight, { ok: true }>,
  prediction: Prediction,
  from: number,
  step: number,
  size: Point,
) {
  const back = inverted(toCorners(sight.corners));
  const pattern = patternAt(sight.sighting);
  const points: number[][] = [];
  for (let py = from; py < size[1]; py += step)
    for (let px = from; px < size[0]; px += step) {
      const [x, y] = through(back, [px, py]);
      if (Math.max(Math.abs(x), Math.abs(y)) > 1) continue;
      const [u, v] = pattern(...onEndB(sight.sighting.orientation, x, y));
      points.push([px, py, (u * prediction.widthMm) / 2, (v * prediction.heightMm) / 2]);
    }
  return points;
}

const END_OF: Readonly<Record<string, 'A' | 'B'>> = { 'end A': 'A', 'end B': 'B' };

const sameAtBoth = (prediction: Prediction): Foreseen => ({ A: prediction, B: prediction });

/** `retablo read`: a photograph of an end against a prediction, as JSON. */
export async function readPhotograph(path: string | undefined, options: ReadOptions): Promise<string> {
  if (!path) throw new UsageError('Say which photograph: retablo read PHOTO …');
  const corners = (): Four => {
    const taps = numbers('taps', options.taps, 8, 'four corners, px: "x,y x,y x,y x,y"');
    return [0, 2, 4, 6].map((i): Point => [taps[i], taps[i + 1]]) as unknown as Four;
  };
  if (options.face === 'top') {
    const { said, ok } = readFace(await photographOf(path), corners(), options);
    return written(said, options.out, ok ? 'read' : 'refused');
  }
  const [widthMm] = numbers('width', options.width, 1, 'the width by caliper, mm', 0);
  const [heightMm] = numbers('height', options.height, 1, 'the height by caliper, mm', 0);
  const taps = corners();
  if (!options.predicted === !options.plan)
    throw new UsageError('Say what was foreseen: --predicted PICTURE.png, or --plan PLAN.json --step ID');
  const end = options.end?.toUpperCase() ?? END_OF[options.face ?? ''];
  if (end !== undefined && end !== 'A' && end !== 'B') throw new UsageError('--end must be A or B');
  const lattice = options.lattice
    ? numbers('lattice', options.lattice, 2, 'where it begins and its step, px, both more than 0', 0)
    : null;
  const photo = await photographOf(path);
  const pictures = options.predicted
    ? sameAtBoth(await pictured(options.predicted, widthMm, heightMm))
    : foreseen(options);
  const asked: EndPhotographed = {
    photo,
    taps,
    sizes: { acrossMm: widthMm, heightMm },
    ...(options.focal && { focalPx: numbers('focal', options.focal, 1, 'the focal length, px', 0)[0] }),
    ...(options.diagonals && {
      diagonalsMm: numbers('diagonals', options.diagonals, 2, 'two lengths, mm: "D1,D2"', 0) as [
        number,
        number,
      ],
    }),
    ...(end && { end }),
  };
  const sight = sightedAtAnEnd(asked, pictures);
  const said = sight.ok
    ? summaryOf(
        sight,
        lattice &&
          latticeOf(sight, pictures[endOf(sight.sighting)], lattice[0], lattice[1], [
            photo.width,
            photo.height,
          ]),
      )
    : { refused: sight.why, said: REFUSED[sight.why] };
  const short = sight.ok
    ? `orientation ${sight.sighting.orientation}, correlation ${sight.sighting.correlation}`
    : REFUSED[sight.why];
  return written(said, options.out, short);
}

/** The answer as JSON: here, or in a file of which it is said in short what is in it. */
function written(said: object, out: string | undefined, short: string): string {
  if (!out) return JSON.stringify(said, null, 2);
  writeFileSync(out, JSON.stringify(said));
  return `${out}: ${short}`;
}

function summaryOf({ sighting, corners }: Extract<Sight, { ok: true }>, points: number[][] | null) {
  const { orientation, endTold, turnedDeg, turnedWithinDeg, leansDeg, leansWithinDeg } = sighting;
  const [x, y] = onPhoto(orientation, 0, 1);
  return {
    orientation,
    end: orientation >= 4 ? 'A' : 'B',
    endTold,
    upIsSeen: x === 0 ? (y > 0 ? 'up' : 'down') : x > 0 ? 'right' : 'left',
    layersTurnedDeg: turnedDeg,
    layersTurnedWithinDeg: turnedWithinDeg,
    leanDeg: leansDeg,
    leanWithinDeg: leansWithinDeg,
    offMm: sighting.offMm,
    thick: sighting.thick,
    stretch: sighting.stretch,
    correlation: sighting.correlation,
    lead: sighting.lead,
    seen: sighting.seen,
    corners,
    ...(points && { points }),
  };
}
