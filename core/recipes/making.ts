import same from 'fast-deep-equal';
import { type Billet, sizeOf } from '../billet/billet.ts';
import type { Flows } from '../flow/flows.ts';
import { type MoveKind, type ParametersOf, MOVES, firstNumbers } from '../moves/index.ts';
import {
  type Evaluation,
  type Plan,
  type Step,
  type StepResult,
  evaluate,
  makeStepOf,
  thereFor,
  withSome,
} from '../plan/index.ts';
import { handyNumbers } from '../units/handy.ts';

/** A plan that cannot be made so; the message says what stands in the way. */
export class NotMade extends Error {}

/** mm. Starts are laid so long while a plan is made, and cut down to what is needed after. */
export const LONG_START_MM = 900;

/** A plan as it is being made, move by move, as a person would enter it: the sizes that came of one are there for the next. */
export class Making {
  private now: Evaluation;
  private laneId: string;
  /** How long starts are laid for now. */
  readonly startMm: number;
  /** Another plan as it was made, for as long as this one is made alike: nothing of it is worked out anew. */
  private earlier: Evaluation | undefined;

  constructor(plan: Plan, flows: Flows, startMm = LONG_START_MM, earlier?: Evaluation) {
    this.startMm = startMm;
    this.earlier = earlier;
    this.now = evaluate(plan, earlier, flows);
    this.laneId = plan.lanes.at(-1)?.id ?? '';
  }

  get plan(): Plan {
    return this.now.plan;
  }

  get evaluation(): Evaluation {
    return this.now;
  }

  get shop(): Evaluation['shop'] {
    return this.now.shop;
  }

  /** Goes on with a bar, or begins another. */
  lane(id: string, name: string): this {
    this.laneId = id;
    if (this.plan.lanes.some((l) => l.id === id)) return this;
    const begun = this.plan.lanes.filter((l) => l.steps.length > 0);
    this.take({ ...this.plan, lanes: [...begun, { id, name, steps: [] }] });
    return this;
  }

  /** A move put at the end of the bar: its first numbers there, and those that are given, as the shop would set them; `exact` as they are. */
  do<K extends MoveKind>(
    kind: K,
    given: Partial<ParametersOf<K>> | Record<string, unknown> = {},
    exact: Record<string, unknown> = {},
  ): this {
    const { plan, shop } = this;
    const last = this.steps.at(-1);
    const there = thereFor(kind, last?.after ?? [], last?.aside ?? []);
    const lanes = this.now.lanes
      .filter((l) => l.lane.id !== this.laneId && l.pieces.length > 0)
      .map((l) => ({ id: l.lane.id, pieces: l.pieces }));
    const first = firstNumbers(kind, there, shop, there.length > 0 ? [] : lanes);
    const numbers = {
      ...handyNumbers(MOVES[kind].parameters, withSome(first as object, given), shop),
      ...exact,
    };
    const count = plan.lanes.reduce((n, l) => n + l.steps.length, 0);
    const step = this.asEarlier(makeStepOf(`s${count + 1}`, kind, numbers));
    this.take({
      ...plan,
      lanes: plan.lanes.map((l) => (l.id === this.laneId ? { ...l, steps: [...l.steps, step] } : l)),
    });
    const result = this.steps.at(-1)!;
    if (!result.after) {
      const error = result.findings.find((f) => f.severity === 'error');
      throw new NotMade(`${MOVES[kind].title}: ${error?.text ?? 'its section is not worked out'}`);
    }
    return this;
  }

  get steps(): readonly StepResult[] {
    return this.now.lanes.find((l) => l.lane.id === this.laneId)?.steps ?? [];
  }

  /** The step that was put last. */
  get lastId(): string {
    return this.steps.at(-1)!.step.id;
  }

  /** What the bar has come to so far: one, or its pieces. */
  get bars(): readonly Billet[] {
    return this.steps.at(-1)?.after ?? [];
  }

  /** Sizes of the bar, or of the first of its pieces. mm */
  get size(): { widthMm: number; heightMm: number; lengthMm: number } {
    const [bar] = this.bars;
    if (!bar) throw new NotMade('There is no steel yet');
    return { ...sizeOf(bar), lengthMm: bar.lengthMm };
  }

  /** The same step of the plan before, where it has it; from the first that is another on it goes its own way. */
  private asEarlier(step: Step): Step {
    const known = this.earlier?.plan.lanes.find((l) => l.id === this.laneId)?.steps[this.steps.length];
    if (known && same(known, step)) return known;
    this.earlier = undefined;
    return step;
  }

  private take(plan: Plan): void {
    this.now = evaluate(plan, this.earlier ?? this.now, this.now.flows);
  }
}
