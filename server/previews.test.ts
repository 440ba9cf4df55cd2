import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { ProjectHead } from '../core/plan/stored.ts';
import { planOf, stackOf, weldIt } from '../core/tests/plans.ts';
import { Preview } from './database.ts';
import { keepPreview } from './previews.ts';
import { type Serving, serve } from './serve.ts';
import { callerOf, freshDatabase, freshLog, logged } from './tests/calls.ts';

let serving: Serving;
const call = callerOf(() => serving);
const logFile = freshLog();

beforeAll(async () => {
  serving = await serve({ databaseUrl: await freshDatabase('previews_test'), port: 0, logFile });
});
afterAll(() => serving.stop());

const headOf = async (id: string): Promise<ProjectHead | undefined> =>
  (await call('GET', '/projects')).body.projects.find((p: ProjectHead) => p.id === id);

/** 5 layers of 3 mm, 200 mm long: a bar 40 × 15 × 200 mm. */
const bar = (goalMm: number) => ({
  ...planOf([stackOf(5), weldIt]),
  goal: { lengthMm: goalMm, widthMm: 30, thicknessMm: 5 },
});
const made = (verdict: 'reached' | 'short') => ({
  verdict,
  png: PNG.sync.write(new PNG({ width: 2, height: 1 })),
  measured: [],
  evidence: [],
});

describe('the shelf’s small pictures', () => {
  it('are made of the newest revision, with how it stands to its goal', async () => {
    const { id } = (await call('POST', '/projects', { plan: bar(100) })).body;
    await vi.waitFor(async () => expect((await headOf(id))?.preview?.revision).toBe(1), 30_000);
    expect((await headOf(id))!.preview).toMatchObject({ verdict: 'reached', hasPicture: true });
    const answer = await fetch(`http://127.0.0.1:${serving.port}/api/projects/${id}/picture`);
    const { width, height, data } = PNG.sync.read(Buffer.from(await answer.arrayBuffer()));
    // Five layers, light and dark in turn: the tone changes four times on the way up.
    const tones = Array.from({ length: height }, (_, y) => data[4 * (y * width + (width >> 1))] > 110);
    expect(tones.filter((light, y) => y > 0 && light !== tones[y - 1]).length).toBeGreaterThanOrEqual(4);
    expect((await call('PUT', `/projects/${id}`, { expectedRevision: 1, plan: bar(5000) })).status).toBe(200);
    await vi.waitFor(async () => expect((await headOf(id))?.preview?.revision).toBe(2), 30_000);
    expect((await headOf(id))!.preview!.verdict).toBe('short');
  });

  it('of a revision that was overtaken are not kept, nor those of a piece that is gone', async () => {
    const { id } = (await call('POST', '/projects', { plan: bar(100) })).body;
    expect((await call('PUT', `/projects/${id}`, { expectedRevision: 1, plan: bar(5000) })).status).toBe(200);
    expect(await keepPreview(id, { revision: 2, log: 0 }, made('short'))).toBe('made');
    expect(await keepPreview(id, { revision: 1, log: 0 }, made('reached'))).toBe('gone');
    expect(await keepPreview(id, { revision: 2, log: 1 }, made('reached'))).toBe('gone');
    expect((await headOf(id))!.preview).toMatchObject({ revision: 2, verdict: 'short' });
    expect((await call('DELETE', `/projects/${id}`)).status).toBe(204);
    expect(await keepPreview(id, { revision: 2, log: 0 }, made('reached'))).toBe('gone');
    expect((await Preview.findByPk(id))?.verdict).toBe('short');
    expect(logged(logFile)).not.toContain('could not be made');
  });
});
