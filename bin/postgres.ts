import { execFile, execFileSync } from 'node:child_process';
import { existsSync, readFileSync, readdirSync, readlinkSync, realpathSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';

const LIBRARY = '/usr/lib/postgresql';
export const USER = 'retablo';
/** Tenths of a second that a killed server's workers get to notice. */
const DEAD_LOCK_TRIES = 200;

const asRoot = process.getuid?.() === 0;

/** The versions whose programs Debian's packages have put here, newest first. */
export function installed(): string[] {
  const there = existsSync(LIBRARY) ? readdirSync(LIBRARY) : [];
  return there
    .filter((version) => existsSync(join(LIBRARY, version, 'bin', 'initdb')))
    .sort((a, b) => Number(b) - Number(a));
}

/** The version that made the cluster in a folder; null where there is none. */
export function versionOf(dir: string): string | null {
  const file = join(dir, 'cluster', 'PG_VERSION');
  return existsSync(file) ? readFileSync(file, 'utf8').trim() : null;
}

/** The cluster's own version while that is installed, otherwise the newest. */
function programs(dir: string): string {
  const all = installed();
  const own = versionOf(dir);
  const version = own !== null && all.includes(own) ? own : all[0];
  if (!version) throw new Error('The PostgreSQL server is not installed: apt-get install postgresql');
  return join(LIBRARY, version, 'bin');
}

const execute = promisify(execFile);

/** Runs one of PostgreSQL's programs, as its own unprivileged user when we are root. */
async function run(dir: string, program: string, args: string[]): Promise<void> {
  const path = join(programs(dir), program);
  const [command, all] = asRoot ? ['runuser', ['-u', 'postgres', '--', path, ...args]] : [path, args];
  const log = join(dir, 'postgres.log');
  try {
    // What it starts keeps none of our pipes: those would never close.
    await execute('sh', ['-c', 'exec "$@" >>"$0" 2>&1', log, command, ...all], {
      cwd: '/',
      env: { ...process.env, LC_ALL: 'C.UTF-8' },
    });
  } catch {
    throw new Error(`${program} failed:\n${tailOf(log)}`);
  }
}

const tailOf = (file: string): string =>
  existsSync(file) ? readFileSync(file, 'utf8').trim().split('\n').slice(-8).join('\n') : '';

/** The folder becomes that of the database's own user when we are root. */
export function give(path: string): void {
  if (asRoot) execFileSync('chown', ['-R', 'postgres:', path]);
}

/** Root hands the work to the user postgres, who must be able to reach the folder. */
export function checkReach(dir: string): void {
  if (!asRoot) return;
  try {
    execFileSync('runuser', ['-u', 'postgres', '--', 'test', '-x', dir], { stdio: 'ignore' });
  } catch {
    throw new Error(
      `The database's user “postgres” cannot reach ${dir}. Put the project where other users may look (not under /root), or start it as an ordinary user.`,
    );
  }
}

/** Makes a cluster in `name` of a folder. */
export const create = (dir: string, name: string, auth: string[], durable: boolean): Promise<void> =>
  run(dir, 'initdb', [
    '-D',
    join(dir, name),
    '-U',
    USER,
    '-E',
    'UTF8',
    '--locale=C.UTF-8',
    ...auth,
    ...(durable ? [] : ['--no-sync']),
  ]);

export interface Running {
  dir: string;
  port: number;
  /** Kept safe on disk after every save (slower), or thrown away after. */
  durable: boolean;
}

/** For the shell that PostgreSQL's starter hands its options to. */
const quoted = (text: string): string => `'${text.replaceAll("'", "'\\''")}'`;

/** Starts the cluster's server and waits until it takes connections: on loopback only, with a log a day for a week. */
export async function startServer({ dir, port, durable }: Running): Promise<void> {
  const serverLog = join(dir, 'server.log');
  const settings = {
    listen_addresses: '127.0.0.1',
    unix_socket_directories: '',
    ...(durable
      ? {
          logging_collector: 'on',
          log_directory: join(dir, 'log'),
          log_filename: 'postgres-%a.log',
          log_file_mode: '0600',
          log_rotation_age: '1d',
          log_truncate_on_rotation: 'on',
          // A statement holds a whole plan.
          log_min_error_statement: 'panic',
        }
      : { fsync: 'off' }),
  };
  const options = Object.entries(settings).map(([key, value]) => `-c ${key}=${quoted(value)}`);
  rmSync(serverLog, { force: true });
  try {
    const all = `-p ${port} ${options.join(' ')}`;
    await run(dir, 'pg_ctl', ['-D', join(dir, 'cluster'), '-l', serverLog, '-w', '-o', all, 'start']);
  } catch (error) {
    throw new Error(`${(error as Error).message}\nThe server said:\n${tailOf(serverLog)}`, { cause: error });
  }
}

export const stopServer = ({ dir, durable }: Pick<Running, 'dir' | 'durable'>): Promise<void> =>
  run(dir, 'pg_ctl', ['-D', join(dir, 'cluster'), '-m', durable ? 'fast' : 'immediate', '-w', 'stop']);

/** As the kernel names it: processes are told by the folder that they work in. */
function realData(dir: string): string {
  const data = join(dir, 'cluster');
  return existsSync(data) ? realpathSync(data) : data;
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

/** Whether the server of a folder's cluster is there. */
export function isAlive(dir: string): boolean {
  const data = realData(dir);
  const pid = lockHolder(data);
  return pid !== null && stateOf(pid) === 'alive' && isOf(pid, data);
}

/** After a restart of the machine another program may have the number that the lock file names. */
function isOf(pid: number, data: string): boolean {
  try {
    return readlinkSync(`/proc/${pid}/cwd`) === data;
  } catch {
    return true;
  }
}

/**
 * After a kill the server's workers need a moment to notice, and hold its memory until they do. A killed server that nobody
 * collected still counts as running to PostgreSQL's own lock check, as does another program with its number: such a lock is taken
 * away, once the last worker has gone.
 */
export async function outwaitKilled(dir: string): Promise<void> {
  const data = realData(dir);
  const pid = lockHolder(data);
  if (pid === null || isAlive(dir)) return;
  for (let tries = 0; hasWorkers(data); tries++) {
    if (tries === DEAD_LOCK_TRIES)
      throw new Error(
        `The database in ${data} was killed, but parts of it still run; stop them and start again.`,
      );
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  if (stateOf(pid) !== 'gone') rmSync(join(data, 'postmaster.pid'), { force: true });
}
