import * as Comlink from 'comlink';
import type { FlowStage } from '../../../../core/flow/run.ts';
import type { Plan } from '../../../../core/plan/index.ts';
import { shownAtWork } from '../atWork.ts';
import type { Work } from './work.worker.ts';

/** Who works beside the page, and what each does: a worker of its own, so that none holds up another. */
const ROLES = {
  // Pictures that are painted are seen to be: rough, then sharp. Only long ones are spoken of.
  painting: { what: 'Painting the steel', quietMs: 3000 },
  answers: { what: 'Working backward from the goal' },
  chances: { what: 'Running plans forward', quietMs: 8000 },
  pouring: { what: 'Pouring and shaking down' },
  moves: { what: 'Drawing what moves do', quietMs: 3000 },
  forms: { what: 'Working out the picture and its form' },
} satisfies Record<string, { what: string; quietMs?: number }>;
type Role = keyof typeof ROLES;

interface Limit {
  readonly ms: number;
  /** Said when it is over. */
  readonly why: string;
}

type Api = Comlink.Remote<Work>;

/** A worker that broke, or an answer that could not be worked out; the message is for the screen. */
export class WorkError extends Error {}

interface Instance {
  readonly worker: Worker;
  readonly api: Api;
  /** Rejects when the worker breaks or is ended as a whole; calls under way would never end. */
  readonly broken: Promise<never>;
  end(why: string): void;
  readonly keys: WeakMap<Plan, number>;
}

const instances = new Map<Role, Instance>();
/** Flows that are known, for workers that begin later. */
const stages = new Map<string, FlowStage>();
let lastKey = 0;

function begin(name: string): Instance {
  const worker = new Worker(new URL('./work.worker.ts', import.meta.url), { type: 'module', name });
  let fail: (error: WorkError) => void = () => undefined;
  const broken = new Promise<never>((_, reject) => {
    fail = reject;
    worker.addEventListener('error', (event) =>
      reject(new WorkError(event.message || 'the worker could not be started')),
    );
  });
  const end = (why: string) => {
    worker.terminate();
    fail(new WorkError(why));
  };
  // Heard where an answer is waited for; a worker that breaks while nobody waits is begun anew by the next.
  broken.catch(() => undefined);
  return { worker, api: Comlink.wrap<Work>(worker), broken, end, keys: new WeakMap() };
}

function instanceOf(role: Role): Instance {
  const known = instances.get(role);
  if (known) return known;
  const fresh = begin(role);
  instances.set(role, fresh);
  fresh.broken.catch(() => instances.delete(role));
  for (const [key, stage] of stages) void fresh.api.keepStage(key, stage);
  return fresh;
}

/** Has a worker ready before it is first asked. */
export const beginAhead = (role: Role): void => void instanceOf(role);

const said = (error: unknown): WorkError =>
  error instanceof WorkError ? error : new WorkError(error instanceof Error ? error.message : String(error));

/** Asks something that needs no plan. Whatever goes wrong, the promise ends; so it does when it is stopped, or past its limit. */
export async function ask<R>(role: Role, call: (api: Api) => R, limit?: Limit): Promise<Awaited<R>> {
  const { api, broken, end } = instanceOf(role);
  const timer = limit && setTimeout(() => end(limit.why), limit.ms);
  try {
    const answer = Promise.race<Awaited<R>>([Promise.resolve(call(api)), broken]);
    const { what, quietMs }: { what: string; quietMs?: number } = ROLES[role];
    return await shownAtWork(what, answer, () => end('it was stopped'), quietMs);
  } catch (error) {
    throw said(error);
  } finally {
    clearTimeout(timer);
  }
}

/** Asks about a plan, which is made known to the worker the first time. Plans are never changed in place. */
export function askOf<T>(
  role: Role,
  plan: Plan,
  call: (api: Api, planKey: number) => Promise<T>,
): Promise<T> {
  const { api, keys } = instanceOf(role);
  const known = keys.get(plan);
  const key = known ?? ++lastKey;
  if (known === undefined) {
    keys.set(plan, key);
    void api.know(key, plan);
  }
  return ask(role, (same) => call(same, key));
}

/** Has a plan worked through by the painter while the page itself does: the first picture is there sooner. */
export const paintAhead = (plan: Plan): void =>
  void askOf('painting', plan, (api, planKey) => api.workThrough(planKey)).catch(() => undefined);

/** Workers that are to be ended with their answer, begun before they are asked. */
const spares = new Map<string, Instance[]>();

/** Has so many ready before they are first asked, each once it has done something alike. */
export function beginApartAhead(name: string, count: number, alike: (api: Api) => Promise<unknown>): void {
  const there = spares.get(name) ?? [];
  spares.set(name, there);
  while (there.length < count) {
    const begun = begin(name);
    there.push(begun);
    // One that breaks is nobody's spare.
    begun.broken.catch(() => there.splice(0, there.length, ...there.filter((one) => one !== begun)));
    alike(begun.api).catch(() => undefined);
  }
}

/** What can be ended before it is done: a worker of its own, gone with the answer or with `end`. */
export function askApart<R>(
  name: string,
  call: (api: Api) => R,
): { readonly answer: Promise<Awaited<R>>; end(): void } {
  const { worker, api, broken } = spares.get(name)?.pop() ?? begin(name);
  for (const [key, stage] of stages) void api.keepStage(key, stage);
  const answer = Promise.race<Awaited<R>>([Promise.resolve(call(api)), broken])
    .catch((error: unknown) => {
      throw said(error);
    })
    .finally(() => worker.terminate());
  return { answer, end: () => worker.terminate() };
}

/** Everyone who works with flows is told of a stage. */
export function tellStage(key: string, stage: FlowStage): void {
  stages.set(key, stage);
  if (stages.size > MOST_STAGES) stages.delete(stages.keys().next().value!);
  for (const { api } of instances.values()) void api.keepStage(key, stage);
}

/** As many as are remembered beside the page. */
const MOST_STAGES = 400;
