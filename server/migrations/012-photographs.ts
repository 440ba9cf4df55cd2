import { DataTypes } from 'sequelize';
import type { Migration } from './index.ts';

/** Photographs of a piece at the bench, as they are shown: large, and small for lists. */
export const photographs: Migration = {
  name: '012-photographs',
  async up({ context }) {
    await context.createTable('photographs', {
      project_id: {
        type: DataTypes.UUID,
        primaryKey: true,
        references: { model: 'projects', key: 'id' },
        onDelete: 'CASCADE',
      },
      id: { type: DataTypes.UUID, primaryKey: true },
      large: { type: DataTypes.BLOB, allowNull: false },
      small: { type: DataTypes.BLOB, allowNull: false },
      taken_at: { type: DataTypes.DATE, allowNull: false },
    });
  },
  async down({ context }) {
    await context.dropTable('photographs');
  },
};
