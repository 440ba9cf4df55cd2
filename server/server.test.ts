import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Client } from 'pg';
import { MATERIALS } from '../core/materials/table.ts';
import { anyWork } from '../core/tests/work.ts';
import { Project } from './database.ts';
import { demoCount, demoFiles } from './demo/index.ts';
import { ProjectStore } from './projects.ts';
import { type Serving, serve } from './serve.ts';
import { callerOf, freshDatabase, freshLog, logged } from './tests/calls.ts';

let serving: Serving;
let databaseUrl: string;

const quilt = demoFiles().find((file) => file.endsWith('quarry-quilt.json'))!;
const plan = () => JSON.parse(readFileSync(quilt, 'utf8'));
const logFile = freshLog();

const call = callerOf(() => serving);

beforeAll(async () => {
  databaseUrl = await freshDatabase('server_test');
  serving = await serve({ databaseUrl, port: 0, logFile });
});
afterAll(() => serving.stop());

describe('pieces', () => {
  it('are created, read back exactly, saved, listed, marked and removed', async () => {
    const created = await call('POST', '/projects', { plan: plan() });
    expect(created.status).toBe(201);
    const { id } = created.body;
    expect((await call('GET', `/projects/${id}`)).body.plan).toEqual(created.body.plan);
    expect(created.body.plan.lanes).toEqual(plan().lanes);
    const changed = {
      ...created.body.plan,
      name: 'Other name',
      goal: { lengthMm: 0.1 + 0.2, widthMm: 36.5125, thicknessMm: 5 },
    };
    const saved = await call('PUT', `/projects/${id}`, { expectedRevision: 1, plan: changed });
    expect(saved.body).toMatchObject({ revision: 2, name: 'Other name' });
    expect((await call('GET', `/projects/${id}`)).body.plan.goal.lengthMm).toBe(0.1 + 0.2);
    expect((await call('GET', '/projects')).body.projects.map((p: { id: string }) => p.id)).toContain(id);
    expect((await call('PATCH', `/projects/${id}`, { state: 'done' })).body.state).toBe('done');
    expect((await call('DELETE', `/projects/${id}`)).status).toBe(204);
    expect((await call('GET', `/projects/${id}`)).status).toBe(404);
  });

  it('that are removed are put aside for thirty days, and can be put back', async () => {
    const { id } = (await call('POST', '/projects', { plan: { ...plan(), name: 'Put aside' } })).body;
    const names = async (query = '') =>
      (await call('GET', `/projects${query}`)).body.projects.map((p: { name: string }) => p.name);
    expect((await call('DELETE', `/projects/${id}`)).status).toBe(204);
    expect(await names()).not.toContain('Put aside');
    expect(await names('?state=removed')).toContain('Put aside');
    expect((await call('GET', `/projects/${id}`)).status).toBe(404);
    expect((await call('PUT', `/projects/${id}`, { expectedRevision: 1, plan: plan() })).status).toBe(404);
    expect((await call('DELETE', `/projects/${id}`)).status).toBe(404);
    expect((await call('POST', `/projects/${id}/back`)).status).toBe(204);
    expect((await call('GET', `/projects/${id}`)).body).toMatchObject({ name: 'Put aside', revision: 1 });
    await call('DELETE', `/projects/${id}`);
    const store = new ProjectStore(Project.sequelize!);
    const inDays = (days: number) => new Date(Date.now() + days * 86_400_000);
    await store.clearOut(inDays(29));
    expect(await names('?state=removed')).toContain('Put aside');
    expect(await store.clearOut(inDays(31))).toBeGreaterThan(0);
    expect(await names('?state=removed')).not.toContain('Put aside');
    expect((await call('POST', `/projects/${id}/back`)).body.error.message).toContain('not kept any more');
  });

  it('have names without what is not seen', async () => {
    const odd = { ...plan(), name: ' Sal\u200bt\u0007 Marsh\u202e ' };
    const { id, name } = (await call('POST', '/projects', { plan: odd })).body;
    expect(name).toBe('Salt Marsh');
    await call('DELETE', `/projects/${id}`);
    expect(
      (await call('POST', '/projects', { plan: { ...plan(), name: '\u200b' } })).body.error.message,
    ).toContain('The piece needs a name');
  });

  it('of several bars with a blade come back exactly, from every demo piece', async () => {
    for (const file of demoFiles()) {
      const sent = JSON.parse(readFileSync(file, 'utf8'));
      const { body } = await call('POST', '/projects', { plan: sent });
      const back = (await call('GET', `/projects/${body.id}`)).body.plan;
      expect(back.lanes).toEqual(sent.lanes);
      expect(back.blade).toEqual(sent.blade);
      expect(back.goal).toEqual(sent.goal);
      await call('DELETE', `/projects/${body.id}`);
    }
  });

  it('whatever their moves, units, free numbers and kiln programs, come back exactly', async () => {
    const plans = fc.sample(anyWork, 20);
    // Sampling takes longer than a connection is kept: that the server let it go is heard first.
    await new Promise((heard) => setTimeout(heard, 50));
    for (const [i, any] of plans.entries()) {
      const [first] = any.lanes[0].steps;
      const sent = {
        ...any,
        shop: {
          ...any.shop,
          lengths: i % 2 ? { unit: 'in', division: 32 } : { unit: 'mm', division: 0.1 },
          currency: '€',
        },
        free: { [first.id]: ['length', 'layers'] },
        kiln: [
          {
            id: 'k1',
            name: 'Soft',
            material: '1084',
            startMin: 61,
            segments: [{ rateKPerH: null, targetC: 740.1 + i / 3, holdMin: 30 }],
          },
        ],
      };
      const { status, body } = await call('POST', '/projects', { plan: JSON.parse(JSON.stringify(sent)) });
      expect(status).toBe(201);
      expect((await call('GET', `/projects/${body.id}`)).body.plan).toEqual(JSON.parse(JSON.stringify(sent)));
      await call('DELETE', `/projects/${body.id}`);
    }
  });

  it('with a wrong lane, place or blade are refused by name, and the piece stays as it was', async () => {
    const { body } = await call('POST', '/projects', { plan: plan() });
    const kept = (await call('GET', `/projects/${body.id}`)).body;
    const wrong: [(p: ReturnType<typeof plan>) => void, string][] = [
      [(p) => p.lanes.push({ ...p.lanes[0], steps: [] }), 'lanes[3].id'],
      [(p) => (p.lanes[2].steps[0].parameters.from = []), 'lanes[2].steps[0].parameters.from'],
      [(p) => (p.lanes[2].steps[0].parameters.fill = 'diagonal'), 'lanes[2].steps[0].parameters.fill'],
      [(p) => (p.blade.bevel = 'hollow'), 'blade.bevel'],
      [(p) => (p.blade.outline = [[0, 0]]), 'blade.outline'],
      [(p) => (p.blade.spineMm = -1), 'blade.spineMm'],
    ];
    for (const [spoil, path] of wrong) {
      const spoiled = plan();
      spoil(spoiled);
      const answer = await call('PUT', `/projects/${body.id}`, { expectedRevision: 1, plan: spoiled });
      expect(answer.status, path).toBe(400);
      expect(answer.body.problems.map((q: { path: string }) => q.path).join(' ')).toContain(path);
    }
    expect((await call('GET', `/projects/${body.id}`)).body).toEqual(kept);
  });

  it('changed in two places: the second save is told of both, and nothing is lost', async () => {
    const { id } = (await call('POST', '/projects', { plan: plan() })).body;
    const mine = { ...plan(), notes: 'mine' };
    const theirs = { ...plan(), notes: 'theirs' };
    expect((await call('PUT', `/projects/${id}`, { expectedRevision: 1, plan: theirs })).status).toBe(200);
    const conflict = await call('PUT', `/projects/${id}`, { expectedRevision: 1, plan: mine });
    expect(conflict.status).toBe(409);
    expect(conflict.body).toMatchObject({
      error: { code: 'conflict' },
      current: { revision: 2, plan: { notes: 'theirs' } },
      yours: { notes: 'mine' },
    });
    expect(
      (await call('PUT', `/projects/${id}`, { expectedRevision: conflict.body.current.revision, plan: mine }))
        .body.revision,
    ).toBe(3);
  });

  it('saved ten times at once from one revision: exactly one is taken', async () => {
    const { id } = (await call('POST', '/projects', { plan: plan() })).body;
    const answers = await Promise.all(
      Array.from({ length: 10 }, (_, i) =>
        call('PUT', `/projects/${id}`, { expectedRevision: 1, plan: { ...plan(), notes: String(i) } }),
      ),
    );
    expect(answers.map((a) => a.status).sort()).toEqual([200, ...Array(9).fill(409)]);
  });

  it('sent again, the same save is the same revision, also when others came after it', async () => {
    const { id } = (await call('POST', '/projects', { plan: plan() })).body;
    const saveId = randomUUID();
    const save = { expectedRevision: 1, saveId, plan: { ...plan(), notes: 'mine' } };
    const put = (body: object) => call('PUT', `/projects/${id}`, body);
    const all = await Promise.all([put(save), put(save), put(save)]);
    expect(all.map((a) => [a.status, a.body.revision])).toEqual([200, 200, 200].map((s) => [s, 2]));
    const later = { ...plan(), notes: 'later' };
    expect((await put({ expectedRevision: 2, plan: later })).body.revision).toBe(3);
    expect((await put(save)).body.revision).toBe(2);
    expect((await call('GET', `/projects/${id}`)).body).toMatchObject({
      revision: 3,
      plan: { notes: 'later' },
    });
  });

  it('made after an own save whose answer was lost goes on from it, and not from anybody else’s', async () => {
    const { id } = (await call('POST', '/projects', { plan: plan() })).body;
    const put = (body: object) => call('PUT', `/projects/${id}`, body);
    const first = randomUUID();
    expect((await put({ expectedRevision: 1, saveId: first, plan: plan() })).body.revision).toBe(2);
    // Of several whose answers were lost any may be the newest.
    const lost = randomUUID();
    const second = { expectedRevision: 1, afterSaves: [first, lost], saveId: randomUUID(), plan: plan() };
    expect((await put(second)).body.revision).toBe(3);
    expect((await put({ expectedRevision: 3, saveId: randomUUID(), plan: plan() })).body.revision).toBe(4);
    const late = { expectedRevision: 1, afterSaves: [second.saveId], saveId: randomUUID(), plan: plan() };
    expect((await put(late)).status).toBe(409);
    expect((await put({ ...late, saveId: 'none' })).body.error.message).toContain('saveId must be an id');
  });
});

