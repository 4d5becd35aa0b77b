import { defineConfig } from '@playwright/test'
import { chromium } from './scripts/chromium.mjs'

export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/servers.ts',
  // Each worker has servers of its own; nothing that they do is measured in time.
  workers: 2,
  fullyParallel: false,
  retries: 0,
  // Long, since a machine may be many times slower for a while: what is wrong says so, only later.
  timeout: 900_000,
  expect: { timeout: 60_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  use: {
    actionTimeout: 90_000,
    viewport: { width: 1280, height: 800 },
    timezoneId: 'Etc/UTC',
    // It would answer in place of what a journey takes away; e2e/offline.spec.ts lets it in.
    serviceWorkers: 'block',
    launchOptions: chromium,
  },
})
