import './zodWithoutEval.ts';
import * as Comlink from 'comlink';
import { type FaceName, facePlane, middleOf } from '../../../../core/billet/face.ts';
import type { Billet } from '../../../../core/billet/billet.ts';
import type { Shop } from '../../../../core/shop/shop.ts';
import { groundBlade } from '../../../../core/blade/index.ts';
import { type Packing, type Round, poured } from '../../../../core/canister/packing.ts';
import type { Room } from '../../../../core/canister/room.ts';
import {
  type Evaluation,
  type Plan,
  type StartAnswer,
  afterPasses,
  besideIdeal,
  evaluate,
  madeAgain,
  startFor,
  type StepResult,
  stepResult,
  turnedOff,
} from '../../../../core/plan/index.ts';
import { type Picture, painting } from '../../../../core/render/paint.ts';
import { faceOutlines } from '../../../../core/render/outlines.ts';
import { faceSvg } from '../../../../core/render/faceSvg.ts';
import { keepStage, workedOutElsewhere } from '../../../../core/flow/known.ts';
import type { FlowStage } from '../../../../core/flow/run.ts';
import { pressedTo } from '../../../../core/moves/forge/consolidate/consolidateByVolumes.ts';
import { type View, makePalette } from '../../../../core/render/palette.ts';
import { materialOrder, type PaintJob } from './paintJob.ts';

/** How long a job may hold the worker before messages are looked at, ms. */
const SLICE_MS = 8;

/** How fine the outlines of a face are traced, mm. */
const OUTLINE_CELL_MM = 0.05;

/** Plans that pictures may still be asked of. */
const KEPT_PLANS = 24;
const plans = new Map<number, Plan>();
const evaluations = new Map<number, Evaluation>();

let latest: Evaluation | undefined;

// Pictures do not wait for flows: the page has them worked out and hands them over.
if (self.name === 'painter') workedOutElsewhere();

/** A plan that came over with the parts that have not changed since the last one put back in place, so that what was worked out for them is taken over. */
function interned(plan: Plan): Plan {
  const last = latest?.plan;
  if (!last) return plan;
  const keep = <T>(fresh: T, old: T): T => (JSON.stringify(fresh) === JSON.stringify(old) ? old : fresh);
  const steps = new Map(last.lanes.flatMap((l) => l.steps.map((s) => [s.id, s])));
  return {
    ...plan,
    shop: keep(plan.shop, last.shop),
    materials: keep(plan.materials, last.materials),
    lanes: plan.lanes.map((lane) => ({
      ...lane,
      steps: lane.steps.map((step) => keep(step, steps.get(step.id) ?? step)),
    })),
  };
}

function evaluated(planKey: number): Evaluation | null {
  const known = evaluations.get(planKey);
  if (known) return known;
  const plan = plans.get(planKey);
  if (!plan) return null;
  latest = evaluate(interned(plan), latest);
  evaluations.set(planKey, latest);
  return latest;
}

interface Running {
  job: PaintJob;
  work: Generator<number, Picture>;
  finish(picture: Picture | null): void;
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
function between(result: StepResult, { passes, offDeg }: PaintJob, shop: Shop): Billet | null {
  if (typeof passes === 'number') return afterPasses(result, passes, shop);
  if (passes !== undefined)
    return besideIdeal(result, shop)?.[passes === 'ideal' ? 'ideal' : 'flowed'] ?? null;
  const off = turnedOff(result, offDeg!);
  return off && madeAgain(off, shop);
}

function start(job: PaintJob): Generator<number, Picture> | null {
  const evaluation = evaluated(job.planKey);
  if (!evaluation) return null;
  const result = stepResult(evaluation, job.stepId);
  const made = (job.when === 'before' ? result?.before : result?.after)?.[job.piece];
  if (!made) return null;
  const asksOther = job.passes !== undefined || job.offDeg !== undefined;
  const pass = asksOther && result ? between(result, job, evaluation.shop) : null;
  const shrunk =
    job.pressed && made.can?.loose ? pressedTo(made, job.pressed.pressing, job.pressed.share) : made;
  const billet = pass ?? shrunk;
  const palette = makePalette(evaluation.shop, job.view, materialOrder(evaluation));
  const { widthPx, heightPx, rough } = job;
  const { blade } = evaluation.plan;
  const plane =
    job.blade && blade
      ? groundBlade(billet, blade, job.blade).plane
      : middleOf(facePlane(billet, job.face), job.mostAspect ?? Infinity);
  return painting({ billet, plane, widthPx, heightPx, palette, rough });
}

const painter = {
  /** Makes a plan known by its key; pictures are then asked for by the key alone. */
  know(planKey: number, plan: Plan): void {
    plans.set(planKey, plan);
    if (plans.size <= KEPT_PLANS) return;
    const oldest = plans.keys().next().value!;
    plans.delete(oldest);
    evaluations.delete(oldest);
  },
  /** Paints a face; null when there is nothing to paint, or a newer job took the slot. */
  async paint(job: PaintJob): Promise<Picture | null> {
    running.get(job.slot)?.finish(null);
    running.delete(job.slot);
    const work = start(job);
    if (!work) return null;
    const picture = await new Promise<Picture | null>((resolve) => {
      running.set(job.slot, { job, work, finish: resolve });
      if (!looping) void loop();
    });
    return picture && Comlink.transfer(picture, [picture.rgba.buffer]);
  },
  /** A flow became known. */
  keepStage(key: string, stage: FlowStage): void {
    keepStage(key, stage);
    evaluations.clear();
  },
  /** The slot is no longer shown. */
  drop(slot: string): void {
    running.get(slot)?.finish(null);
    running.delete(slot);
  },
  /** A face after a move as an SVG drawing in true size; null where there is no steel. */
  faceSvg(planKey: number, stepId: string, face: FaceName, view: View, title: string): string | null {
    const evaluation = evaluated(planKey);
    const billet = evaluation && stepResult(evaluation, stepId)?.after?.[0];
    if (!evaluation || !billet) return null;
    const plane = facePlane(billet, face);
    const palette = makePalette(evaluation.shop, view, materialOrder(evaluation));
    return faceSvg(faceOutlines(billet, plane, OUTLINE_CELL_MM), plane, palette, evaluation.shop, title);
  },
  startFor(plan: Plan): StartAnswer {
    return startFor(plan);
  },
  pour(radii: number[], room: Room, fixed: Round[], seed: number): Packing {
    return poured(radii, room, fixed, seed);
  },
};

export type Painter = typeof painter;

Comlink.expose(painter);
