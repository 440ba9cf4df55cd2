import type { Action } from '../instruct/action.ts';
import { Budget, overBudget } from './budget.ts';
import { sentencesOf } from '../instruct/words.ts';
import { type Billet, type Loss, placeAmong } from '../billet/billet.ts';
import { cameOut } from '../records/cameOut.ts';
import { type BenchRecord, recordsByStep } from '../records/record.ts';
import { type Volumes, addVolumes } from '../materials/volumes.ts';
import { type Shop, shopWith } from '../shop/shop.ts';
import type { Can } from '../canister/can.ts';
import { type Flows, WorkedOutFlows } from '../flow/flows.ts';
import type { FlowSpec, FlowStage } from '../flow/run.ts';
import { type Finding, type MoveKind, type PieceRef, moveOf } from '../moves/index.ts';
import { type GoalResult, judgedGoal } from './goalResult.ts';
import type { Happening } from './happening.ts';
import { cutDemandFindings } from './demand.ts';
import { goalLaneOf, lanesInOrder, laneMark } from './lanes.ts';
import { type Lane, type Plan, type Step, heatsIn } from './plan.ts';

export interface StepResult {
  readonly step: Step;
  readonly before: readonly Billet[];
  /** Null where an error here or earlier stopped the lane. */
  readonly after: readonly Billet[] | null;
  /** Pieces of the lane that lie aside meanwhile. */
  readonly aside: readonly Billet[];
  readonly losses: readonly Loss[];
  readonly added: Volumes;
  readonly findings: readonly Finding[];
  /** The flow that it waits for: until that is known it shows what such bars usually do, or nothing. */
  readonly waits: FlowSpec | null;
  /** How its section flowed, where it was worked out. */
  readonly flow: FlowStage | null;
  /** What was written of it at the bench, in time; then all else here is as it stands. */
  readonly records: readonly BenchRecord[];
  /** What it was reckoned to come to, where what came is laid over it. */
  readonly reckoned: StepResult | null;
}

export interface LaneResult {
  readonly lane: Lane;
  readonly steps: readonly StepResult[];
  /** What the lane ends with: one bar, several pieces, or nothing where it was stopped; what lies aside comes last. */
  readonly ends: readonly Billet[];
  /** The same, marked with the lane, as other lanes take them. */
  readonly pieces: readonly Billet[];
}

export interface Evaluation {
  readonly plan: Plan;
  readonly shop: Shop;
  /** Whom it asked how sections flow. */
  readonly flows: Flows;
  /** In the plan's order. */
  readonly lanes: readonly LaneResult[];
  /** The lane that ends in the finished bar. */
  readonly goalLane: LaneResult;
  readonly goal: GoalResult;
  /** The lanes before anything was said about what others want of them: what the next evaluation takes over. */
  readonly bare: readonly LaneResult[];
}

const NO_STEEL: readonly Billet[] = [];
const NO_RECORDS: readonly BenchRecord[] = [];

const NOTHING = {
  after: null,
  aside: NO_STEEL,
  losses: [],
  added: {},
  waits: null,
  flow: null,
  records: NO_RECORDS,
  reckoned: null,
} as const;

/** What a step may ask of the other lanes, and what it was told. */
interface Others {
  of(ref: PieceRef): Billet | undefined;
  /** Whether a piece that is not to be had was scrapped. */
  isScrapped(ref: PieceRef): boolean;
  nameOf(lane: string): string;
  /** Who took a piece first: the step's id. */
  takenBy: Map<string, string>;
}

/** Pieces of other lanes that a step asks for; what is wrong where they are not to be had. */
function taken(
  step: Step,
  refs: readonly PieceRef[],
  others: Others,
): { pieces: Billet[]; wrong: Finding[] } {
  const pieces: Billet[] = [];
  const wrong: Finding[] = [];
  const say = (code: string, text: string) => {
    if (!wrong.some((f) => f.text === text)) wrong.push({ code, severity: 'error', text, parameter: 'from' });
  };
  const seen = new Set<string>();
  for (const ref of refs) {
    const key = `${ref.lane}\n${ref.piece}`;
    if (seen.has(key)) continue;
    seen.add(key);
    const piece = others.of(ref);
    const by = others.takenBy.get(key);
    if (!piece)
      say(
        'too few',
        others.isScrapped(ref)
          ? `Piece ${ref.piece} of “${others.nameOf(ref.lane)}” is scrapped: lay fewer here, or a piece of another bar in its place.`
          : `“${others.nameOf(ref.lane)}” gives no piece ${ref.piece}: cut more there, or lay fewer here.`,
      );
    else if (by !== undefined && by !== step.id)
      say(
        'used twice',
        `Piece ${ref.piece} of “${others.nameOf(ref.lane)}” lies in another assembly already.`,
      );
    else pieces.push(piece);
    if (piece && by === undefined) others.takenBy.set(key, step.id);
  }
  return { pieces, wrong };
}