describe('wrong requests are answered with what is wrong', () => {
  it.each([
    ['an unknown field', { ...plan(), colour: 'red' }, 'colour'],
    ['a missing field', { ...plan(), goal: undefined }, 'goal'],
    ['no plan', undefined, 'no plan file'],
    ['a list', [], 'no plan file'],
    [
      'a number out of reach',
      { ...plan(), goal: { lengthMm: -1, widthMm: 3, thicknessMm: 3 } },
      'Finished length must be more than 0 mm',
    ],
  ])('%s', async (_what, content, word) => {
    const answer = await call('POST', '/projects', { plan: content });
    expect(answer.status).toBe(400);
    expect(answer.body.error.message).toContain(word);
  });

  it('an id that is none, a revision that is none, a state that is none', async () => {
    expect((await call('GET', '/projects/nonsense')).status).toBe(400);
    expect((await call('GET', '/projects/00000000-0000-4000-8000-000000000000')).status).toBe(404);
    const { id } = (await call('POST', '/projects', { plan: plan() })).body;
    const save = await call('PUT', `/projects/${id}`, { plan: plan() });
    expect(save).toMatchObject({ status: 400, body: { field: 'expectedRevision' } });
    expect((await call('PATCH', `/projects/${id}`, { state: 'melted' })).body.error.message).toContain(
      'planning',
    );
    expect((await call('GET', '/nothing')).status).toBe(404);
  });

  it('a body that is not JSON, and one of 50 MB; the server goes on', async () => {
    expect((await call('POST', '/projects', '{"plan":')).body.error.message).toContain('not JSON');
    const huge = await call('POST', '/projects', JSON.stringify({ plan: 'x'.repeat(50_000_000) })).catch(
      () => ({ status: 413, body: null }),
    );
    expect(huge.status).toBe(413);
    expect((await call('GET', '/health')).body).toEqual({ ok: true });
  });
});

