import { type Flows, WorkedOutFlows } from '../flow/flows.ts';
import { totalVolume } from '../materials/volumes.ts';
import { type FreeNumber, moveOf } from '../moves/index.ts';
import { doneSteps } from '../records/record.ts';
import { divisionMm, formatLength } from '../units/length.ts';
import { type Evaluation, type StepResult, evaluate } from './evaluate.ts';
import { goalLaneOf, lanesFeeding } from './lanes.ts';
import { type Lane, type Plan, type Step, withParameters } from './plan.ts';

/** One number of a starting move: whose, which step, which number, and what it is (or must be). mm, or a count. */
export interface Start {
  readonly laneId: string;
  readonly stepId: string;
  readonly number: string;
  readonly label: string;
  readonly whole: boolean;
  readonly value: number;
}

/** What the starts must be for the goal, or what stands in the way of any doing it. */
export type StartAnswer =
  | { ok: true; starts: readonly Start[]; reachesMm: number }
  | { ok: false; stepId: string | null; reason: string };

/** mm. Smaller than any start; the search begins here. */
const LEAST_START_MM = 1;
const SEARCH_STEPS = 60;
/** Of a division. Numbers are found this closely before they are rounded up to it. */
const SEARCHED_TO = 1 / 8;

const freeNumbers = (step: Step): readonly FreeNumber<unknown>[] => moveOf(step.kind).free ?? [];

/** Which numbers of a starting step are left to working backward: the maker's choice, else the first (its length). */
export const chosenFree = (plan: Plan, step: Step): readonly string[] =>
  plan.free?.[step.id] ??
  freeNumbers(step)
    .slice(0, 1)
    .map((n) => n.id);

/** Cans that stand in another can as they began, from end to end, for they cannot be sawn: their lanes, and how long they are then. mm */
function standing(plan: Plan): ReadonlyMap<string, number> {
  const begun = new Set(
    plan.lanes.filter((l) => l.steps.length === 1 && moveOf(l.steps[0].kind).stands).map((l) => l.id),
  );
  return new Map(
    plan.lanes
      .flatMap(({ steps: [step] }) => (step && moveOf(step.kind).stands?.(step.parameters)) ?? [])
      .flatMap(({ lane, longMm }) => (begun.has(lane) ? [[lane, longMm] as const] : [])),
  );
}

/** Every number of every start that the finished bar is made from, as it stands; what stands in another is as long as that is deep. */
export function allStarts(plan: Plan): Start[] {
  const within = standing(plan);
  return lanesFeeding(plan, goalLaneOf(plan).id).flatMap((lane) => {
    const [step] = lane.steps;
    if (!step || within.has(lane.id) || moveOf(step.kind).begins !== true) return [];
    return freeNumbers(step).map((n) => ({
      laneId: lane.id,
      stepId: step.id,
      number: n.id,
      label: n.label,
      whole: n.whole,
      value: n.of(step.parameters),
    }));
  });
}

/** Those that are free, and not done yet. */
export function startsOf(plan: Plan): Start[] {
  const done = doneSteps(plan.records);
  const free = new Map(
    plan.lanes.flatMap((l) => l.steps.slice(0, 1).map((s) => [s.id, chosenFree(plan, s)])),
  );
  return allStarts(plan).filter((s) => !done.has(s.stepId) && free.get(s.stepId)!.includes(s.number));
}

/** The plan with other starting numbers. */
export function withStarts(plan: Plan, starts: readonly Start[]): Plan {
  const lanes = plan.lanes.map((lane) => {
    const [step, ...rest] = lane.steps;
    const mine = step ? starts.filter((s) => s.stepId === step.id) : [];
    const parameters = mine.reduce((p: unknown, { number, value }) => {
      const n = freeNumbers(step).find((f) => f.id === number)!;
      return n.of(p) === value ? p : n.with(p, value);
    }, step?.parameters);
    return parameters === step?.parameters
      ? lane
      : { ...lane, steps: [withParameters(step, parameters), ...rest] };
  });
  return lanes.some((l, i) => l !== plan.lanes[i]) ? fitting({ ...plan, lanes }) : plan;
}

