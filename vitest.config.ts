import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    maxWorkers: 2,
    testTimeout: 240_000,
    hookTimeout: 240_000,
    globalSetup: ['server/tests/testCluster.ts'],
    projects: [
      {
        extends: true,
        test: {
          name: 'steel',
          include: ['{core,server,cli,bin}/**/*.test.ts'],
          setupFiles: ['core/tests/seed.ts'],
          // What is imported keeps nothing that a test could leave behind: read once, not once a file.
          isolate: false,
        },
      },
      {
        extends: true,
        // As the pages are built: what the compiler takes for unchanged is tested too.
        plugins: [react({ compiler: true })],
        test: {
          name: 'pages',
          include: ['web/**/*.test.{ts,tsx}'],
          setupFiles: ['core/tests/seed.ts'],
        },
      },
    ],
  },
});