describe('safety', () => {
  it('sends the headers that shut strangers out', async () => {
    const { headers } = await call('GET', '/health');
    expect(headers.get('content-security-policy')).toContain("script-src 'self'");
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    expect(headers.get('cross-origin-embedder-policy')).toBe('require-corp');
    expect(headers.get('x-powered-by')).toBeNull();
  });

  it('refuses requests that other pages make', async () => {
    expect(
      (await call('POST', '/projects', { plan: plan() }, { Origin: 'http://elsewhere.example' })).status,
    ).toBe(403);
    expect((await call('GET', '/health', undefined, { Origin: 'null' })).status).toBe(403);
  });

  it('writes one structured line a request', async () => {
    await call('GET', '/health');
    await new Promise((resolve) => setTimeout(resolve, 100));
    const lines = logged(logFile)
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line));
    expect(lines.at(-1)).toMatchObject({ req: { url: '/api/health' }, res: { statusCode: 200 } });
  });
});

it('a piece that cannot be read is renamed, given out as a file and removed all the same', async () => {
  const { id } = (await call('POST', '/projects', { plan: plan() })).body;
  const client = new Client({ connectionString: databaseUrl });
  await client.connect();
  await client.query(
    `UPDATE plan_revisions SET plan = (plan::jsonb || '{"goal": "gone"}')::json WHERE project_id = $1`,
    [id],
  );
  await client.end();
  const opened = await call('GET', `/projects/${id}`);
  expect([opened.status, opened.body.problems[0].path]).toEqual([400, 'goal']);
  // The shelf says so, too, and does not wait for a picture of it.
  const verdict = async () =>
    (await call('GET', '/projects')).body.projects.find((p: { id: string }) => p.id === id).preview?.verdict;
  expect((await call('PATCH', `/projects/${id}`, { name: ' \u200b ' })).status).toBe(400);
  expect((await call('PATCH', `/projects/${id}`, { name: 'Broken quilt' })).body).toMatchObject({
    name: 'Broken quilt',
    revision: 2,
  });
  expect((await call('PATCH', `/projects/${id}`, {})).status).toBe(400);
  await expect.poll(verdict, { timeout: 120_000 }).toBe('not worked out');
  const file = await call('GET', `/projects/${id}/file`);
  expect(file.headers.get('content-disposition')).toContain('broken-quilt.retablo.json');
  expect(file.body).toMatchObject({ name: 'Broken quilt', goal: 'gone', lanes: plan().lanes });
  // One that cannot be read does not keep others from being looked through.
  const steel = { ...MATERIALS[0], id: 'river', name: 'River' };
  await call('PUT', '/shop/materials/river', steel);
  expect((await call('DELETE', '/shop/materials/river')).status).toBe(204);
  expect((await call('DELETE', `/projects/${id}`)).status).toBe(204);
});

describe('the database', () => {
  it('takes the demo once, on an empty shelf only', async () => {
    const url = await freshDatabase('demo_test');
    for (let i = 0; i < 2; i++) {
      const other = await serve({ databaseUrl: url, port: 0, logFile, demo: true });
      const { projects } = (await (await fetch(`http://127.0.0.1:${other.port}/api/projects`)).json()) as {
        projects: unknown[];
      };
      expect(projects).toHaveLength(demoCount());
      await other.stop();
    }
  });

  it('refuses a taken port with a reason', async () => {
    await expect(serve({ databaseUrl, port: serving.port, logFile })).rejects.toThrow('EADDRINUSE');
  });
});
