import { DataTypes } from 'sequelize';
import type { Migration } from './index.ts';

/** What the shelf shows of a piece without opening its plan: the goal, and a small picture and verdict of one of its revisions. */
export const previews: Migration = {
  name: '004-previews',
  async up({ context }) {
    await context.addColumn('projects', 'goal', { type: DataTypes.JSON, allowNull: true });
    await context.addColumn('projects', 'lengths', { type: DataTypes.JSON, allowNull: true });
    await context.sequelize.query(
      `UPDATE projects p SET goal = r.plan->'goal', lengths = r.plan->'shop'->'lengths'
       FROM plan_revisions r WHERE r.project_id = p.id AND r.revision = p.revision`,
    );
    await context.createTable('previews', {
      project_id: {
        type: DataTypes.UUID,
        primaryKey: true,
        references: { model: 'projects', key: 'id' },
        onDelete: 'CASCADE',
      },
      revision: { type: DataTypes.INTEGER, allowNull: false },
      verdict: { type: DataTypes.STRING(20), allowNull: false },
      picture: { type: DataTypes.BLOB, allowNull: true },
    });
    await context.addIndex('projects', ['updated_at']);
  },
  async down({ context }) {
    await context.removeIndex('projects', ['updated_at']);
    await context.dropTable('previews');
    await context.removeColumn('projects', 'lengths');
    await context.removeColumn('projects', 'goal');
  },
};
