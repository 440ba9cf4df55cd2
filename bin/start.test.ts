import { type ChildProcess, spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { demoFiles } from '../server/demo/index.ts';
import { freePort } from './cluster.ts';

const data = mkdtempSync(join(tmpdir(), 'retablo-start-'));
// The database's own user must be able to look in.
chmodSync(data, 0o755);
const port = await freePort();
const children: ChildProcess[] = [];

interface Started {
  child: ChildProcess;
  url: string;
  said: string;
}

/** Runs the start command's second half and waits for its address, or for it to give up. */
function start(): Promise<Started> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'bin/start.ts'], {
    env: { ...process.env, RETABLO_DATA: data, RETABLO_PORT: String(port) },
  });
  children.push(child);
  return new Promise((resolve, reject) => {
    let said = '';
    const hear = (chunk: Buffer) => {
      said += chunk.toString();
      const url = said.match(/Retablo is at (http:\S+)/)?.[1];
      if (url) resolve({ child, url, said });
    };
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    child.on('exit', () => reject(new Error(said)));
  });
}

const ended = (child: ChildProcess): Promise<void> =>
  new Promise((resolve) =>
    child.exitCode !== null || child.signalCode !== null ? resolve() : child.once('exit', () => resolve()),
  );

const projects = async (url: string) =>
  (
    (await (await fetch(`${url}api/projects`)).json()) as {
      projects: { id: string; name: string; revision: number }[];
    }
  ).projects;

afterAll(async () => {
  for (const child of children) {
    child.kill('SIGTERM');
    await ended(child);
  }
  rmSync(data, { recursive: true, force: true });
});

it('keeps the last acknowledged revision through kill -9 of the server and the database', async () => {
  const first = await start();
  expect(new URL(first.url).port).toBe(String(port));
  const [piece] = await projects(first.url);
  const { plan } = (await (await fetch(`${first.url}api/projects/${piece.id}`)).json()) as { plan: object };
  const put = await fetch(`${first.url}api/projects/${piece.id}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({
      expectedRevision: piece.revision,
      plan: { ...plan, name: 'Saved just before' },
    }),
  });
  expect(put.status).toBe(200);
  const postmaster = Number(
    readFileSync(join(data, 'postgres', 'cluster', 'postmaster.pid'), 'utf8').split('\n')[0],
  );
  first.child.kill('SIGKILL');
  process.kill(postmaster, 'SIGKILL');
  await ended(first.child);

  const second = await start();
  const after = await projects(second.url);
  expect(after).toHaveLength(demoFiles().length);
  expect(after.find((p) => p.id === piece.id)).toMatchObject({
    name: 'Saved just before',
    revision: piece.revision + 1,
  });

  // A second start while one runs says where it is, and leaves it alone.
  await expect(start()).rejects.toThrow(`already running`);
  expect(await projects(second.url)).toHaveLength(demoFiles().length);

  // Only the server is killed: the database is left over, and the next start takes it in hand.
  second.child.kill('SIGKILL');
  await ended(second.child);
  const third = await start();
  expect(await projects(third.url)).toHaveLength(demoFiles().length);

  // Ctrl-C stops both cleanly.
  third.child.kill('SIGINT');
  await ended(third.child);
  expect(third.child.exitCode).toBe(0);
  expect(() => readFileSync(join(data, 'postgres', 'cluster', 'postmaster.pid'))).toThrow();

  // Its port taken by something else, it says so and takes another.
  const squatter = createServer().listen(port, '127.0.0.1');
  const fourth = await start();
  expect(fourth.said).toContain(`Port ${port} is in use`);
  expect(new URL(fourth.url).port).not.toBe(String(port));
  squatter.close();
});
