import { sizeOf } from '../billet/billet.ts';
import { materialById } from '../materials/material.ts';
import { type MoveKind, moveOf } from '../moves/index.ts';
import { doneSteps } from '../records/record.ts';
import { divisionMm, formatFine, formatLength, formatSizes } from '../units/length.ts';
import { type Evaluation, type StepResult, evaluate } from './evaluate.ts';
import { type Goal, type Plan, type Step, asPlanned, makeStepOf, withParameters } from './plan.ts';
import { freshLaneId, freshStepIds, withSome } from './remedy.ts';

/** One way to a finished bar from what is there: what it changes, in words, the plan then, and what it comes to. */
export interface Rescue {
  readonly id:
    | 'shorter goal'
    | 'thinner bar'
    | 'narrower bar'
    | 'thinner tiles'
    | 'fewer tiles'
    | 'ground or pressed'
    | 'one round less'
    | 'block for the tang'
    | 'another piece';
  readonly title: string;
  /** Without records: those stay as they are. */
  readonly plan: Plan;
  /** The finished bar then. */
  readonly comes: Goal;
}

/** Of a number, as many are tried as the search needs; more than any maker would. */
const MOST_TRIED = 24;

type Try = Omit<Rescue, 'comes'>;

/** Steps of the bar that are still to be done, in the order of its lane. */
const openSteps = ({ plan, goalLane }: Evaluation): StepResult[] => {
  const done = doneSteps(plan.records);
  return goalLane.steps.filter(({ step }) => !done.has(step.id));
};

const withStep = (plan: Plan, id: string, some: object): Plan => ({
  ...plan,
  lanes: plan.lanes.map((lane) => ({
    ...lane,
    steps: lane.steps.map((s) => (s.id === id ? withParameters(s, withSome(s.parameters, some)) : s)),
  })),
});

const inLaneOf = (
  plan: Plan,
  stepId: string,
  change: (steps: readonly Step[], at: number) => readonly Step[],
): Plan => ({
  ...plan,
  lanes: plan.lanes.map((lane) => {
    const at = lane.steps.findIndex((s) => s.id === stepId);
    return at < 0 ? lane : { ...lane, steps: change(lane.steps, at) };
  }),
});

/** Ways on when the goal is not reached as it stands, those that cost least first; each was worked through, and reaches it. */
export function rescuesOf(evaluation: Evaluation): Rescue[] {
  if (evaluation.goal.reached) return [];
  const work = (one: Try): Rescue | null => {
    const { reached, bar } = evaluate(one.plan, evaluation).goal;
    if (!reached || !bar) return null;
    const { widthMm, heightMm: thicknessMm } = sizeOf(bar);
    return { ...one, plan: asPlanned(one.plan), comes: { lengthMm: bar.lengthMm, widthMm, thicknessMm } };
  };
  const first = (tries: Iterable<Try>): Rescue[] => {
    let tried = 0;
    for (const one of tries) {
      const made = work(one);
      if (made) return [made];
      if (++tried >= MOST_TRIED) break;
    }
    return [];
  };
  return [
    ...first(anotherPiece(evaluation)),
    ...first(shorterGoal(evaluation)),
    ...first(otherDraw(evaluation, 'thicknessMm')),
    ...first(otherDraw(evaluation, 'widthMm')),
    ...first(otherTiles(evaluation, 'thinner tiles')),
    ...first(otherTiles(evaluation, 'fewer tiles')),
    ...first(otherHollows(evaluation)),
    ...first(oneRoundLess(evaluation)),
    ...first(tangBlock(evaluation)),
  ];
}

/** The goal taken down to what the bar comes to, in the shop's division. */
function* shorterGoal({ plan, goal, shop }: Evaluation): Generator<Try> {
  if (!goal.sizes || goal.unfinished) return;
  const division = divisionMm(shop.lengths);
  const within = Math.max(0.05, division / 2);
  const down = (mm: number, wanted: number) =>
    mm > wanted - within ? wanted : Math.floor(mm / division + 1e-6) * division;
  const { lengthMm, widthMm, heightMm } = goal.sizes;
  const less: Goal = {
    lengthMm: down(lengthMm, plan.goal.lengthMm),
    widthMm: down(widthMm, plan.goal.widthMm),
    thicknessMm: down(heightMm, plan.goal.thicknessMm),
  };
  if (Object.values(less).some((mm) => mm <= 0)) return;
  yield {
    id: 'shorter goal',
    title: `Make it ${formatSizes([less.lengthMm, less.widthMm, less.thicknessMm], shop.lengths)}`,
    plan: { ...plan, goal: less },
  };
}

