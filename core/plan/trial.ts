import { KnownFlows } from '../flow/flows.ts';
import { type MoveKind, firstNumbers, moveOf } from '../moves/index.ts';
import { keptDots } from '../picture/runs.ts';
import { makeShop, shopSchema } from '../shop/shop.ts';
import { type Evaluation, evaluate, thereFor } from './evaluate.ts';
import { type Plan, type Step, emptyPlan, makeStepOf } from './plan.ts';
import { withRemedy } from './remedy.ts';

/** Presses after which a move must be possible. */
const MOST_PRESSES = 5;

/** A square bar of level stripes, as most bars begin. mm */
const striped = (layers: number): readonly Step[] => [
  makeStepOf('stack', 'stack', {
    layers,
    pattern: [
      { material: '1084', thicknessMm: 42 / layers },
      { material: '15n20', thicknessMm: 42 / layers },
    ],
    widthMm: 42,
    lengthMm: 160,
  }),
  makeStepOf('weld', 'weld', { heats: 1, temperatureC: 1200 }),
];

/** What is done before, where a bar alone does not show it. */
const FIRST: Partial<Record<MoveKind, readonly MoveKind[]>> = {
  consolidate: ['can'],
  peel: ['jacket'],
  choose: ['cut'],
  assemble: ['resquare', 'cut'],
  stand: ['cut'],
  scarf: ['cut'],
  putBack: ['resquare', 'cut', 'assemble'],
  flatten: ['grooves'],
  shape: ['turn', 'draw'],
};
/** Layers that a groove goes through. */
const THIN = 41;
/** What shows a move better than itself: by a map where it waits for a flow, or with what is done next. */
const SHOWN_BY: Partial<Record<MoveKind, MoveKind>> = { press: 'resquare', grooves: 'flatten' };

/** Rings, as the end of a bar that was found may show. */
const RINGS = keptDots(
  32,
  Uint8Array.from(
    { length: 32 * 32 },
    (_, k) => Math.floor(Math.hypot((k % 32) - 15.5, k / 32 - 15.5) / 3) % 2,
  ),
);
/** What the first numbers of a move lack to show it. */
const BESIDES: Partial<Record<MoveKind, object>> = { found: { dots: RINGS } };

const EMPTY = emptyPlan({
  name: 'A striped bar',
  goal: { lengthMm: 100, widthMm: 30, thicknessMm: 5 },
  shop: shopSchema.parse({}),
});

const planWith = (steps: readonly Step[]): Plan => ({
  ...EMPTY,
  lanes: EMPTY.lanes.map((lane) => ({ ...lane, steps })),
});

/** A move put at the end, with the numbers it first comes with there. */
function withMove(steps: readonly Step[], kind: MoveKind, worked: (plan: Plan) => Evaluation): Step[] {
  const last = worked(planWith(steps)).lanes[0].steps.at(-1);
  const there = thereFor(kind, last?.after ?? [], last?.aside ?? []);
  const numbers = firstNumbers(kind, there, makeShop(), []) as object;
  return [...steps, makeStepOf(kind, kind, { ...numbers, ...BESIDES[kind] })];
}

/**
 * A move done with its first numbers on a striped bar, to show what it does: what it asks for before it is put in. Null where nothing
 * makes it possible.
 */
export function triedOnStripes(asked: MoveKind): Evaluation | null {
  const kind = SHOWN_BY[asked] ?? asked;
  const flows = new KnownFlows();
  const worked = (plan: Plan) => evaluate(plan, undefined, flows);
  const moves = [...(FIRST[kind] ?? []), kind];
  const start = moveOf(moves[0]).begins === true ? [] : striped(kind === 'flatten' ? THIN : 7);
  let now = worked(planWith(moves.reduce<readonly Step[]>((steps, k) => withMove(steps, k, worked), start)));
  for (let press = 0; press < MOST_PRESSES; press++) {
    const stopped = now.lanes[0].steps.find((s) => s.findings.some((f) => f.severity === 'error'));
    const remedy = stopped?.findings.find((f) => f.severity === 'error')?.remedy;
    if (!stopped) break;
    if (!remedy) return null;
    now = worked(withRemedy(now, stopped, remedy).plan);
  }
  return now.lanes[0].steps.at(-1)?.after ? now : null;
}
