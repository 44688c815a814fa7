import { defineConfig } from '@playwright/test'

/** End-to-end tests against a built server that `scripts/test.mjs` has started; `LUCID_ADDRESS` says where. */
export default defineConfig({
  testDir: 'tests/e2e',
  workers: 1,
  // A test that hangs should end at some time; a machine four times slower than a usual one should not end it.
  timeout: 180_000,
  expect: { timeout: 15_000 },
  reporter: process.env.LUCID_REPORT ? [['list'], ['json', { outputFile: process.env.LUCID_REPORT }]] : [['list']],
  outputDir: 'test-results',
  use: {
    baseURL: process.env.LUCID_ADDRESS ?? 'http://127.0.0.1:3000',
    viewport: { width: 1280, height: 800 },
    actionTimeout: 20_000,
    trace: 'off',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--use-fake-device-for-media-stream',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE localhost, EXCLUDE 127.0.0.1',
      ],
    },
  },
})
