import * as Comlink from 'comlink';
import { create } from 'zustand';
import { keepStage, stageOf, workedOutElsewhere } from '../../../core/flow/known.ts';
import { type FlowSpec, keyOf } from '../../../core/flow/run.ts';
import { painter, reckoner } from '../steel/painter.ts';
import type { FlowWorker } from './flow.worker.ts';

workedOutElsewhere();

interface FlowState {
  /** Goes up when a flow that was waited for has become known. */
  found: number;
  /** What is under way: the pass, of how many, and how far it is. */
  running: { readonly pass: number; readonly of: number; readonly share: number } | null;
}

/** How far the flows are that are being worked out. */
export const useFlows = create<FlowState>()(() => ({ found: 0, running: null }));

/** Who waits for what: the open plan, the shelf. */
const wanted = new Map<string, readonly FlowSpec[]>();
let under: { readonly key: string; readonly worker: Worker } | null = null;

const whole = (spec: FlowSpec): string => keyOf(spec, spec.passes.length);

/** Says which flows someone waits for now, in place of those before. What nobody waits for any more is stopped. */
export function wantFlows(who: string, specs: readonly FlowSpec[]): void {
  wanted.set(who, specs);
  const all = [...wanted.values()].flat();
  if (under && !all.some((spec) => whole(spec) === under!.key)) {
    under.worker.terminate();
    under = null;
    useFlows.setState({ running: null });
  }
  next();
}

function next(): void {
  if (under) return;
  const spec = [...wanted.values()].flat().find((s) => !stageOf(s, s.passes.length));
  if (!spec) return;
  const worker = new Worker(new URL('./flow.worker.ts', import.meta.url), { type: 'module', name: 'flow' });
  const mine = { key: whole(spec), worker };
  under = mine;
  useFlows.setState({ running: { pass: 0, of: spec.passes.length, share: 0 } });
  const known = spec.passes.map((_, i) => stageOf(spec, i + 1));
  void Comlink.wrap<FlowWorker>(worker)
    .run(
      spec,
      known,
      Comlink.proxy((key, stage) => {
        // Of a flow that was given up in the meantime the finished passes are still right.
        keepStage(key, stage);
        void painter.keepStage(key, stage);
        void reckoner.keepStage(key, stage);
      }),
      Comlink.proxy((pass, share) => {
        if (under === mine) useFlows.setState({ running: { pass, of: spec.passes.length, share } });
      }),
    )
    .then(() => {
      worker.terminate();
      if (under !== mine) return;
      under = null;
      useFlows.setState(({ found }) => ({ found: found + 1, running: null }));
      next();
    });
}