/** The last flat drawing, and the goal with it, thinner or narrower until the length is there. */
function* otherDraw(evaluation: Evaluation, which: 'thicknessMm' | 'widthMm'): Generator<Try> {
  const { plan, goal, shop } = evaluation;
  const draw = openSteps(evaluation).findLast(({ step }) => step.kind === 'draw');
  if (!draw || draw.step.kind !== 'draw' || draw.step.parameters.shape !== 'flat' || !goal.sizes) return;
  const now = draw.step.parameters[which];
  const finer = shop.lengths.unit === 'in' ? 25.4 / 64 : 0.1;
  const wanted = (now * goal.sizes.lengthMm) / plan.goal.lengthMm;
  const how = which === 'thicknessMm' ? 'thick' : 'wide';
  for (let mm = Math.floor(wanted / finer) * finer; mm > 0.6 * now; mm -= finer) {
    const goalMm = plan.goal[which] - (now - mm);
    yield {
      id: which === 'thicknessMm' ? 'thinner bar' : 'narrower bar',
      title: `Draw it ${formatFine(mm, shop.lengths)} ${how} instead of ${formatFine(now, shop.lengths)}, to be ${formatFine(goalMm, shop.lengths)} ${how} in the end`,
      plan: {
        ...withStep(plan, draw.step.id, { [which]: mm }),
        goal: { ...plan.goal, [which]: goalMm },
      },
    };
  }
}

/** Tiles cut thinner, more of them from the same bar and the last one not left over; or thicker, fewer of them and fewer kerfs. */
function* otherTiles(evaluation: Evaluation, id: 'thinner tiles' | 'fewer tiles'): Generator<Try> {
  const { plan, shop } = evaluation;
  const tile = openSteps(evaluation).find(({ step }) => step.kind === 'tile');
  if (!tile || tile.step.kind !== 'tile') return;
  const now = tile.step.parameters.thicknessMm;
  const finer = shop.lengths.unit === 'in' ? 25.4 / 32 : 0.5;
  const next =
    id === 'thinner tiles'
      ? (k: number) => (Math.ceil(now / finer) - k) * finer
      : (k: number) => (Math.floor(now / finer) + k) * finer;
  for (let k = 1, mm = next(k); mm > now / 2 && mm < 2 * now; mm = next(++k))
    yield {
      id,
      title: `Cut the tiles ${formatFine(mm, shop.lengths)} thick instead of ${formatFine(now, shop.lengths)}${id === 'fewer tiles' ? ', fewer of them' : ''}`,
      plan: withStep(plan, tile.step.id, { thicknessMm: mm }),
    };
}

/** Hollows ground in instead of pressed in, or the other way: what each takes off is not the same. */
function* otherHollows(evaluation: Evaluation): Generator<Try> {
  for (const { step } of openSteps(evaluation)) {
    if (step.kind !== 'grooves') continue;
    const how = step.parameters.how === 'pressed' ? 'ground' : 'pressed';
    yield {
      id: 'ground or pressed',
      title:
        how === 'ground'
          ? 'Grind the hollows instead of pressing them'
          : 'Press the hollows instead of grinding them',
      plan: withStep(evaluation.plan, step.id, { how }),
    };
  }
}

/** A round that is still to come left out: from its cut to the drawing that brings the bar back to one size. */
function* oneRoundLess(evaluation: Evaluation): Generator<Try> {
  const { plan } = evaluation;
  // What was begun cannot be left out any more.
  const open = openSteps(evaluation).filter((r) => r.records.length === 0);
  for (const [i, { step }] of open.entries()) {
    if (step.kind !== 'cut') continue;
    const lays = open.findIndex((r, k) => k > i && r.step.kind === 'assemble');
    const draws = open.findIndex((r, k) => k > lays && r.step.kind === 'draw');
    if (lays < 0 || draws < 0) continue;
    const gone = new Set(open.slice(i, draws + 1).map((r) => r.step.id));
    yield {
      id: 'one round less',
      title: `One round less: leave out ${open
        .slice(i, draws + 1)
        .map((r) => moveOf(r.step.kind).title.toLowerCase())
        .join(', ')}`,
      plan: inLaneOf(plan, step.id, (steps) => steps.filter((s) => !gone.has(s.id))),
    };
  }
}

