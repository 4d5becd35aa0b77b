import { test as base } from '@playwright/test'
import { startServers } from './servers'

export { expect } from '@playwright/test'
export type { Locator, Page } from '@playwright/test'

/** A journey, with this worker's own servers running. */
export const test = base.extend<object, { servers: void }>({
  servers: [
    async ({}, use, { parallelIndex }) => {
      const stop = await startServers(parallelIndex)
      await use()
      stop()
    },
    { scope: 'worker', auto: true, timeout: 120_000 },
  ],
})
