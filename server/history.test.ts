import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { planOf, stackOf, weldIt } from '../core/tests/plans.ts';
import { PlanRevision } from './database.ts';
import { thinned } from './history.ts';
import { type Serving, serve } from './serve.ts';
import { callerOf, freshDatabase, freshLog } from './tests/calls.ts';

let serving: Serving;
const call = callerOf(() => serving);
const plan = planOf([stackOf(5), weldIt]);

beforeAll(async () => {
  const logFile = freshLog();
  serving = await serve({
    databaseUrl: await freshDatabase('history_test'),
    port: 0,
    logFile,
    pictures: false,
  });
});
afterAll(() => serving.stop());

async function pieceWith(saves: number): Promise<string> {
  const { id } = (await call('POST', '/projects', { plan })).body;
  for (let n = 1; n <= saves; n++) {
    const body = { expectedRevision: n, plan: { ...plan, notes: `save ${n}` } };
    expect((await call('PUT', `/projects/${id}`, body)).status).toBe(200);
  }
  return id;
}
const revisions = async (id: string): Promise<{ revision: number; mark: string | null }[]> =>
  (await call('GET', `/projects/${id}/revisions`)).body.revisions;

describe('the history of a piece', () => {
  it('lists what was saved, newest first, gives each as it was, and names it', async () => {
    const id = await pieceWith(3);
    expect((await revisions(id)).map((r) => r.revision)).toEqual([4, 3, 2, 1]);
    expect((await call('GET', `/projects/${id}/revisions/3`)).body.plan.notes).toBe('save 2');
    const named = await call('PATCH', `/projects/${id}/revisions/2`, {
      mark: '  before the second four-way ',
    });
    expect(named.body).toMatchObject({ revision: 2, mark: 'before the second four-way' });
    expect((await revisions(id)).find((r) => r.revision === 2)?.mark).toBe('before the second four-way');
    expect((await call('PATCH', `/projects/${id}/revisions/2`, { mark: '' })).body.mark).toBeNull();
  });

  it('says what is wrong with a request', async () => {
    const id = await pieceWith(0);
    expect((await call('GET', `/projects/${id}/revisions/9`)).body.error.message).toContain(
      'not kept any more',
    );
    expect((await call('GET', `/projects/${id}/revisions/x`)).body.error.message).toContain('revision');
    expect((await call('PATCH', `/projects/${id}/revisions/1`, { mark: 'x'.repeat(81) })).status).toBe(400);
    expect((await call('PATCH', `/projects/${id}/revisions/1`, {})).body.error.message).toContain('mark');
  });

  it('is thinned with age: all of a day, then one an hour, a day, a week; the first, the newest and named ones stay', async () => {
    const id = await pieceWith(0);
    const now = new Date('2026-06-17T12:00:00Z');
    const hoursAgo = (h: number) => new Date(now.getTime() - h * 3_600_000);
    // Two saves every half hour of the last day, of a day four days ago, of a day thirty days ago, of one a hundred and two days ago.
    const ages = [0, 96, 720, 2448].flatMap((start) =>
      Array.from({ length: 46 }, (_, k) => start + 0.25 + k * 0.5),
    );
    const old = [...ages].sort((a, b) => b - a);
    await PlanRevision.update({ savedAt: hoursAgo(5000) }, { where: { projectId: id, revision: 1 } });
    await PlanRevision.bulkCreate(
      old.map((h, i) => ({
        projectId: id,
        revision: i + 2,
        plan,
        savedAt: hoursAgo(h),
        mark: i === 10 ? 'kept' : null,
      })),
    );
    await thinned(PlanRevision.sequelize!, id, now);
    const left = await PlanRevision.findAll({ where: { projectId: id }, order: [['revision', 'ASC']] });
    const agesLeft = left.map((r) => (now.getTime() - r.savedAt.getTime()) / 3_600_000);
    const within = (from: number, to: number) => agesLeft.filter((h) => h >= from && h < to).length;
    expect(within(0, 24)).toBe(46);
    // 23 hours, begun and ended within an hour: one more where the first and the last share none.
    expect(within(96, 120)).toBeGreaterThanOrEqual(23);
    expect(within(96, 120)).toBeLessThanOrEqual(24);
    expect(within(720, 744)).toBe(2);
    // One a week, and the named one.
    expect(within(2448, 2472)).toBe(2);
    expect(left[0].revision).toBe(1);
    expect(left.at(-1)!.revision).toBe(old.length + 1);
    expect(left.filter((r) => r.mark === 'kept')).toHaveLength(1);
    await thinned(PlanRevision.sequelize!, id, now);
    expect(await PlanRevision.count({ where: { projectId: id } })).toBe(left.length);
  });
});
