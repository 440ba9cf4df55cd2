import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort } from '../bin/cluster.ts';
import { fullDisk } from './soak/fullDisk.ts';
import { Instance } from './soak/instance.ts';
import { kills } from './soak/kills.ts';
import { mutationsInCore, mutationsOverHttp } from './soak/mutations.ts';
import { pageOpen } from './soak/pageOpen.ts';
import { rates } from './soak/rates.ts';

/** What is to hold for hours: outside the test command, in parts that can be named. Needs built pages. */
const dir = mkdtempSync(join(tmpdir(), 'retablo-soak-'));
// The database's own user must be able to look in.
chmodSync(dir, 0o755);

const fresh = async (name: string): Promise<Instance> => new Instance(join(dir, name), await freePort());

const PARTS: Readonly<Record<string, () => Promise<void> | void>> = {
  core: () => mutationsInCore(5000),
  http: async () => mutationsOverHttp(await fresh('http'), 500),
  rates: async () => rates(await fresh('rates')),
  page: async () => pageOpen(await fresh('page'), 20),
  disk: async () => fullDisk(join(dir, 'disk'), await freePort()),
  kills: async () => kills(await fresh('kills'), 100),
};

const wanted = process.argv.slice(2);
const unknown = wanted.filter((name) => !(name in PARTS));
if (unknown.length > 0)
  throw new Error(`There is no part ${unknown.join(', ')}; there are ${Object.keys(PARTS).join(', ')}.`);
let failed = 0;
for (const [name, part] of Object.entries(PARTS).filter(([n]) => wanted.length === 0 || wanted.includes(n))) {
  console.log(`\n${name}`);
  try {
    await part();
  } catch (error) {
    failed += 1;
    console.error(`FAILED: ${(error as Error).message}`, (error as Error).cause ?? '');
  }
}
rmSync(dir, { recursive: true, force: true });
process.exit(failed === 0 ? 0 : 1);
