// @vitest-environment jsdom
import 'fake-indexeddb/auto';
import { act, configure, renderHook, waitFor } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Plan } from '../../../core/plan/index.ts';
import { planOf, stackOf, weldIt } from '../../../core/tests/plans.ts';
import '../tests/browser.ts';
import { openWith, useAutosave } from './autosave.ts';
import { sendWaiting } from './outbox.ts';
import { editPlan, undo, usePlanStore } from './planStore.ts';
import {
  type Unsaved,
  forgetOwn,
  inTrouble,
  keepUnsaved,
  leftBehind,
  takeOver,
  taken,
  useWaiting,
} from './unsaved.ts';

// As long as a busy machine may take.
configure({ asyncUtilTimeout: 60_000 });

const plan = planOf([stackOf(5), weldIt]);
const named = (name: string): Plan => ({ ...plan, name });
const edit = (projectId: string, name: string) => ({
  projectId,
  plan: named(name),
  revision: 3,
  saveId: `save of ${name}`,
});
const waiting = () => useWaiting.getState().all.map((e) => [e.plan.name, e.revision, e.trouble]);

interface Sent {
  expectedRevision: number;
  saveId: string;
  afterSaves?: string[];
  plan: Plan;
}

/** A server that answers each save with the next revision, or as it is told; what was sent. */
function serving(
  answer: (sent: Sent, n: number) => { status: number; body: object } | null = () => null,
): Sent[] {
  const all: Sent[] = [];
  vi.stubGlobal('fetch', (_url: string, { body }: { body: string }) => {
    const sent = JSON.parse(body) as Sent;
    all.push(sent);
    const said = answer(sent, all.length);
    if (said?.status === 0) return Promise.reject(new TypeError('away'));
    const { status, body: told } = said ?? {
      status: 200,
      body: { revision: sent.expectedRevision + 1, updatedAt: new Date(1).toISOString() },
    };
    return Promise.resolve(new Response(JSON.stringify(told), { status }));
  });
  return all;
}

const open = (edit: Unsaved | null = null) =>
  openWith(
    {
      id: 'p',
      name: 'Trial',
      state: 'planning',
      revision: 3,
      updatedAt: new Date(0).toISOString(),
      plan,
      records: [],
      log: 0,
    },
    edit,
  );

beforeEach(async () => {
  usePlanStore.setState({ projectId: null, plan: null });
  for (const { projectId } of await leftBehind(null)) await forgetOwn(projectId);
});

describe('an edit that the server does not have', () => {
  it('that was let go while the server refused it does not come back; one that waits has the reason', async () => {
    await keepUnsaved(edit('p', 'First'));
    const [first] = await leftBehind(null);
    await forgetOwn('p');
    await inTrouble(first, 'There is no such piece');
    expect(await leftBehind(null)).toEqual([]);
    await keepUnsaved(edit('p', 'Second'));
    await inTrouble(first, 'There is no such piece');
    expect((await leftBehind(null)).map((e) => e.trouble)).toEqual([undefined]);
    const [second] = await leftBehind(null);
    await inTrouble(second, 'No');
    expect((await leftBehind(null)).map((e) => e.trouble)).toEqual(['No']);
  });

  it('is kept by piece, the newest only, until the server has taken it', async () => {
    await keepUnsaved(edit('p', 'First'));
    await keepUnsaved(edit('p', 'Second'));
    await keepUnsaved(edit('q', 'Other'));
    expect(waiting().sort()).toEqual([
      ['Other', 3, undefined],
      ['Second', 3, undefined],
    ]);
    // The save before it was taken: it goes on from there.
    await taken('p', 'save of First', 4);
    expect(waiting()).toContainEqual(['Second', 4, undefined]);
    await taken('p', 'save of Second', 5);
    expect(waiting()).toEqual([['Other', 3, undefined]]);
  });

  it('is not sent by others while it is worked on, and is when the piece was left', async () => {
    await keepUnsaved(edit('p', 'Mine'));
    expect(await leftBehind('p')).toEqual([]);
    expect(await leftBehind('q')).toMatchObject([{ plan: { name: 'Mine' } }]);
    expect(await takeOver('p')).toMatchObject({ saveId: 'save of Mine' });
    expect(await takeOver('q')).toBeNull();
  });

  it('is sent in turn; what is refused stays with its reason, what finds nobody waits', async () => {
    await keepUnsaved(edit('p', 'Refused'));
    await keepUnsaved(edit('q', 'Taken'));
    const conflict = { status: 409, body: { error: { message: 'changed elsewhere' } } };
    const sent = serving((s) => (s.plan.name === 'Refused' ? conflict : null));
    const told = vi.fn();
    await sendWaiting(told);
    expect(told).toHaveBeenCalledTimes(1);
    expect(waiting()).toEqual([['Refused', 3, 'changed elsewhere']]);
    await sendWaiting(told);
    expect(sent).toHaveLength(2);
    await keepUnsaved(edit('r', 'Away'));
    serving(() => ({ status: 0, body: {} }));
    await sendWaiting(told);
    expect(waiting()).toContainEqual(['Away', 3, undefined]);
  });
});

