import { readFileSync } from 'node:fs';
import { evaluate, readPlan } from '../../core/plan/index.ts';
import { summarize } from '../../core/print/summary.ts';
import { demoFiles } from '../../server/demo/index.ts';
import { line } from '../tools.ts';
import type { Instance } from './instance.ts';

/** Processor time that one plan may take, s. */
const MOST_S = 3;

const anyOf = <T>(list: readonly T[]): T => list[Math.floor(Math.random() * list.length)];

type Holder = Record<string | number, unknown>;

/** Every place in a plan where something stands that is no group or list. */
function places(node: unknown, found: [Holder, string | number][] = []): [Holder, string | number][] {
  if (typeof node !== 'object' || node === null) return found;
  for (const key of Array.isArray(node) ? node.keys() : Object.keys(node)) {
    const value = (node as Holder)[key];
    if (typeof value === 'object' && value !== null) places(value, found);
    else found.push([node as Holder, key]);
  }
  return found;
}

const WILD: readonly unknown[] = [null, '', 'x', true, [], {}, -1, 0, 1e-6, 1e9, 1e300, -0.5, '½', undefined];

function mutated(): unknown {
  const plan: unknown = JSON.parse(readFileSync(anyOf(demoFiles()), 'utf8'));
  const all = places(plan);
  for (let n = 1 + Math.floor(Math.random() * 3); n > 0; n--) {
    const [holder, key] = anyOf(all);
    const was = holder[key];
    // Mostly other numbers, so that most plans pass the first gate.
    const scaled = typeof was === 'number' && Math.random() < 0.8;
    holder[key] = scaled ? was * 10 ** (Math.random() * 4 - 2) : anyOf(WILD);
  }
  return plan;
}

/** Damaged plans through the core: none throws, none takes long, each refusal names its field. */
export function mutationsInCore(times: number): void {
  let [refused, slowest, nameless] = [0, 0, 0];
  for (let i = 0; i < times; i++) {
    const content = mutated();
    const began = process.cpuUsage();
    try {
      const read = readPlan(content);
      if (read.ok) summarize(evaluate(read.plan));
      else {
        refused += 1;
        if (read.problems.length === 0 || read.problems.some((p) => p.path === '')) nameless += 1;
      }
    } catch (error) {
      throw new Error(`A plan made the core throw: ${JSON.stringify(content).slice(0, 3000)}`, {
        cause: error,
      });
    }
    const { user, system } = process.cpuUsage(began);
    slowest = Math.max(slowest, (user + system) / 1e6);
  }
  line('damaged plans through the core, refused', `${times}, ${refused}`);
  line('refusals without a field, slowest', `${nameless}, ${slowest.toFixed(2)} s of processor time`);
  if (nameless > 0 || slowest > MOST_S) throw new Error('A damaged plan was not dealt with');
}

interface Refusal {
  readonly id?: string;
  readonly problems?: readonly { path: string }[];
}

/** The same over HTTP: answered in time, refused with the field or put on the shelf and opened. */
export async function mutationsOverHttp(instance: Instance, times: number): Promise<void> {
  await instance.start();
  const statuses = new Map<number, number>();
  let slowest = 0;
  for (let i = 0; i < times; i++) {
    const plan = mutated();
    const began = performance.now();
    const { status, body } = await instance.call<Refusal>('POST', '/projects', { plan });
    statuses.set(status, (statuses.get(status) ?? 0) + 1);
    if (status === 201) {
      const opened = await instance.call('GET', `/projects/${body.id}`);
      if (opened.status !== 200) throw new Error(`A piece was taken and cannot be opened: ${opened.status}`);
      slowest = Math.max(slowest, performance.now() - began);
      await instance.call('DELETE', `/projects/${body.id}`);
    } else if (status !== 400 || !body.problems?.length || body.problems.some((p) => p.path === ''))
      throw new Error(`A damaged plan was answered ${status}: ${JSON.stringify(body)}`);
    else slowest = Math.max(slowest, performance.now() - began);
  }
  await instance.stop();
  line('damaged plans over HTTP', [...statuses].map(([s, n]) => `${n} × ${s}`).join(', '));
  line('slowest answer', `${slowest.toFixed(0)} ms`);
  if (slowest > MOST_S * 1000) throw new Error('A damaged plan was not answered in time');
}
