import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as bare } from '@playwright/test';
import { temporaryCluster } from '../bin/cluster.ts';
import { serve } from '../server/serve.ts';

/** A throw-away database and server with the demo pieces for every worker, so that none sees what another does. */
export const test = bare.extend<object, { served: string }>({
  served: [
    // eslint-disable-next-line no-empty-pattern
    async ({}, use, info) => {
      const cluster = await temporaryCluster();
      const serving = await serve({
        databaseUrl: cluster.url,
        port: 0,
        demo: true,
        logFile: join(tmpdir(), `retablo-e2e-${process.pid}-${info.workerIndex}.log`),
      });
      process.env.RETABLO_URL = `http://127.0.0.1:${serving.port}`;
      await use(process.env.RETABLO_URL);
      await serving.stop();
      cluster.stop();
    },
    { scope: 'worker', auto: true },
  ],
});

export { expect } from '@playwright/test';
export type { Page } from '@playwright/test';