/** What keeps a step from being done whatever its numbers are. */
function outOfPlace(step: Step, own: readonly Billet[], before: readonly Billet[]): Finding[] {
  const move = moveOf(step.kind);
  if (move.begins === true && own.length > 0)
    return [
      {
        code: 'not first',
        severity: 'error',
        text: `${move.title} begins a bar and can only stand first.`,
      },
    ];
  if (!move.onBlank && before.some((b) => b.blank))
    return [
      {
        code: 'is a blank',
        severity: 'error',
        text: `It is forged to the shape of a blade: “${move.title}” wants a bar. Put it before the forging to shape.`,
      },
    ];
  return !move.onPowder && before.some((b) => b.can && b.can.poresMm3 > 0)
    ? [stillPowder(move.title, own)]
    : [];
}

const hasError = (findings: readonly Finding[]): boolean => findings.some((f) => f.severity === 'error');

const pending: Finding = {
  code: 'flow pending',
  severity: 'waiting',
  text: 'Working out how the section flows …',
};

/** A step by itself: pure, and the same for the same step, bars, shop and flows. */
export function makeStep(step: Step, before: readonly Billet[], shop: Shop, flows: Flows): StepResult {
  const move = moveOf(step.kind);
  const findings = move.check(before, step.parameters, shop);
  if (hasError(findings)) return { step, before, ...NOTHING, findings };
  const spec = move.flows?.(before, step.parameters, shop)?.spec;
  if (!spec)
    return {
      step,
      before,
      aside: NO_STEEL,
      findings,
      waits: null,
      flow: null,
      records: NO_RECORDS,
      reckoned: null,
      ...move.apply(before, step.parameters, shop),
    };
  const stage = flows.of(spec);
  if (!stage && move.needsFlow) return { step, before, ...NOTHING, findings: [pending], waits: spec };
  const told = stage ? move.check(before, step.parameters, shop, stage) : [pending, ...findings];
  if (hasError(told)) return { step, before, ...NOTHING, findings: told };
  return {
    step,
    before,
    aside: NO_STEEL,
    findings: told,
    waits: stage ? null : spec,
    flow: stage,
    records: NO_RECORDS,
    reckoned: null,
    ...move.apply(before, step.parameters, shop, stage),
  };
}

/** A step as it stands: what was written of it laid over what it was reckoned to come to. */
function asItStands(made: StepResult, records: readonly BenchRecord[], shop: Shop): StepResult {
  if (records.length === 0) return made;
  if (!made.after) return { ...made, records };
  const reckoned = { ...made, after: made.after, heats: heatsIn(made.step) };
  const { after, losses, findings } = cameOut(reckoned, records, shop);
  if (after === made.after && losses === made.losses && findings.length === 0) return { ...made, records };
  const said = [...made.findings, ...findings];
  const stopped = hasError(findings);
  return { ...made, after: stopped ? null : after, losses, findings: said, records, reckoned: made };
}

function evaluateStep(
  step: Step,
  own: readonly Billet[],
  inputs: Inputs,
  others: Others,
  last: StepResult | undefined,
): StepResult {
  const { shop, flows, budget, records: all } = inputs;
  const records = all.get(step.id) ?? NO_RECORDS;
  const { pieces, wrong } = taken(step, moveOf(step.kind).takes?.(step.parameters) ?? [], others);
  const before = pieces.length > 0 ? [...own, ...pieces] : own;
  if (wrong.length > 0) return { step, before, ...NOTHING, findings: wrong };
  const refused = budget.refuses(step, before, shop);
  if (refused.length > 0) return { step, before, ...NOTHING, findings: refused };
  const stillWaits = !last?.waits || flows.of(last.waits) === null;
  if (last && stillWaits && !overBudget(last.findings) && last.step === step && sameAll(last.before, before))
    return sameAll(last.records, records) ? last : asItStands(madeOf(last), records, shop);
  const amiss = outOfPlace(step, own, before);
  if (amiss.length > 0) return asItStands({ step, before, ...NOTHING, findings: amiss }, records, shop);
  const made = inputs.happening?.make(step, before, shop) ?? makeStep(step, before, shop, flows);
  return asItStands(made, records, shop);
}

