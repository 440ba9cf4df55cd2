import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  // As the pages are built: what the compiler takes for unchanged is tested too.
  plugins: [react({ compiler: true })],
  test: {
    include: ['{core,server,cli,bin,web}/**/*.test.{ts,tsx}'],
    maxWorkers: 2,
    testTimeout: 90_000,
    hookTimeout: 90_000,
    setupFiles: ['core/tests/seed.ts'],
    globalSetup: ['server/tests/testCluster.ts'],
  },
});
