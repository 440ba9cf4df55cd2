import { DataTypes } from 'sequelize';
import type { Migration } from './index.ts';

export const projects: Migration = {
  name: '001-projects',
  async up({ context }) {
    await context.createTable('projects', {
      id: { type: DataTypes.UUID, primaryKey: true },
      name: { type: DataTypes.STRING(120), allowNull: false },
      state: { type: DataTypes.STRING(20), allowNull: false, defaultValue: 'planning' },
      revision: { type: DataTypes.INTEGER, allowNull: false },
      created_at: { type: DataTypes.DATE, allowNull: false },
      updated_at: { type: DataTypes.DATE, allowNull: false },
    });
    await context.createTable('plan_revisions', {
      project_id: {
        type: DataTypes.UUID,
        primaryKey: true,
        references: { model: 'projects', key: 'id' },
        onDelete: 'CASCADE',
      },
      revision: { type: DataTypes.INTEGER, primaryKey: true },
      plan: { type: DataTypes.JSON, allowNull: false },
      saved_at: { type: DataTypes.DATE, allowNull: false },
    });
  },
  async down({ context }) {
    await context.dropTable('plan_revisions');
    await context.dropTable('projects');
  },
};
