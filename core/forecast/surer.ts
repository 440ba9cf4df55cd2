import type { Belief } from '../learning/index.ts';
import {
  type Evaluation,
  type Plan,
  type Start,
  asPlanned,
  evaluate,
  laneMark,
  rescuesOf,
  startFor,
  withParameters,
  withStarts,
} from '../plan/index.ts';
import { doneSteps } from '../records/record.ts';
import type { Shop } from '../shop/shop.ts';
import { divisionMm, formatFine, formatLength } from '../units/length.ts';
import { type Forecast, forecastOf } from './forecast.ts';

/** One way to be surer of the goal: in words, the plan then (without what came), and how often it reaches the goal. */
export interface Surer {
  readonly id: string;
  readonly title: string;
  readonly plan: Plan;
  /** Share of the runs that reach it. */
  readonly reaches: number;
}

/** Share of runs that is sure enough to begin. */
const SURE = 0.95;
const RUNS = 120;
/** Share of the runs: a way that reaches the goal no oftener than this tells nothing. */
const TELLS = 0.03;
/** A start is made so much longer again where the first was not enough: what is longer is cut in other places. */
const TRIES = 4;
const MORE = 1.3;
/** Ways that go on from what is there and change more than the start. */
const OTHER_WAYS = ['thinner bar', 'thinner tiles', 'fewer tiles', 'one round less'];

/** What is reached or more in a share of all runs, less what is asked for. mm */
const spareAt = (spare: readonly number[], share: number): number =>
  spare[Math.max(0, Math.floor((1 - share) * spare.length))] ?? 0;

const down = (mm: number, division: number): number => Math.floor(mm / division + 1e-9) * division;
const up = (mm: number, division: number): number => Math.ceil(mm / division - 1e-9) * division;

/** The plan with its last drawing as much wider as its width comes short; null where nothing is drawn to a width any more. */
function widened(
  { plan, goalLane, shop }: Evaluation,
  { spare }: Forecast,
): { plan: Plan; words: string } | null {
  const done = doneSteps(plan.records);
  const last = goalLane.steps.findLast(({ step }) => step.kind === 'draw' && !done.has(step.id))?.step;
  if (last?.kind !== 'draw' || last.parameters.shape !== 'flat') return null;
  const division = divisionMm(shop.lengths);
  const widthMm =
    last.parameters.widthMm + Math.max(division, up(-spareAt(spare.widthMm, (1 + SURE) / 2), division));
  const wider = withParameters(last, { ...last.parameters, widthMm });
  return {
    words: `Draw it ${formatLength(widthMm, shop.lengths)} wide, not ${formatLength(last.parameters.widthMm, shop.lengths)}`,
    plan: {
      ...plan,
      lanes: plan.lanes.map((l) => ({ ...l, steps: l.steps.map((s) => (s.id === last.id ? wider : s)) })),
    },
  };
}

/** “Start with length 72 mm”; of several bars each by its mark. */
function startsSaid(plan: Plan, starts: readonly Start[], { lengths }: Shop): string {
  const isOne = new Set(starts.map((s) => s.stepId)).size === 1;
  const words = starts.map(({ laneId, label, whole, number, value }) => {
    const size = whole
      ? String(value)
      : number === 'thickness'
        ? formatFine(value, lengths)
        : formatLength(value, lengths);
    return `${isOne ? '' : `${laneMark(plan, laneId)} `}${label} ${size}`;
  });
  return `Start with ${words.join(', ')}`;
}

/**
 * What would make a plan reach its goal in 95 of 100 runs: a wider last drawing where it comes too narrow, and with it a longer start, a
 * shorter goal, or what else gives more length; each run forward with the same draws. Empty where it is as sure already.
 */
export function* surerWays(
  planned: Evaluation,
  forecast: Forecast,
  belief: Belief,
  seed: number,
): Generator<Surer> {
  for (const way of waysFor(planned, forecast, belief, seed))
    if (way.reaches > forecast.reached / forecast.runs + TELLS) yield way;
}

function* waysFor(planned: Evaluation, forecast: Forecast, belief: Belief, seed: number): Generator<Surer> {
  const { flows, shop } = planned;
  const enough = (1 - SURE) * forecast.runs;
  if (forecast.reached >= SURE * forecast.runs || !forecast.finished) return;
  const foretold = (plan: Plan): Forecast =>
    forecastOf(evaluate(plan, undefined, flows), belief, { seed, count: RUNS });
  const said = (id: string, title: string, plan: Plan): Surer => {
    const { reached, runs } = foretold(plan);
    return { id, title, plan: asPlanned(plan), reaches: reached / runs };
  };

  const wider = forecast.short.width > enough ? widened(planned, forecast) : null;
  if (wider) yield said('wider bar', wider.words, wider.plan);
  const plan = wider?.plan ?? planned.plan;
  const with_ = (words: string): string => (wider ? `${wider.words}. ${words}` : words);
  const now = wider ? foretold(plan) : forecast;
  if (now.short.length <= (1 - SURE) * now.runs) return;
  const missing = Math.max(divisionMm(shop.lengths), -spareAt(now.spare.lengthMm, (1 + SURE) / 2));
  const longerBy = (mm: number): Plan => ({
    ...plan,
    goal: { ...plan.goal, lengthMm: plan.goal.lengthMm + mm },
  });

  let best: Surer | null = null;
  for (let [i, asked] = [0, missing]; i < TRIES && !(best && best.reaches >= SURE); i++, asked *= MORE) {
    const answer = startFor(longerBy(asked), flows);
    if (!answer.ok || answer.starts.length === 0) break;
    best = said(
      'longer start',
      with_(startsSaid(plan, answer.starts, shop)),
      withStarts(plan, answer.starts),
    );
  }
  if (best) yield best;

  const lengthMm = down(plan.goal.lengthMm - missing, divisionMm(shop.lengths));
  if (lengthMm > plan.goal.lengthMm / 2)
    yield said('shorter goal', with_(`Ask for ${formatLength(lengthMm, shop.lengths)} only`), {
      ...plan,
      goal: { ...plan.goal, lengthMm },
    });

  const more = evaluate(longerBy(missing), undefined, flows);
  for (const { id, title, plan: other } of rescuesOf(more).filter((r) => OTHER_WAYS.includes(r.id)))
    yield said(id, with_(title), { ...other, goal: { ...other.goal, lengthMm: plan.goal.lengthMm } });
}
