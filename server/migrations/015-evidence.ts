import { DataTypes } from 'sequelize';
import type { Migration } from './index.ts';

/** With the small picture of a piece, what its records say of the shop's numbers. */
export const evidence: Migration = {
  name: '015-evidence',
  async up({ context }) {
    await context.addColumn('previews', 'evidence', { type: DataTypes.JSON, allowNull: true });
  },
  async down({ context }) {
    await context.removeColumn('previews', 'evidence');
  },
};
