import { DataTypes } from 'sequelize';
import type { Migration } from './index.ts';

/** With the small picture of a piece, the sizes that were measured of it beside those that were reckoned. */
export const measured: Migration = {
  name: '014-measured',
  async up({ context }) {
    await context.addColumn('previews', 'measured', { type: DataTypes.JSON, allowNull: true });
  },
  async down({ context }) {
    await context.removeColumn('previews', 'measured');
  },
};
