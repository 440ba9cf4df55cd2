import './zodWithoutEval.ts';
import * as Comlink from 'comlink';
import { type Found, type Free, type Wanted, pressFor } from '../../../../core/moves/forge/press/search.ts';
import { type FlowSpec, type FlowStage, keyOf, runFlow } from '../../../../core/flow/run.ts';

const worker = {
  /** Works a flow out, pass by pass; stages that are known are taken over. It is stopped by ending the worker. */
  run(
    spec: FlowSpec,
    known: (FlowStage | undefined)[],
    found: (key: string, stage: FlowStage) => void,
    progress: (pass: number, share: number) => void,
  ): void {
    let told = 0;
    runFlow(
      spec,
      (passes) => known[passes - 1],
      (passes, stage) => found(keyOf(spec, passes), stage),
      (pass, share) => {
        const now = performance.now();
        if (now - told < 80) return;
        told = now;
        progress(pass, share);
      },
    );
  },
  /** Looks for the way of pressing that comes nearest to what is wanted. Stopped like the rest. */
  search(
    spec: FlowSpec,
    wanted: Wanted,
    free: Free,
    progress: (share: number, best: Found | null) => void,
  ): Found | null {
    return pressFor(spec, wanted, free, progress);
  },
};

export type FlowWorker = typeof worker;

Comlink.expose(worker);
