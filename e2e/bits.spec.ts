import { gzipSync } from 'node:zlib'
import { type Candidate } from '@climber/contract'
import { overview, previewPlan } from '@climber/core'
import { now } from './servers'
import { at, enterDemo, openDemo } from './steps'
import { expect, test } from './test'
import { recordIn } from '../contract/test/answered'

test('the first screen takes less than 300 kB of compressed script', async ({ page }) => {
  const scripts = new Set<string>()
  page.on('response', (response) => {
    if (response.url().endsWith('.js')) scripts.add(response.url())
  })
  await page.goto(`${at('DEMO')}/sign-in`)
  await page.waitForLoadState('networkidle')
  // Bodies are fetched anew: one read off a response that comes late is cut short by the end of the test.
  const loaded = [...scripts]
  const bodies = await Promise.all(loaded.map(async (url) => (await page.request.get(url)).body()))
  const kilobytes = bodies.reduce((sum, body) => sum + gzipSync(body).length, 0) / 1000
  console.log(`first screen: ${kilobytes.toFixed(0)} kB of compressed script in ${loaded.length} files`)
  expect(kilobytes).toBeLessThan(300)
})

test('the worker in the browser and the core in Node give the same answer to the digit', async ({ page }) => {
  await enterDemo(page, 'Corvane Tessel')
  await openDemo(page, 'Idrel Pellowick', 'Scores')
  const id = /\/c\/([^/]+)/.exec(page.url())![1]!
  const candidate = (await (await page.request.get(`${at('DEMO')}/api/candidates/${id}`)).json()) as Candidate
  const record = recordIn(candidate)
  const moment = { date: now.slice(0, 10), minute: 970 }
  const worker = await page.evaluate(() =>
    performance
      .getEntriesByType('resource')
      .map(({ name }) => name)
      .find((name) => name.includes('core.worker')),
  )
  // The worker speaks Comlink: a path to apply and its arguments, answered under the same id.
  const inBrowser = await page.evaluate(
    async ({ address, record: sent, moment: when }) => {
      const core = new Worker(address!, { type: 'module' })
      const ask = (method: string, args: unknown[]) =>
        new Promise<string>((resolve) => {
          const key = crypto.randomUUID()
          core.addEventListener(
            'message',
            ({ data }) => data.id === key && resolve(JSON.stringify(data.value)),
          )
          core.postMessage({
            id: key,
            type: 'APPLY',
            path: [method],
            argumentList: args.map((value) => ({ type: 'RAW', value })),
          })
        })
      await ask('open', [sent])
      return [await ask('ask', ['overview', when, []]), await ask('ask', ['previewPlan', when, [5]])]
    },
    { address: worker, record: JSON.parse(JSON.stringify(record)) as typeof record, moment },
  )
  expect(inBrowser[0]).toBe(JSON.stringify(overview(record, moment)))
  expect(inBrowser[1]).toBe(JSON.stringify(previewPlan(record, moment, 5)))
})
