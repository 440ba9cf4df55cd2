import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { KnownFlows } from '../core/flow/flows.ts';
import { keyOf, type FlowStage, runFlow } from '../core/flow/run.ts';
import { digestOf, fromStored, toStored } from '../core/flow/stored.ts';
import { seamKey } from '../core/loose/question.ts';
import { seamReport } from '../core/loose/report.ts';
import { fourOf } from '../core/tests/seams.ts';
import { evaluate, flowsAwaited, readPlanText } from '../core/plan/index.ts';
import { StoredFlow } from './database.ts';
import { demoFiles } from './demo/index.ts';
import { type Serving, serve } from './serve.ts';
import { callerOf, freshDatabase, freshLog } from './tests/calls.ts';

let serving: Serving;
const call = callerOf(() => serving);
const ebb = demoFiles().find((file) => file.endsWith('ebb-bar.json'))!;

beforeAll(async () => {
  serving = await serve({
    databaseUrl: await freshDatabase('flows_test'),
    port: 0,
    logFile: freshLog(),
  });
});
afterAll(() => serving.stop());

/** The first flow of the demo, and its stage after one pass as it comes from the solver. */
function firstFlow() {
  const read = readPlanText(readFileSync(ebb, 'utf8'));
  if (!read.ok) throw new Error(read.problems[0].message);
  const [spec] = flowsAwaited(evaluate(read.plan, undefined, new KnownFlows()));
  const one = { ...spec, passes: spec.passes.slice(0, 1) };
  const stage: FlowStage = runFlow(
    one,
    () => undefined,
    () => undefined,
  );
  return { spec, stage, digest: digestOf(keyOf(spec, 1)) };
}

describe('flows that were worked out', () => {
  it('are kept by all they depend on and come back to the last digit', async () => {
    const { stage, digest, spec } = firstFlow();
    const none = digestOf(keyOf({ ...spec, friction: 0.99 }, 1));
    expect((await call('POST', '/flows/find', { digests: [digest] })).body).toEqual({ stages: {} });
    expect((await call('PUT', `/flows/${digest}`, toStored(stage))).status).toBe(204);
    // Once more is no harm.
    expect((await call('PUT', `/flows/${digest}`, toStored(stage))).status).toBe(204);
    const { stages } = (await call('POST', '/flows/find', { digests: [digest, none] })).body;
    expect(Object.keys(stages)).toEqual([digest]);
    expect(fromStored(stages[digest])).toEqual(stage);
    await StoredFlow.destroy({ where: {} });
  });

  it('that are none are refused with the place', async () => {
    const digest = 'a'.repeat(64);
    const bad = await call('PUT', `/flows/${digest}`, { ok: true, x: 'no numbers' });
    expect(bad.status).toBe(400);
    expect(bad.body.error.message.length).toBeGreaterThan(0);
    expect((await call('PUT', '/flows/short', { ok: false, why: 'x' })).status).toBe(400);
    expect((await call('POST', '/flows/find', { digests: [] })).status).toBe(400);
    expect(await StoredFlow.count()).toBe(0);
  });

  it('are worked out for a plan on paper while others are served, kept, and not worked out again', async () => {
    const { body } = await call('POST', '/projects', { plan: JSON.parse(readFileSync(ebb, 'utf8')) });
    let served = 0;
    let done = false;
    const pdf = fetch(`http://127.0.0.1:${serving.port}/api/projects/${body.id}/wall.pdf`).then(
      async (response) => {
        const bytes = Buffer.from(await response.arrayBuffer());
        done = true;
        return { status: response.status, head: bytes.subarray(0, 5).toString() };
      },
    );
    while (!done) {
      expect((await call('GET', '/health')).status).toBe(200);
      served++;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    expect(await pdf).toEqual({ status: 200, head: '%PDF-' });
    // It takes some seconds: a server that stood still would have answered once or twice.
    expect(served).toBeGreaterThan(20);
    const kept = await StoredFlow.count();
    const press = body.plan.lanes[0].steps.find((step: { kind: string }) => step.kind === 'press');
    expect(kept).toBe(press.parameters.passes.length);
    const before = await StoredFlow.findAll({ order: ['digest'] });
    await fetch(`http://127.0.0.1:${serving.port}/api/projects/${body.id}/wall.pdf`);
    const after = await StoredFlow.findAll({ order: ['digest'] });
    expect(after.map((row) => row.stage)).toEqual(before.map((row) => row.stage));
  });
});

describe('answers about seams', () => {
  it('are kept by their question and come back as they were; what is none is refused with the place', async () => {
    const question = fourOf({ presses: [{ turned: false, toMm: 49.95 }] });
    const answer = seamReport(question);
    const digest = digestOf(seamKey(question));
    expect((await call('GET', `/seams/${digest}`)).body).toEqual({ answer: null });
    expect((await call('PUT', `/seams/${digest}`, answer)).status).toBe(204);
    expect((await call('GET', `/seams/${digest}`)).body).toEqual({ answer });
    const other = digestOf(seamKey({ ...question, gapMm: 0.31 }));
    expect((await call('GET', `/seams/${other}`)).body).toEqual({ answer: null });
    const bad = await call('PUT', `/seams/${digest}`, { ...answer, states: 'all shut' });
    expect(bad.status).toBe(400);
    expect(bad.body.error.message).toMatch(/states/);
    expect((await call('GET', '/seams/short')).status).toBe(400);
    await StoredFlow.destroy({ where: {} });
  });
});
