import { type Server, createServer } from 'node:http';
import { createServer as createSecureServer } from 'node:https';
import type { AddressInfo } from 'node:net';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { makeApp } from './app.ts';
import { CopyFolder } from './copies/folder.ts';
import { openDatabase } from './database.ts';
import { shopUrls, withCodes } from './door/addresses.ts';
import { DeviceStore } from './door/devices.ts';
import { type ShopNetwork, makeDoor } from './door/door.ts';
import { loadDemo } from './demo/index.ts';
import { openLog } from './log.ts';

const PAGES = join(dirname(fileURLToPath(import.meta.url)), '..', 'dist');

/** Between looks for what is to be done once a day. */
const DAILY_LOOK_MS = 1_800_000;

export interface Serving {
  port: number;
  /** Of the shop's network; null where Retablo answers on this machine alone. */
  shopPort: number | null;
  stop(): Promise<void>;
}

export interface ServeOptions {
  databaseUrl: string;
  /** 0 for any free port. */
  port: number;
  logFile?: string;
  /** Where copies are made by themselves: daily, and before the tables change. None are without it. */
  copiesDir?: string;
  demo?: boolean;
  /** Whether the shelf's small pictures are made as pieces change, and records read for what they teach; they are, unless told. */
  pictures?: boolean;
  /** Answers in the shop's network too, to devices that are let in. Without it, on this machine alone. */
  shop?: ShopNetwork;
}

/** Rejects if the port is taken, or the certificate is none. */
const listening = (server: Server, port: number, host: string) =>
  new Promise<Server>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => resolve(server));
  });

const portOf = (server: Server): number => (server.address() as AddressInfo).port;

async function ended(server: Server): Promise<void> {
  server.closeAllConnections();
  await new Promise((resolve) => server.close(resolve));
}

/** Migrates, loads the demo where asked and the shelf is empty, and listens. Rejects if the port is taken. */
export async function serve({
  databaseUrl,
  port,
  logFile,
  copiesDir,
  demo,
  pictures = true,
  shop: network,
}: ServeOptions): Promise<Serving> {
  const { logger, close: closeLog } = await openLog(logFile);
  const copies = copiesDir === undefined ? null : new CopyFolder(copiesDir);
  const database = await openDatabase(databaseUrl, (sequelize) =>
    Promise.resolve(copies?.make(sequelize, 'before an update')),
  );
  const devices = new DeviceStore(database.sequelize);
  const door = await makeDoor(devices, databaseUrl, network ?? null);
  const addresses = () => withCodes(network ? shopUrls(network, portOf(inShop!)) : []);
  const { app, projects, shop, previews, close } = makeApp({
    database,
    logger,
    pagesDir: PAGES,
    copies,
    door,
    devices,
    addresses,
  });
  if (demo) await loadDemo(projects, shop);
  const daily = async () => {
    await projects
      .clearOut(new Date())
      .catch((error: unknown) => logger.error({ err: error }, 'not cleared out'));
    await copies
      ?.daily(database.sequelize)
      .catch((error: unknown) => logger.error({ err: error }, 'no copy was made today'));
  };
  let busy = daily();
  const dailyLook = setInterval(() => (busy = busy.then(daily)), DAILY_LOOK_MS);
  if (pictures)
    void previews.catchUp().catch((error: unknown) => logger.error({ err: error }, 'pictures not caught up'));
  else previews.close();
  const here = await listening(createServer(app), port, '127.0.0.1');
  const inShop =
    network &&
    (await listening(
      network.certificate ? createSecureServer(network.certificate, app) : createServer(app),
      network.port,
      '0.0.0.0',
    ));
  return {
    port: portOf(here),
    shopPort: inShop ? portOf(inShop) : null,
    async stop() {
      clearInterval(dailyLook);
      await ended(here);
      if (inShop) await ended(inShop);
      await close();
      await door.close();
      await busy;
      await database.close();
      closeLog();
    },
  };
}
