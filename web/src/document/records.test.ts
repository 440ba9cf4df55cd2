// @vitest-environment jsdom
import 'fake-indexeddb/auto';
import { beforeEach, expect, it, vi } from 'vitest';
import { cameOf } from '../../../core/tests/records.ts';
import { planOf, stackOf, weldIt } from '../../../core/tests/plans.ts';
import { changeParameters, openProject, undo, usePlanStore } from './planStore.ts';
import { asItStands, dropRefused, hear, openLog, undoRecord, useRecords, write } from './records.ts';

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
  await vi.waitFor(() => expect(useRecords.getState().waiting).toEqual([]));
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

it('waits in the browser while the server is away, and is there when the piece is opened anew', async () => {
  away = true;
  write(came(190));
  await vi.waitFor(() => expect(useRecords.getState().waiting).toHaveLength(1));
  useRecords.setState({ waiting: [] });
  await openLog('p', [], 0);
  expect(lengths()).toEqual([190]);
  away = false;
  window.dispatchEvent(new Event('online'));
  write({ ...came(190), remark: 'once more' });
  await vi.waitFor(() => expect(useRecords.getState().waiting).toEqual([]));
  expect(sent.at(-1)!.body.record).toMatchObject({ remark: 'once more' });
});

it('what the server refuses stays with its reason until it is let go', async () => {
  vi.stubGlobal('fetch', () =>
    Promise.resolve(new Response(JSON.stringify({ error: { message: 'No such piece.' } }), { status: 404 })),
  );
  write(came(170));
  await vi.waitFor(() => expect(useRecords.getState().waiting[0]?.trouble).toBe('No such piece.'));
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
