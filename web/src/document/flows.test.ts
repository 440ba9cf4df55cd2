// @vitest-environment jsdom
import { SilentWorker } from '../tests/browser.ts';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { KnownFlows } from '../../../core/flow/flows.ts';
import { type FlowSpec, keyOf } from '../../../core/flow/run.ts';
import { evaluate, flowsAwaited } from '../../../core/plan/index.ts';
import { SQUARE_BAR, planOf } from '../../../core/tests/plans.ts';
import { learn, useFlows, wantFlows } from './flows.ts';

/** The flow that a re-square to a side waits for. */
const specTo = (sideMm: number): FlowSpec => {
  const step = ['resquare', { turn: 'left', sideMm, errorDeg: 0, heats: 1, reckoned: 'by flow' }] as const;
  return flowsAwaited(evaluate(planOf([...SQUARE_BAR, step]), undefined, new KnownFlows()))[0];
};
const begun = () => SilentWorker.all.filter((w) => w.name === 'flow');
const soon = () => vi.advanceTimersByTimeAsync(50);

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('fetch', () => Promise.resolve(new Response('{"stages":{}}', { status: 200 })));
  wantFlows('open', []);
  SilentWorker.all.length = 0;
});

describe('flows that are waited for', () => {
  it('are begun at once when a piece is opened', async () => {
    wantFlows('open', [specTo(20)]);
    await soon();
    expect(begun()).toHaveLength(1);
    expect(useFlows.getState().running).toMatchObject({ pass: 0, share: 0 });
  });

  it('of a plan that is being typed are left alone until it is, and what nobody waits for any more is ended', async () => {
    wantFlows('open', [specTo(20)]);
    await soon();
    const [first] = begun();
    for (const mm of [1, 19, 19.5]) {
      wantFlows('open', [specTo(mm === 1 ? 21 : mm)]);
      await soon();
    }
    expect(first.ended).toBe(true);
    expect(begun()).toHaveLength(1);
    await vi.advanceTimersByTimeAsync(600);
    expect(begun()).toHaveLength(2);
    expect(begun()[1].ended).toBe(false);
    expect(JSON.stringify(begun()[1].asked)).toContain('19.5');
  });

  it('that follow one that became known are begun at once', async () => {
    wantFlows('open', [specTo(17)]);
    await soon();
    const known = specTo(17);
    learn(keyOf(known, known.passes.length), { ok: false, why: 'for a test' });
    wantFlows('open', [specTo(16)]);
    await soon();
    expect(begun()).toHaveLength(2);
  });

  it('of a screen that was left are ended', async () => {
    wantFlows('angle', [specTo(18)]);
    await soon();
    wantFlows('angle', []);
    expect(begun()[0].ended).toBe(true);
    expect(useFlows.getState().running).toBeNull();
  });
});
