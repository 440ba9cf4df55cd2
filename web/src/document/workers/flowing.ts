import {
  type Found,
  type Free,
  type WantedPattern,
  pressFor,
} from '../../../../core/moves/forge/press/search.ts';
import { type FlowSpec, type FlowStage, keyOf, runFlow as runSpec } from '../../../../core/flow/run.ts';

/** What takes seconds; it is stopped by ending the worker. */
export const flowing = {
  /** Works a flow out, pass by pass; stages that are known are taken over. It is stopped by ending the worker. */
  runFlow(
    spec: FlowSpec,
    known: (FlowStage | undefined)[],
    found: (key: string, stage: FlowStage) => void,
    progress: (pass: number, share: number) => void,
  ): void {
    let told = 0;
    runSpec(
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
  searchPress(
    spec: FlowSpec,
    wanted: WantedPattern,
    free: Free,
    progress: (share: number, best: Found | null) => void,
  ): Found | null {
    return pressFor(spec, wanted, free, progress);
  },
};
