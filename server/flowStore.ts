import { Op, type Sequelize } from 'sequelize';
import { KnownFlows } from '../core/flow/flows.ts';
import { type FlowSpec, type FlowStage, keyOf } from '../core/flow/run.ts';
import { type StoredStage, digestOf, fromStored, toStored } from '../core/flow/stored.ts';
import { StoredFlow } from './database.ts';
import { badPlan } from './errors.ts';
import type { Answer, Asked, ReckoningPool, Task } from './reckoning/pool.ts';

/** Stages kept at most; those not asked for longest go first. */
const MOST = 3000;

/** Flows may wait for one another; more rounds than this are no plan of ours. */
const MOST_ROUNDS = 60;

/** Tasks that begin with a plan. */
type PlanTask = Exclude<Task, 'flow'>;
type Wanted<T extends PlanTask> = Omit<Asked<T>, 'stages'>;
type Done<T extends PlanTask> = Extract<Answer<T>, { done: unknown }>['done'];

/** How sections flow, kept in the database; what is missing for a plan is worked out in the pool. */
export class FlowStore {
  private readonly sequelize: Sequelize;
  private readonly known = new KnownFlows();

  private readonly pool: ReckoningPool;

  constructor(sequelize: Sequelize, pool: ReckoningPool) {
    this.sequelize = sequelize;
    this.pool = pool;
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

  /**
   * What a task makes of a plan, its flows worked out first; every flow that becomes known may bring the plan to the next one. The plan
   * may be fetched when its turn has come.
   */
  async reckoned<T extends PlanTask>(
    task: T,
    asked: Wanted<T> | (() => Promise<Wanted<T>>),
    { left, rounds = MOST_ROUNDS }: { left?: AbortSignal; rounds?: number } = {},
  ): Promise<Done<T> | 'waits'> {
    const stages = new Map<string, FlowStage>();
    let known: Wanted<T> | undefined;
    for (let round = 0; round < rounds; round++) {
      const fetched = async () => (known ??= typeof asked === 'function' ? await asked() : asked);
      const whole = async () => ({ ...(await fetched()), stages: [...stages] }) as unknown as Asked<T>;
      const made = await this.pool.run(task, whole, left);
      if (made.refused) throw badPlan(made.refused);
      if ('done' in made) return made.done as Done<T>;
      if (round + 1 === rounds) break;
      for (const spec of made.awaits)
        for (const [passes, stage] of (await this.stagesOf(spec, left)).entries())
          stages.set(keyOf(spec, passes + 1), stage);
    }
    return 'waits';
  }

  /** The stages of a flow, pass by pass as far as it goes, worked out where they are not known. */
  private async stagesOf(spec: FlowSpec, left?: AbortSignal): Promise<FlowStage[]> {
    await this.workOut(spec, left);
    return spec.passes.flatMap((_, i) => this.known.stageOf(spec, i + 1) ?? []);
  }

  private async workOut(spec: FlowSpec, left?: AbortSignal): Promise<void> {
    const keys = spec.passes.map((_, i) => keyOf(spec, i + 1));
    const digests = keys.map(digestOf);
    const kept = await this.find(digests);
    keys.forEach((key, i) => {
      const stored = kept[digests[i]];
      if (stored) this.known.keep(key, fromStored(stored));
    });
    if (this.known.stageOf(spec, spec.passes.length)) return;
    const known = spec.passes.map((_, i) => this.known.stageOf(spec, i + 1));
    const fresh = await this.pool.run('flow', { spec, known }, left);
    for (const [key, stage] of fresh) {
      this.known.keep(key, stage);
      await this.keep(digestOf(key), toStored(stage));
    }
  }
}
