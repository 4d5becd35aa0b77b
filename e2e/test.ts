import { test as base } from '@playwright/test'
import { type Kind, startServers } from './servers'

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
export const test = base.extend<{ kinds: Kind[]; servers: void }, { worker: { running?: Running } }>({
  /** The servers that the journeys of a file need; the same for all of them. */
  kinds: [['DEMO'], { option: true }],
  worker: [
    async ({}, use) => {
      const worker: { running?: Running } = {}
      await use(worker)
      worker.running?.stop()
    },
    { scope: 'worker' },
  ],
  servers: [
    async ({ worker, kinds }, use, { file, parallelIndex }) => {
      if (worker.running?.file !== file) {
        worker.running?.stop()
        worker.running = { file, stop: await startServers(parallelIndex, kinds) }
      }
      await use()
    },
    { auto: true, timeout: 300_000 },
  ],
})
