import pg from 'pg';
import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  type NonAttribute,
  Model,
  Sequelize,
} from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import type { SeamAnswer } from '../core/loose/stored.ts';
import type { StoredStage } from '../core/flow/stored.ts';
import type { Evidence } from '../core/learning/index.ts';
import type { Material } from '../core/materials/material.ts';
import type { Goal, MeasuredOf, Plan, ProjectState, TakenBar, Verdict } from '../core/plan/index.ts';
import type { BenchRecord } from '../core/records/record.ts';
import type { Role } from '../core/shop/devices.ts';
import type { ShopSettings } from '../core/shop/shop.ts';
import type { LengthDisplay } from '../core/units/index.ts';
import { migrations } from './migrations/index.ts';

/** A piece being planned. Its plan lives in the revisions; `revision` is the newest of them. */
export class Project extends Model<InferAttributes<Project>, InferCreationAttributes<Project>> {
  declare id: CreationOptional<string>;
  declare name: string;
  declare state: CreationOptional<ProjectState>;
  declare revision: number;
  /** How much was written of it at the bench. */
  declare log: CreationOptional<number>;
  /** Of the newest revision, so that the shelf need not open its plan. */
  declare goal: CreationOptional<Goal | null>;
  declare lengths: CreationOptional<LengthDisplay | null>;
  /** When it was taken off the shelf; null while it is on it. */
  declare removedAt: CreationOptional<Date | null>;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
  declare Preview?: NonAttribute<Preview>;
}

/** A small picture (PNG) of one revision of a piece and its verdict. No picture: nothing is planned yet. */
export class Preview extends Model<InferAttributes<Preview>, InferCreationAttributes<Preview>> {
  declare projectId: string;
  declare revision: number;
  declare log: CreationOptional<number>;
  declare verdict: Verdict;
  declare picture: Buffer | null;
  /** Nothing where the picture was made before sizes were kept with it. */
  declare measured: CreationOptional<readonly MeasuredOf[] | null>;
  /** What its records say of the shop's numbers; nothing where the picture was made before that was kept with it. */
  declare evidence: CreationOptional<readonly Evidence[] | null>;
}

/** A whole plan as it was saved once. */
export class PlanRevision extends Model<
  InferAttributes<PlanRevision>,
  InferCreationAttributes<PlanRevision>
> {
  declare projectId: string;
  declare revision: number;
  declare plan: Plan;
  /** Of the page that saved it; none where it was made otherwise. */
  declare saveId: CreationOptional<string | null>;
  /** What the maker calls it. */
  declare mark: CreationOptional<string | null>;
  declare savedAt: CreationOptional<Date>;
}

/** What was written at the bench, as it was written last; null once it was taken back. */
export class BenchRow extends Model<InferAttributes<BenchRow>, InferCreationAttributes<BenchRow>> {
  declare projectId: string;
  declare id: string;
  declare record: BenchRecord | null;
  declare written: Date;
  /** The how manieth of what was written of the piece. */
  declare log: number;
}

/** A photograph taken at the bench (JPEG): as large as it is shown, and small for lists. */
export class Photograph extends Model<InferAttributes<Photograph>, InferCreationAttributes<Photograph>> {
  declare projectId: string;
  declare id: string;
  declare large: Buffer;
  declare small: Buffer;
  declare takenAt: Date;
}

/** A named set of the shop's numbers. */
export class Setup extends Model<InferAttributes<Setup>, InferCreationAttributes<Setup>> {
  declare id: CreationOptional<string>;
  declare name: string;
  declare settings: ShopSettings;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
}

/** A material of the shop's own, or its own numbers for one of the table. */
export class ShopMaterial extends Model<
  InferAttributes<ShopMaterial>,
  InferCreationAttributes<ShopMaterial>
> {
  declare id: string;
  declare material: Material;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
}

/** So many bars of one size on the rack. mm. */
export class RackRow extends Model<InferAttributes<RackRow>, InferCreationAttributes<RackRow>> {
  declare id: CreationOptional<string>;
  declare material: string;
  declare widthMm: number;
  declare thicknessMm: number;
  declare lengthMm: number;
  declare count: number;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
}

/** What a piece took from the rack, so that it is taken once and can be put back. */
export class Taking extends Model<InferAttributes<Taking>, InferCreationAttributes<Taking>> {
  declare projectId: string;
  declare taken: TakenBar[];
  declare at: CreationOptional<Date>;
}

/** A device that was let in over the shop's network. */
export class DeviceRow extends Model<InferAttributes<DeviceRow>, InferCreationAttributes<DeviceRow>> {
  declare id: CreationOptional<string>;
  declare name: string;
  declare role: Role;
  declare letInAt: Date;
  declare seenAt: Date;
}

