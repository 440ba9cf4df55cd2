import type { Flows } from '../flow/flows.ts';
import { type Evidence, beliefFrom, calibrated, learnedFrom, timesFrom } from '../learning/index.ts';
import { moveOf } from '../moves/index.ts';
import { type Evaluation, type Plan, allSteps, asPlanned, evaluate } from '../plan/index.ts';
import { inTime, isDone, ofTheBar } from '../records/record.ts';
import { secondsOf } from '../records/said.ts';
import { type Band, forecastOf, unforetold } from './forecast.ts';

/** What was promised of a piece before it was begun, and what came. */
interface Promised {
  readonly promised: Band;
  readonly came: number;
  readonly isKept: boolean;
}

/** A finished piece: its length in mm, the hours worked at it; null where that was not written down. */
export interface KeptPiece {
  readonly length: Promised | null;
  readonly hours: Promised | null;
}

/** A promise is worked out of so many runs. */
const RUNS = 80;

const held = (promised: Band | undefined, came: number | null): Promised | null =>
  promised && came !== null
    ? { promised, came, isKept: came >= promised.low && came <= promised.high }
    : null;

/** How long the finished bar is by the rule, mm: null where it was not measured after the last move that could change it. */
function lengthThatCame({ goalLane, goal }: Evaluation): number | null {
  const last = goalLane.steps.findLast(
    ({ step }) => moveOf(step.kind).group !== 'Between the heats' && step.kind !== 'grind',
  );
  const after = last ? goalLane.steps.slice(goalLane.steps.indexOf(last)) : [];
  const isMeasured = after.some((s) =>
    ofTheBar(s.records).some((r) => r.pieces?.some((p) => p.lengthMm !== undefined)),
  );
  // Of a blank it is not known any more.
  return isMeasured && goal.sizes && !goal.bar?.blank ? goal.sizes.lengthMm : null;
}

/**
 * Whether a finished piece kept what was promised of it: its plan, as it was followed in the end, is run forward with what the shop
 * knew before the first record, and held against what was written down. Null of a piece that is not done, or of which nothing could
 * be foretold.
 */
export function keptOf(plan: Plan, evidence: readonly Evidence[], flows?: Flows): KeptPiece | null {
  const [first] = inTime(plan.records ?? []);
  if (!first) return null;
  const stands = evaluate(plan, undefined, flows);
  if (!allSteps(stands).every((s) => isDone(s.records))) return null;
  const planned = evaluate(asPlanned(plan), undefined, flows);
  if (unforetold(planned) !== null) return null;
  const before = evidence.filter((e) => e.at < first.began);
  const belief = beliefFrom(learnedFrom(before), timesFrom(calibrated(before)));
  const { finished, hours } = forecastOf(planned, belief, { seed: 1, count: RUNS });
  const seconds = ofTheBar(plan.records ?? []).map(secondsOf);
  const workedS = seconds.reduce<number>((sum, s) => sum + (s ?? 0), 0);
  return {
    length: held(finished?.lengthMm, lengthThatCame(stands)),
    hours: held(hours, workedS > 0 ? workedS / 3600 : null),
  };
}
