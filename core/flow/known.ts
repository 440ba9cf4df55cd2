import { type FlowSpec, type FlowStage, keyOf, runFlow } from './run.ts';

/** Stages kept at most, the oldest are dropped. */
const MOST = 400;

/** What was worked out, by all that it depends on. The same question always has the same answer, so this is only a memory. */
const stages = new Map<string, FlowStage>();

/** Where flows are worked out: here as soon as they are asked for, or elsewhere, so that whoever asks must wait. */
let elsewhere = false;

/** From now on flows that are not known are not worked out here: a page must not stand still. */
export const workedOutElsewhere = (): void => {
  elsewhere = true;
};

/** The stage after so many passes, as far as it is known: where an earlier one failed, that. */
export function stageOf(spec: FlowSpec, passes: number): FlowStage | undefined {
  for (let k = 1; k < passes; k++) {
    const earlier = stages.get(keyOf(spec, k));
    if (earlier && !earlier.ok) return earlier;
  }
  return stages.get(keyOf(spec, passes));
}

/** Takes a stage into the memory. */
export function keepStage(key: string, stage: FlowStage): void {
  stages.delete(key);
  stages.set(key, stage);
  if (stages.size > MOST) stages.delete(stages.keys().next().value!);
}

/** The stage after all passes of a spec; null where it is still to be worked out elsewhere. */
export function flowOf(spec: FlowSpec): FlowStage | null {
  const known = stageOf(spec, spec.passes.length);
  if (known || elsewhere) return known ?? null;
  return runFlow(
    spec,
    (passes) => stageOf(spec, passes),
    (passes, stage) => keepStage(keyOf(spec, passes), stage),
  );
}
