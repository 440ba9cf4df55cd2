import { fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { Op, type Sequelize } from 'sequelize';
import { KnownFlows } from '../core/flow/flows.ts';
import { type FlowSpec, type FlowStage, keyOf } from '../core/flow/run.ts';
import { type StoredStage, digestOf, fromStored, toStored } from '../core/flow/stored.ts';
import { type Evaluation, type Plan, evaluate, flowsAwaited } from '../core/plan/index.ts';
import { StoredFlow } from './database.ts';
import type { FlowAnswered, FlowAsked } from './flowProcess.ts';

/** Stages kept at most; those not asked for longest go first. */
const MOST = 3000;

/** How sections flow, kept in the database; what is missing for a plan is worked out in a process of its own. */
export class FlowStore {
  private readonly sequelize: Sequelize;
  private readonly known = new KnownFlows();

  constructor(sequelize: Sequelize) {
    this.sequelize = sequelize;
  }

  /** Those of some stages, or answers about seams, that are known, by digest. */
  async find<T = StoredStage>(digests: readonly string[]): Promise<Record<string, T>> {
    const rows = await StoredFlow.findAll({ where: { digest: [...digests] } });
    if (rows.length > 0)
      await StoredFlow.update({ usedAt: new Date() }, { where: { digest: rows.map((row) => row.digest) } });
    return Object.fromEntries(rows.map((row) => [row.digest, row.stage as T]));
  }

  async keep(digest: string, stage: StoredFlow['stage']): Promise<void> {
    await StoredFlow.upsert({ digest, stage, usedAt: new Date() });
    const over = (await StoredFlow.count()) - MOST;
    if (over <= 0) return;
    await this.sequelize.transaction(async (transaction) => {
      const oldest = await StoredFlow.findAll({
        attributes: ['digest'],
        order: [['usedAt', 'ASC']],
        limit: over,
        transaction,
      });
      await StoredFlow.destroy({
        where: { digest: { [Op.in]: oldest.map((row) => row.digest) } },
        transaction,
      });
    });
  }

  /** A plan evaluated with all its flows, those that were not known worked out first. */
  async evaluated(plan: Plan): Promise<Evaluation> {
    let evaluation = evaluate(plan, undefined, this.known);
    // Every flow that becomes known may bring the plan to the next one.
    for (let specs = flowsAwaited(evaluation); specs.length > 0; specs = flowsAwaited(evaluation)) {
      for (const spec of specs) await this.workOut(spec);
      evaluation = evaluate(plan, evaluation, this.known);
    }
    return evaluation;
  }

  /** The stages of a flow, pass by pass as far as it goes, worked out where they are not known. */
  async stagesOf(spec: FlowSpec): Promise<FlowStage[]> {
    await this.workOut(spec);
    return spec.passes.flatMap((_, i) => this.known.stageOf(spec, i + 1) ?? []);
  }

  private async workOut(spec: FlowSpec): Promise<void> {
    const keys = spec.passes.map((_, i) => keyOf(spec, i + 1));
    const digests = keys.map(digestOf);
    const kept = await this.find(digests);
    keys.forEach((key, i) => {
      const stored = kept[digests[i]];
      if (stored) this.known.keep(key, fromStored(stored));
    });
    if (this.known.stageOf(spec, spec.passes.length)) return;
    const known = spec.passes.map((_, i) => this.known.stageOf(spec, i + 1));
    const fresh = await apart({ spec, known });
    for (const [key, stage] of fresh) {
      this.known.keep(key, stage);
      await this.keep(digestOf(key), toStored(stage));
    }
  }
}

/** Works a flow out in a process of its own; the fresh stages. */
function apart(asked: FlowAsked): Promise<FlowAnswered> {
  return new Promise((resolve, reject) => {
    const process = fork(fileURLToPath(new URL('./flowProcess.ts', import.meta.url)), {
      execArgv: ['--import', 'tsx'],
      // Arrays of numbers go over as they are.
      serialization: 'advanced',
    });
    process.once('message', (answered) => resolve(answered as FlowAnswered));
    process.once('error', reject);
    process.once('exit', (code) => reject(new Error(`a flow’s process ended with ${code}`)));
    process.send(asked);
  });
}
