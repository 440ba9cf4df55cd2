import type { AddressInfo } from 'node:net';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { makeApp } from './app.ts';
import { CopyFolder } from './copies/folder.ts';
import { openDatabase } from './database.ts';
import { loadDemo } from './demo/index.ts';
import { openLog } from './log.ts';

const PAGES = join(dirname(fileURLToPath(import.meta.url)), '..', 'dist');

/** Between looks for what is to be done once a day. */
const DAILY_LOOK_MS = 1_800_000;

export interface Serving {
  port: number;
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
}

/** Migrates, loads the demo where asked and the shelf is empty, and listens on 127.0.0.1. Rejects if the port is taken. */
export async function serve({ databaseUrl, port, logFile, copiesDir, demo }: ServeOptions): Promise<Serving> {
  const { logger, close: closeLog } = await openLog(logFile);
  const copies = copiesDir === undefined ? null : new CopyFolder(copiesDir);
  const database = await openDatabase(databaseUrl, (sequelize) =>
    Promise.resolve(copies?.make(sequelize, 'before an update')),
  );
  const { app, projects, shop, previews, close } = makeApp({ database, logger, pagesDir: PAGES, copies });
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
  void previews.catchUp().catch((error: unknown) => logger.error({ err: error }, 'pictures not caught up'));
  const server = await new Promise<ReturnType<typeof app.listen>>((resolve, reject) => {
    const listening = app.listen(port, '127.0.0.1', (error) => (error ? reject(error) : resolve(listening)));
  });
  return {
    port: (server.address() as AddressInfo).port,
    async stop() {
      clearInterval(dailyLook);
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await close();
      await busy;
      await database.close();
      closeLog();
    },
  };
}
