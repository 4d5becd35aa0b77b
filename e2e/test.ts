import { test as base } from '@playwright/test'
import { startServers } from './servers'

export { expect } from '@playwright/test'
export type { Locator, Page } from '@playwright/test'

interface Running {
  /** Of the journeys that they were started for. */
  file: string
  stop: () => void
}

/**
 * A journey, with this worker's own servers running: new ones for each file, so that what a journey finds does not hang on which
 * files this worker happened to take before.
 */
export const test = base.extend<{ servers: void }, { worker: { running?: Running } }>({
  worker: [
    async ({}, use) => {
      const worker: { running?: Running } = {}
      await use(worker)
      worker.running?.stop()
    },
    { scope: 'worker' },
  ],
  servers: [
    async ({ worker }, use, { file, parallelIndex }) => {
      if (worker.running?.file !== file) {
        worker.running?.stop()
        worker.running = { file, stop: await startServers(parallelIndex) }
      }
      await use()
    },
    { auto: true, timeout: 120_000 },
  ],
})
