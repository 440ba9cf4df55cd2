import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { serve } from '../server/serve.ts';
import { freePort, lastingCluster, portIsFree } from './cluster.ts';

const DATA = process.env.RETABLO_DATA ?? join(dirname(fileURLToPath(import.meta.url)), '..', '.data');
const FIRST_PORT = 4870;

interface Ports {
  web: number;
  database: number;
}

const portsFile = join(DATA, 'ports.json');
const lockFile = join(DATA, 'start.pid');

function remembered(): Partial<Ports> {
  try {
    return JSON.parse(readFileSync(portsFile, 'utf8')) as Partial<Ports>;
  } catch {
    return {};
  }
}

/** The remembered port if it is free, otherwise another, said aloud. */
async function settle(port: number | undefined, what: string): Promise<number> {
  if (port !== undefined && (await portIsFree(port))) return port;
  const other = await freePort();
  if (port !== undefined)
    console.log(`Port ${port} is in use by something else; the ${what} takes ${other} instead.`);
  return other;
}

/** The process that holds the lock, if it is still a start of ours. */
function holder(): number | null {
  if (!existsSync(lockFile)) return null;
  const pid = Number(readFileSync(lockFile, 'utf8'));
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('bin/start.ts') ? pid : null;
  } catch {
    return null;
  }
}

async function main(): Promise<void> {
  mkdirSync(DATA, { recursive: true });
  const other = holder();
  if (other !== null && other !== process.pid) {
    console.error(`Retablo is already running (process ${other}) at http://127.0.0.1:${remembered().web}/`);
    process.exitCode = 1;
    return;
  }
  writeFileSync(lockFile, String(process.pid));
  // A database left running by a killed start still holds its port: it is stopped inside lastingCluster, on the same port.
  const last = remembered();
  const databaseDir = join(DATA, 'postgres');
  const leftOver = last.database !== undefined && existsSync(join(databaseDir, 'cluster', 'postmaster.pid'));
  const database = leftOver ? last.database! : await settle(last.database, 'database');
  const cluster = await lastingCluster(databaseDir, database);
  const web = await settle(last.web ?? (Number(process.env.RETABLO_PORT) || FIRST_PORT), 'application');
  writeFileSync(portsFile, JSON.stringify({ web, database } satisfies Ports));
  const serving = await serve({
    databaseUrl: cluster.url,
    port: web,
    logFile: join(DATA, 'server.log'),
    demo: true,
  });
  console.log(
    `Retablo is at http://127.0.0.1:${serving.port}/   (Ctrl-C stops it; the log is in ${join(DATA, 'server.log')})`,
  );
  let stopping = false;
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    await serving.stop();
    cluster.stop();
    rmSync(lockFile, { force: true });
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
