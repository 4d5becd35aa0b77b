import { defineConfig } from '@playwright/test'

export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/servers.ts',
  // One browser at a time: with a database and three servers beside it, two would only wait for each other.
  workers: 1,
  fullyParallel: false,
  retries: 0,
  timeout: 180_000,
  expect: { timeout: 15_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  // Times are measured alone, once nothing else keeps the processors busy.
  projects: [
    { name: 'journeys', testIgnore: /speed\.spec/ },
    { name: 'speed', testMatch: /speed\.spec/, dependencies: ['journeys'] },
  ],
  use: {
    actionTimeout: 20_000,
    viewport: { width: 1280, height: 800 },
    timezoneId: 'Etc/UTC',
    // It would answer in place of what a journey takes away; e2e/offline.spec.ts lets it in.
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
})
