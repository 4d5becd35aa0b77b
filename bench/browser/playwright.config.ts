import { defineConfig } from '@playwright/test'
import { chromium } from '../../scripts/chromium.mjs'

/** What the page takes, measured alone: `npm run bench -- browser`. Nothing here can fail for slowness. */
export default defineConfig({
  testDir: '.',
  globalSetup: '../../e2e/servers.ts',
  workers: 1,
  timeout: 300_000,
  reporter: 'list',
  use: {
    viewport: { width: 1280, height: 800 },
    timezoneId: 'Etc/UTC',
    serviceWorkers: 'block',
    launchOptions: chromium,
  },
})
