import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: { include: ['{core,server,cli,web}/**/*.test.ts'], testTimeout: 60_000, hookTimeout: 60_000 },
});