describe('saving', () => {
  it('keeps every edit at once and lets it go when it is saved', async () => {
    let release: () => void = () => undefined;
    const held = new Promise<void>((resolve) => (release = resolve));
    const sent = serving();
    const answer = globalThis.fetch;
    vi.stubGlobal('fetch', async (...args: Parameters<typeof fetch>) => {
      await held;
      return answer(...args);
    });
    open();
    renderHook(() => useAutosave());
    act(() => editPlan((p) => ({ ...p, name: 'Other' }), 'name'));
    await waitFor(() => expect(waiting()).toEqual([['Other', 3, undefined]]));
    expect(sent).toHaveLength(0);
    release();
    await waitFor(() => expect(waiting()).toEqual([]), { timeout: 60_000 });
    expect(usePlanStore.getState().save.kind).toBe('saved');
  });

  it('comes back by undo to a plan that was saved before: that is another save', async () => {
    const sent = serving();
    open();
    renderHook(() => useAutosave());
    const saved = (revision: number) =>
      waitFor(() => expect(usePlanStore.getState()).toMatchObject({ revision, save: { kind: 'saved' } }), {
        timeout: 60_000,
      });
    act(() => editPlan((p) => ({ ...p, name: 'A' }), 'one'));
    await saved(4);
    act(() => editPlan((p) => ({ ...p, name: 'B' }), 'two'));
    await saved(5);
    act(undo);
    await saved(6);
    expect(sent.map((s) => s.plan.name)).toEqual(['A', 'B', 'A']);
    expect(new Set(sent.map((s) => s.saveId)).size).toBe(3);
    expect(sent[2].afterSaves).toEqual([sent[1].saveId]);
  });

  it('taken over and changed before it was sent again names it: the page that made it may have sent it as it was left', async () => {
    const sent = serving();
    await keepUnsaved({ ...edit('p', 'Left'), afterSaves: ['one before'] });
    open(await takeOver('p'));
    renderHook(() => useAutosave());
    act(() => editPlan((p) => ({ ...p, name: 'Typed at once' }), 'name'));
    await waitFor(() => expect(sent).toHaveLength(1), { timeout: 60_000 });
    expect(sent[0].plan.name).toBe('Typed at once');
    expect(sent[0].afterSaves).toEqual(['one before', 'save of Left']);
  });

  it('whose answer is lost is sent as the same one again', async () => {
    const sent = serving((_s, n) => (n === 1 ? { status: 0, body: {} } : null));
    open();
    renderHook(() => useAutosave());
    act(() => editPlan((p) => ({ ...p, name: 'Lost' }), 'lost'));
    await waitFor(() => expect(usePlanStore.getState().save.kind).toBe('offline'), { timeout: 60_000 });
    await waitFor(() => expect(usePlanStore.getState().save.kind).toBe('saved'), { timeout: 60_000 });
    expect(sent).toHaveLength(2);
    expect(sent[1]).toEqual(sent[0]);
  });
});
