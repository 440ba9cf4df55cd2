import { DataTypes } from 'sequelize';
import type { Migration } from './index.ts';

/** When a piece was taken off the shelf: it is put aside before it goes. */
export const removed: Migration = {
  name: '009-removed',
  async up({ context }) {
    await context.addColumn('projects', 'removed_at', { type: DataTypes.DATE, allowNull: true });
  },
  async down({ context }) {
    await context.removeColumn('projects', 'removed_at');
  },
};
