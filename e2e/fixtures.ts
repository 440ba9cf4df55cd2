import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as bare } from '@playwright/test';
import { copyDatabase, dropDatabase } from '../bin/cluster.ts';
import type { ShopNetwork } from '../server/door/door.ts';
import { type Serving, serve } from '../server/serve.ts';

export const PASSPHRASE = 'k7mq-2fxh-9rtp';
const SHOP: ShopNetwork = {
  passphrase: PASSPHRASE,
  secret: 'for these tests',
  names: ['forge.test'],
  port: 0,
  certificate: null,
};

/** A server with a database of its own for every test: none sees what another left, and nothing has to be put back. */
export const test = bare.extend<{ inShop: boolean; pictures: boolean; served: Serving }>({
  /** Whether it answers in the shop's network too, as forge.test. */
  inShop: [false, { option: true }],
  /** Whether the shelf's pictures of what the test changes are made: worked out a second time, beside the page that works it out. */
  pictures: [false, { option: true }],
  served: [
    async ({ inShop, pictures }, use, { workerIndex, testId }) => {
      const name = `test_${testId.replaceAll('-', '_')}`;
      const databaseUrl = await copyDatabase(process.env.RETABLO_E2E_DATABASE!, name);
      const serving = await serve({
        databaseUrl,
        port: 0,
        logFile: join(tmpdir(), `retablo-e2e-${process.pid}-${workerIndex}`, 'server.log'),
        pictures,
        shop: inShop ? SHOP : undefined,
      });
      process.env.RETABLO_URL = `http://127.0.0.1:${serving.port}`;
      await use(serving);
      await serving.stop();
      await dropDatabase(databaseUrl);
    },
    { auto: true },
  ],
});

export { expect } from '@playwright/test';
export type { Page } from '@playwright/test';
