import AxeBuilder from '@axe-core/playwright'
import { screens } from './everyScreen'
import { at, drawn, enterDemo } from './steps'
import { expect, type Page, test } from './test'

/** All rules, or some by name. */
async function violations(page: Page, rules?: string[]) {
  // The table of guessing has a number in each of hundreds of cells, all of one colour: a few are enough to look at.
  // Of what passes only one node is told: telling where all of them stand takes longer than looking at them. There are no frames.
  const axe = new AxeBuilder({ page })
    .options({ resultTypes: ['violations'] })
    .setLegacyMode()
    .exclude('.number:nth-of-type(n + 6)')
  const { violations } = await (rules ? axe.withRules(rules) : axe).analyze()
  return violations.map(
    ({ id, nodes }) =>
      `${id}: ${nodes.map(({ target, failureSummary }) => `${target.join(' ')} ${failureSummary}`).join(' | ')}`,
  )
}

/** Walks every screen and finds nothing on any; one theme a file, so that two can be walked side by side. */
export function findsNothing(colorScheme: 'light' | 'dark', rules?: string[]): void {
  test.describe(`axe, ${colorScheme}`, () => {
    test.use({ colorScheme })
    test('finds nothing on any screen', async ({ page }) => {
      test.setTimeout(1_800_000)
      await page.goto(`${at('DEMO')}/sign-in`)
      await page.getByRole('heading', { name: 'Sign in' }).waitFor()
      expect(await violations(page, rules), 'sign-in').toEqual([])
      await enterDemo(page, 'Corvane Tessel')
      for (const [name, open] of screens) {
        await open(page)
        await drawn(page)
        expect(await violations(page, rules), name).toEqual([])
      }
    })
  })
}
