import { type FlowSpec, type FlowStage, keyOf, runFlow } from './run.ts';

/** The port through which an evaluation asks how sections flow. */
export interface Flows {
  /** The stage after so many passes, as far as it is known: where an earlier one failed, that. */
  stageOf(spec: FlowSpec, passes: number): FlowStage | undefined;
  /** The stage after all passes; null where it is still to be worked out elsewhere. */
  of(spec: FlowSpec): FlowStage | null;
}

/** Stages kept at most, the oldest are dropped. */
const MOST = 400;

/** Stages by all that they depend on. The same question always has the same answer, so this is only a memory. */
export class KnownFlows implements Flows {
  private readonly stages = new Map<string, FlowStage>();

  stageOf(spec: FlowSpec, passes: number): FlowStage | undefined {
    for (let k = 1; k < passes; k++) {
      const earlier = this.stages.get(keyOf(spec, k));
      if (earlier && !earlier.ok) return earlier;
    }
    return this.stages.get(keyOf(spec, passes));
  }

  of(spec: FlowSpec): FlowStage | null {
    return this.stageOf(spec, spec.passes.length) ?? null;
  }

  keep(key: string, stage: FlowStage): void {
    this.stages.delete(key);
    this.stages.set(key, stage);
    if (this.stages.size > MOST) this.stages.delete(this.stages.keys().next().value!);
  }
}

/** Works out at once what is not known: for whoever may stand still meanwhile. */
export class WorkedOutFlows extends KnownFlows {
  override of(spec: FlowSpec): FlowStage {
    return (
      super.of(spec) ??
      runFlow(
        spec,
        (passes) => this.stageOf(spec, passes),
        (passes, stage) => this.keep(keyOf(spec, passes), stage),
      )
    );
  }
}
