import { type ChildProcess, spawn } from 'node:child_process';
import {
  chmodSync,
  existsSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { demoCount } from '../server/demo/index.ts';
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
function start(asked = String(port), ...args: string[]): Promise<Started> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'bin/start.ts', ...args], {
    // The browser tests wait for the demo's pictures; here they would be begun anew at every start.
    env: { ...process.env, RETABLO_DATA: data, RETABLO_PORT: asked, RETABLO_PICTURES: 'off' },
  });
  children.push(child);
  return new Promise((resolve, reject) => {
    let said = '';
    const hear = (chunk: Buffer) => {
      said += chunk.toString();
      const url = said.match(/Retablo is at (http:\S+)/)?.[1];
      // All of it: what is printed comes in pieces.
      if (url && (!args.includes('--shop') || said.includes('Start with --cert')))
        resolve({ child, url, said });
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

/** The command line of copies, on the same data. */
function copies(...args: string[]): Promise<{ status: number | null; said: string }> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'bin/copies.ts', ...args], {
    env: { ...process.env, RETABLO_DATA: data },
  });
  let said = '';
  child.stdout.on('data', (chunk: Buffer) => (said += chunk.toString()));
  child.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()));
  return new Promise((resolve) => child.once('exit', (status) => resolve({ status, said })));
}

async function stopped(child: ChildProcess): Promise<void> {
  child.kill('SIGINT');
  await ended(child);
}

const postmaster = (): number =>
  Number(readFileSync(join(data, 'postgres', 'cluster', 'postmaster.pid'), 'utf8').split('\n')[0]);

const named = async (url: string, name: string) => (await projects(url)).find((p) => p.name === name);

const remove = async (url: string, name: string) =>
  fetch(`${url}api/projects/${(await named(url, name))!.id}`, { method: 'DELETE' });

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
  first.child.kill('SIGKILL');
  process.kill(postmaster(), 'SIGKILL');
  await ended(first.child);

  const second = await start();
  const after = await projects(second.url);
  expect(after).toHaveLength(demoCount());
  expect(after.find((p) => p.id === piece.id)).toMatchObject({
    name: 'Saved just before',
    revision: piece.revision + 1,
  });

  // A second start while one runs says where it is, and leaves it alone.
  await expect(start()).rejects.toThrow(`already running`);
  expect(await projects(second.url)).toHaveLength(demoCount());

  // Only the server is killed: the database is left over, and the next start takes it in hand.
  second.child.kill('SIGKILL');
  await ended(second.child);
  const third = await start();
  expect(await projects(third.url)).toHaveLength(demoCount());

  // Only the database is killed: the server that runs starts it again.
  process.kill(postmaster(), 'SIGKILL');
  await expect
    .poll(async () => (await projects(third.url).catch(() => []))?.length, { timeout: 120_000 })
    .toBe(demoCount());

  // Ctrl-C stops both cleanly.
  await stopped(third.child);
  expect(third.child.exitCode).toBe(0);
  expect(existsSync(join(data, 'postgres', 'cluster', 'postmaster.pid'))).toBe(false);

  // Its port taken by something else, it says so and takes another; one that is no port is refused.
  const squatter = createServer().listen(port, '127.0.0.1');
  const fourth = await start();
  expect(fourth.said).toContain(`Port ${port} is in use`);
  expect(new URL(fourth.url).port).not.toBe(String(port));
  squatter.close();
  await stopped(fourth.child);
  await expect(start('seventy')).rejects.toThrow('RETABLO_PORT must be a whole number from 1 to 65535');

  // The port asked for is taken also where another was used last; of two that start at once one gives way.
  const other = await freePort();
  const both = await Promise.allSettled([start(String(other)), start(String(other))]);
  const one = both.find((b) => b.status === 'fulfilled')!.value;
  const two = both.find((b) => b.status === 'rejected')!.reason as Error;
  expect(new URL(one.url).port).toBe(String(other));
  expect(two.message).toMatch(/already running \(process \d+\)/);
  await stopped(one.child);
});