/** What a step was reckoned to come to, before anything was written of it. */
const madeOf = (result: StepResult): StepResult =>
  result.reckoned ?? (result.records.length > 0 ? { ...result, records: NO_RECORDS } : result);

/** Where the can is another lane's, it is pressed there. */
const stillPowder = (title: string, own: readonly Billet[]): Finding => ({
  code: 'powder',
  severity: 'error',
  text: `The can is still full of loose powder: press it solid before “${title}”.`,
  ...(own.some((b) => b.can && b.can.poresMm3 > 0) && {
    remedy: { label: 'Press it solid first', insertBefore: 'consolidate' },
  }),
});

const sameAll = <T>(a: readonly T[], b: readonly T[]): boolean =>
  a.length === b.length && a.every((one, i) => one === b[i]);

/** What a plan is worked through with. */
interface Inputs {
  readonly shop: Shop;
  readonly flows: Flows;
  readonly budget: Budget;
  readonly records: ReadonlyMap<string, readonly BenchRecord[]>;
  readonly happening: Happening | undefined;
}

function evaluateLane(
  lane: Lane,
  mark: string,
  inputs: Inputs,
  others: Others,
  last: LaneResult | undefined,
): LaneResult {
  const steps: StepResult[] = [];
  let now: readonly Billet[] | null = NO_STEEL;
  let aside = NO_STEEL;
  for (const step of lane.steps) {
    const known = last?.steps[steps.length];
    const result: StepResult = now
      ? evaluateStep(step, thereFor(step.kind, now, aside), inputs, others, known)
      : { step, before: NO_STEEL, ...NOTHING, findings: [] };
    now = result.after;
    if (moveOf(step.kind).chooses) aside = result.aside;
    if (now && aside.length > 0 && now.some((b) => b.piece?.place !== undefined))
      aside = placedAfter(aside, result.reckoned?.after?.length);
    steps.push(sameAll(result.aside, aside) ? result : { ...result, aside });
  }
  const ends = now ? [...now, ...aside] : NO_STEEL;
  const pieces =
    last && sameAll(last.ends, ends) && last.lane.id === lane.id ? last.pieces : markAll(ends, lane.id, mark);
  return { lane, steps, ends, pieces };
}

/** Where pieces in hand were scrapped, those aside keep the places that they were to have after them. */
const placedAfter = (aside: readonly Billet[], inHand: number | undefined): readonly Billet[] =>
  inHand === undefined
    ? aside
    : aside.map((bar, i) => (bar.piece ? { ...bar, piece: { ...bar.piece, place: inHand + i + 1 } } : bar));

/** Pieces as they were in the bar; what has no number comes first. */
const inOrder = (pieces: readonly Billet[]): Billet[] =>
  [...pieces].sort((a, b) => (a.piece?.number ?? 0) - (b.piece?.number ?? 0));

/** What a move works on of what is in hand and what lies aside. */
export const thereFor = (
  kind: MoveKind,
  inHand: readonly Billet[],
  aside: readonly Billet[],
): readonly Billet[] => (moveOf(kind).chooses ? inOrder([...inHand, ...aside]) : inHand);

/** The pieces as another lane sees them, by their places, and by what is written on them; a bar that was not cut is its only piece. */
const markAll = (ends: readonly Billet[], lane: string, mark: string): Billet[] =>
  ends.map((billet, i) => {
    const number = placeAmong(billet, i);
    const known = { number, ...billet.piece, place: undefined };
    const written = billet.piece?.label ?? String(known.number);
    const label = written === String(number) ? {} : { label: written };
    return {
      ...billet,
      piece: { fromMm: 0, toMm: billet.lengthMm, ...known, number, ...label, lane, mark },
    };
  });

/** A lane that takes from itself by way of others cannot be worked out. */
const inCircle = (lane: Lane): LaneResult => ({
  lane,
  ends: [],
  pieces: [],
  steps: lane.steps.map((step, i) => ({
    step,
    before: [],
    ...NOTHING,
    findings:
      i === 0
        ? [
            {
              code: 'circle',
              severity: 'error',
              text: `“${lane.name}” takes pieces that are made from its own: lay pieces of other bars instead.`,
              parameter: 'from',
            },
          ]
        : [],
  })),
});

/**
 * Works a plan through: what every step makes of the steel, what it loses, what is to be said about it. Pure. What an earlier
 * evaluation found for steps that have not changed is taken over. Flows come in through `flows`; where none are given, those
 * of the evaluation before are asked, and without one they are worked out here. With the plan's records every step is as it stands:
 * what came is laid over what was reckoned, and the rest goes on from there. With a `happening` it may come otherwise.
 */
