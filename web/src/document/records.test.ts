// @vitest-environment jsdom
import 'fake-indexeddb/auto';
import { beforeEach, expect, it, vi } from 'vitest';
import { cameOf } from '../../../core/tests/records.ts';
import { planOf, stackOf, weldIt } from '../../../core/tests/plans.ts';
import { changeParameters, openProject, undo, usePlanStore } from './planStore.ts';
import { asItStands, dropRefused, hear, openLog, undoRecord, useRecords, write } from './records.ts';

/** As long as a busy machine may take. */
const PATIENCE_MS = 60_000;

const sent: { url: string; body: { record: object | null; written: string } }[] = [];
let away = false;

beforeEach(async () => {
  sent.length = 0;
  away = false;
  vi.stubGlobal('fetch', (url: string, { body }: { body: string }) => {
    if (away) return Promise.reject(new Error('away'));
    sent.push({ url, body: JSON.parse(body) as (typeof sent)[number]['body'] });
    return Promise.resolve(new Response(JSON.stringify({ log: sent.length }), { status: 200 }));
  });
  await openLog('p', [], 0);
});

const lengths = () => useRecords.getState().records.map((r) => r.pieces?.[0]?.lengthMm);
const came = (lengthMm: number) => cameOf('s1', [{ piece: '1', lengthMm }]);

it('counts at once, is sent, and is taken back as easily', async () => {
  write(came(200));
  expect(lengths()).toEqual([200]);
  write({ ...came(200), pieces: [{ piece: '1', lengthMm: 210 }] });
  expect(lengths()).toEqual([210]);
  undoRecord();
  expect(lengths()).toEqual([200]);
  undoRecord();
  expect(lengths()).toEqual([]);
  expect(useRecords.getState().undoable).toBe(0);
  await vi.waitFor(() => expect(useRecords.getState().waiting).toEqual([]), PATIENCE_MS);
  expect(sent.at(-1)).toMatchObject({ url: '/api/projects/p/records/r-s1-0', body: { record: null } });
  // Each is written later than the one before it, whatever the clock says.
  const { written } = useRecords.getState();
  expect(written.get('r-s1-0')!.record).toBeNull();
});

it('of two with one id the later written counts, whichever is heard first', () => {
  const late = { ...came(220), written: '2030-01-01T00:00:00.000Z' };
  const early = { ...came(100), written: '2020-01-01T00:00:00.000Z' };
  hear('p', [{ id: late.id, record: late, written: late.written }], 5);
  hear('p', [{ id: early.id, record: early, written: early.written }], 4);
  expect(lengths()).toEqual([220]);
  expect(useRecords.getState().log).toBe(5);
  // Of another piece nothing is taken over.
  hear('q', [{ id: 'x', record: came(1), written: late.written }]);
  expect(lengths()).toEqual([220]);
});

const at = (year: number): string => `${year}-01-01T00:00:00.000Z`;
const news = (record: ReturnType<typeof came>, written: string) => ({
  id: record.id,
  record: { ...record, written },
  written,
});

it('what another device writes of a record that waits here is joined with it, and sent as one', async () => {
  hear('p', [news(came(200), at(2020))], 1);
  away = true;
  write({ ...came(200), heats: 3 });
  hear('p', [news({ ...came(200), remark: 'from the desk' }, at(2031))], 2);
  expect(useRecords.getState().records[0]).toMatchObject({ heats: 3, remark: 'from the desk' });
  away = false;
  window.dispatchEvent(new Event('online'));
  write({ ...useRecords.getState().records[0], passes: 4 });
  await vi.waitFor(() => expect(useRecords.getState().waiting).toEqual([]), PATIENCE_MS);
  expect(sent.at(-1)!.body).toMatchObject({
    record: { heats: 3, remark: 'from the desk', passes: 4 },
    from: { remark: 'from the desk' },
  });
  // Taking back what was written here leaves what came from the desk since.
  hear('p', [news({ ...useRecords.getState().records[0], remark: 'again from the desk' }, at(2032))], 3);
  undoRecord();
  const left = useRecords.getState().records[0];
  expect(left).toMatchObject({ heats: 3, remark: 'again from the desk' });
  expect(left.passes).toBeUndefined();
});

