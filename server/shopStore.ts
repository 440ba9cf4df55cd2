import { Op, type Sequelize, type Transaction, UniqueConstraintError } from 'sequelize';
import { type Material, materialSchema } from '../core/materials/material.ts';
import { MATERIALS } from '../core/materials/table.ts';
import { cutFromSections, type StoredSetup, type TakenBar } from '../core/plan/index.ts';
import { type ShopSettings, shopSchema, shopWith } from '../core/shop/shop.ts';
import { type RackBar, rackBarSchema } from '../core/stock/rackBar.ts';
import { RackRow, Setup, ShopMaterial, Taking } from './database.ts';
import { ApiError } from './errors.ts';
import type { FlowStore } from './flowStore.ts';
import type { ProjectStore } from './projects.ts';

export { materialSchema, rackBarSchema, shopSchema };

const rackBar = (row: RackRow): RackBar => ({
  id: row.id,
  material: row.material,
  widthMm: row.widthMm,
  thicknessMm: row.thicknessMm,
  lengthMm: row.lengthMm,
  count: row.count,
});

/** mm. Bars of one section and length are one row of the rack. */
const SAME_MM = 0.05;

const near = (mm: number) => ({ [Op.between]: [mm - SAME_MM, mm + SAME_MM] as [number, number] });

/** The rack's row for bars of this size. */
const alike = ({ material, widthMm, thicknessMm, lengthMm }: Omit<RackBar, 'id' | 'count'>) => ({
  material,
  widthMm: near(widthMm),
  thicknessMm: near(thicknessMm),
  lengthMm: near(lengthMm),
});

/** What the shop has beside its pieces: named set-ups, its own materials, the rack. */
export class ShopStore {
  private readonly sequelize: Sequelize;
  private readonly projects: ProjectStore;
  private readonly flows: FlowStore;
  constructor(sequelize: Sequelize, projects: ProjectStore, flows: FlowStore) {
    this.sequelize = sequelize;
    this.projects = projects;
    this.flows = flows;
  }

  async setups(): Promise<StoredSetup[]> {
    const all = await Setup.findAll({ order: [['createdAt', 'ASC']] });
    return all.map(({ id, name, settings }) => ({ id, name, settings: shopSchema.parse(settings) }));
  }

  /** Keeps a set-up under its name: a new one, or in place of the one that has the name. */
  async keepSetup(settings: ShopSettings): Promise<StoredSetup> {
    const [setup, fresh] = await Setup.findOrCreate({
      where: { name: settings.name },
      defaults: { name: settings.name, settings },
    });
    if (!fresh) await setup.update({ settings });
    return { id: setup.id, name: setup.name, settings };
  }

  /**
   * Changes the set-up of this id, its name among the rest.
   *
   * @throws ApiError 'not found' without such a set-up; 'conflict' where another one has the name.
   */
  async changeSetup(id: string, settings: ShopSettings): Promise<StoredSetup> {
    const setup = await Setup.findByPk(id);
    if (!setup) throw new ApiError('not found', 'There is no such set-up; it may have been removed.');
    try {
      await setup.update({ name: settings.name, settings });
    } catch (error) {
      if (!(error instanceof UniqueConstraintError)) throw error;
      throw new ApiError(
        'conflict',
        `name: there is another set-up named “${settings.name}”; give this one a name of its own.`,
        { field: 'name' },
      );
    }
    return { id, name: setup.name, settings };
  }

  async removeSetup(id: string): Promise<void> {
    if ((await Setup.destroy({ where: { id } })) === 0)
      throw new ApiError('not found', 'There is no such set-up; it may have been removed.');
  }

  /** The shop's own materials; those of the first table that it has not changed are not among them. */
  async materials(): Promise<Material[]> {
    const rows = await ShopMaterial.findAll({ order: [['createdAt', 'ASC']] });
    return rows.map((row) => materialSchema.parse(row.material));
  }

  async keepMaterial(material: Material): Promise<Material> {
    const [row, fresh] = await ShopMaterial.findOrCreate({
      where: { id: material.id },
      defaults: { id: material.id, material },
    });
    if (!fresh) await row.update({ material });
    return material;
  }

  /** Takes a material out of the shop's table, unless a plan or the rack still uses it. */
  async removeMaterial(id: string): Promise<void> {
    const own = await ShopMaterial.findByPk(id);
    if (!own) {
      const given = MATERIALS.some((m) => m.id === id);
      throw given
        ? new ApiError('conflict', 'This one came with Retablo: it can be changed, and stays.')
        : new ApiError('not found', 'There is no such material; it may have been removed.');
    }
    const given = MATERIALS.some((m) => m.id === id);
    const users = given ? [] : await this.usersOf(id);
    if (users.length > 0)
      throw new ApiError(
        'conflict',
        `${own.material.name} is in use: ${users.join(', ')}. It stays until nothing is made of it.`,
      );
    await own.destroy();
  }

  private async usersOf(id: string): Promise<string[]> {
    // The ids of materials stand in many moves' parameters: wherever one is, the plan is made of it.
    const pieces = await this.projects.whosePlanSays(`:${JSON.stringify(id)}`);
    const onRack = await RackRow.count({ where: { material: id } });
    return [...pieces.map((name) => `“${name}”`), ...(onRack > 0 ? ['the rack'] : [])];
  }

