import { readFileSync } from 'node:fs';
import { KnownFlows } from '../../core/flow/flows.ts';
import { judge } from '../../core/judgement/index.ts';
import { allSteps, evaluate, readPlan, startFor } from '../../core/plan/index.ts';
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

/** Of so many plans that are taken one is worked backward too, as the page has it done in a worker. */
const BACKWARD_EVERY = 20;

const secondsOf = ({ user, system }: NodeJS.CpuUsage): number => (user + system) / 1e6;

/** Damaged plans through the core: none throws, none takes long, each refusal names its field. */
export function mutationsInCore(times: number): void {
  let [refused, slowest, nameless, slowestBack] = [0, 0, 0, 0];
  for (let i = 0; i < times; i++) {
    const content = mutated();
    const began = process.cpuUsage();
    try {
      const read = readPlan(content);
      if (read.ok) {
        // Flows are worked out beside it, in a worker that can be stopped or a pool with a limit of time.
        const evaluation = evaluate(read.plan, undefined, new KnownFlows());
        for (const step of allSteps(evaluation)) judge(evaluation, step);
        slowest = Math.max(slowest, secondsOf(process.cpuUsage(began)));
        if (i % BACKWARD_EVERY !== 0) continue;
        const back = process.cpuUsage();
        startFor(read.plan, evaluation.flows);
        slowestBack = Math.max(slowestBack, secondsOf(process.cpuUsage(back)));
      } else {
        refused += 1;
        if (read.problems.length === 0 || read.problems.some((p) => p.path === '')) nameless += 1;
        slowest = Math.max(slowest, secondsOf(process.cpuUsage(began)));
      }
    } catch (error) {
      throw new Error(`A plan made the core throw: ${JSON.stringify(content).slice(0, 3000)}`, {
        cause: error,
      });
    }
  }
  line('damaged plans through the core, refused', `${times}, ${refused}`);
  line('refusals without a field, slowest', `${nameless}, ${slowest.toFixed(2)} s of processor time`);
  line('worked backward as well, slowest', `${slowestBack.toFixed(2)} s of processor time`);
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