/** With what stands in another as long as that now is deep, and what stands in that again. */
function fitting(plan: Plan): Plan {
  const within = standing(plan);
  if (within.size === 0) return plan;
  const lanes = plan.lanes.map((lane): Lane => {
    const longMm = within.get(lane.id);
    const [step] = lane.steps;
    const [length] = longMm === undefined ? [] : freeNumbers(step);
    if (!length || length.whole || length.of(step.parameters) === longMm) return lane;
    return { ...lane, steps: [withParameters(step, length.with(step.parameters, longMm!))] };
  });
  return lanes.some((l, i) => l !== plan.lanes[i]) ? fitting({ ...plan, lanes }) : plan;
}

const finalLength = ({ goal }: Evaluation): number => goal.sizes?.lengthMm ?? 0;

/**
 * Smallest value in low…high at which `over` is not negative, to a tolerance; `over(high)` must not be. What a start comes to
 * grows in proportion to it, or piece by piece: the line between the nearest two says where to look, a little to either side of
 * it; where that left more than half, the middle is next.
 */
function least(low: number, high: number, tolerance: number, over: (value: number) => number): number {
  const aside = 0.4 * tolerance;
  let [below, above] = [NaN, over(high)];
  let [fell, halve] = [false, true];
  for (let i = 0; i < SEARCH_STEPS && high - low > tolerance; i++) {
    const wide = high - low;
    const line = low - (wide * below) / (above - below) + (fell ? aside : -aside);
    const at =
      halve || Number.isNaN(line) ? low + wide / 2 : Math.min(high - aside, Math.max(low + aside, line));
    const value = over(at);
    fell = value < 0;
    if (fell) [low, below] = [at, value];
    else [high, above] = [at, value];
    halve = !halve && high - low > wide / 2;
  }
  return high;
}

/** The most a start's number may be. */
function mostOf(plan: Plan, start: Start): number {
  const step = plan.lanes.find((l) => l.id === start.laneId)!.steps[0];
  return freeNumbers(step).find((n) => n.id === start.number)!.most;
}

/** The search for one plan: its free starts, how far they may grow, and what they come to. */
class Backward {
  readonly starts: readonly Start[];
  readonly goalMm: number;
  private readonly plan: Plan;
  private readonly most: readonly number[];
  private readonly flows: Flows;
  private last: Evaluation | undefined;
  constructor(plan: Plan, flows: Flows) {
    this.plan = plan;
    this.flows = flows;
    this.starts = startsOf(plan);
    this.most = this.starts.map((s) => mostOf(plan, s));
    this.goalMm = plan.goal.lengthMm;
  }

  reach(starts: readonly Start[]): number {
    this.last = evaluate(withStarts(this.plan, starts), this.last, this.flows);

    return finalLength(this.last);
  }

  /** mm that the bar is longer than the goal; negative where it falls short, or is none. */
  over(starts: readonly Start[]): number {
    return this.reach(starts) - this.goalMm;
  }

  enough(starts: readonly Start[]): boolean {
    return this.over(starts) >= 0;
  }

  /** All by one factor; counts upwards to whole ones. */
  scaled(factor: number): Start[] {
    return this.starts.map((s, i) => this.within(s, i, s.value * factor));
  }

  within(start: Start, i: number, value: number): Start {
    const low = start.whole ? 1 : LEAST_START_MM;
    const rounded = start.whole ? Math.ceil(value - 1e-6) : value;
    return { ...start, value: Math.min(this.most[i], Math.max(low, rounded)) };
  }

  /** What a number is rounded to: the shop's division, or a whole count. */
  division(i: number): number {
    return this.starts[i].whole ? 1 : divisionMm(this.plan.shop.lengths);
  }

  /** Up to its division. */
  rounded(start: Start, i: number, value: number): Start {
    const step = this.division(i);
    return { ...start, value: Math.min(this.most[i], Math.ceil(value / step - 1e-6) * step) };
  }

  /** The smallest change of the factor that is a division of any. */
  get finest(): number {
    return Math.min(...this.starts.map((s, i) => this.division(i) / s.value));
  }

  get mostFactor(): number {
    return Math.max(1, ...this.starts.map((s, i) => this.most[i] / s.value));
  }
}

/**
 * The smallest starts, in whole divisions of the shop's rule, that give the goal's length, by the numbers that are free: all
 * grow by one factor first, then each is taken down as far as the others let it. A search over evaluations, so the answer is
 * checked by running forward. `flows` must work out what they do not know: another start may press another section.
 */
