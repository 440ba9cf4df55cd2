import { DataTypes } from 'sequelize';
import type { Migration } from './index.ts';

/** How sections flow, worked out once: by all that they depend on. */
export const flows: Migration = {
  name: '003-flows',
  async up({ context }) {
    await context.createTable('flows', {
      digest: { type: DataTypes.CHAR(64), primaryKey: true },
      stage: { type: DataTypes.JSON, allowNull: false },
      used_at: { type: DataTypes.DATE, allowNull: false },
    });
    await context.addIndex('flows', ['used_at']);
  },
  async down({ context }) {
    await context.dropTable('flows');
  },
};
