import { randomBytes } from 'node:crypto';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Client } from 'pg';
import {
  USER,
  checkReach,
  create,
  give,
  installed,
  isAlive,
  outwaitKilled,
  startServer,
  stopServer,
  versionOf,
} from './postgres.ts';

/** A PostgreSQL server of our own, on loopback. */
export interface Cluster {
  url: string;
  port: number;
  stop(): Promise<void>;
}

/** One that lasts can be looked after: where its server has ended by itself, it is started again. */
export interface LastingCluster extends Cluster {
  /** Whether it had ended. */
  revive(): Promise<boolean>;
}

const DATABASE = 'retablo';

/** A port nobody listens on now. */
export const freePort = (): Promise<number> =>
  new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });

export const portIsFree = (port: number): Promise<boolean> =>
  new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(true)));
  });

async function withClient<T>(url: string, use: (client: Client) => Promise<T>): Promise<T> {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return await use(client);
  } finally {
    await client.end();
  }
}

const ensureDatabase = (adminUrl: string): Promise<void> =>
  withClient(adminUrl, async (client) => {
    const found = await client.query('SELECT 1 FROM pg_database WHERE datname = $1', [DATABASE]);
    if (found.rowCount === 0) await client.query(`CREATE DATABASE ${DATABASE}`);
  });

/** A copy of a database nobody is using, beside it; the copy's address. `name` is ours, not a user's. */
export async function copyDatabase(url: string, name: string): Promise<string> {
  const copy = new URL(url);
  const original = copy.pathname.slice(1);
  copy.pathname = '/postgres';
  await withClient(copy.href, (client) => client.query(`CREATE DATABASE ${name} TEMPLATE ${original}`));
  copy.pathname = `/${name}`;
  return copy.href;
}

/** Takes a copy away again, with whatever still listens to it. */
export async function dropDatabase(url: string): Promise<void> {
  const admin = new URL(url);
  const name = admin.pathname.slice(1);
  admin.pathname = '/postgres';
  await withClient(admin.href, (client) => client.query(`DROP DATABASE ${name} WITH (FORCE)`));
}

const passwordFile = (dir: string): string => join(dir, 'password');

const baseUrl = (dir: string, port: number): string =>
  `postgres://${USER}:${readFileSync(passwordFile(dir), 'utf8').trim()}@127.0.0.1:${port}`;

/** Where the database of a lasting cluster answers while it runs. */
export const databaseUrl = (dir: string, port: number): string => `${baseUrl(dir, port)}/${DATABASE}`;

/** The version that made the cluster in `dir`, if its programs are not here; null where all is well. */
export function missingVersion(dir: string): string | null {
  const version = versionOf(dir);
  return version === null || installed().includes(version) ? null : version;
}

/** Puts a cluster that cannot be started beside, so that another can be made in its place; where it lies now. */
export function setAside(dir: string): string {
  const aside = join(dir, `cluster-of-version-${versionOf(dir)}-${Date.now()}`);
  renameSync(join(dir, 'cluster'), aside);
  return aside;
}

/** Made beside and moved in its place when it is whole: a start that is killed in between leaves no half of one. */
async function createLasting(dir: string): Promise<void> {
  const password = passwordFile(dir);
  // What lies there without a version cannot be started; it is not ours to throw away.
  if (existsSync(join(dir, 'cluster')))
    renameSync(join(dir, 'cluster'), join(dir, `cluster-that-was-not-whole-${Date.now()}`));
  rmSync(join(dir, 'new'), { recursive: true, force: true });
  // The one there is stays: a cluster that was put beside is opened by it when it is put back.
  if (!existsSync(password)) writeFileSync(password, randomBytes(18).toString('base64url'));
  chmodSync(password, 0o600);
  give(dir);
  await create(dir, 'new', ['-A', 'scram-sha-256', `--pwfile=${password}`], true);
  renameSync(join(dir, 'new'), join(dir, 'cluster'));
}

/**
 * The lasting cluster in `dir`: made on first use with a password of its own, and started on the port it was last given, by the
 * programs of the version that made it. A server left over from a killed start is stopped first; a stale lock is PostgreSQL's own to
 * clear.
 */
export async function lastingCluster(dir: string, port: number): Promise<LastingCluster> {
  mkdirSync(dir, { recursive: true });
  give(dir);
  checkReach(dir);
  if (versionOf(dir) === null) await createLasting(dir);
  await outwaitKilled(dir);
  const running = { dir, port, durable: true };
  if (isAlive(dir)) await stopServer(running);
  await startServer(running);
  const stop = () => stopServer(running);
  try {
    await ensureDatabase(`${baseUrl(dir, port)}/postgres`);
  } catch (error) {
    await stop();
    throw error;
  }
  return {
    url: databaseUrl(dir, port),
    port,
    stop,
    async revive() {
      if (isAlive(dir) || !existsSync(dir)) return false;
      await outwaitKilled(dir);
      await startServer(running);
      return true;
    },
  };
}

/** A cluster for tests: its own folder and port, nothing left behind. */
export async function temporaryCluster(): Promise<Cluster> {
  const dir = mkdtempSync(join(tmpdir(), 'retablo-test-'));
  give(dir);
  await create(dir, 'cluster', ['-A', 'trust'], false);
  const port = await freePort();
  const running = { dir, port, durable: false };
  await startServer(running);
  const base = `postgres://${USER}@127.0.0.1:${port}`;
  await ensureDatabase(`${base}/postgres`);
  return {
    url: `${base}/${DATABASE}`,
    port,
    async stop() {
      await stopServer(running);
      rmSync(dir, { recursive: true, force: true });
    },
  };
}
