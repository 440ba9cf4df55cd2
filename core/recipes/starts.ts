import { type Evaluation, allSteps, evaluate, startFor, startsOf, withStarts } from '../plan/index.ts';
import { divisionMm } from '../units/length.ts';
import { NotMade } from './making.ts';

/** The search for a start ends this near the length that is wanted, as a share; or after so many tries. */
const NEAR_ENOUGH = 0.004;
const TRIES = 6;
/** So much longer at a time, where it is too short. */
const LONGER_YET = 1.6;

/**
 * Starts that come to about the length wanted, by a few straight lines: the length of a bar is piecewise in proportion to its
 * starts. For plans that are still being changed; `started` finds the least.
 */
export function roughlyStarted(evaluation: Evaluation, spareShare: number): Evaluation {
  const { plan, flows } = evaluation;
  const wanted = plan.goal.lengthMm * (1 + spareShare);
  const starts = startsOf(plan);
  const at = (factor: number): Evaluation =>
    evaluate(
      withStarts(
        plan,
        starts.map((s) => ({
          ...s,
          value: s.whole ? Math.max(1, Math.round(s.value * factor)) : s.value * factor,
        })),
      ),
      evaluation,
      flows,
    );
  const lengthOf = ({ goal }: Evaluation) => goal.sizes?.lengthMm ?? 0;
  let low = { factor: 0, long: -plan.goal.lengthMm / 10 };
  let high = { factor: 1, long: lengthOf(evaluation) };
  let best = evaluation;
  for (let i = 0; i < TRIES && high.long < wanted; i++) {
    low = high;
    const factor = LONGER_YET * high.factor;
    best = at(factor);
    high = { factor, long: lengthOf(best) };
  }
  if (high.long < wanted) return evaluation;
  for (let i = 0; i < TRIES && high.long > wanted * (1 + NEAR_ENOUGH); i++) {
    const share = (wanted * (1 + NEAR_ENOUGH / 2) - low.long) / (high.long - low.long);
    // Never so near one side that the other is not moved.
    const factor = low.factor + (high.factor - low.factor) * Math.min(0.97, Math.max(0.03, share));
    const then = at(factor);
    const here = { factor, long: lengthOf(then) };
    if (here.long >= wanted) [high, best] = [here, then];
    else low = here;
  }
  return best;
}

/** So much longer a start at a time, and so often, where pieces would be shorter than they are wide. */
const LONGER = 1.12;
const MOST_LONGER = 8;

/** Steps of one division, from a start that is nearly the least. */
const MOST_STEPPED = 8;
/** Of bars that are laid together the longer are taken down to the shortest, so often. */
const BALANCED = 3;
const BALANCE_OVER = 1.01;
/** mm. What crops and kerfs take of each piece, however long it is. */
const ENDS_MM = 15;

/**
 * The least starts, in whole divisions, that come to the length wanted: a few steps from where they nearly are, each taken down as
 * far as the others let it; the whole search backward where that does not lead there. Then so much longer as is to be spared: of
 * what comes to whole tiles the length alone would not say how much may be lost.
 */
export function started(evaluation: Evaluation, spareShare: number): Evaluation {
  const wanted = evaluation.plan.goal.lengthMm;
  if (!evaluation.goal.bar || startsOf(evaluation.plan).some((s) => s.whole))
    return searched(evaluation, wanted * (1 + spareShare));
  const { flows } = evaluation;
  const division = divisionMm(evaluation.shop.lengths);
  let now = evaluation;
  const at = (values: readonly number[]): Evaluation => {
    const free = startsOf(now.plan);
    return evaluate(
      withStarts(
        now.plan,
        free.map((s, i) => ({ ...s, value: Math.max(division, values[i]) })),
      ),
      now,
      flows,
    );
  };
  const isEnough = ({ goal }: Evaluation): boolean => (goal.sizes?.lengthMm ?? 0) >= wanted;
  const up = (value: number): number => Math.ceil(value / division - 1e-6) * division;
  let values = startsOf(now.plan).map((s) => s.value);
  for (let i = 0; i < BALANCED && values.length > 1; i++) {
    const shares = surplus(now);
    // A hair more than the shortest, which is not to become shorter by it.
    values = startsOf(now.plan).map((s) => s.value / Math.max(1, (shares.get(s.laneId) ?? 1) / BALANCE_OVER));
    const then = at(values);
    if (!isEnough(then)) break;
    now = then;
  }
  values = startsOf(now.plan).map((s) => up(s.value));
  now = at(values);
  for (let i = 0; i < MOST_STEPPED && !isEnough(now); i++)
    now = at((values = values.map((v) => v + division)));
  if (!isEnough(now)) return searched(evaluation, wanted * (1 + spareShare));
  for (let k = 0; k < values.length; k++)
    for (let i = 0; i < MOST_STEPPED; i++) {
      const fewer = values.map((v, j) => (j === k ? v - division : v));
      const less = at(fewer);
      if (!isEnough(less)) break;
      [values, now] = [fewer, less];
    }
  if (spareShare === 0) return unstubbed(now);
  const spared = at(values.map((v) => up(v * (1 + spareShare))));
  return unstubbed(isEnough(spared) ? spared : now);
}

/** How many times as much of a start as the shortest the pieces of each lane want that are laid together with others. */
function surplus(evaluation: Evaluation): Map<string, number> {
  const shares = new Map<string, number>();
  for (const { step, before } of evaluation.goalLane.steps) {
    if (step.kind !== 'assemble' || !before.some((b) => b.piece?.lane)) continue;
    const least = Math.min(...before.map((b) => b.lengthMm));
    for (const { lane } of evaluation.lanes) {
      const own = before.filter((b) => b.piece?.lane === lane.id);
      if (own.length > 0)
        shares.set(lane.id, (Math.min(...own.map((b) => b.lengthMm)) + ENDS_MM) / (least + ENDS_MM));
    }
  }
  return shares;
}

function searched({ plan, flows, ...rest }: Evaluation, lengthMm: number): Evaluation {
  const answer = startFor({ ...plan, goal: { ...plan.goal, lengthMm } }, flows);
  if (!answer.ok) throw new NotMade(answer.reason);
  return unstubbed(evaluate(withStarts(plan, answer.starts), { plan, flows, ...rest }, flows));
}

/** Starts so much longer that no piece is shorter than it is wide, where that is soon so. */
function unstubbed(evaluation: Evaluation): Evaluation {
  const { plan, flows } = evaluation;
  let now = evaluation;
  let starts = startsOf(plan);
  const isStubby = (e: Evaluation) => allSteps(e).some((s) => s.findings.some((f) => f.code === 'stubby'));
  for (let i = 0; i < MOST_LONGER && isStubby(now); i++) {
    const division = divisionMm(now.shop.lengths);
    starts = starts.map((s) => ({
      ...s,
      value: s.whole ? s.value : Math.ceil((LONGER * s.value) / division - 1e-6) * division,
    }));
    const then = evaluate(withStarts(plan, starts), now, flows);
    if (!then.goal.bar) return now;
    now = then;
  }
  return now;
}
