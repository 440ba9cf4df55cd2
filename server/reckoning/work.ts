import { PNG } from 'pngjs';
import { KnownFlows } from '../../core/flow/flows.ts';
import { type FlowSpec, type FlowStage, keyOf, runFlow } from '../../core/flow/run.ts';
import {
  type CutRow,
  type Evaluation,
  type MeasuredOf,
  type Problem,
  type Verdict,
  cutList,
  evaluate,
  flowsAwaited,
  lastReached,
  materialOrder,
  measuredSizes,
  readPlan,
} from '../../core/plan/index.ts';
import { type Forecast, USUAL_RUNS, foretelling, unforetold } from '../../core/forecast/index.ts';
import {
  type Belief,
  type Evidence,
  beliefFrom,
  calibrated,
  evidenceOf,
  learnedFrom,
  paceFrom,
  timesFrom,
} from '../../core/learning/index.ts';
import { previewOf } from '../../core/render/preview.ts';
import type { Paper } from '../pdf/sheet.ts';
import { wallPdf } from '../pdf/wallPdf.ts';

/** What the server works out, each in a thread of the pool: a task comes in as data and its answer goes out as data. */

/** Dots of a small picture at most: twice what the shelf shows, for fine screens. */
const MOST = { widthPx: 632, heightPx: 260 };

/** A plan as it was kept, and the flows that are known, by key. */
export interface PlanAsked {
  readonly plan: unknown;
  readonly stages: readonly (readonly [key: string, stage: FlowStage])[];
}

/** Flows that must be worked out first. */
interface Awaits {
  readonly awaits: readonly FlowSpec[];
}

export interface Preview {
  readonly verdict: Verdict;
  readonly png: Uint8Array | null;
  /** What was measured so far, beside what was reckoned. */
  readonly measured: readonly MeasuredOf[];
  /** What its records say of the shop's numbers. */
  readonly evidence: readonly Evidence[];
}

/** The plan cannot be read. */
interface Refused {
  readonly refused: Problem[];
}

/** Reads a plan, works it through, and goes on from there once nothing is waited for. */
async function worked<T>({ plan, stages }: PlanAsked, on: (evaluation: Evaluation) => T | Promise<T>) {
  const read = readPlan(plan);
  if (!read.ok) return { refused: read.problems } satisfies Refused;
  const flows = new KnownFlows();
  for (const [key, stage] of stages) flows.keep(key, stage);
  const evaluation = evaluate(read.plan, undefined, flows);
  const awaits = flowsAwaited(evaluation);
  return awaits.length > 0 ? ({ awaits } satisfies Awaits) : { done: await on(evaluation) };
}

const preview = (asked: PlanAsked) =>
  worked(asked, (evaluation): Preview => {
    const { goal, shop } = evaluation;
    const verdict = goal.reached ? 'reached' : goal.unfinished ? 'unfinished' : goal.bar ? 'short' : 'no bar';
    const billet = lastReached(evaluation)?.after?.[0];
    const measured = measuredSizes(evaluation);
    const evidence = evidenceOf(evaluation);
    if (!billet) return { verdict, png: null, measured, evidence };
    const { widthPx, heightPx, rgba } = previewOf(billet, shop, materialOrder(evaluation), MOST);
    const png = new PNG({ width: widthPx, height: heightPx });
    png.data = Buffer.from(rgba);
    return { verdict, png: PNG.sync.write(png), measured, evidence };
  });

/** A sheet does not wait longer for how it may come, ms: of a plan that takes so long it hangs there without. */
const MOST_FORETELLING_MS = 10_000;

function foretold(evaluation: Evaluation, belief: Belief): Forecast | null {
  if (unforetold(evaluation) !== null) return null;
  const until = Date.now() + MOST_FORETELLING_MS;
  const runs = foretelling(evaluation, belief, USUAL_RUNS);
  while (Date.now() < until) {
    const next = runs.next();
    if (next.done) return next.value;
  }
  return null;
}

const wall = (asked: PlanAsked & { readonly paper: Paper; readonly evidence: readonly Evidence[] }) =>
  worked(asked, (evaluation): Promise<Uint8Array> => {
    const belief = beliefFrom(learnedFrom(asked.evidence), timesFrom(calibrated(asked.evidence)));
    return wallPdf(evaluation, asked.paper, foretold(evaluation, belief), paceFrom(belief));
  });

const cuts = (asked: PlanAsked) => worked(asked, (evaluation): CutRow[] => cutList(evaluation));

/** What flow is to be worked out; stages that are known are taken over. */
interface FlowAsked {
  readonly spec: FlowSpec;
  readonly known: readonly (FlowStage | undefined)[];
}

/** The fresh stages with their keys. */
function flow({ spec, known }: FlowAsked): [key: string, stage: FlowStage][] {
  const fresh: [key: string, stage: FlowStage][] = [];
  runFlow(
    spec,
    (passes) => known[passes - 1],
    (passes, stage) => fresh.push([keyOf(spec, passes), stage]),
  );
  return fresh;
}

const TASKS = { preview, wall, cuts, flow };

export type Tasks = typeof TASKS;

/** Any of them, as the pool hands it over. */
export default function work<T extends keyof Tasks>({
  task,
  asked,
}: {
  task: T;
  asked: Parameters<Tasks[T]>[0];
}): unknown {
  return (TASKS[task] as (asked: Parameters<Tasks[T]>[0]) => unknown)(asked);
}
