import { Op, type Sequelize, type Transaction } from 'sequelize';
import { type Plan, type ReadPlan, readPlan } from '../core/plan/index.ts';
import { PlanRevision, Project, type ProjectState } from './database.ts';
import { ApiError, badPlan } from './errors.ts';

export interface StoredProject {
  id: string;
  name: string;
  state: ProjectState;
  revision: number;
  updatedAt: string;
  plan: Plan;
}

/** Older revisions than this many are let go. */
const KEPT_REVISIONS = 200;

const stored = (project: Project, plan: Plan): StoredProject => ({
  id: project.id,
  name: project.name,
  state: project.state,
  revision: project.revision,
  updatedAt: project.updatedAt.toISOString(),
  plan,
});

function checked(read: ReadPlan): Plan {
  if (!read.ok) throw badPlan(read.problems);
  return read.plan;
}

/** Inside a transaction on its own connection: saves that wait for each other must not wait for a connection too. */
async function planOf(project: Project, transaction?: Transaction): Promise<Plan> {
  const revision = await PlanRevision.findOne({
    where: { projectId: project.id, revision: project.revision },
    transaction,
  });
  if (!revision) throw new Error(`project ${project.id} has no revision ${project.revision}`);
  return checked(readPlan(revision.plan));
}

/** Projects and their plans, kept as whole revisions. */
export class ProjectStore {
  private readonly sequelize: Sequelize;
  constructor(sequelize: Sequelize) {
    this.sequelize = sequelize;
  }

  async list(): Promise<StoredProject[]> {
    const projects = await Project.findAll({ order: [['updatedAt', 'DESC']], limit: 500 });
    return Promise.all(projects.map(async (project) => stored(project, await planOf(project))));
  }

  async get(id: string): Promise<StoredProject> {
    const project = await Project.findByPk(id);
    if (!project)
      throw new ApiError('not found', 'There is no such piece on the shelf; it may have been removed.');
    return stored(project, await planOf(project));
  }

  async create(content: unknown): Promise<StoredProject> {
    const plan = checked(readPlan(content));
    return this.sequelize.transaction(async (transaction) => {
      const project = await Project.create({ name: plan.name, revision: 1 }, { transaction });
      await PlanRevision.create({ projectId: project.id, revision: 1, plan }, { transaction });
      return stored(project, plan);
    });
  }

  /** Saves a new revision if `expectedRevision` is still the newest; otherwise a conflict that carries both plans. */
  async save(id: string, expectedRevision: number, content: unknown): Promise<StoredProject> {
    const plan = checked(readPlan(content));
    return this.sequelize.transaction(async (transaction) => {
      const project = await Project.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE });
      if (!project)
        throw new ApiError('not found', 'There is no such piece on the shelf; it may have been removed.');
      if (project.revision !== expectedRevision) {
        const current = stored(project, await planOf(project, transaction));
        throw new ApiError('conflict', 'This piece was changed elsewhere since you opened it.', {
          current,
          yours: plan,
        });
      }
      project.revision += 1;
      project.name = plan.name;
      await project.save({ transaction });
      await PlanRevision.create({ projectId: id, revision: project.revision, plan }, { transaction });
      await PlanRevision.destroy({
        where: { projectId: id, revision: { [Op.lte]: project.revision - KEPT_REVISIONS } },
        transaction,
      });
      return stored(project, plan);
    });
  }

  async setState(id: string, state: ProjectState): Promise<StoredProject> {
    const project = await Project.findByPk(id);
    if (!project)
      throw new ApiError('not found', 'There is no such piece on the shelf; it may have been removed.');
    await project.update({ state });
    return stored(project, await planOf(project));
  }

  async remove(id: string): Promise<void> {
    const removed = await Project.destroy({ where: { id } });
    if (removed === 0)
      throw new ApiError('not found', 'There is no such piece on the shelf; it may have been removed.');
  }

  async isEmpty(): Promise<boolean> {
    return (await Project.count()) === 0;
  }
}
