// @vitest-environment jsdom
import { SilentWorker } from '../tests/browser.ts';
import { act, configure, render, renderHook, screen, waitFor } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { makeStepOf } from '../../../core/plan/index.ts';
import { SQUARE_BAR, cutInto, planOf } from '../../../core/tests/plans.ts';
import { SteelView } from '../benches/steel/SteelView.tsx';
import { useAutosave } from './autosave.ts';
import { learn } from './flows.ts';
import {
  addLane,
  editPlan,
  insertStep,
  openProject,
  setParameters,
  undo,
  usePlanStore,
} from './planStore.ts';
import { evaluated } from './useEvaluation.ts';
import { useAtWork } from './atWork.ts';
import { useAsked } from './useAsked.ts';
import { WorkError, ask, askApart } from './workers/host.ts';

// As long as a busy machine may take.
configure({ asyncUtilTimeout: 60_000 });

const plan = planOf([...SQUARE_BAR, cutInto(4)]);
const now = () => usePlanStore.getState();
const open = (id = 'p') =>
  openProject({
    id,
    name: 'Trial',
    state: 'planning',
    revision: 3,
    updatedAt: new Date(0).toISOString(),
    plan,
  });

beforeEach(() => open());

describe('the gate', () => {
  it('lets nothing in that the schema refuses, says which field, and keeps the plan as it was', () => {
    const before = now().plan;
    editPlan((p) => ({ ...p, goal: { ...p.goal, lengthMm: -4 } }), 'goal');
    expect(now().plan).toBe(before);
    expect(now().refused).toEqual([
      { path: 'goal.lengthMm', message: 'Finished length must be more than 0 mm' },
    ]);
    expect(now().save.kind).toBe('saved');
    setParameters('s5', { pieces: 61, cropAMm: 0, cropBMm: 0 }, 'pieces');
    expect(now().plan).toBe(before);
    expect(now().refused[0]).toMatchObject({ path: 'lanes.0.steps.4.parameters.pieces' });
    editPlan((p) => ({ ...p, shop: { ...p.shop, press: { ...p.shop.press, dieLengthMm: 3 } } }), 'dies');
    expect(now().refused[0].message).toBe('Dies, along the bar must be at least 10 mm');
  });

  it('forgets what it refused with the next good edit, and undo passes over it', () => {
    editPlan((p) => ({ ...p, name: '' }), 'name');
    expect(now().refused).toHaveLength(1);
    editPlan((p) => ({ ...p, name: 'Better' }), 'name');
    expect(now()).toMatchObject({ refused: [], save: { kind: 'unsaved' } });
    undo();
    expect(now().plan!.name).toBe('Trial');
  });

  it('refuses an id that is used twice and a step whose numbers are another move’s', () => {
    insertStep('bar', 5, makeStepOf('s1', 'crop', { endAMm: 1, endBMm: 1 }));
    expect(now().refused[0].message).toContain('used twice');
    insertStep('bar', 5, makeStepOf('s9', 'crop', { pieces: 4 }));
    expect(now().refused.length).toBeGreaterThan(0);
    expect(now().plan).toBe(plan);
    expect(addLane()).toBe('lane2');
    expect(now().refused).toEqual([]);
  });
});

describe('saving', () => {
  const answer = (status: number, body: object) =>
    Promise.resolve(new Response(JSON.stringify(body), { status }));

  it('sends what was changed a moment later, and says that it is kept', async () => {
    const fetched = vi.fn((_url: string, options: { body: string }) =>
      answer(200, { ...JSON.parse(options.body), revision: 4, updatedAt: new Date(1).toISOString() }),
    );
    vi.stubGlobal('fetch', fetched);
    renderHook(() => useAutosave());
    act(() => editPlan((p) => ({ ...p, name: 'Other' }), 'name'));
    await waitFor(() => expect(now().save.kind).toBe('saved'), { timeout: 60_000 });
    expect(now().revision).toBe(4);
    expect(JSON.parse(fetched.mock.calls[0][1].body)).toMatchObject({
      expectedRevision: 3,
      plan: { name: 'Other' },
    });
  });

  it('with the server away it says so and keeps the plan; a conflict carries the other’s', async () => {
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('no')));
    renderHook(() => useAutosave());
    act(() => editPlan((p) => ({ ...p, name: 'Other' }), 'name'));
    await waitFor(() => expect(now().save.kind).toBe('offline'), { timeout: 60_000 });
    expect(now().plan!.name).toBe('Other');
    const theirs = { id: 'p', name: 'Theirs', state: 'planning', revision: 9, plan };
    vi.stubGlobal('fetch', () => answer(409, { error: { message: 'changed' }, current: theirs }));
    await waitFor(() => expect(now().save).toMatchObject({ kind: 'conflict', current: { revision: 9 } }), {
      timeout: 60_000,
    });
  }, 15_000);
});

