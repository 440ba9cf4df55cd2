import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { toString } from 'qrcode';
import { CopyFolder } from '../server/copies/folder.ts';
import { CopyFile } from '../server/copies/copyFile.ts';
import { restoreFrom } from '../server/copies/restore.ts';
import { shopUrls } from '../server/door/addresses.ts';
import type { ShopNetwork } from '../server/door/door.ts';
import { newPassphrase } from '../server/door/passphrase.ts';
import { type Serving, serve } from '../server/serve.ts';
import {
  type LastingCluster,
  freePort,
  lastingCluster,
  missingVersion,
  portIsFree,
  setAside,
} from './cluster.ts';
import {
  COPIES_DIR,
  DATA,
  DATABASE_DIR,
  LOG_FILE,
  cookieSecret,
  isHeld,
  rememberPorts,
  rememberedPorts,
  takeInHand,
} from './instance.ts';
import { isAlive } from './postgres.ts';
import { type ShopAsked, askedShop } from './shopAsked.ts';

const FIRST_PORT = 4870;
const FIRST_SHOP_PORT = 4871;
/** Between looks whether the database still runs, ms. */
const LOOK_MS = 1000;

/** The port asked for in the environment, if any. */
function askedPort(): number | undefined {
  const asked = process.env.RETABLO_PORT;
  if (!asked) return undefined;
  const port = Number(asked);
  if (!Number.isInteger(port) || port < 1 || port > 65_535)
    throw new Error(`RETABLO_PORT must be a whole number from 1 to 65535; it is “${asked}”.`);
  return port;
}

/** The port that is wanted if it is free, otherwise another, said aloud. */
async function settle(port: number | undefined, what: string): Promise<number> {
  if (port !== undefined && (await portIsFree(port))) return port;
  const other = await freePort();
  if (port !== undefined)
    console.log(`Port ${port} is in use by something else; the ${what} takes ${other} instead.`);
  return other;
}

/** Names the copy that is to fill a new cluster, until it has: a start that is ended in between goes on where it was. */
const restoring = join(DATA, 'restoring');

/**
 * A cluster whose version is not installed any more is put beside, and the last copy is to fill a new one; without a copy it is said
 * what to install.
 */
async function makeWayFor(version: string): Promise<void> {
  const last = await new CopyFolder(COPIES_DIR).newest();
  if (!last)
    throw new Error(
      `The database in ${DATABASE_DIR} was made by PostgreSQL ${version}, whose programs are not installed any more, and there is no copy in ${COPIES_DIR}. Nothing was changed. Install them (apt-get install postgresql-${version}) and start again; or put a copy of yours in that folder under the name daily-2000-01-01.zip, and it is taken.`,
    );
  const copy = await CopyFile.open(await new CopyFolder(COPIES_DIR).path(last.name));
  await copy.verify();
  copy.close();
  writeFileSync(restoring, last.name);
  console.log(
    `The database was made by PostgreSQL ${version}, whose programs are not installed any more. It is kept as it was in ${setAside(DATABASE_DIR)}; the last copy, ${last.name} of ${last.madeAt}, is taken into a new one. What was saved after it is in the old one alone: stop Retablo, install postgresql-${version}, put that folder in the place of ${join(DATABASE_DIR, 'cluster')}, start again, and it is there.`,
  );
}

async function fill(cluster: LastingCluster): Promise<void> {
  if (!existsSync(restoring)) return;
  await restoreFrom(cluster.url, await new CopyFolder(COPIES_DIR).path(readFileSync(restoring, 'utf8')));
  rmSync(restoring);
}

/** Starts the database again where it ends by itself, until told to stop. */
function lookAfter(cluster: LastingCluster): () => Promise<void> {
  let busy: Promise<void> | null = null;
  const look = async () => {
    try {
      if (await cluster.revive()) console.log('The database had ended; it runs again.');
    } catch (error) {
      console.error(`The database does not start: ${(error as Error).message.split('\n')[0]}`);
    }
    busy = null;
  };
  const timer = setInterval(() => (busy ??= look()), LOOK_MS);
  return async () => {
    clearInterval(timer);
    await busy;
  };
}