  async rack(transaction?: Transaction): Promise<RackBar[]> {
    const rows = await RackRow.findAll({
      order: [
        ['material', 'ASC'],
        ['thicknessMm', 'DESC'],
        ['widthMm', 'DESC'],
        ['lengthMm', 'DESC'],
      ],
      transaction,
    });
    return rows.map(rackBar);
  }

  /**
   * Puts bars on the rack, together with those of the same size.
   *
   * @throws ApiError 'bad request' for a steel that the shop does not know, and for more bars together than a row may have.
   */
  async putOnRack(bar: Omit<RackBar, 'id'>): Promise<RackBar> {
    await this.mustKnow(bar.material);
    const count = ((await RackRow.findOne({ where: alike(bar) }))?.count ?? 0) + bar.count;
    const together = rackBarSchema.shape.count.safeParse(count);
    if (!together.success)
      throw new ApiError(
        'bad request',
        `count: with those that lie there it would be ${count}. ${together.error.issues[0].message}.`,
        { field: 'count' },
      );
    return this.lay(bar);
  }

  private async lay(bar: Omit<RackBar, 'id'>, transaction?: Transaction): Promise<RackBar> {
    const row = await RackRow.findOne({ where: alike(bar), transaction });
    if (!row) return rackBar(await RackRow.create({ ...bar }, { transaction }));
    await row.update({ count: row.count + bar.count }, { transaction });
    return rackBar(row);
  }

  /** A bar is of a steel that the shop has numbers for. */
  private async mustKnow(id: string): Promise<void> {
    if (MATERIALS.some((m) => m.id === id) || (await ShopMaterial.count({ where: { id } })) > 0) return;
    throw new ApiError(
      'bad request',
      `material: the shop has no material “${id}”; put it in the table first.`,
      {
        field: 'material',
      },
    );
  }

  async changeRack(id: string, bar: Omit<RackBar, 'id'>): Promise<RackBar> {
    await this.mustKnow(bar.material);
    const row = await RackRow.findByPk(id);
    if (!row) throw new ApiError('not found', 'There is no such bar on the rack; it may have been used.');
    await row.update(bar);
    return rackBar(row);
  }

  async takeOffRack(id: string): Promise<void> {
    if ((await RackRow.destroy({ where: { id } })) === 0)
      throw new ApiError('not found', 'There is no such bar on the rack; it may have been used.');
  }

  async taken(projectId: string): Promise<TakenBar[] | null> {
    return (await Taking.findByPk(projectId))?.taken ?? null;
  }

  /** Takes what a piece wants from the rack, offcuts worth keeping put back. Once: until it is put back, nothing more is taken. */
  async takeFor(projectId: string): Promise<TakenBar[]> {
    const { plan } = await this.projects.get(projectId);
    const rows = await this.flows.reckoned('cuts', { plan });
    if (rows === 'waits')
      throw new ApiError('too much', 'The flows of this plan could not all be worked out.');
    const used = shopWith(plan.shop, plan.materials);
    return this.sequelize.transaction(async (transaction) => {
      // The rack's rows are held until all is written: two pieces never take the same bar.
      await RackRow.findAll({ transaction, lock: transaction.LOCK.UPDATE });
      if (await Taking.findByPk(projectId, { transaction }))
        throw new ApiError('conflict', 'The steel for this piece was taken from the rack already.');
      const rack = await this.rack(transaction);
      const sections = cutFromSections(rows, rack, used);
      const taken: TakenBar[] = [];
      for (const { id, restMm } of sections.flatMap((s) => s.take)) {
        const bar = rack.find((b) => b.id === id)!;
        const row = await RackRow.findByPk(id, { transaction, rejectOnEmpty: true });
        if (row.count > 1) await row.update({ count: row.count - 1 }, { transaction });
        else await row.destroy({ transaction });
        const kept = restMm >= used.keepMm ? restMm : 0;
        const { material, widthMm, thicknessMm, lengthMm: length } = bar;
        taken.push({ material, widthMm, thicknessMm, lengthMm: length, restMm: kept });
        if (kept > 0)
          await this.lay({ material, widthMm, thicknessMm, lengthMm: kept, count: 1 }, transaction);
      }
      await Taking.create({ projectId, taken }, { transaction });
      return taken;
    });
  }

  /** Puts everything back as it was: the bars, and off again the offcuts that were put back in their place. */
  async putBack(projectId: string): Promise<void> {
    await this.sequelize.transaction(async (transaction) => {
      const taking = await Taking.findByPk(projectId, { transaction, lock: transaction.LOCK.UPDATE });
      if (!taking) throw new ApiError('conflict', 'Nothing was taken from the rack for this piece.');
      for (const { restMm, ...bar } of taking.taken) {
        if (restMm > 0) await this.useUp({ ...bar, lengthMm: restMm }, transaction);
        await this.lay({ ...bar, count: 1 }, transaction);
      }
      await taking.destroy({ transaction });
    });
  }

  private async useUp(bar: Omit<TakenBar, 'restMm'>, transaction: Transaction): Promise<void> {
    const row = await RackRow.findOne({ where: alike(bar), transaction });
    if (!row)
      throw new ApiError(
        'conflict',
        'An offcut of this piece was used elsewhere: it cannot all be put back.',
      );
    if (row.count > 1) await row.update({ count: row.count - 1 }, { transaction });
    else await row.destroy({ transaction });
  }
}
