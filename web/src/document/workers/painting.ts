import * as Comlink from 'comlink';
import { type FaceName, closeUpOf, facePlane, shortFace } from '../../../../core/billet/face.ts';
import type { Billet } from '../../../../core/billet/billet.ts';
import { groundBlade } from '../../../../core/blade/index.ts';
import {
  type Evaluation,
  afterPasses,
  besideUsual,
  madeAgain,
  type StepResult,
  stepResult,
  turnedOff,
  materialOrder,
} from '../../../../core/plan/index.ts';
import { type Painted, painting } from '../../../../core/render/paint.ts';
import { faceOutlines } from '../../../../core/render/outlines.ts';
import { faceSvg } from '../../../../core/render/faceSvg.ts';
import { pressedTo } from '../../../../core/moves/forge/consolidate/consolidateByVolumes.ts';
import { type View, makePalette } from '../../../../core/render/palette.ts';
import { evaluatedByKey } from './knowledge.ts';
import { type PaintJob } from './paintJob.ts';

/** How long a job may hold the worker before messages are looked at, ms. */
const SLICE_MS = 8;

/** How fine the outlines of a face are traced, mm. */
const OUTLINE_CELL_MM = 0.05;

interface Running {
  job: PaintJob;
  work: Generator<number, Painted>;
  finish(picture: Painted | null): void;
}

/** Jobs under way, at most one a slot: a newer one for the same slot drops the older. */
const running = new Map<string, Running>();
let looping = false;

const channel = new MessageChannel();
let wake: (() => void) | null = null;
channel.port1.onmessage = () => wake?.();
const breathe = (): Promise<void> =>
  new Promise((resolve) => {
    wake = resolve;
    channel.port2.postMessage(null);
  });

/** Works on the most urgent job first, letting messages in between slices. */
async function loop(): Promise<void> {
  looping = true;
  while (running.size > 0) {
    const next = [...running.values()].reduce((a, b) => (b.job.urgency < a.job.urgency ? b : a));
    const until = performance.now() + SLICE_MS;
    let step = next.work.next();
    while (!step.done && performance.now() < until) step = next.work.next();
    if (step.done) {
      running.delete(next.job.slot);
      next.finish(step.value);
    }
    await breathe();
  }
  looping = false;
}

/** The bar that a job asks for instead of the one after the move; null where it is not known. */
function between(result: StepResult, { passes, offDeg }: PaintJob, evaluation: Evaluation): Billet | null {
  if (typeof passes === 'number') return afterPasses(result, passes, evaluation);
  if (passes !== undefined)
    return besideUsual(result, evaluation)?.[passes === 'usual' ? 'usual' : 'flowed'] ?? null;
  const off = turnedOff(result, offDeg!);
  return off && madeAgain(off, evaluation);
}

function start(job: PaintJob): Generator<number, Painted> | null {
  const evaluation = evaluatedByKey(job.planKey);
  if (!evaluation) return null;
  const result = stepResult(evaluation, job.stepId);
  const made = (job.when === 'before' ? result?.before : result?.after)?.[job.piece];
  if (!made) return null;
  const asksOther = job.passes !== undefined || job.offDeg !== undefined;
  const pass = asksOther && result ? between(result, job, evaluation) : null;
  const shrunk =
    job.pressed && made.can?.loose ? pressedTo(made, job.pressed.pressing, job.pressed.share) : made;
  const billet = pass ?? shrunk;
  // The ground blade is shown as it will look, and nobody reads steels off it.
  const alike = job.blade ? 'as they etch' : 'told apart';
  const palette = makePalette(evaluation.shop, job.view, materialOrder(evaluation), alike);
  const { widthPx, heightPx, rough } = job;
  const { blade } = evaluation.plan;
  const whole =
    job.plane ??
    (job.blade && blade
      ? groundBlade(billet, blade, job.blade).plane
      : shortFace(billet, job.face, job.mostAspect ?? Infinity, job.cutShare));
  const plane = job.closeUp ? closeUpOf(whole, job.closeUp.at, job.closeUp.aspect) : whole;
  return painting({ billet, plane, widthPx, heightPx, palette, rough });
}

export const paintingWork = {
  /** Paints a face; null when there is nothing to paint, or a newer job took the slot. */
  async paint(job: PaintJob): Promise<Painted | null> {
    running.get(job.slot)?.finish(null);
    running.delete(job.slot);
    const work = start(job);
    if (!work) return null;
    const picture = await new Promise<Painted | null>((resolve) => {
      running.set(job.slot, { job, work, finish: resolve });
      if (!looping) void loop();
    });
    return picture && Comlink.transfer(picture, [picture.rgba.buffer]);
  },
  /** The slot is no longer shown. */
  drop(slot: string): void {
    running.get(slot)?.finish(null);
    running.delete(slot);
  },
  /** A face after a move as an SVG drawing in true size; null where there is no steel. */
  faceSvg(planKey: number, stepId: string, face: FaceName, view: View, title: string): string | null {
    const evaluation = evaluatedByKey(planKey);
    const billet = evaluation && stepResult(evaluation, stepId)?.after?.[0];
    if (!evaluation || !billet) return null;
    const plane = facePlane(billet, face);
    // Outlines are filled with one colour each.
    const palette = makePalette(evaluation.shop, view, materialOrder(evaluation), 'as they etch');
    return faceSvg(faceOutlines(billet, plane, OUTLINE_CELL_MM), plane, palette, evaluation.shop, title);
  },
};
