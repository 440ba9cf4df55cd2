import { DataTypes } from 'sequelize';
import type { Migration } from './index.ts';

/** Named set-ups, the shop's own materials, what is on the rack, and what pieces took from it. */
export const shop: Migration = {
  name: '002-shop',
  async up({ context }) {
    await context.createTable('setups', {
      id: { type: DataTypes.UUID, primaryKey: true },
      name: { type: DataTypes.STRING(60), allowNull: false, unique: true },
      settings: { type: DataTypes.JSON, allowNull: false },
      created_at: { type: DataTypes.DATE, allowNull: false },
      updated_at: { type: DataTypes.DATE, allowNull: false },
    });
    await context.createTable('materials', {
      id: { type: DataTypes.STRING(40), primaryKey: true },
      material: { type: DataTypes.JSON, allowNull: false },
      created_at: { type: DataTypes.DATE, allowNull: false },
      updated_at: { type: DataTypes.DATE, allowNull: false },
    });
    await context.createTable('rack_bars', {
      id: { type: DataTypes.UUID, primaryKey: true },
      material: { type: DataTypes.STRING(40), allowNull: false },
      width_mm: { type: DataTypes.DOUBLE, allowNull: false },
      thickness_mm: { type: DataTypes.DOUBLE, allowNull: false },
      length_mm: { type: DataTypes.DOUBLE, allowNull: false },
      count: { type: DataTypes.INTEGER, allowNull: false },
      created_at: { type: DataTypes.DATE, allowNull: false },
      updated_at: { type: DataTypes.DATE, allowNull: false },
    });
    await context.createTable('takings', {
      project_id: {
        type: DataTypes.UUID,
        primaryKey: true,
        references: { model: 'projects', key: 'id' },
        onDelete: 'CASCADE',
      },
      taken: { type: DataTypes.JSON, allowNull: false },
      at: { type: DataTypes.DATE, allowNull: false },
    });
  },
  async down({ context }) {
    for (const table of ['takings', 'rack_bars', 'materials', 'setups']) await context.dropTable(table);
  },
};
