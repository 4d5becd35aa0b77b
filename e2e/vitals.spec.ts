import { expect, type Page, test } from './test'
import { at, enterDemo } from './steps'

declare global {
  interface Window {
    /** What moved by itself: how far, and what. */
    moved: { by: number; what: string }[]
    /** Milliseconds from each press to the frame that shows it. */
    presses: number[]
  }
}

test('the first screen takes less than 200 kB of compressed script', async ({ page }) => {
  const session = await page.context().newCDPSession(page)
  await session.send('Network.enable')
  const scripts = new Set<string>()
  let bytes = 0
  session.on('Network.responseReceived', ({ requestId, type }) => {
    if (type === 'Script') scripts.add(requestId)
  })
  session.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    if (scripts.has(requestId)) bytes += encodedDataLength
  })
  await page.goto(`${at('DEMO')}/sign-in`)
  await expect(page.getByRole('button', { name: 'Corvane Tessel' })).toBeVisible()
  await page.waitForLoadState('networkidle')
  console.log(`first screen: ${(bytes / 1000).toFixed(1)} kB of script`)
  expect(bytes).toBeGreaterThan(100_000)
  expect(bytes).toBeLessThan(200_000)
})

const screens = [
  'today',
  'plan',
  'scores',
  'diagnosis',
  'gap',
  'pacing',
  'guessing',
  'review',
  'recall',
  'sit',
  'exam-day',
  'set-up',
  'tests',
]

for (const [size, viewport] of [
  ['a desk', { width: 1280, height: 800 }],
  ['a phone', { width: 390, height: 844 }],
] as const)
  test.describe(`on ${size}`, () => {
    test.use({ viewport })
    test('nothing moves while a screen loads', async ({ page }) => {
      test.setTimeout(180_000)
      await page.addInitScript(() => {
        window.moved = []
        new PerformanceObserver((list) => {
          for (const entry of list.getEntries() as (PerformanceEntry & {
            value: number
            hadRecentInput: boolean
            sources: { node?: Node }[]
          })[])
            if (!entry.hadRecentInput)
              window.moved.push({
                by: entry.value,
                what: entry.sources.map(({ node }) => (node?.textContent ?? '').slice(0, 30)).join(' | '),
              })
        }).observe({ type: 'layout-shift', buffered: true })
      })
      await enterDemo(page, 'Corvane Tessel')
      await page.getByRole('link', { name: 'Idrel Pellowick' }).click()
      await page.waitForURL(/\/c\//)
      const base = page.url().replace(/\/[^/]*$/, '')
      for (const address of [
        ...screens.map((one) => `${base}/${one}`),
        `${at('DEMO')}/`,
        `${at('DEMO')}/exams`,
        `${at('DEMO')}/new`,
      ]) {
        await page.goto(address)
        await page.waitForLoadState('networkidle')
        await page.waitForTimeout(2000)
        const moved = await page.evaluate(() => window.moved)
        const sum = moved.reduce((total, { by }) => total + by, 0)
        // A tenth counts as good (web.dev, Cumulative Layout Shift); ours is a quarter of that.
        expect.soft(sum, `${address}: ${moved.map(({ what }) => what).join('; ')}`).toBeLessThan(0.025)
      }
    })
  })

/** Milliseconds that a fixed piece of work takes where these bounds were set; a slower machine gets as much more time. */
const usual = 40
const slowness = (page: Page): Promise<number> =>
  page.evaluate((reference) => {
    const runs = Array.from({ length: 5 }, () => {
      const begun = performance.now()
      let sum = 0
      for (let at = 1; at < 4_000_000; at++) sum += Math.sqrt(at) % 7
      return sum > 0 ? performance.now() - begun : 0
    })
    return Math.max(1, Math.min(...runs) / reference)
  }, usual)

test('a press shows within a tenth of a second, on a processor four times slower', async ({ page }) => {
  test.setTimeout(600_000)
  await page.addInitScript(() => {
    window.presses = []
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as (PerformanceEventTiming & { interactionId: number })[])
        if (entry.interactionId) window.presses.push(entry.duration)
    }).observe({ type: 'event', durationThreshold: 16, buffered: true } as PerformanceObserverInit)
  })
  await enterDemo(page, 'Corvane Tessel')
  await page.getByRole('link', { name: 'Idrel Pellowick' }).click()
  await page.waitForURL(/\/c\//)
  const base = page.url().replace(/\/[^/]*$/, '')
  const machine = await slowness(page)
  const session = await page.context().newCDPSession(page)
  const press = (role: 'button' | 'tab' | 'link', name: string | RegExp) => () =>
    // As long as a finger is down.
    page.getByRole(role, { name, exact: true }).first().click({ delay: 80 })
  const key = (name: string) => () => page.keyboard.press(name)
  const told: string[] = []
  for (const [screen, acts] of [
    ['today', [press('link', 'Plan'), press('link', 'Progress'), press('link', 'Today')]],
    ['plan', [press('button', '1 week'), press('button', '6 weeks'), key('Tab')]],
    ['set-up', [press('tab', 'Free time'), press('tab', 'How you work'), press('tab', 'In short')]],
    ['gap', [press('button', 'faster'), press('button', 'as it looks')]],
    ['scores', [press('button', 'Log a test')]],
    ['guessing', [press('button', 'two'), press('button', 'three')]],
    ['pacing', [press('tab', 'Passage work'), press('button', 'When to leave')]],
  ] as const) {
    const worst = async () => {
      await page.goto(`${base}/${screen}`)
      await page.waitForLoadState('networkidle')
      // What is worked out for the screen has come: the presses are measured, and not its opening.
      await page.waitForTimeout(3000)
      await session.send('Emulation.setCPUThrottlingRate', { rate: 4 })
      await page.waitForTimeout(1000)
      await page.evaluate(() => void (window.presses.length = 0))
      for (const act of acts) {
        await act()
        await page.waitForTimeout(1500)
      }
      const presses = await page.evaluate(() => window.presses)
      await session.send('Emulation.setCPUThrottlingRate', { rate: 1 })
      return Math.max(0, ...presses)
    }
    let wait = await worst()
    // A handful of presses may meet what the machine does besides: what the screen itself costs comes a second time too.
    if (wait > 100 * machine) wait = Math.min(wait, await worst())
    told.push(`${screen} ${wait}`)
    expect.soft(wait, `${screen}, machine ${machine.toFixed(1)}`).toBeLessThan(150 * machine)
  }
  console.log(
    `to the next paint, ms at a quarter of the speed (machine ${machine.toFixed(2)}): ${told.join(', ')}`,
  )
})
