import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as bare } from '@playwright/test';
import { copyDatabase, dropDatabase } from '../bin/cluster.ts';
import { serve } from '../server/serve.ts';

/** A server with a database of its own for every test: none sees what another left, and nothing has to be put back. */
export const test = bare.extend<{ served: string }>({
  served: [
    // eslint-disable-next-line no-empty-pattern
    async ({}, use, { workerIndex, testId }) => {
      const name = `test_${testId.replaceAll('-', '_')}`;
      const databaseUrl = await copyDatabase(process.env.RETABLO_E2E_DATABASE!, name);
      const serving = await serve({
        databaseUrl,
        port: 0,
        logFile: join(tmpdir(), `retablo-e2e-${process.pid}-${workerIndex}`, 'server.log'),
      });
      process.env.RETABLO_URL = `http://127.0.0.1:${serving.port}`;
      await use(process.env.RETABLO_URL);
      await serving.stop();
      await dropDatabase(databaseUrl);
    },
    { auto: true },
  ],
});

export { expect } from '@playwright/test';
export type { Page } from '@playwright/test';
