import { DataTypes } from 'sequelize';
import type { Migration } from './index.ts';

/** What was written at the bench, an entry a row: null once it was taken back. `log` counts what was written of a piece. */
export const records: Migration = {
  name: '011-records',
  async up({ context }) {
    const log = { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 };
    await context.addColumn('projects', 'log', log);
    await context.addColumn('previews', 'log', log);
    await context.createTable('bench_records', {
      project_id: {
        type: DataTypes.UUID,
        primaryKey: true,
        references: { model: 'projects', key: 'id' },
        onDelete: 'CASCADE',
      },
      id: { type: DataTypes.STRING(60), primaryKey: true },
      record: { type: DataTypes.JSON, allowNull: true },
      written: { type: DataTypes.DATE, allowNull: false },
      log: { type: DataTypes.INTEGER, allowNull: false },
    });
    await context.addIndex('bench_records', ['project_id', 'log']);
  },
  async down({ context }) {
    await context.dropTable('bench_records');
    await context.removeColumn('previews', 'log');
    await context.removeColumn('projects', 'log');
  },
};