/** A stage of a flow, by the digest of all it depends on. */
export class StoredFlow extends Model<InferAttributes<StoredFlow>, InferCreationAttributes<StoredFlow>> {
  declare digest: string;
  /** A stage of a flow, or what came of a question about seams: their digests never meet. */
  declare stage: StoredStage | SeamAnswer;
  declare usedAt: Date;
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
      log: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
      goal: { type: DataTypes.JSON, allowNull: true },
      lengths: { type: DataTypes.JSON, allowNull: true },
      removedAt: { type: DataTypes.DATE, allowNull: true },
      createdAt: DataTypes.DATE,
      updatedAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'projects', underscored: true },
  );
  Preview.init(
    {
      projectId: { type: DataTypes.UUID, primaryKey: true },
      revision: { type: DataTypes.INTEGER, allowNull: false },
      log: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
      verdict: { type: DataTypes.STRING(20), allowNull: false },
      picture: { type: DataTypes.BLOB, allowNull: true },
      measured: { type: DataTypes.JSON, allowNull: true },
      evidence: { type: DataTypes.JSON, allowNull: true },
    },
    { sequelize, tableName: 'previews', underscored: true, timestamps: false },
  );
  Project.hasOne(Preview, { foreignKey: 'projectId' });
  BenchRow.init(
    {
      projectId: { type: DataTypes.UUID, primaryKey: true },
      id: { type: DataTypes.STRING(60), primaryKey: true },
      record: { type: DataTypes.JSON, allowNull: true },
      written: { type: DataTypes.DATE, allowNull: false },
      log: { type: DataTypes.INTEGER, allowNull: false },
    },
    { sequelize, tableName: 'bench_records', underscored: true, timestamps: false },
  );
  Photograph.init(
    {
      projectId: { type: DataTypes.UUID, primaryKey: true },
      id: { type: DataTypes.UUID, primaryKey: true },
      large: { type: DataTypes.BLOB, allowNull: false },
      small: { type: DataTypes.BLOB, allowNull: false },
      takenAt: { type: DataTypes.DATE, allowNull: false },
    },
    { sequelize, tableName: 'photographs', underscored: true, timestamps: false },
  );
  const id = { type: DataTypes.UUID, primaryKey: true, defaultValue: DataTypes.UUIDV4 };
  const dates = { createdAt: DataTypes.DATE, updatedAt: DataTypes.DATE };
  Setup.init(
    {
      id,
      name: { type: DataTypes.STRING(60), allowNull: false },
      settings: { type: DataTypes.JSON, allowNull: false },
      ...dates,
    },
    { sequelize, tableName: 'setups', underscored: true },
  );
  ShopMaterial.init(
    {
      id: { type: DataTypes.STRING(40), primaryKey: true },
      material: { type: DataTypes.JSON, allowNull: false },
      ...dates,
    },
    { sequelize, tableName: 'materials', underscored: true },
  );
  RackRow.init(
    {
      id,
      material: { type: DataTypes.STRING(40), allowNull: false },
      widthMm: { type: DataTypes.DOUBLE, allowNull: false },
      thicknessMm: { type: DataTypes.DOUBLE, allowNull: false },
      lengthMm: { type: DataTypes.DOUBLE, allowNull: false },
      count: { type: DataTypes.INTEGER, allowNull: false },
      ...dates,
    },
    { sequelize, tableName: 'rack_bars', underscored: true },
  );
  Taking.init(
    {
      projectId: { type: DataTypes.UUID, primaryKey: true },
      taken: { type: DataTypes.JSON, allowNull: false },
      at: { type: DataTypes.DATE, allowNull: false, defaultValue: DataTypes.NOW },
    },
    { sequelize, tableName: 'takings', underscored: true, timestamps: false },
  );
  DeviceRow.init(
    {
      id,
      name: { type: DataTypes.STRING(60), allowNull: false },
      role: { type: DataTypes.STRING(10), allowNull: false },
      letInAt: { type: DataTypes.DATE, allowNull: false },
      seenAt: { type: DataTypes.DATE, allowNull: false },
    },
    { sequelize, tableName: 'devices', underscored: true, timestamps: false },
  );
  StoredFlow.init(
    {
      digest: { type: DataTypes.CHAR(64), primaryKey: true },
      stage: { type: DataTypes.JSON, allowNull: false },
      usedAt: { type: DataTypes.DATE, allowNull: false },
    },
    { sequelize, tableName: 'flows', underscored: true, timestamps: false },
  );
  PlanRevision.init(
    {
      projectId: { type: DataTypes.UUID, primaryKey: true },
      revision: { type: DataTypes.INTEGER, primaryKey: true },
      plan: { type: DataTypes.JSON, allowNull: false },
      saveId: { type: DataTypes.UUID, allowNull: true },
      mark: { type: DataTypes.STRING(80), allowNull: true },
      savedAt: { type: DataTypes.DATE, allowNull: false, defaultValue: DataTypes.NOW },
    },
    { sequelize, tableName: 'plan_revisions', underscored: true, timestamps: false },
  );
}

/** A connection whose end, while nobody listens to it yet or any more, does not end the server: whoever asks next is told. */
class CalmClient extends pg.Client {
  constructor(config?: string | pg.ClientConfig) {
    super(config);
    this.on('error', () => undefined);
  }
}

/**
 * Connects, brings the tables up to date, and makes the models usable. `beforeUpdate` runs before tables that hold something are
 * changed; where it fails, nothing is.
 */
export async function openDatabase(
  url: string,
  beforeUpdate?: (sequelize: Sequelize) => Promise<unknown>,
): Promise<Database> {
  const sequelize = new Sequelize(url, {
    dialect: 'postgres',
    dialectModule: Object.create(pg, { Client: { value: CalmClient } }) as object,
    logging: false,
    // No request waits for ever: not for a connection, and not for an answer. Those that are open stay: opening takes longest.
    pool: { max: 8, min: 8, acquire: 10_000, idle: 600_000 },
    dialectOptions: { connectionTimeoutMillis: 5000, statement_timeout: 30_000, keepAlive: true },
  });
  const umzug = new Umzug({
    migrations: [...migrations],
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  const isUpdate = (await umzug.executed()).length > 0 && (await umzug.pending()).length > 0;
  if (isUpdate) await beforeUpdate?.(sequelize);
  await umzug.up();
  defineModels(sequelize);
  return { sequelize, close: () => sequelize.close() };
}
