import { type FlowSpec, type FlowStage, keyOf, runFlow } from '../core/flow/run.ts';

/** What is to be worked out; stages that are known are taken over. */
export interface FlowAsked {
  readonly spec: FlowSpec;
  readonly known: readonly (FlowStage | undefined)[];
}

/** The fresh stages with their keys. */
export type FlowAnswered = [key: string, stage: FlowStage][];

process.once('message', ({ spec, known }: FlowAsked) => {
  const fresh: FlowAnswered = [];
  runFlow(
    spec,
    (passes) => known[passes - 1],
    (passes, stage) => fresh.push([keyOf(spec, passes), stage]),
  );
  process.send!(fresh, () => process.disconnect());
});
