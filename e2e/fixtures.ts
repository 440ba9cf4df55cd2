import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as bare } from '@playwright/test';
import { copyDatabase } from '../bin/cluster.ts';
import { serve } from '../server/serve.ts';

/** A server with a database of its own for every worker, so that none sees what another does. */
export const test = bare.extend<object, { served: string }>({
  served: [
    // eslint-disable-next-line no-empty-pattern
    async ({}, use, { workerIndex }) => {
      const serving = await serve({
        databaseUrl: await copyDatabase(process.env.RETABLO_E2E_DATABASE!, `worker_${workerIndex}`),
        port: 0,
        logFile: join(tmpdir(), `retablo-e2e-${process.pid}-${workerIndex}.log`),
      });
      process.env.RETABLO_URL = `http://127.0.0.1:${serving.port}`;
      await use(process.env.RETABLO_URL);
      await serving.stop();
    },
    { scope: 'worker', auto: true },
  ],
});

export { expect } from '@playwright/test';
export type { Page } from '@playwright/test';