export function evaluate(
  plan: Plan,
  last?: Evaluation,
  flows: Flows = last?.flows ?? new WorkedOutFlows(),
  happening?: Happening,
): Evaluation {
  const sameShop = last && last.plan.shop === plan.shop && sameAll(last.plan.materials, plan.materials);
  const shop = sameShop ? last.shop : shopWith(plan.shop, plan.materials);
  const known = new Map<string, LaneResult>(sameShop ? last.bare.map((l) => [l.lane.id, l]) : []);
  const done = new Map<string, LaneResult>();
  const others: Others = {
    of: ({ lane, piece }) => done.get(lane)?.pieces.find((b) => b.piece?.number === piece),
    isScrapped: ({ lane, piece }) => {
      const pieces = done.get(lane)?.pieces ?? [];
      return (pieces.at(-1)?.piece?.number ?? 0) > pieces.length && piece <= pieces.at(-1)!.piece!.number;
    },
    nameOf: (id) => plan.lanes.find((l) => l.id === id)?.name ?? id,
    takenBy: new Map(),
  };
  const inputs = { shop, flows, budget: new Budget(), records: recordsByStep(plan.records), happening };
  const { order, circular } = lanesInOrder(plan);
  for (const lane of circular) done.set(lane.id, inCircle(lane));
  for (const lane of order)
    done.set(lane.id, evaluateLane(lane, laneMark(plan, lane.id), inputs, others, known.get(lane.id)));
  const bare = plan.lanes.map((lane) => done.get(lane.id)!);
  const lanes = bare.map((lane) => withDemand(plan, lane));
  const goalLane = lanes.find((l) => l.lane.id === goalLaneOf(plan).id)!;
  return {
    plan,
    shop,
    flows,
    lanes,
    bare,
    goalLane,
    goal: judgedGoal(plan.goal, goalLane.ends[0] ?? null, shop),
  };
}

/** A lane whose cut gives too few (or too many) pieces for the assemblies that take them says so at the cut. */
function withDemand(plan: Plan, result: LaneResult): LaneResult {
  const last = result.steps.at(-1);
  const more = last?.after ? cutDemandFindings(plan, result.lane, last.step, last.after.length) : [];
  if (more.length === 0 || !last) return result;
  return {
    ...result,
    steps: [...result.steps.slice(0, -1), { ...last, findings: [...last.findings, ...more] }],
  };
}

/** All steps of all lanes. */
export const allSteps = (evaluation: Evaluation): StepResult[] => evaluation.lanes.flatMap((l) => l.steps);

/** The result of one step, wherever it is. */
export const stepResult = (evaluation: Evaluation, stepId: string): StepResult | undefined =>
  allSteps(evaluation).find((s) => s.step.id === stepId);

/** The last move towards the finished bar that comes to something. */
export const lastReached = (evaluation: Evaluation): StepResult | undefined =>
  evaluation.goalLane.steps.findLast((s) => s.after !== null) ??
  allSteps(evaluation).findLast((s) => s.after !== null);

/** The can that a step fills; nothing of other steps. */
export const canOf = ({ step }: StepResult): Can | undefined => moveOf(step.kind).fills?.(step.parameters);

/** Everything that came in over all steps, mm³ by material. */
export const steelIn = (evaluation: Evaluation): Volumes =>
  addVolumes(...allSteps(evaluation).map((s) => s.added));

/** Materials in the order they come into the plan: the order of the legend and of the hatches. */
export const materialOrder = (evaluation: Evaluation): string[] => Object.keys(steelIn(evaluation));

/** Everything that was lost over all steps, mm³ by material. */
export const steelLost = (evaluation: Evaluation): Volumes =>
  addVolumes(...allSteps(evaluation).flatMap((s) => s.losses.map((loss) => loss.volumes)));

/** What hands do at a step, or nothing while it cannot be done. */
export const actionsOf = ({ step, before, after }: StepResult, shop: Shop): Action[] =>
  after ? moveOf(step.kind).does(before, step.parameters, shop) : [];

/** The same in words, a sentence a line. */
export const sayStep = (result: StepResult, shop: Shop): string[] =>
  sentencesOf(actionsOf(result, shop), shop);

/** The flows that a plan waits for, in the order they can be worked out. */
export const flowsAwaited = (evaluation: Evaluation): FlowSpec[] =>
  allSteps(evaluation).flatMap(({ waits }) => waits ?? []);
