import { DataTypes } from 'sequelize';
import type { Migration } from './index.ts';

/** What a maker calls a revision that is to be found again. */
export const history: Migration = {
  name: '008-history',
  async up({ context }) {
    await context.addColumn('plan_revisions', 'mark', { type: DataTypes.STRING(80), allowNull: true });
  },
  async down({ context }) {
    await context.removeColumn('plan_revisions', 'mark');
  },
};
