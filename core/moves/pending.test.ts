import { describe, expect, it } from 'vitest';
import { sectionDifference } from '../billet/sectionFlow.ts';
import { KnownFlows } from '../flow/flows.ts';
import { keyOf, runFlow } from '../flow/run.ts';
import { evaluate, flowsAwaited } from '../plan/index.ts';
import { READY, planOf } from '../tests/plans.ts';

/** A page must not stand still: what is not known is worked out elsewhere. */
const flows = new KnownFlows();

describe('a flow that is worked out elsewhere', () => {
  const plan = (reckoned: string) =>
    planOf([
      ...READY.press,
      ['resquare', { turn: 'left', sideMm: 19, errorDeg: 0, heats: 1, reckoned }],
      ['crop', { endAMm: 2, endBMm: 2 }],
    ]);
  const step = (e: ReturnType<typeof evaluate>) => e.lanes[0].steps.at(-2)!;

  it('is waited for with the usual in its place, so that the plan goes on; known, it takes that place', () => {
    const waiting = evaluate(plan('by flow'), undefined, flows);
    const usual = evaluate(plan('usual'), undefined, flows);
    expect(step(waiting).findings.find((f) => f.code === 'flow pending')).toMatchObject({
      severity: 'waiting',
    });
    expect(sectionDifference(step(waiting).after![0], step(usual).after![0])).toBe(0);
    expect(waiting.lanes[0].ends).toHaveLength(1);
    const [spec] = flowsAwaited(waiting);
    // Changed elsewhere in the meantime it is still waited for.
    expect(flowsAwaited(evaluate({ ...waiting.plan, name: 'Other' }, waiting))).toHaveLength(1);
    runFlow(
      spec,
      () => undefined,
      (passes, stage) => flows.keep(keyOf(spec, passes), stage),
    );
    const known = evaluate(waiting.plan, waiting);
    expect(flowsAwaited(known)).toHaveLength(0);
    expect(sectionDifference(step(known).after![0], step(usual).after![0])).toBeGreaterThan(0.001);
  });

  it('that failed on its way is not waited for again, and the usual is shown with what went wrong', () => {
    const plain = plan('by flow');
    const other = { ...plain, lanes: [{ ...plain.lanes[0], steps: plain.lanes[0].steps.slice() }] };
    other.lanes[0].steps[other.lanes[0].steps.length - 2] = {
      ...other.lanes[0].steps.at(-2)!,
      parameters: { turn: 'left', sideMm: 20, errorDeg: 0, heats: 1, reckoned: 'by flow' },
    } as (typeof plain.lanes)[0]['steps'][0];
    const [spec] = flowsAwaited(evaluate(other, undefined, flows));
    flows.keep(keyOf(spec, 2), { ok: false, why: 'it folded' });
    expect(flows.stageOf(spec, spec.passes.length)).toMatchObject({ ok: false });
    const failed = evaluate(other, undefined, flows);
    expect(flowsAwaited(failed)).toHaveLength(0);
    expect(step(failed).findings.find((f) => f.code === 'flow')!.text).toContain('it folded');
    expect(step(failed).after).not.toBeNull();
  });
});
