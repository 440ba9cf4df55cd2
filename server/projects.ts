import { type FindOptions, Op, QueryTypes, type Sequelize, type Transaction, literal } from 'sequelize';
import {
  KEPT_DAYS,
  type Plan,
  type ProjectState,
  type ReadPlan,
  type ShelfPage,
  type ShelfQuery,
  type StoredProject,
  asPlanned,
  migratedPlan,
  readPlan,
} from '../core/plan/index.ts';
import type { BenchRecord } from '../core/records/record.ts';
import { PlanRevision, Preview, Project } from './database.ts';
import { ApiError, badPlan } from './errors.ts';
import { thinned } from './history.ts';
import { RecordStore } from './records.ts';

/** A save as it comes in: from which revision it goes on, which save it is, and after which own one it was made. */
interface Save {
  readonly expectedRevision: number;
  readonly saveId?: string | undefined;
  readonly afterSaves?: readonly string[] | undefined;
  readonly plan: unknown;
}

const DAY_MS = 86_400_000;
/** Saves of a piece between one thinning of its history and the next. */
const THINNED_EVERY = 10;

const stored = (project: Project, plan: Plan, records: readonly BenchRecord[]): StoredProject => ({
  id: project.id,
  name: project.name,
  state: project.state,
  revision: project.revision,
  updatedAt: project.updatedAt.toISOString(),
  plan: asPlanned(plan),
  records,
  log: project.log,
});

type PieceNow = Pick<Project, 'id' | 'name' | 'state' | 'revision'>;

const nowOf = ({ id, name, state, revision }: Project): PieceNow => ({ id, name, state, revision });

const headOf = ({ goal, shop }: Plan) => ({ goal, lengths: shop.lengths });

function checked(read: ReadPlan): Plan {
  if (!read.ok) throw badPlan(read.problems);
  return read.plan;
}

/** Inside a transaction on its own connection: saves that wait for each other must not wait for a connection too. */
async function newest({ id, revision }: Project, transaction?: Transaction): Promise<PlanRevision> {
  const found = await PlanRevision.findOne({ where: { projectId: id, revision }, transaction });
  if (!found) throw new Error(`project ${id} has no revision ${revision}`);
  return found;
}

const planOf = async (project: Project, transaction?: Transaction): Promise<Plan> =>
  checked(readPlan((await newest(project, transaction)).plan));

const notOnTheShelf = (): ApiError =>
  new ApiError('not found', 'There is no such piece on the shelf; it may have been removed.');

/** A piece that is on the shelf. */
async function onTheShelf(id: string, options: FindOptions = {}): Promise<Project> {
  const project = await Project.findByPk(id, options);
  if (!project || project.removedAt) throw notOnTheShelf();
  return project;
}

/** Projects and their plans, kept as whole revisions. */
export class ProjectStore {
  readonly records: RecordStore;
  private readonly sequelize: Sequelize;
  constructor(sequelize: Sequelize) {
    this.sequelize = sequelize;
    this.records = new RecordStore(sequelize);
  }

  /** Heads of pieces, with how many there are in all; one query, and no plan is opened. */
  async list({ search, state, sort, offset, limit }: ShelfQuery): Promise<ShelfPage> {
    const rows = await Project.findAll({
      attributes: {
        include: [
          [literal('count(*) OVER()'), 'total'],
          [literal('"Preview"."picture" IS NOT NULL'), 'hasPicture'],
        ],
      },
      include: [{ model: Preview, attributes: ['revision', 'log', 'verdict'] }],
      where: {
        ...(search === '' ? {} : { name: { [Op.iLike]: `%${search.replace(/[\\%_]/g, '\\$&')}%` } }),
        removedAt: state === 'removed' ? { [Op.ne]: null } : null,
        ...(state === 'any' || state === 'removed' ? {} : { state }),
      },
      order:
        sort === 'name'
          ? [
              ['name', 'ASC'],
              ['id', 'ASC'],
            ]
          : [
              ['updatedAt', 'DESC'],
              ['id', 'ASC'],
            ],
      offset,
      limit,
    });
    return {
      total: rows.length === 0 ? 0 : Number(rows[0].get('total')),
      projects: rows.map(
        ({ id, name, state: now, revision, log, updatedAt, removedAt, goal, lengths, Preview: made }, i) => ({
          id,
          name,
          state: now,
          revision,
          log,
          updatedAt: updatedAt.toISOString(),
          removedAt: removedAt?.toISOString() ?? null,
          goal,
          lengths,
          preview: made
            ? {
                revision: made.revision,
                log: made.log,
                verdict: made.verdict,
                hasPicture: rows[i].get('hasPicture') === true,
              }
            : null,
        }),
      ),
    };
  }

  /** Names of the pieces in whose moves a text stands, as JSON writes it. */
  async whosePlanSays(text: string): Promise<string[]> {
    const names: string[] = [];
    for (const project of await Project.findAll({ where: { removedAt: null }, order: [['name', 'ASC']] })) {
      const { plan } = await newest(project);
      if (JSON.stringify(plan.lanes).includes(text)) names.push(project.name);
    }
    return names;
  }

  /** The small picture of a piece (PNG), or null where there is none. */
  async picture(id: string): Promise<Buffer | null> {
    return (await Preview.findByPk(id, { attributes: ['picture'] }))?.picture ?? null;
  }

