import { execFileSync } from 'node:child_process';
import { closeSync, mkdirSync, openSync, rmSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { line } from '../tools.ts';
import { Instance } from './instance.ts';
import { Writer } from './writers.ts';

const SIZE_MB = 220;
/** Longer than any request may take, ms. */
const NO_ANSWER_MS = 40_000;

/** Fills a small disk under a running instance, and empties it again. Needs to be root, for the disk. */
export async function fullDisk(dir: string, port: number): Promise<void> {
  if (process.getuid?.() !== 0) {
    line('full disk', 'not tried: only root may make a small disk');
    return;
  }
  mkdirSync(dir, { recursive: true });
  execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${SIZE_MB}m,mode=0755`, 'tmpfs', dir]);
  try {
    await tried(new Instance(join(dir, 'data'), port), join(dir, 'filling'));
  } finally {
    execFileSync('umount', ['-l', dir]);
  }
}

async function tried(instance: Instance, filling: string): Promise<void> {
  await instance.start();
  const [piece] = await instance.heads();
  const before = new Writer(instance, piece.id);
  const first = before.run();
  await new Promise((resolve) => setTimeout(resolve, 1000));
  before.end();
  await first;
  fill(filling);
  const { statuses, longest } = await whileFull(instance, piece.id);
  rmSync(filling);
  const back = await instance.healthy();
  const after = new Writer(instance, piece.id);
  const again = after.run();
  await new Promise((resolve) => setTimeout(resolve, 1000));
  after.end();
  await again;
  const lost = (await before.lost()) + (await after.lost());
  const runs = instance.runs;
  await instance.stop();
  line('full disk: answers meanwhile', statuses);
  line(
    'longest answer, back after room was made',
    `${(longest / 1000).toFixed(1)} s, ${(back / 1000).toFixed(1)} s`,
  );
  line('saves lost, server still the same', `${lost}, ${runs ? 'yes' : 'no'}`);
  if (lost > 0 || !runs) throw new Error('A full disk was not outlived');
}

function fill(path: string): void {
  const file = openSync(path, 'w');
  try {
    for (;;) writeSync(file, Buffer.alloc(64 * 1024));
  } catch {
    // Full.
  }
  closeSync(file);
}

/** Saves and looks until saves have been refused for a while: each is answered. */
async function whileFull(instance: Instance, id: string) {
  const counts = new Map<number, number>();
  let longest = 0;
  const opened = await instance.call<{ revision: number; plan: object }>('GET', `/projects/${id}`);
  const { plan } = opened.body;
  let { revision } = opened.body;
  for (let n = 0, refused = 0; n < 2000 && refused < 40; n++) {
    const began = performance.now();
    const notes = 'x'.repeat(10_000) + n;
    const save = { expectedRevision: revision, plan: { ...plan, notes } };
    const answer = await instance
      .call<{ revision: number; current?: { revision: number } }>(
        'PUT',
        `/projects/${id}`,
        save,
        NO_ANSWER_MS,
      )
      .catch(() => null);
    if (!answer) throw new Error('A request was not answered on a full disk');
    longest = Math.max(longest, performance.now() - began);
    counts.set(answer.status, (counts.get(answer.status) ?? 0) + 1);
    if (answer.status === 200) revision = answer.body.revision;
    else if (answer.status === 409) revision = answer.body.current!.revision;
    else refused += 1;
    await instance.call('GET', '/projects', undefined, NO_ANSWER_MS);
  }
  const statuses = [...counts].map(([status, n]) => `${n} × ${status}`).join(', ');
  return { statuses, longest };
}
