import * as Comlink from 'comlink';
import { create } from 'zustand';
import { type Flows, KnownFlows } from '../../../core/flow/flows.ts';
import { type FlowSpec, type FlowStage, keyOf } from '../../../core/flow/run.ts';
import { type StoredStage, digestOf, fromStored, toStored } from '../../../core/flow/stored.ts';
import { request } from './api.ts';
import { shownAtWork } from './atWork.ts';
import { askApart, tellStage } from './workers/host.ts';

const pageFlows = new KnownFlows();

/** What is known now: another object whenever more is, so that whatever was made of it is made anew. */
const knownNow = (): Flows => ({
  of: (spec) => pageFlows.of(spec),
  stageOf: (spec, passes) => pageFlows.stageOf(spec, passes),
});

interface FlowState {
  /** What this page knows of flows: its evaluations ask here, and wait for what is missing. */
  flows: Flows;
  /** What is under way: the pass, of how many, and how far it is. */
  running: { readonly pass: number; readonly of: number; readonly share: number } | null;
}

/** How far the flows are that are being worked out. */
export const useFlows = create<FlowState>()(() => ({ flows: knownNow(), running: null }));

/** Who waits for what: the open plan, the shelf. */
const wanted = new Map<string, readonly FlowSpec[]>();
/** What is being worked out; it can be ended once it is certain that the answer is not kept already. */
let under: Under | null = null;

interface Under {
  readonly key: string;
  end: (() => void) | null;
}

/** A plan that is being changed waits until it is left alone: what is still being typed is not worked out. */
const QUIET_MS = 500;
let quiet: ReturnType<typeof setTimeout> | undefined;

const whole = (spec: FlowSpec): string => keyOf(spec, spec.passes.length);

/** Says which flows someone waits for now, in place of those before. What nobody waits for any more is stopped. */
export function wantFlows(who: string, specs: readonly FlowSpec[]): void {
  // One that became known leads to the next at once; one that is given up means that somebody types.
  const changed = wanted.get(who)?.some((spec) => !pageFlows.of(spec)) ?? false;
  wanted.set(who, specs);
  const all = [...wanted.values()].flat();
  if (under && !all.some((spec) => whole(spec) === under!.key)) {
    under.end?.();
    under = null;
    useFlows.setState({ running: null });
  }
  clearTimeout(quiet);
  if (changed) quiet = setTimeout(next, QUIET_MS);
  else next();
}

function next(): void {
  if (under) return;
  const spec = [...wanted.values()].flat().find((s) => !pageFlows.of(s));
  if (!spec) return;
  const mine: Under = { key: whole(spec), end: null };
  under = mine;
  const broken = (error: Error): void =>
    learn(mine.key, { ok: false, why: `working it out broke off: ${error.message}` });
  void workOut(spec, mine)
    .catch(broken)
    .then(() => {
      if (under !== mine) return;
      under = null;
      useFlows.setState({ running: null });
      next();
    });
}

/** Stops what is under way; it counts as one that could not be worked out until the piece is opened again. */
function stopFlow(mine: Under): void {
  if (under !== mine) return;
  mine.end?.();
  under = null;
  useFlows.setState({ running: null });
  learn(mine.key, {
    ok: false,
    why: 'it was stopped. Change a number, or load the page again, to have it worked out',
  });
  next();
}

/** Takes in a stage that was worked out or found. */
export function learn(key: string, stage: FlowStage): void {
  pageFlows.keep(key, stage);
  useFlows.setState({ flows: knownNow() });
  tellStage(key, stage);
}

/** Takes over what the database has of a flow, and has the rest worked out. */
async function workOut(spec: FlowSpec, mine: Under): Promise<void> {
  const keys = spec.passes.map((_, i) => keyOf(spec, i + 1));
  for (const [i, stored] of (await kept(keys)).entries())
    if (stored && !pageFlows.stageOf(spec, i + 1)) learn(keys[i], fromStored(stored));
  if (under !== mine || pageFlows.of(spec)) return;
  useFlows.setState({ running: { pass: 0, of: spec.passes.length, share: 0 } });
  const { answer, end } = askApart('flow', (api) =>
    api.runFlow(
      spec,
      spec.passes.map((_, i) => pageFlows.stageOf(spec, i + 1)),
      Comlink.proxy((key, stage) => {
        // Of a flow that was given up in the meantime the finished passes are still right.
        learn(key, stage);
        void keep(key, stage);
      }),
      Comlink.proxy((pass, share) => {
        if (under === mine) useFlows.setState({ running: { pass, of: spec.passes.length, share } });
      }),
    ),
  );
  const ended = new Promise<void>((resolve) => {
    mine.end = () => {
      end();
      resolve();
    };
  });
  await shownAtWork('Working out how the section flows', Promise.race([answer, ended]), () => stopFlow(mine));
}

/** Stages that the database has, in the order of their keys. Without an answer all of it is worked out here. */
async function kept(keys: readonly string[]): Promise<(StoredStage | undefined)[]> {
  try {
    const digests = keys.map(digestOf);
    const { stages } = await request<{ stages: Record<string, StoredStage> }>('POST', '/flows/find', {
      digests,
    });
    return digests.map((digest) => stages[digest]);
  } catch {
    return [];
  }
}

/** Leaves a stage with the database, for the next time; if that does not work, it is worked out again then. */
async function keep(key: string, stage: FlowStage): Promise<void> {
  try {
    await request('PUT', `/flows/${digestOf(key)}`, toStored(stage));
  } catch {
    // Nothing is lost by it.
  }
}
