import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { temporaryCluster } from '../bin/cluster.ts';
import { serve } from '../server/serve.ts';

/** A throw-away database and server with the demo pieces, for all browser tests of a run. */
export default async function setup(): Promise<() => Promise<void>> {
  const cluster = await temporaryCluster();
  const serving = await serve({
    databaseUrl: cluster.url,
    port: 0,
    demo: true,
    logFile: join(tmpdir(), `retablo-e2e-${process.pid}.log`),
  });
  process.env.RETABLO_URL = `http://127.0.0.1:${serving.port}`;
  return async () => {
    await serving.stop();
    cluster.stop();
  };
}
