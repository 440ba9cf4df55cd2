import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { temporaryCluster } from '../bin/cluster.ts';
import type { ShelfPage } from '../core/plan/stored.ts';
import { serve } from '../server/serve.ts';

/** How long the demo pieces' small pictures may take, with all flows worked out, ms. */
const PATIENCE_MS = 180_000;

/** A database with the demo pieces and their pictures, made once; every test begins with a copy of its own. */
export default async function setup(): Promise<() => void> {
  const cluster = await temporaryCluster();
  const logFile = join(tmpdir(), `retablo-e2e-${process.pid}`, 'server.log');
  const serving = await serve({ databaseUrl: cluster.url, port: 0, demo: true, logFile });
  const until = Date.now() + PATIENCE_MS;
  while (!(await allPictured(serving.port))) {
    if (Date.now() > until) throw new Error(`The demo pieces have no pictures yet; see ${logFile}`);
    await wait(500);
  }
  await serving.stop();
  process.env.RETABLO_E2E_DATABASE = cluster.url;
  return () => cluster.stop();
}

async function allPictured(port: number): Promise<boolean> {
  const response = await fetch(`http://127.0.0.1:${port}/api/projects`);
  const { projects } = (await response.json()) as ShelfPage;
  return projects.every(({ preview, revision }) => preview?.revision === revision);
}
