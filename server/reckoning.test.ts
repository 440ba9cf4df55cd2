import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { moveOf } from '../core/moves/index.ts';
import type { Plan } from '../core/plan/index.ts';
import { makeShop } from '../core/shop/shop.ts';
import { fourWay, planOf, stackOf, weldIt } from '../core/tests/plans.ts';
import { ApiError } from './errors.ts';
import { ReckoningPool } from './reckoning/pool.ts';
import { Turns } from './reckoning/turns.ts';
import { type Serving, serve } from './serve.ts';
import { callerOf, freshDatabase, freshLog } from './tests/calls.ts';

let serving: Serving;
const call = callerOf(() => serving);
const pool = new ReckoningPool();

beforeAll(async () => {
  const logFile = freshLog();
  serving = await serve({ databaseUrl: await freshDatabase('reckoning_test'), port: 0, logFile });
});
afterAll(async () => {
  await serving.stop();
  await pool.close();
});

const pdf = (id: string, signal?: AbortSignal) =>
  fetch(`http://127.0.0.1:${serving.port}/api/projects/${id}/wall.pdf`, signal ? { signal } : {});
const put = async (plan: unknown): Promise<string> => (await call('POST', '/projects', { plan })).body.id;

/** Rods cut into lengths of a millionth of a millimetre: all its numbers are admitted one by one. */
function shredded(): Plan {
  const can = moveOf('can').begin([], makeShop()) as object;
  const rods = { shape: 'rod', material: '52100', sizeMm: 5, count: 3, lay: 'rows', cutMm: 1e-6, gapMm: 0 };
  return planOf([['can', { ...can, inserts: [rods] }]]);
}

/** So many four-ways one into another. */
const nested = (rounds: number): Plan =>
  planOf([
    stackOf(8, 30, 3.6, 9000),
    weldIt,
    ...Array.from({ length: rounds }, () => [
      ['cut', { pieces: 4, cropAMm: 0, cropBMm: 0 }] as const,
      fourWay('mirrored'),
      weldIt,
      ['draw', { shape: 'square', sideMm: 25, heats: 0 }] as const,
    ]).flat(),
  ]);

describe('a plan that would take for ever', () => {
  it('is refused with its number, printed with the refusal, renamed and removed', async () => {
    const plan = shredded();
    const id = await put(plan);
    const paper = await pdf(id);
    expect(paper.status).toBe(200);
    expect((await paper.arrayBuffer()).byteLength).toBeGreaterThan(5000);
    const renamed = { expectedRevision: 1, plan: { ...plan, name: 'Shredded' } };
    expect((await call('PUT', `/projects/${id}`, renamed)).status).toBe(200);
    expect((await call('GET', '/projects')).body.projects[0].name).toBe('Shredded');
    expect((await call('DELETE', `/projects/${id}`)).status).toBe(204);
  });

  it('on paper holds nothing else up, and ends when its reader leaves', async () => {
    const id = await put(nested(30));
    const reader = new AbortController();
    let ended = false;
    const read = pdf(id, reader.signal).then(
      () => (ended = true),
      () => 'left',
    );
    // All of these are answered while it is worked out.
    for (let i = 0; i < 20; i++) expect((await call('GET', '/health')).status).toBe(200);
    expect(ended).toBe(false);
    reader.abort();
    expect(await read).toBe('left');
    // The next one does not wait for it.
    expect((await pdf(await put(planOf([stackOf(5), weldIt])))).status).toBe(200);
  });
});

describe('the pool', () => {
  const small = { plan: planOf([stackOf(5), weldIt]), stages: [] };

  it('ends a task whose asker has left, and goes on', async () => {
    const left = new AbortController();
    const asked = pool.run('wall', { plan: nested(30), stages: [], paper: 'A4', evidence: [] }, left.signal);
    setTimeout(() => left.abort(), 50);
    await expect(asked).rejects.toThrow(/abort/i);
    await expect(pool.run('cuts', small, left.signal)).rejects.toThrow(/abort/i);
    expect(await pool.run('cuts', small)).toMatchObject({
      done: [{ material: '1084' }, { material: '15n20' }],
    });
  });

  it('refuses what is more than may wait, and says so', async () => {
    const asked = await Promise.allSettled(Array.from({ length: 80 }, () => pool.run('cuts', small)));
    const refused = asked.flatMap((a) => (a.status === 'rejected' ? [a.reason as ApiError] : []));
    expect(refused.length).toBeGreaterThan(0);
    expect(asked.length - refused.length).toBeGreaterThanOrEqual(60);
    for (const error of refused) expect(error).toMatchObject({ code: 'busy' });
  });
});

it('turns are taken one at a time for one key, also after one that failed', async () => {
  const turns = new Turns();
  const said: string[] = [];
  const act =
    (name: string, ms: number, fails = false) =>
    () =>
      new Promise<void>((resolve, reject) => {
        said.push(`${name} begins`);
        setTimeout(() => {
          said.push(`${name} ends`);
          if (fails) reject(new Error(name));
          else resolve();
        }, ms);
      });
  const all = await Promise.allSettled([
    turns.take('a', act('first', 30, true)),
    turns.take('a', act('second', 5)),
    turns.take('b', act('other', 1)),
  ]);
  expect(all.map((a) => a.status)).toEqual(['rejected', 'fulfilled', 'fulfilled']);
  expect(said.indexOf('second begins')).toBeGreaterThan(said.indexOf('first ends'));
  expect(said.indexOf('other begins')).toBeLessThan(said.indexOf('first ends'));
});
