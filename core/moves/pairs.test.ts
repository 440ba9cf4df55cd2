import { describe, expect, it } from 'vitest';
import { type StepResult, evaluate, makeStepOf, thereFor, withRemedy } from '../plan/index.ts';
import { KnownFlows } from '../flow/flows.ts';
import { makeShop } from '../shop/shop.ts';
import { READY, planOf } from '../tests/plans.ts';
import { MOVE_KINDS, type MoveKind, firstNumbers, moveOf } from './index.ts';

const shop = makeShop();
/** Flows that are worked out take long; what such bars usually do is shown without. */
const flows = new KnownFlows();
const evaluated = (plan: Parameters<typeof evaluate>[0]) => evaluate(plan, undefined, flows);
const error = (result: StepResult) => result.findings.find((f) => f.severity === 'error');

/** What steel cannot do, or what is not there, whatever is pressed. */
const PHYSICAL = ['no can', 'no jacket', 'only piece', 'too short', 'is a blank', 'nothing loose'];
/** Presses after which it must be possible. */
const MOST_PRESSES = 5;

/** Everything that can be done with its first numbers, at the end of a plan that makes it possible. */
const firsts = MOVE_KINDS.filter((kind) => !moveOf(kind).needsFlow).map((kind) => {
  const ready = READY[kind].length > 0 ? evaluated(planOf(READY[kind])).lanes[0].steps.at(-1)! : null;
  const there = ready ? thereFor(kind, ready.after!, ready.aside) : [];
  const plan = planOf([...READY[kind], [kind, firstNumbers(kind, there, shop)]]);
  return { kind, plan, last: evaluated(plan).lanes[0].steps.at(-1)! };
});

/** A second move put after it, with the numbers it first comes with; then every remedy pressed that is offered. */
function then(plan: (typeof firsts)[number]['plan'], last: StepResult, kind: MoveKind) {
  const there = thereFor(kind, last.after!, last.aside);
  const step = makeStepOf('second', kind, firstNumbers(kind, there, shop, []));
  const [lane] = plan.lanes;
  let now = evaluated({ ...plan, lanes: [{ ...lane, steps: [...lane.steps, step] }] });
  const said: string[] = [];
  for (let press = 0; press < MOST_PRESSES; press++) {
    const stopped = now.lanes[0].steps.find((s) => error(s));
    const found = stopped && error(stopped);
    if (!found) return { said, done: true, code: null };
    said.push(`${stopped.step.kind}: ${found.text}`);
    if (!found.remedy) return { said, done: false, code: found.code };
    now = evaluated(withRemedy(now, stopped, found.remedy).plan);
  }
  return { said, done: false, code: 'no end' };
}

describe('every move after every other', () => {
  it.each(firsts.map((f) => [f.kind, f] as const))('after “%s”', (_kind, { plan, last }) => {
    expect(last.after, last.findings.map((f) => f.text).join()).not.toBeNull();
    for (const kind of MOVE_KINDS.filter((k) => moveOf(k).begins !== true)) {
      const { said, done, code } = then(plan, last, kind);
      if (!done) expect(PHYSICAL, `${kind}: ${said.join(' → ')}`).toContain(code);
    }
  });
});
