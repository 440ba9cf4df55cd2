import { setTimeout as wait } from 'node:timers/promises';
import { line } from '../tools.ts';
import type { Instance } from './instance.ts';
import { Writer } from './writers.ts';

const WRITERS = 4;

/** Kills server, database or both, again and again, while four writers save; then looks for every save that was answered. */
export async function kills(instance: Instance, times: number): Promise<void> {
  await instance.start();
  const pieces = (await instance.heads()).slice(0, WRITERS);
  const writers = pieces.map(({ id }) => new Writer(instance, id));
  const running = Promise.all(writers.map((w) => w.run()));
  // A writer that fails is told at the end.
  running.catch(() => undefined);
  const count = { server: 0, database: 0, both: 0 };
  const back: number[] = [];
  for (let i = 0; i < times; i++) {
    await wait(200 + Math.random() * 1300);
    const what = (['server', 'database', 'both'] as const)[Math.floor(Math.random() * 3)];
    count[what] += 1;
    const began = performance.now();
    if (what !== 'server') instance.signalDatabase('SIGKILL');
    if (what !== 'database') {
      await instance.killServer();
      await instance.start();
    }
    await instance.healthy();
    back.push(performance.now() - began);
  }
  writers.forEach((w) => w.end());
  await running;
  const acknowledged = writers.reduce((sum, w) => sum + w.acknowledged.length, 0);
  let lost = 0;
  for (const writer of writers) lost += await writer.lost();
  await instance.stop();
  back.sort((a, b) => a - b);
  line('kills (server, database, both)', `${times} (${count.server}, ${count.database}, ${count.both})`);
  line('saves answered, lost', `${acknowledged}, ${lost}`);
  line(
    'until it answers again: middle, longest',
    `${(back[back.length >> 1] / 1000).toFixed(1)} s, ${(back.at(-1)! / 1000).toFixed(1)} s`,
  );
  if (lost > 0) throw new Error(`${lost} saves were lost`);
}