/** Plain steel for the tang at the end of the bar, welded on. */
function* tangBlock(evaluation: Evaluation): Generator<Try> {
  const { plan, goal, shop, goalLane } = evaluation;
  const last = goalLane.steps.at(-1);
  if (!goal.sizes || goal.unfinished || !last) return;
  const short = plan.goal.lengthMm - goal.sizes.lengthMm;
  const division = divisionMm(shop.lengths);
  const [join, weld] = freshStepIds(plan, 2);
  // The weld that follows takes some of it as scale.
  for (const more of [1.04, 1.1, 1.2]) {
    const lengthMm = Math.ceil((short * more + 0.04 * goal.sizes.lengthMm) / division) * division;
    if (!(short > 0) || lengthMm > 0.5 * plan.goal.lengthMm) return;
    const steel = materialById(shop.materials, '1018')?.name ?? '1018';
    yield {
      id: 'block for the tang',
      title: `Weld on ${formatLength(lengthMm, shop.lengths)} of ${steel} for the tang`,
      plan: inLaneOf(plan, last.step.id, (steps) => [
        ...steps,
        makeStepOf(join, 'join', { material: '1018', lengthMm, end: 'A' }),
        makeStepOf(weld, 'weld', { heats: 1, temperatureC: shop.forge.weldingC }),
      ]),
    };
  }
}

/** In place of pieces that were scrapped: plain steel of the same size from a bar that is bought. */
function* anotherPiece(evaluation: Evaluation): Generator<Try> {
  const { plan, shop } = evaluation;
  const stopped = evaluation.lanes
    .flatMap((l) => l.steps)
    .find((r) => r.findings.some((f) => f.code === 'piece gone'));
  if (!stopped || stopped.step.kind !== 'assemble') return;
  const { lays } = moveOf('assemble' as MoveKind);
  const laid = lays?.(stopped.step.parameters);
  if (!laid) return;
  const own = stopped.before.filter((b) => b.piece?.lane === undefined);
  const there = new Set(own.map((b, i) => b.piece?.place ?? i + 1));
  const gone = [
    ...new Set(laid.places.flatMap((p) => (p.lane === undefined && !there.has(p.piece) ? [p.piece] : []))),
  ];
  const like = own[0];
  if (gone.length === 0 || !like) return;
  const { widthMm, heightMm } = sizeOf(like);
  const material = Object.entries(like.volumes).reduce((a, b) => (b[1] > a[1] ? b : a))[0];
  const laneId = freshLaneId(plan);
  const kerf = shop.kerfMm;
  const [stack, cut] = freshStepIds(plan, 2);
  const lengthMm = gone.length * like.lengthMm + (gone.length - 1) * kerf;
  const steps = [
    makeStepOf(stack, 'stack', {
      layers: 1,
      pattern: [{ material, thicknessMm: heightMm }],
      widthMm,
      lengthMm,
    }),
    ...(gone.length > 1 ? [makeStepOf(cut, 'cut', { pieces: gone.length, cropAMm: 0, cropBMm: 0 })] : []),
  ];
  const places = laid.places.map((p) => {
    const k = p.lane === undefined ? gone.indexOf(p.piece) : -1;
    return k < 0 ? p : { ...p, lane: laneId, piece: k + 1 };
  });
  const name = materialById(shop.materials, material)?.name ?? material;
  const { from } = stopped.step.parameters;
  yield {
    id: 'another piece',
    title: `Lay plain ${name}, ${formatSizes([widthMm, heightMm], shop.lengths)}, in place of ${gone.length === 1 ? `piece ${gone[0]}` : `pieces ${gone.join(', ')}`}`,
    plan: withStep(
      // Last, so that the marks of the other bars, which are on the steel, stay what they are.
      { ...plan, lanes: [...plan.lanes, { id: laneId, name: `Bought ${name}`, steps }] },
      stopped.step.id,
      { layout: 'free', places, ...(from && { from: [...from, laneId] }) },
    ),
  };
}
