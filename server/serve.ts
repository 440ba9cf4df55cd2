import type { AddressInfo } from 'node:net';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino, destination } from 'pino';
import { makeApp } from './app.ts';
import { openDatabase } from './database.ts';
import { loadDemo } from './demo/index.ts';

const PAGES = join(dirname(fileURLToPath(import.meta.url)), '..', 'dist');

/** Between looks for what was put aside long enough ago. */
const CLEAR_OUT_MS = 6 * 3_600_000;

export interface Serving {
  port: number;
  stop(): Promise<void>;
}

export interface ServeOptions {
  databaseUrl: string;
  /** 0 for any free port. */
  port: number;
  logFile?: string;
  demo?: boolean;
}

/** Migrates, loads the demo where asked and the shelf is empty, and listens on 127.0.0.1. Rejects if the port is taken. */
export async function serve({ databaseUrl, port, logFile, demo }: ServeOptions): Promise<Serving> {
  const logger = pino({ level: 'info' }, destination({ dest: logFile ?? 2, mkdir: true, mode: 0o600 }));
  const database = await openDatabase(databaseUrl);
  const { app, projects, shop, previews, close } = makeApp(database, logger, PAGES);
  if (demo) await loadDemo(projects, shop);
  const clearOut = () =>
    void projects
      .clearOut(new Date())
      .catch((error: unknown) => logger.error({ err: error }, 'not cleared out'));
  clearOut();
  const clearing = setInterval(clearOut, CLEAR_OUT_MS);
  void previews.catchUp().catch((error: unknown) => logger.error({ err: error }, 'pictures not caught up'));
  const server = await new Promise<ReturnType<typeof app.listen>>((resolve, reject) => {
    const listening = app.listen(port, '127.0.0.1', (error) => (error ? reject(error) : resolve(listening)));
  });
  return {
    port: (server.address() as AddressInfo).port,
    async stop() {
      clearInterval(clearing);
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await close();
      await database.close();
    },
  };
}