async function served(
  cluster: LastingCluster,
  port: number,
  asked: ShopAsked | null,
  shopPort: number,
): Promise<Serving & { shop: ShopNetwork | undefined }> {
  await fill(cluster);
  const web = await settle(port, 'application');
  const shop = asked
    ? {
        ...asked,
        port: await settle(shopPort, 'shop’s network'),
        secret: cookieSecret(),
        passphrase: newPassphrase(),
      }
    : undefined;
  rememberPorts({ web, database: cluster.port, shop: shop?.port ?? shopPort });
  const serving = await serve({
    databaseUrl: cluster.url,
    port: web,
    logFile: LOG_FILE,
    copiesDir: COPIES_DIR,
    demo: true,
    // Off in tests alone: what records teach is not read without them.
    pictures: process.env.RETABLO_PICTURES !== 'off',
    shop,
  });
  return { ...serving, shop };
}

/** Where the shop's devices find it, and what lets them in. */
async function sayShop({ shop, shopPort }: { shop: ShopNetwork; shopPort: number }): Promise<void> {
  const urls = shopUrls(shop, shopPort);
  if (urls.length === 0) {
    console.log('This machine is in no network just now: nothing but itself reaches Retablo.');
    return;
  }
  console.log(`In the shop’s network it is at ${urls.join(' and ')}`);
  console.log(await toString(urls[0], { type: 'utf8' }));
  console.log(`The passphrase that lets a device in, until the next start: ${shop.passphrase}`);
  console.log(
    'A device that was let in is for the bench alone; The shop, Devices makes it more, or shuts it out.',
  );
  if (!shop.certificate)
    console.log(
      'What is sent in the network is not encrypted: whoever listens in it can read along. Start with --cert FILE --key FILE to encrypt it.',
    );
}

async function main(): Promise<void> {
  const shopAsked = askedShop(process.argv.slice(2));
  const hold = await takeInHand();
  if (isHeld(hold)) {
    const { pid, address } = hold;
    console.error(
      `Retablo is already running (process ${pid})${address ? ` at ${address}` : ': it is just starting'}`,
    );
    process.exitCode = 1;
    return;
  }
  const asked = askedPort();
  const last = rememberedPorts();
  const version = missingVersion(DATABASE_DIR);
  if (version !== null) await makeWayFor(version);
  // A database left running by a killed start still holds its port: it is stopped inside lastingCluster, on the same port.
  const leftOver = last.database !== undefined && isAlive(DATABASE_DIR);
  const database = leftOver ? last.database! : await settle(last.database, 'database');
  const cluster = await lastingCluster(DATABASE_DIR, database);
  const serving = await served(
    cluster,
    asked ?? last.web ?? FIRST_PORT,
    shopAsked,
    last.shop ?? FIRST_SHOP_PORT,
  ).catch(async (error: unknown) => {
    await cluster.stop();
    throw error;
  });
  const address = `http://127.0.0.1:${serving.port}/`;
  hold.tell(address);
  const leave = lookAfter(cluster);
  console.log(
    `Retablo is at ${address}   (Ctrl-C stops it; the log is ${LOG_FILE.replace(/log$/, '*.log')})`,
  );
  const { shop, shopPort } = serving;
  if (shop && shopPort !== null) await sayShop({ shop, shopPort });
  let stopping = false;
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    await leave();
    await serving.stop();
    await cluster.stop();
    await hold.release();
    console.log('Stopped.');
    process.exit(0);
  };
  process.on('SIGINT', () => void stop());
  process.on('SIGTERM', () => void stop());
}

main().catch((error: Error) => {
  console.error(`Retablo could not start: ${error.message}`);
  process.exit(1);
});
