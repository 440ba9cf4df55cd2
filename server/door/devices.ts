import { QueryTypes, type Sequelize } from 'sequelize';
import type { Device, Role } from '../../core/shop/devices.ts';
import { DeviceRow } from '../database.ts';
import { ApiError } from '../errors.ts';

/** How old what is known of a device's last call may be, ms. */
const SEEN_MS = 60_000;

const told = ({ id, name, role, letInAt, seenAt }: DeviceRow): Device => ({
  id,
  name,
  role,
  letInAt: letInAt.toISOString(),
  seenAt: seenAt.toISOString(),
});

/** Devices that were let in. */
export class DeviceStore {
  readonly #sequelize: Sequelize;
  constructor(sequelize: Sequelize) {
    this.#sequelize = sequelize;
  }

  async list(): Promise<Device[]> {
    return (await DeviceRow.findAll({ order: [['letInAt', 'DESC']] })).map(told);
  }

  /** A new device is for the bench until it is made more at the shop's computer. */
  async letIn(name: string): Promise<Device> {
    const now = new Date();
    return told(await DeviceRow.create({ name, role: 'bench', letInAt: now, seenAt: now }));
  }

  /** The device that calls; null where it was shut out. */
  async seen(id: string): Promise<Device | null> {
    const row = await DeviceRow.findByPk(id);
    if (row && row.seenAt.getTime() < Date.now() - SEEN_MS) await row.update({ seenAt: new Date() });
    return row && told(row);
  }

  async change(id: string, some: { name?: string; role?: Role }): Promise<Device> {
    const row = await DeviceRow.findByPk(id);
    if (!row) throw new ApiError('not found', 'There is no such device: it was shut out.');
    return told(await row.update(some));
  }

  /** Its cookie opens nothing any more. */
  async shutOut(id: string): Promise<void> {
    await this.#sequelize.transaction(async (transaction) => {
      await this.#sequelize.query("DELETE FROM sessions WHERE sess->>'device' = :id", {
        replacements: { id },
        type: QueryTypes.DELETE,
        transaction,
      });
      await DeviceRow.destroy({ where: { id }, transaction });
    });
  }
}