it('answers in the shop’s network where it is asked to, and says how a device gets in', async () => {
  const started = await start(undefined, '--shop', '--name', 'Forge.test');
  const shop = new URL(/In the shop’s network it is at (\S+)/.exec(started.said)![1]);
  expect(shop.hostname).toBe('forge.test');
  expect(started.said).toMatch(/[█▀▄]{10}/);
  expect(started.said).toContain('not encrypted');
  const passphrase = /until the next start: (\S+)/.exec(started.said)![1];
  const knock = await fetch(`http://127.0.0.2:${shop.port}/door`, {
    method: 'POST',
    redirect: 'manual',
    body: new URLSearchParams({ passphrase, name: 'tablet' }),
  });
  const cookie = knock.headers.getSetCookie()[0].split(';')[0];
  const asTablet = async (at: string) =>
    (await fetch(`http://127.0.0.2:${at}/api/projects`, { headers: { cookie } })).status;
  expect(await asTablet(shop.port)).toBe(200);
  await stopped(started.child);
  // The same port, the same devices, another passphrase at the next start.
  const again = await start(undefined, '--shop', '--name', 'forge.test');
  expect(new URL(/In the shop’s network it is at (\S+)/.exec(again.said)![1]).port).toBe(shop.port);
  expect(again.said).not.toContain(passphrase);
  expect(await asTablet(shop.port)).toBe(200);
  await stopped(again.child);
  // Without it nothing is there.
  const alone = await start();
  await expect(asTablet(shop.port)).rejects.toThrow();
  await stopped(alone.child);
});

it('says what is wrong with its options', async () => {
  await expect(start(undefined, '--shp')).rejects.toThrow(/Unknown option '--shp'[^]*Usage: bin\/start/);
});

it('writes everything to one file and takes it back, while it runs and while it does not', async () => {
  const file = join(data, 'all.zip');
  const running = await start();
  expect(await copies('out', file)).toMatchObject({ status: 0 });
  await remove(running.url, 'Salt Marsh');
  expect((await copies('look', file)).said).toMatch(/same +piece +Salt Marsh/);
  const restored = await copies('restore', file);
  expect(restored.said).toContain('before-restore-');
  expect(await named(running.url, 'Salt Marsh')).toBeDefined();
  await stopped(running.child);

  expect((await copies('in', file)).said).toContain('0 new, 0 went on, 0 put beside');
  expect((await copies('restore')).said).toContain('daily-');
  for (const [args, words] of [
    [['melt'], 'Usage'],
    [['in', join(data, 'ports.json')], 'no copy file'],
    [['out', join(data, 'none', 'all.zip')], 'ENOENT'],
  ] as [string[], string][]) {
    const { status, said } = await copies(...args);
    expect({ status, said }).toEqual({ status: 2, said: expect.stringContaining(words) });
  }
});

it('takes the last copy where the cluster was made by a PostgreSQL that is not installed any more', async () => {
  const cluster = join(data, 'postgres', 'cluster');
  const own = readFileSync(join(cluster, 'PG_VERSION'), 'utf8');
  writeFileSync(join(cluster, 'PG_VERSION'), '9\n');
  const folder = join(data, 'copies');
  renameSync(folder, `${folder}-away`);
  // No copy: it says what to do, and leaves everything as it is.
  await expect(start()).rejects.toThrow('apt-get install postgresql-9');
  expect(readFileSync(join(cluster, 'PG_VERSION'), 'utf8')).toBe('9\n');
  renameSync(`${folder}-away`, folder);

  const again = await start();
  expect(again.said).toContain('is kept as it was in');
  expect(await projects(again.url)).toHaveLength(demoCount());
  await remove(again.url, 'Salt Marsh');
  await stopped(again.child);

  // Followed to the letter: its programs are there again, its folder takes the place of the new one.
  const [aside] = readdirSync(join(data, 'postgres')).filter((n) => n.startsWith('cluster-of-version-9-'));
  renameSync(cluster, `${cluster}-new`);
  renameSync(join(data, 'postgres', aside), cluster);
  writeFileSync(join(cluster, 'PG_VERSION'), own);
  const back = await start();
  expect(await named(back.url, 'Salt Marsh')).toBeDefined();
});
