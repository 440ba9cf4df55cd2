import { setTimeout as wait } from 'node:timers/promises';
import { line } from '../tools.ts';
import type { Instance } from './instance.ts';

const PIECES = 500;
const BYTES = 30_000;
const WRITERS = 4;
const SAVES = 100;
const PDFS = 20;

const at = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))];
const ms = (value: number): string => `${value.toFixed(0)} ms`;

async function timed(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

interface Piece {
  readonly id: string;
  readonly revision: number;
  readonly plan: { name: string; notes: string };
}

/** How fast the shelf, saves, PDFs and the pulse are with five hundred pieces. */
export async function rates(instance: Instance): Promise<void> {
  await instance.start();
  const first = (await instance.heads()).find(({ name }) => name === 'Salt Marsh')!;
  const { plan } = (await instance.call<Piece>('GET', `/projects/${first.id}`)).body;
  const notes = 'n'.repeat(Math.max(0, Math.min(20_000, BYTES - JSON.stringify(plan).length)));
  const pieces: Piece[] = [];
  for (let i = 0; i < PIECES; i++) {
    const made = await instance.call<Piece>('POST', '/projects', {
      plan: { ...plan, name: `Piece ${i}`, notes },
    });
    pieces.push(made.body);
  }
  const bytes = JSON.stringify(pieces[0].plan).length;
  // The small pictures are made meanwhile; what is measured is a server at rest.
  await pictured(instance);
  const shelf: number[] = [];
  for (let i = 0; i < 50; i++) shelf.push(await timed(() => instance.call('GET', '/projects?limit=60')));
  shelf.sort((a, b) => a - b);
  line(
    `shelf of ${PIECES} pieces of ${(bytes / 1000).toFixed(0)} kB: middle, longest`,
    `${ms(at(shelf, 0.5))}, ${ms(at(shelf, 1))}`,
  );

  const saves: number[] = [];
  await Promise.all(
    Array.from({ length: WRITERS }, async (_, w) => {
      const { id, plan: mine } = pieces[w];
      let { revision } = pieces[w];
      for (let n = 0; n < SAVES; n++) {
        const body = { expectedRevision: revision, plan: { ...mine, name: `Piece ${w}, ${n}` } };
        const began = performance.now();
        const saved = await instance.call<Piece>('PUT', `/projects/${id}`, body);
        saves.push(performance.now() - began);
        revision = saved.body.revision;
        await wait(Math.random() * 40);
      }
    }),
  );
  saves.sort((a, b) => a - b);
  line(`saves, ${WRITERS} writers: middle, 99 %`, `${ms(at(saves, 0.5))}, ${ms(at(saves, 0.99))}`);

  const asked = pieces.slice(10, 10 + PDFS);
  const pulse: number[] = [];
  const papers = Promise.all(
    asked.map(async ({ id }) => {
      const response = await fetch(`${instance.url}api/projects/${id}/wall.pdf`);
      await response.arrayBuffer();
      return response.status;
    }),
  );
  let done = false;
  const statuses = papers.finally(() => (done = true));
  while (!done) {
    pulse.push(await timed(() => instance.call('GET', '/health')));
    await wait(40);
  }
  pulse.sort((a, b) => a - b);
  const count = (await statuses).filter((status) => status === 200).length;
  line(
    `the pulse while ${PDFS} PDFs are asked for (${count} came): middle, longest`,
    `${ms(at(pulse, 0.5))}, ${ms(at(pulse, 1))}`,
  );
  await instance.stop();
}

async function pictured(instance: Instance): Promise<void> {
  for (;;) {
    const { projects } = (
      await instance.call<{ projects: { preview: object | null }[] }>(
        'GET',
        '/projects?limit=100&offset=400&sort=name',
      )
    ).body;
    if (projects.every((p) => p.preview !== null)) return;
    await wait(1000);
  }
}
