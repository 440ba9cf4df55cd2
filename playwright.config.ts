import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.spec.ts',
  globalSetup: './e2e/globalSetup.ts',
  // Every test has a server and a database of its own.
  fullyParallel: true,
  // A busy machine may stand still for half a minute: nothing that is right fails for it.
  timeout: 480_000,
  expect: { timeout: 90_000 },
  workers: 2,
  use: {
    // Fades and spinners, drawn without a graphics card, are a third of a test's time, and nothing is judged half faded.
    contextOptions: { reducedMotion: 'reduce' },
    actionTimeout: 90_000,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: '/usr/bin/chromium-headless-shell',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        // A machine in the shop's network, by a name that is no loopback to the browser.
        '--host-resolver-rules=MAP forge.test 127.0.0.2',
      ],
    },
  },
});
