import type { Migration } from './index.ts';

/** Small pictures and flows of before the section flowed otherwise: they are made anew when they are next wanted. */
export const drawnAnew = (name: string): Migration => ({
  name,
  async up({ context }) {
    await context.bulkDelete('previews', {});
    await context.bulkDelete('flows', {});
  },
  async down() {
    // What was thrown away is made again by itself.
  },
});
