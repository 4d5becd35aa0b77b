import { screens } from './everyScreen'
import { drawn, enterDemo } from './steps'
import { expect, type Page, test } from './test'

/** What still moves by itself, and for how many milliseconds. */
const moving = (page: Page): Promise<string[]> =>
  page.evaluate(() =>
    document.getAnimations().flatMap((animation) => {
      const { duration, iterations } = animation.effect!.getComputedTiming()
      const lasts = Number(duration) * Number(iterations)
      const { target } = animation.effect as KeyframeEffect
      return animation.playState === 'running' && lasts > 100
        ? [`${(target as Element | null)?.className ?? ''}: ${lasts} ms`]
        : []
    }),
  )

for (const [what, viewport] of [
  ['a phone', { width: 390, height: 844 }],
  ['the narrowest phone', { width: 320, height: 640 }],
  // 1280 by 800 at 200 per cent.
  ['a desk where everything is twice as large', { width: 640, height: 400 }],
] as const)
  test.describe(`on ${what}`, () => {
    test.use({ viewport, contextOptions: { reducedMotion: 'reduce' } })
    test('no screen is wider than the page, and nothing moves for whoever wants that', async ({ page }) => {
      await enterDemo(page, 'Corvane Tessel')
      for (const [name, open] of screens) {
        await open(page)
        await drawn(page)
        const width = () => page.evaluate(() => document.documentElement.scrollWidth)
        expect.soft(await width(), name).toBeLessThanOrEqual(viewport.width)
        expect.soft(await moving(page), name).toEqual([])
      }
    })
  })
