import { defineConfig } from '@playwright/test'

export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/servers.ts',
  workers: 2,
  fullyParallel: false,
  retries: 0,
  timeout: 90_000,
  // Two browsers, a database and three servers share two processors.
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