it('what is no later than what was written over says nothing new of what waits', async () => {
  const old = cameOf('s7', [{ piece: '1', lengthMm: 200 }]);
  const stood = { ...old, remark: 'kept' };
  hear('p', [news(stood, at(2021))], 1);
  const own = () => useRecords.getState().records.find((r) => r.id === old.id)!;
  away = true;
  write({ ...own(), heats: 3 });
  const waits = useRecords.getState().waiting;
  hear('p', [news(old, at(2020)), news(stood, at(2021))]);
  expect(useRecords.getState().waiting).toEqual(waits);
  expect(own()).toMatchObject({ heats: 3, remark: 'kept' });
  away = false;
  window.dispatchEvent(new Event('online'));
  write({ ...own(), passes: 1 });
  await vi.waitFor(() => expect(useRecords.getState().waiting).toEqual([]), PATIENCE_MS);
});

it('an own writing that comes back as news is none, and an end of it stays taken away', async () => {
  away = true;
  const { ended, ...begun } = came(200);
  write({ ...begun, ended });
  const first = useRecords.getState().waiting.at(-1)!;
  write(begun);
  hear('p', [first], 4);
  expect(useRecords.getState().records[0].ended).toBeUndefined();
  away = false;
});

it('waits in the browser while the server is away, and is there when the piece is opened anew', async () => {
  away = true;
  write(came(190));
  await vi.waitFor(() => expect(useRecords.getState().waiting).toHaveLength(1), PATIENCE_MS);
  useRecords.setState({ waiting: [] });
  await openLog('p', [], 0);
  expect(lengths()).toEqual([190]);
  away = false;
  window.dispatchEvent(new Event('online'));
  write({ ...came(190), remark: 'once more' });
  await vi.waitFor(() => expect(useRecords.getState().waiting).toEqual([]), PATIENCE_MS);
  expect(sent.at(-1)!.body.record).toMatchObject({ remark: 'once more' });
});

it('what the server refuses stays with its reason until it is let go', async () => {
  vi.stubGlobal('fetch', () =>
    Promise.resolve(new Response(JSON.stringify({ error: { message: 'No such piece.' } }), { status: 404 })),
  );
  write(came(170));
  await vi.waitFor(
    () => expect(useRecords.getState().waiting[0]?.trouble).toBe('No such piece.'),
    PATIENCE_MS,
  );
  dropRefused();
  expect(useRecords.getState().waiting).toEqual([]);
  await openLog('p', [], 0);
  expect(lengths()).toEqual([]);
});

it('undo at the desk leads past no move that was done since', async () => {
  const plan = planOf([stackOf(5), weldIt]);
  openProject({
    id: 'p',
    name: 'Trial',
    state: 'planning',
    revision: 1,
    updatedAt: new Date(0).toISOString(),
    plan,
  });
  const heats = () => usePlanStore.getState().plan!.lanes[0].steps[1].parameters;
  changeParameters('s2', { heats: 4 }, 'heats');
  changeParameters('s1', { layers: 7 }, 'layers');
  write(cameOf('s2', []));
  undo();
  expect(usePlanStore.getState().plan!.lanes[0].steps[0].parameters).toMatchObject({ layers: 5 });
  undo();
  expect(heats()).toMatchObject({ heats: 4 });
  expect(usePlanStore.getState().refused[0].message).toContain('is done at the bench');
  undoRecord();
  undo();
  expect(heats()).toMatchObject({ heats: 2 });
});

it('the plan as it stands is the same object for the same plan and records', () => {
  const plan = planOf([stackOf(5)]);
  expect(asItStands(plan, [])).toBe(plan);
  write(came(150));
  const { records } = useRecords.getState();
  const stands = asItStands(plan, records);
  expect(stands.records).toBe(records);
  expect(asItStands(plan, records)).toBe(stands);
});
