import { readFileSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { type MoveKind, moveOf } from '../core/moves/index.ts';
import type { PieceEvidence } from '../core/learning/index.ts';
import type { PieceMeasured, ShopLog, StoredProject } from '../core/plan/index.ts';
import type { BenchRecord } from '../core/records/record.ts';
import { makeShop } from '../core/shop/shop.ts';
import { cameOf } from '../core/tests/records.ts';
import { demoFiles } from './demo/index.ts';
import { type Serving, serve } from './serve.ts';
import { callerOf, freshDatabase, freshLog } from './tests/calls.ts';

let serving: Serving;
const call = callerOf(() => serving);
beforeAll(async () => {
  serving = await serve({ databaseUrl: await freshDatabase('records_test'), port: 0, logFile: freshLog() });
});
afterAll(() => serving.stop());

const demo = () =>
  JSON.parse(
    readFileSync(
      demoFiles().find((f) => f.endsWith('tide-ladder.json'))!,
      'utf8',
    ),
  );
const begun = async (more: object = {}): Promise<StoredProject> =>
  (await call('POST', '/projects', { plan: { ...demo(), ...more } })).body;
const at = (minute: number): string => new Date(Date.UTC(2026, 2, 2, 9, minute)).toISOString();
const recordOf = (step: string, lengthMm: number, minute = 0): BenchRecord => ({
  ...cameOf(step, [{ piece: '1', lengthMm }]),
  written: at(minute),
});
const write = (id: string, record: BenchRecord) =>
  call('PUT', `/projects/${id}/records/${record.id}`, { record, written: record.written });
const now = async (id: string): Promise<StoredProject> => (await call('GET', `/projects/${id}`)).body;

describe('records', () => {
  it('are written beside the plan, which they do not change; the piece is at the bench then', async () => {
    const { id, plan, revision } = await begun();
    const record = recordOf('s1', 200);
    expect((await write(id, record)).body).toEqual({ log: 1 });
    expect(await now(id)).toMatchObject({ state: 'at the bench', revision, plan, records: [record], log: 1 });
    // Sent again, as after an answer that was lost, it is the same.
    expect((await write(id, record)).body).toEqual({ log: 1 });
    expect((await now(id)).records).toHaveLength(1);
  });

  it('never conflict: of two with one id the later written counts, whichever comes first', async () => {
    const { id } = await begun();
    await write(id, recordOf('s1', 210, 5));
    await write(id, recordOf('s1', 205, 3));
    expect((await now(id)).records[0].pieces![0].lengthMm).toBe(210);
    const other = { ...recordOf('s2', 180, 4), id: randomUUID() };
    await Promise.all([write(id, other), write(id, recordOf('s1', 220, 6))]);
    expect((await now(id)).records.map((r) => r.pieces![0].lengthMm).sort()).toEqual([180, 220]);
    const back = { record: null, written: at(7) };
    await call('PUT', `/projects/${id}/records/${other.id}`, back);
    expect((await now(id)).records).toHaveLength(1);
    // What comes late does not bring it back.
    await write(id, other);
    expect((await now(id)).records).toHaveLength(1);
  });

  it('of two devices that wrote on from the same record what each changed is kept', async () => {
    const { id } = await begun();
    const first = recordOf('s1', 210, 1);
    await write(id, first);
    const send = (some: Partial<BenchRecord>, minute: number) => {
      const record = { ...first, ...some, written: at(minute) };
      return call('PUT', `/projects/${id}/records/${first.id}`, {
        record,
        written: record.written,
        from: first,
      });
    };
    await send({ heats: 3, ticked: ['a'] }, 9);
    // Written before that, on a tablet that was away.
    const late = { remark: 'one end open', ticked: ['b'] };
    expect((await send(late, 5)).body).toEqual({ log: 3 });
    const both = { heats: 3, remark: 'one end open', ticked: ['a', 'b'], pieces: first.pieces };
    expect((await now(id)).records).toEqual([expect.objectContaining(both)]);
    // Its answer was lost: the same once more changes nothing.
    expect((await send(late, 5)).body).toEqual({ log: 3 });
  });

  it('a plan that was opened before them can still be saved', async () => {
    const { id, plan, revision } = await begun();
    await write(id, recordOf('s1', 200));
    const saved = await call('PUT', `/projects/${id}`, {
      expectedRevision: revision,
      plan: { ...plan, notes: 'x', records: [recordOf('s1', 1)] },
    });
    expect(saved.status).toBe(200);
    expect((await now(id)).records[0].pieces![0].lengthMm).toBe(200);
  });

  it('go out with the plan’s file, and come in with it', async () => {
    const { id } = await begun();
    await write(id, recordOf('s1', 200));
    const file = (await call('GET', `/projects/${id}/file`)).body;
    expect(file.records).toEqual([recordOf('s1', 200)]);
    const again = (await call('POST', '/projects', { plan: file })).body;
    expect(again).toMatchObject({ state: 'at the bench', records: file.records, log: 1 });
    expect(again.plan.records).toBeUndefined();
    const { revisions } = (await call('GET', `/projects/${again.id}/revisions`)).body;
    const kept = (await call('GET', `/projects/${again.id}/revisions/${revisions[0].revision}`)).body;
    expect(kept.plan.records).toBeUndefined();
  });

  it('that are no records are refused with the field that is wrong', async () => {
    const { id } = await begun();
    const record = recordOf('s1', 200);
    const refused = async (some: object, written = record.written) =>
      (await call('PUT', `/projects/${id}/records/r1`, { record: { ...record, ...some }, written })).body
        .error.message;
    expect(await refused({ began: 'yesterday' })).toContain('record.began');
    expect(await refused({ pieces: [{ piece: '1', lengthMm: -1 }] })).toContain('Length must be more than 0');
    expect(await refused({}, at(9))).toContain('written must be the same');
    expect(
      (await call('PUT', `/projects/${randomUUID()}/records/r1`, { record, written: record.written })).status,
    ).toBe(404);
  });

  it('change the verdict on the shelf, and its picture gets another address', async () => {
    const { id } = await begun();
    const head = async () =>
      (await call('GET', '/projects')).body.projects.find((p: { id: string }) => p.id === id);
    await vi.waitFor(async () => expect((await head()).preview).toMatchObject({ log: 0 }), 120_000);
    await write(id, { ...recordOf('s1', 200), pieces: [{ piece: '1', scrapped: 'cracked' }] });
    await vi.waitFor(
      async () => expect((await head()).preview).toMatchObject({ log: 1, verdict: 'no bar' }),
      120_000,
    );
  });
});

/** What a page that listens is told, line by line. */
async function* told(id: string, after: number, signal: AbortSignal) {
  const response = await fetch(`http://127.0.0.1:${serving.port}/api/projects/${id}/events?after=${after}`, {
    signal,
  });
  expect(response.headers.get('content-type')).toMatch('text/event-stream');
  const decoder = new TextDecoder();
  for await (const chunk of response.body!)
    for (const line of decoder.decode(chunk as Uint8Array).split('\n'))
      if (line.startsWith('data: ')) yield JSON.parse(line.slice(6));
}

it('every page that has the piece open hears of records and of a changed plan; one that was away, of what it missed', async () => {
  const { id, plan, revision } = await begun();
  await write(id, recordOf('s1', 200));
  const left = new AbortController();
  const heard = told(id, 0, left.signal);
  const next = async () => (await heard.next()).value;
  expect(await next()).toMatchObject({ what: 'records', log: 1, records: [{ id: 'r-s1-0' }] });
  // What stands already is no news, nor what is older than it.
  await write(id, recordOf('s1', 200));
  await write(id, { ...recordOf('s1', 150), written: at(-5) });
  await write(id, recordOf('s2', 190));
  expect(await next()).toMatchObject({ log: 2, records: [{ id: 'r-s2-0', record: { step: 's2' } }] });
  await call('PUT', `/projects/${id}`, { expectedRevision: revision, plan: { ...plan, notes: 'y' } });
  expect(await next()).toEqual({ what: 'plan', revision: revision + 1 });
  // A reading of an instrument goes to every page that listens.
  const reading = { instrument: 'Caliper', quantity: 'length', value: 25.3, unit: 'mm', at: at(0) };
  expect((await call('POST', '/instruments/readings', reading)).body).toEqual({ heard: 1 });
  expect(await next()).toEqual({ what: 'reading', reading });
  expect((await call('POST', '/instruments/readings', { ...reading, unit: 'kg' })).status).toBe(400);
  left.abort();
  const later = told(id, 1, AbortSignal.timeout(60_000));
  expect((await later.next()).value).toMatchObject({ log: 2, records: [{ id: 'r-s2-0' }] });
});

describe('the log of all pieces', () => {
  it('says of every piece what was measured beside what was reckoned', async () => {
    const { id } = await begun({ name: 'Measured' });
    const of = async () =>
      ((await call('GET', '/log/measured')).body as PieceMeasured[]).find((p) => p.projectId === id);
    await write(id, recordOf('s1', 200));
    await vi.waitFor(
      async () =>
        expect((await of())?.measured).toEqual([
          expect.objectContaining({ kind: 'stack', piece: '1', what: 'length', came: 200 }),
        ]),
      120_000,
    );
    await call('DELETE', `/projects/${id}`);
    expect(await of()).toBeUndefined();
  });

  it('says of every piece what its records tell of the shop’s numbers', async () => {
    const { id } = await begun({ name: 'Told of' });
    const of = async () =>
      ((await call('GET', '/log/evidence')).body as PieceEvidence[]).filter((e) => e.projectId === id);
    await write(id, { ...recordOf('s1', 200), workedS: 3600 });
    await vi.waitFor(
      async () =>
        expect(await of()).toEqual([
          expect.objectContaining({ number: 'minutes', of: 'stack', name: 'Told of', step: 's1', error: 0 }),
        ]),
      120_000,
    );
    await call('DELETE', `/projects/${id}`);
    expect(await of()).toEqual([]);
  });

  const said = async (search: string) => {
    const { body } = await call('GET', `/log?search=${encodeURIComponent(search)}`);
    return body as ShopLog;
  };
  it('is found by remark, move, steel, piece and maker, every word; the latest first', async () => {
    const { id } = await begun({ name: 'Found 100%' });
    const of = (step: string, minute: number, more: object) =>
      write(id, { ...recordOf(step, 200, minute), id: randomUUID(), ...more });
    await of('s1', 30, { remark: 'Spelter_in the seam', began: at(30) });
    await of('s2', 40, { remark: 'came out fine', by: 'Ysolde', began: at(40) });
    const [first, second] = (await said('found 100%')).found;
    expect([first.record.remark, second.record.remark]).toEqual(['came out fine', 'Spelter_in the seam']);
    expect(first).toMatchObject({ projectId: id, name: 'Found 100%', lengths: demo().shop.lengths });
    expect((await said('spelter_IN found')).found.map((f) => f.record.remark)).toEqual([
      'Spelter_in the seam',
    ]);
    expect((await said('ysolde')).total).toBe(1);
    const steps = demo().lanes[0].steps as { id: string; kind: MoveKind }[];
    expect([first.kind, second.kind]).toEqual([steps[1].kind, steps[0].kind]);
    const title = moveOf(steps[1].kind).title;
    expect((await said(`${title} found`)).found.map((f) => f.record.step)).toEqual(['s2']);
    const steel = makeShop().materials.find((m) => JSON.stringify(steps).includes(`"${m.id}"`))!;
    expect((await said(`${steel.name} found`)).total).toBe(2);
    // Signs that mean something to the database mean themselves.
    for (const search of ['fo_nd', '100% %', "'; DROP TABLE projects; --", 'found \\', 'unobtainium'])
      expect([search, (await said(search)).total]).toEqual([search, search === '100% %' ? 2 : 0]);
  });
  it('leaves out what was taken back, and pieces that were removed', async () => {
    const { id } = await begun({ name: 'Gone soon' });
    const record = recordOf('s1', 200);
    await write(id, record);
    expect((await said('gone soon')).total).toBe(1);
    await call('PUT', `/projects/${id}/records/${record.id}`, { record: null, written: at(50) });
    expect((await said('gone soon')).total).toBe(0);
    await write(id, { ...recordOf('s2', 200), id: randomUUID() });
    await call('DELETE', `/projects/${id}`);
    expect((await said('gone soon')).total).toBe(0);
    expect((await call('GET', '/log?limit=1000')).body.error.message).toBe('limit may be at most 100');
  });
});