  async get(id: string): Promise<StoredProject> {
    const project = await onTheShelf(id);
    return stored(project, await planOf(project), await this.records.of(id));
  }

  /** A new piece. What was written at the bench comes along, and is kept beside the plan. */
  async create(content: unknown): Promise<StoredProject> {
    const { records = [], ...plan } = checked(readPlan(content));
    return this.sequelize.transaction(async (transaction) => {
      const state = records.length > 0 ? 'at the bench' : 'planning';
      const project = await Project.create(
        { name: plan.name, state, revision: 1, log: records.length, ...headOf(plan) },
        { transaction },
      );
      await PlanRevision.create({ projectId: project.id, revision: 1, plan }, { transaction });
      await this.records.take(project.id, records, transaction);
      return stored(project, plan, records);
    });
  }

  /**
   * Saves a new revision if `expectedRevision` is still the newest, or the newest came of a save that this one follows; otherwise a
   * conflict that carries both plans. A save that was taken before is answered as it was then: it may be sent again.
   */
  async save(
    id: string,
    { expectedRevision, saveId, afterSaves, plan: content }: Save,
  ): Promise<StoredProject> {
    const plan = asPlanned(checked(readPlan(content)));
    const saved = await this.sequelize.transaction(async (transaction) => {
      const project = await onTheShelf(id, { transaction, lock: transaction.LOCK.UPDATE });
      const records = await this.records.of(id, transaction);
      const taken = saveId
        ? await PlanRevision.findOne({ where: { projectId: id, saveId }, transaction })
        : null;
      if (taken) return { ...stored(project, plan, records), revision: taken.revision };
      if (project.revision !== expectedRevision && !(await this.follows(project, afterSaves, transaction))) {
        const current = stored(project, await planOf(project, transaction), records);
        throw new ApiError('conflict', 'This piece was changed elsewhere since you opened it.', {
          current,
          yours: plan,
        });
      }
      project.revision += 1;
      project.set({ name: plan.name, ...headOf(plan) });
      await project.save({ transaction });
      await PlanRevision.create(
        { projectId: id, revision: project.revision, plan, saveId: saveId ?? null },
        // What was written need not come back.
        { transaction, returning: false },
      );
      if (project.revision % THINNED_EVERY === 0) await thinned(this.sequelize, id, new Date(), transaction);
      return stored(project, plan, records);
    });
    this.records.tell(id, { what: 'plan', revision: saved.revision });
    return saved;
  }

  /** Whether the newest revision came of one of these saves: whoever sent them goes on from there, though the answers may have been lost. */
  private async follows(
    project: Project,
    saveIds: readonly string[] = [],
    transaction: Transaction,
  ): Promise<boolean> {
    if (saveIds.length === 0) return false;
    const { id: projectId, revision } = project;
    return (
      (await PlanRevision.count({ where: { projectId, revision, saveId: [...saveIds] }, transaction })) > 0
    );
  }

  async setState(id: string, state: ProjectState): Promise<PieceNow> {
    const project = await onTheShelf(id);
    await project.update({ state });
    return nowOf(project);
  }

  /** The newest plan as it lies there, also one that this Retablo cannot read, with what came of it. */
  async raw(id: string): Promise<{ name: string; revision: number; log: number; plan: unknown }> {
    const [found] = await this.sequelize.query<{ name: string; revision: number; log: number; plan: object }>(
      `SELECT p.name, p.revision, p.log, r.plan FROM projects p JOIN plan_revisions r ON r.project_id = p.id
       AND r.revision = p.revision WHERE p.id = $1 AND p.removed_at IS NULL`,
      { bind: [id], type: QueryTypes.SELECT },
    );
    if (!found) throw notOnTheShelf();
    const records = await this.records.of(id);
    return records.length > 0 ? { ...found, plan: { ...migratedPlan(found.plan), records } } : found;
  }

  /** Gives a piece another name, as a revision of its own; its plan need not be readable. */
  async rename(id: string, name: string): Promise<PieceNow> {
    const renamed = await this.sequelize.transaction(async (transaction) => {
      const project = await onTheShelf(id, { transaction, lock: transaction.LOCK.UPDATE });
      const { plan } = await newest(project, transaction);
      await project.update({ name, revision: project.revision + 1 }, { transaction });
      await PlanRevision.create(
        { projectId: id, revision: project.revision, plan: { ...plan, name } },
        { transaction },
      );
      return nowOf(project);
    });
    this.records.tell(id, { what: 'plan', revision: renamed.revision });
    return renamed;
  }

  /** Takes a piece off the shelf; it is put aside, and can be put back until it goes for good. */
  async remove(id: string): Promise<void> {
    const project = await onTheShelf(id);
    await project.update({ removedAt: new Date() }, { silent: true });
  }

  async putBack(id: string): Promise<void> {
    const [found] = await Project.update({ removedAt: null }, { where: { id }, silent: true });
    if (found === 0) throw new ApiError('not found', 'This piece is not kept any more.');
  }

  /** Lets pieces go for good that were put aside long enough ago; how many. */
  async clearOut(now: Date): Promise<number> {
    const before = new Date(now.getTime() - KEPT_DAYS * DAY_MS);
    return Project.destroy({ where: { removedAt: { [Op.lt]: before } } });
  }

  async isEmpty(): Promise<boolean> {
    return (await Project.count()) === 0;
  }
}
