import { execFileSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import {
  chmodSync,
  closeSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  openSync,
  readFileSync,
  readdirSync,
  readlinkSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Client } from 'pg';

/** A PostgreSQL server of our own, on loopback. */
export interface Cluster {
  url: string;
  port: number;
  stop(): void;
}

const LIBRARY = '/usr/lib/postgresql';
const USER = 'retablo';
const DATABASE = 'retablo';
/** Tenths of a second that a killed server's workers get to notice. */
const DEAD_LOCK_TRIES = 200;

/** Where Debian keeps the newest server's programs. */
function programs(): string {
  const versions = existsSync(LIBRARY)
    ? readdirSync(LIBRARY).filter((v) => existsSync(join(LIBRARY, v, 'bin', 'initdb')))
    : [];
  const newest = versions.sort((a, b) => Number(b) - Number(a))[0];
  if (!newest) throw new Error('The PostgreSQL server is not installed: apt-get install postgresql');
  return join(LIBRARY, newest, 'bin');
}

const asRoot = process.getuid?.() === 0;

/** Runs one of PostgreSQL's programs, as its own unprivileged user when we are root. */
function run(program: string, args: string[], logFile: string): void {
  const path = join(programs(), program);
  const [command, all] = asRoot ? ['runuser', ['-u', 'postgres', '--', path, ...args]] : [path, args];
  const log = openSync(logFile, 'a');
  try {
    execFileSync(command, all, {
      cwd: '/',
      stdio: ['ignore', log, log],
      env: { ...process.env, LC_ALL: 'C.UTF-8' },
    });
  } catch {
    throw new Error(`${program} failed:\n${tailOf(logFile)}`);
  } finally {
    closeSync(log);
  }
}

function tailOf(file: string): string {
  return existsSync(file) ? readFileSync(file, 'utf8').trim().split('\n').slice(-8).join('\n') : '';
}

function give(path: string): void {
  if (asRoot) execFileSync('chown', ['-R', 'postgres:', path]);
}

/** Root hands the work to the user postgres, who must be able to reach the folder. */
function checkReach(dir: string): void {
  if (!asRoot) return;
  try {
    execFileSync('runuser', ['-u', 'postgres', '--', 'test', '-x', dir], { stdio: 'ignore' });
  } catch {
    throw new Error(
      `The database's user “postgres” cannot reach ${dir}. Put the project where other users may look (not under /root), or start it as an ordinary user.`,
    );
  }
}

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

interface Running {
  dir: string;
  port: number;
  /** Kept safe on disk after every save (slower), or thrown away after. */
  durable: boolean;
}

function startServer({ dir, port, durable }: Running): () => void {
  const data = join(dir, 'cluster');
  const log = join(dir, 'postgres.log');
  const options = `-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories=${dir}${durable ? '' : ' -c fsync=off'}`;
  const serverLog = join(dir, 'server.log');
  try {
    run('pg_ctl', ['-D', data, '-l', serverLog, '-w', '-o', options, 'start'], log);
  } catch (error) {
    throw new Error(`${(error as Error).message}\nThe server said:\n${tailOf(serverLog)}`, { cause: error });
  }
  return () => run('pg_ctl', ['-D', data, '-m', durable ? 'fast' : 'immediate', '-w', 'stop'], log);
}

/** The process that a cluster's lock file names, or null. */
function lockHolder(data: string): number | null {
  try {
    return Number(readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n')[0]);
  } catch {
    return null;
  }
}

/** Running; dead but never collected (for ever, in a container without an init); or gone. */
function stateOf(pid: number): 'alive' | 'zombie' | 'gone' {
  try {
    return /\) Z /.test(readFileSync(`/proc/${pid}/stat`, 'utf8')) ? 'zombie' : 'alive';
  } catch {
    return 'gone';
  }
}

/** Whether any process still works in the cluster's folder: all of PostgreSQL's do. */
const hasWorkers = (data: string): boolean =>
  readdirSync('/proc').some((pid) => {
    try {
      return /^\d+$/.test(pid) && readlinkSync(`/proc/${pid}/cwd`) === data;
    } catch {
      return false;
    }
  });

/**
 * After a kill the server's workers need a moment to notice, and hold its memory until they do. A killed server that nobody
 * collected still counts as running to PostgreSQL's own lock check: its locks are taken away, once the last worker has gone.
 */
async function outwaitKilled(dir: string): Promise<void> {
  const data = join(dir, 'cluster');
  const pid = lockHolder(data);
  const state = pid === null ? 'gone' : stateOf(pid);
  if (pid === null || state === 'alive') return;
  for (let tries = 0; hasWorkers(data); tries++) {
    if (tries === DEAD_LOCK_TRIES)
      throw new Error(
        `The database in ${data} was killed, but parts of it still run; stop them and start again.`,
      );
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  if (state !== 'zombie') return;
  rmSync(join(data, 'postmaster.pid'), { force: true });
  for (const file of readdirSync(dir))
    if (file.startsWith('.s.PGSQL.')) rmSync(join(dir, file), { force: true });
}

function isRunning(dir: string): boolean {
  try {
    run('pg_ctl', ['-D', join(dir, 'cluster'), 'status'], join(dir, 'postgres.log'));
    return true;
  } catch {
    return false;
  }
}

function create(dir: string, auth: string[], durable: boolean): void {
  run(
    'initdb',
    [
      '-D',
      join(dir, 'cluster'),
      '-U',
      USER,
      '-E',
      'UTF8',
      '--locale=C.UTF-8',
      ...auth,
      ...(durable ? [] : ['--no-sync']),
    ],
    join(dir, 'postgres.log'),
  );
}

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

/**
 * The lasting cluster in `dir`: made on first use with a password of its own, and started on the port it was last given.
 * A server left over from a killed start is stopped first; a stale lock is PostgreSQL's own to clear.
 */
export async function lastingCluster(dir: string, port: number): Promise<Cluster> {
  mkdirSync(dir, { recursive: true });
  give(dir);
  checkReach(dir);
  const passwordFile = join(dir, 'password');
  if (!existsSync(join(dir, 'cluster', 'PG_VERSION'))) {
    rmSync(join(dir, 'cluster'), { recursive: true, force: true });
    writeFileSync(passwordFile, randomBytes(18).toString('base64url'));
    chmodSync(passwordFile, 0o600);
    give(dir);
    create(dir, ['-A', 'scram-sha-256', `--pwfile=${passwordFile}`], true);
  }
  await outwaitKilled(dir);
  if (isRunning(dir))
    run('pg_ctl', ['-D', join(dir, 'cluster'), '-m', 'fast', '-w', 'stop'], join(dir, 'postgres.log'));
  const stop = startServer({ dir, port, durable: true });
  const base = `postgres://${USER}:${readFileSync(passwordFile, 'utf8').trim()}@127.0.0.1:${port}`;
  try {
    await ensureDatabase(`${base}/postgres`);
  } catch (error) {
    stop();
    throw error;
  }
  return { url: `${base}/${DATABASE}`, port, stop };
}

/** A cluster for tests: its own folder and port, nothing left behind. */
export async function temporaryCluster(): Promise<Cluster> {
  const dir = mkdtempSync(join(tmpdir(), 'retablo-test-'));
  give(dir);
  create(dir, ['-A', 'trust'], false);
  const port = await freePort();
  const stopServer = startServer({ dir, port, durable: false });
  const base = `postgres://${USER}@127.0.0.1:${port}`;
  await ensureDatabase(`${base}/postgres`);
  return {
    url: `${base}/${DATABASE}`,
    port,
    stop() {
      stopServer();
      rmSync(dir, { recursive: true, force: true });
    },
  };
}
