import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,server,cli,bin,web}/**/*.test.{ts,tsx}'],
    maxWorkers: 2,
    testTimeout: 90_000,
    hookTimeout: 90_000,
    setupFiles: ['core/tests/seed.ts'],
    globalSetup: ['server/tests/testCluster.ts'],
  },
});
