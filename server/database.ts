import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  Sequelize,
} from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import type { Plan } from '../core/plan/index.ts';
import { migrations } from './migrations/index.ts';

export const PROJECT_STATES = ['planning', 'at the bench', 'done'] as const;
export type ProjectState = (typeof PROJECT_STATES)[number];

/** A piece being planned. Its plan lives in the revisions; `revision` is the newest of them. */
export class Project extends Model<InferAttributes<Project>, InferCreationAttributes<Project>> {
  declare id: CreationOptional<string>;
  declare name: string;
  declare state: CreationOptional<ProjectState>;
  declare revision: number;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
}

/** A whole plan as it was saved once. */
export class PlanRevision extends Model<
  InferAttributes<PlanRevision>,
  InferCreationAttributes<PlanRevision>
> {
  declare projectId: string;
  declare revision: number;
  declare plan: Plan;
  declare savedAt: CreationOptional<Date>;
}

export interface Database {
  sequelize: Sequelize;
  close(): Promise<void>;
}

function defineModels(sequelize: Sequelize): void {
  Project.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true, defaultValue: DataTypes.UUIDV4 },
      name: { type: DataTypes.STRING(120), allowNull: false },
      state: { type: DataTypes.STRING(20), allowNull: false, defaultValue: 'planning' },
      revision: { type: DataTypes.INTEGER, allowNull: false },
      createdAt: DataTypes.DATE,
      updatedAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'projects', underscored: true },
  );
  PlanRevision.init(
    {
      projectId: { type: DataTypes.UUID, primaryKey: true },
      revision: { type: DataTypes.INTEGER, primaryKey: true },
      plan: { type: DataTypes.JSON, allowNull: false },
      savedAt: { type: DataTypes.DATE, allowNull: false, defaultValue: DataTypes.NOW },
    },
    { sequelize, tableName: 'plan_revisions', underscored: true, timestamps: false },
  );
}

/** Connects, brings the tables up to date, and makes the models usable. */
export async function openDatabase(url: string): Promise<Database> {
  const sequelize = new Sequelize(url, { dialect: 'postgres', logging: false, pool: { max: 8 } });
  const umzug = new Umzug({
    migrations: [...migrations],
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  await umzug.up();
  defineModels(sequelize);
  return { sequelize, close: () => sequelize.close() };
}