describe('what is asked of a worker', () => {
  it('ends with the reason when the worker breaks, and the next question begins another', async () => {
    const lost = ask('answers', (api) => api.startFor(plan));
    const worker = SilentWorker.all.findLast((w) => w.name === 'answers')!;
    const before = SilentWorker.all.length;
    worker.dispatchEvent(Object.assign(new Event('error'), { message: 'out of memory' }));
    await expect(lost).rejects.toThrow(WorkError);
    await expect(lost).rejects.toThrow('out of memory');
    void ask('answers', (api) => api.startFor(plan)).catch(() => undefined);
    expect(SilentWorker.all).toHaveLength(before + 1);
  });

  it('is spoken of when it takes longer than a moment, stopped with one press, and ended past its limit', async () => {
    vi.useFakeTimers();
    try {
      const long = ask('forms', (api) => api.open(new Blob([])));
      const stopped = expect(long).rejects.toThrow('it was stopped');
      expect(useAtWork.getState().all).toEqual([]);
      await vi.advanceTimersByTimeAsync(1100);
      const [shown] = useAtWork.getState().all;
      expect(shown.what).toBe('Working out the picture and its form');
      const worker = SilentWorker.all.findLast((w) => w.name === 'forms')!;
      shown.stop();
      await stopped;
      expect(worker.ended).toBe(true);
      expect(useAtWork.getState().all).toEqual([]);
      const limited = ask('forms', (api) => api.open(new Blob([])), { ms: 20_000, why: 'too many corners' });
      const over = expect(limited).rejects.toThrow('too many corners');
      await vi.advanceTimersByTimeAsync(20_000);
      await over;
      // What ended began another, which answers as before.
      expect(SilentWorker.all.findLast((w) => w.name === 'forms')).not.toBe(worker);
    } finally {
      vi.useRealTimers();
    }
  });

  it('that can be ended is ended with its worker', () => {
    const { answer, end } = askApart('search', (api) => api.startFor(plan));
    answer.catch(() => undefined);
    end();
    expect(SilentWorker.all.at(-1)).toMatchObject({ name: 'search', ended: true });
  });

  it('an answer that comes late is dropped; one that fails is told; an old one is said to be old', async () => {
    const answers: ((text: string) => void)[] = [];
    const question = () => new Promise<string>((resolve) => answers.push(resolve));
    const [first, second] = [() => question(), () => question()];
    const { result, rerender } = renderHook(({ q }) => useAsked(q), { initialProps: { q: first } });
    expect(result.current).toEqual({ value: null, asking: true, error: null });
    await act(async () => answers[0]('one'));
    expect(result.current).toEqual({ value: 'one', asking: false, error: null });
    rerender({ q: second });
    expect(result.current).toMatchObject({ value: 'one', asking: true });
    await act(async () => answers[1]('two'));
    expect(result.current).toMatchObject({ value: 'two', asking: false });
    const failing = () => Promise.reject(new Error('it broke'));
    rerender({ q: failing });
    await waitFor(() => expect(result.current.error).toBe('it broke'));
  });
});

describe('a picture of the steel', () => {
  const paints = () =>
    SilentWorker.all
      .filter((w) => w.name === 'painting')
      .flatMap((w) => w.asked)
      .filter((m) => JSON.stringify(m).includes('"paint"')).length;
  const View = ({ of }: { of: typeof plan }) => (
    <SteelView
      plan={of}
      stepId="s4"
      when="after"
      face="end B"
      view="etched"
      width={40}
      height={40}
      urgency={0}
      label="End"
    />
  );

  it('is painted when it is shown and when its steel is another; not for a name or a goal', async () => {
    const { rerender } = render(<View of={plan} />);
    await act(async () => undefined);
    const first = paints();
    expect(first).toBeGreaterThan(0);
    const renamed = { ...plan, name: 'Renamed', goal: { ...plan.goal, lengthMm: 111 } };
    rerender(<View of={renamed} />);
    await act(async () => undefined);
    expect(paints()).toBe(first);
    const [lane] = plan.lanes;
    const other = {
      ...renamed,
      lanes: [
        {
          ...lane,
          steps: lane.steps.map((s) =>
            s.id === 's3' ? makeStepOf('s3', 'draw', { shape: 'square', sideMm: 23, heats: 1 }) : s,
          ),
        },
      ],
    };
    rerender(<View of={other} />);
    await act(async () => undefined);
    expect(paints()).toBeGreaterThan(first);
    expect(screen.getByRole('img', { name: 'End' })).toBeTruthy();
  });

  it('of a bar whose flow became known is painted anew', async () => {
    const { lanes } = plan;
    const by = makeStepOf('s4', 'resquare', {
      turn: 'left',
      sideMm: 21,
      errorDeg: 0,
      heats: 1,
      reckoned: 'by flow',
    });
    const waiting = {
      ...plan,
      lanes: [{ ...lanes[0], steps: lanes[0].steps.map((s) => (s.id === 's4' ? by : s)) }],
    };
    render(<View of={waiting} />);
    await act(async () => undefined);
    const first = paints();
    const { waits } = evaluated(waiting).lanes[0].steps[3];
    expect(waits).not.toBeNull();
    const { WorkedOutFlows } = await import('../../../core/flow/flows.ts');
    const { keyOf } = await import('../../../core/flow/run.ts');
    const stage = new WorkedOutFlows().of(waits!);
    await act(async () => {
      learn(keyOf(waits!, waits!.passes.length), stage);
    });
    expect(evaluated(waiting).lanes[0].steps[3].waits).toBeNull();
    expect(paints()).toBeGreaterThan(first);
  });
});
