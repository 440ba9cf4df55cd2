import type { Migration } from './index.ts';

/** What records say of a number is told by thickness, mass, filling and tool: it is looked for anew. */
export const sorts: Migration = {
  name: '016-sorts',
  async up({ context }) {
    await context.sequelize.query('UPDATE previews SET evidence = NULL');
  },
  async down() {
    // What was thrown away is made again by itself.
  },
};
