import { DataTypes, literal } from 'sequelize';
import type { Migration } from './index.ts';

/** Devices let in over the shop's network, and their sessions as connect-pg-simple keeps them. */
export const devices: Migration = {
  name: '013-devices',
  async up({ context }) {
    await context.createTable('devices', {
      id: { type: DataTypes.UUID, primaryKey: true, defaultValue: literal('gen_random_uuid()') },
      name: { type: DataTypes.STRING(60), allowNull: false },
      role: { type: DataTypes.STRING(10), allowNull: false },
      let_in_at: { type: DataTypes.DATE, allowNull: false },
      seen_at: { type: DataTypes.DATE, allowNull: false },
    });
    await context.createTable('sessions', {
      sid: { type: DataTypes.STRING, primaryKey: true },
      sess: { type: DataTypes.JSON, allowNull: false },
      expire: { type: 'timestamp(6)', allowNull: false },
    });
    await context.addIndex('sessions', ['expire']);
  },
  async down({ context }) {
    await context.dropTable('sessions');
    await context.dropTable('devices');
  },
};
