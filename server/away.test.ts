import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { planOf, stackOf, weldIt } from '../core/tests/plans.ts';
import { type Serving, serve } from './serve.ts';
import { callerOf, freshDatabase, freshLog } from './tests/calls.ts';

let serving: Serving;
let databaseUrl: string;
const call = callerOf(() => serving);
const plan = planOf([stackOf(5), weldIt]);

beforeAll(async () => {
  databaseUrl = await freshDatabase('away_test');
  const logFile = freshLog();
  serving = await serve({ databaseUrl, port: 0, logFile, pictures: false });
});
afterAll(() => serving.stop());

/** Ends every connection to this database but one's own, as a restart of the database does. */
async function cutOff(): Promise<void> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  await client.query(
    'SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()',
  );
  await client.end();
}

describe('the database gone from under the server', () => {
  it('twenty times while it is written to: every answer is a success or “away”, nothing acknowledged is lost, and it goes on', async () => {
    const { id } = (await call('POST', '/projects', { plan })).body;
    let acknowledged = 1;
    const answers: number[] = [];
    for (let round = 0; round < 20; round++) {
      const [, saved, ...read] = await Promise.all([
        cutOff(),
        call('PUT', `/projects/${id}`, {
          expectedRevision: acknowledged,
          plan: { ...plan, notes: `${round}` },
        }),
        call('GET', `/projects/${id}`),
        call('GET', '/projects'),
        call('GET', '/health'),
      ]);
      answers.push(saved.status, ...read.map((r) => r.status));
      const { body } = await call('GET', `/projects/${id}`).then((r) =>
        r.status === 200 ? r : call('GET', `/projects/${id}`),
      );
      expect(body.revision).toBeGreaterThanOrEqual(saved.status === 200 ? acknowledged + 1 : acknowledged);
      acknowledged = body.revision;
    }
    expect([...new Set(answers)].filter((status) => status !== 200 && status !== 503)).toEqual([]);
    expect((await call('GET', '/health')).status).toBe(200);
  });

  it('says so in words that a maker can act on', async () => {
    const asked = Array.from({ length: 30 }, () => call('GET', '/projects'));
    await cutOff();
    for (const { status, body } of await Promise.all(asked)) {
      if (status === 200) continue;
      expect(status).toBe(503);
      expect(body.error.message).toContain('The database does not answer just now');
    }
  });
});

it('an address that cannot be read is a wrong request', async () => {
  const answer = await fetch(`http://127.0.0.1:${serving.port}/api/projects/%E0%A4%A`);
  expect(answer.status).toBe(400);
  expect(((await answer.json()) as { error: { message: string } }).error.message).toContain(
    'The address cannot be read',
  );
});