export function startFor(plan: Plan, flows: Flows = new WorkedOutFlows()): StartAnswer {
  const search = new Backward(plan, flows);
  if (search.starts.length === 0) return whyNoStart(plan);
  let factor = 1;
  while (factor < search.mostFactor && !search.enough(search.scaled(factor)))
    factor = Math.min(search.mostFactor, factor * 2);
  // A start that grew past what the moves can take is not the last word: the largest that works may lie between.
  if (!search.enough(search.scaled(factor))) return whatStandsInTheWay(plan, search, flows);
  factor = least(0, factor, SEARCHED_TO * search.finest, (f) => search.over(search.scaled(f)));
  let found = search.scaled(factor).map((s, i) => search.rounded(s, i, s.value));
  // Rounding up can tip a move over its limit; then the unrounded numbers stand.
  if (!search.enough(found)) found = search.scaled(factor);
  for (let i = 0, settled = 0; settled < found.length; i = (i + 1) % found.length) {
    const step = search.division(i);
    const one = (value: number) => found.map((s, k) => (k === i ? search.within(s, i, value) : s));
    const lower = found[i].value - step;
    const less = one(lower);
    // Mostly it is the smallest already.
    settled = less[i].value === lower && search.enough(less) ? 0 : settled + 1;
    if (settled > 0) continue;
    const smallest = least(0, lower, SEARCHED_TO * step, (v) => search.over(one(v)));
    const rounded = found.map((s, k) => (k === i ? search.rounded(s, i, smallest) : s));
    found = search.enough(rounded) ? rounded : less;
  }
  return { ok: true, starts: found, reachesMm: search.reach(found) };
}

function whyNoStart(plan: Plan): StartAnswer {
  const all = allStarts(plan);
  const done = doneSteps(plan.records);
  const reason =
    all.length > 0 && all.every((s) => done.has(s.stepId))
      ? 'Every bar is begun already: no start can be changed any more. What can be done now is said at the bench.'
      : all.length > 0
        ? 'Every starting number is held: leave at least one free, the length for one.'
        : 'The plan has no starting stack yet.';
  return { ok: false, stepId: null, reason };
}

const steelAfter = (result: StepResult): number =>
  (result.after ?? []).reduce((sum, billet) => sum + totalVolume(billet.volumes), 0);

const LABEL_WORDS = (starts: readonly Start[]): string =>
  [...new Set(starts.map((s) => s.label))].join(' or ');

/** Compares two very large starts: the step at which the extra steel stops arriving is the one in the way. */
function whatStandsInTheWay(plan: Plan, search: Backward, flows: Flows): StartAnswer {
  const by = LABEL_WORDS(search.starts);
  const forward = (factor: number) => evaluate(withStarts(plan, search.scaled(factor)), undefined, flows);
  const long = forward(search.mostFactor / 2);
  const longer = forward(search.mostFactor);
  const now = evaluate(plan, undefined, flows);
  const most = formatLength(
    Math.max(finalLength(longer), finalLength(long), finalLength(now)),
    plan.shop.lengths,
  );
  for (const { id } of lanesFeeding(plan, goalLaneOf(plan).id)) {
    const lane = longer.lanes.find((l) => l.lane.id === id)!;
    const shorter = long.lanes.find((l) => l.lane.id === id)!.steps;
    const where = plan.lanes.length > 1 ? ` of “${lane.lane.name}”` : '';
    const name = (i: number) => `Step ${i + 1}${where}, ${moveOf(lane.steps[i].step.kind).title}`;
    const stopped = lane.steps.findIndex((s) => s.after === null);
    if (stopped >= 0) {
      const error = lane.steps[stopped].findings.find((f) => f.severity === 'error');
      return {
        ok: false,
        stepId: lane.steps[stopped].step.id,
        reason: `No ${by} of stack helps: ${name(stopped)} cannot be done. ${error?.text ?? ''}`.trim(),
      };
    }
    const capped = lane.steps.findIndex((s, i) => i > 0 && steelAfter(s) < steelAfter(shorter[i]) * 1.001);
    if (capped >= 0)
      return {
        ok: false,
        stepId: lane.steps[capped].step.id,
        reason: `No ${by} of stack helps: ${name(capped)} takes only a fixed amount of steel, however large the start. The plan comes to ${most} at most.`,
      };
  }
  return {
    ok: false,
    stepId: search.starts[0].stepId,
    reason: `Even the largest ${by} that can be planned comes to only ${most} of the ${formatLength(search.goalMm, plan.shop.lengths)} wanted: leave more numbers free, start with a larger section or draw thinner.`,
  };
}
