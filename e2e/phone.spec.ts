import { screens } from './everyScreen'
import { enterDemo } from './steps'
import { expect, test } from './test'

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 } })
  test('no screen is wider than the phone', async ({ page }) => {
    await enterDemo(page, 'Corvane Tessel')
    for (const [name, open] of screens) {
      await open(page)
      await page.waitForLoadState('networkidle')
      expect(await page.evaluate(() => document.documentElement.scrollWidth), name).toBeLessThanOrEqual(390)
    }
  })
})
