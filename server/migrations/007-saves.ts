import { DataTypes } from 'sequelize';
import type { Migration } from './index.ts';

/** Which save a revision came of, so that one that is sent again is known. */
export const saves: Migration = {
  name: '007-saves',
  async up({ context }) {
    await context.addColumn('plan_revisions', 'save_id', { type: DataTypes.UUID, allowNull: true });
  },
  async down({ context }) {
    await context.removeColumn('plan_revisions', 'save_id');
  },
};
