import { writeFileSync } from 'node:fs'
import { expect, test } from './test'
import { at, enterDemo, openDemo, placeLink } from './steps'

test.use({ serviceWorkers: 'allow' })

test('the pace card opens with the network off after one visit, and goes when one signs out', async ({
  page,
  context,
}) => {
  await enterDemo(page, 'Maudra Okonby')
  await openDemo(page, 'Maudra Okonby', 'Today')
  const id = /\/c\/([^/]+)/.exec(page.url())![1]!
  // One visit to the candidate, not to the card: it is worked out beside the screens, and the application kept.
  await expect
    .poll(() => page.evaluate((key) => localStorage.getItem(key), `climber.card.${id}`), { timeout: 30_000 })
    .toBeTruthy()
  await page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state)
  await context.setOffline(true)
  const other = await context.newPage()
  await other.goto(`${at('DEMO')}/c/${id}/card`)
  await expect(other.getByTestId('kept')).toBeVisible()
  const card = other.getByTestId('card-streams')
  await expect(card).toContainText('to 10:26')
  await expect(card).toContainText('With three options left')
  await other.reload()
  await expect(card).toBeVisible()
  await context.setOffline(false)
  await other.goto(`${at('DEMO')}/`)
  await other.waitForURL(/\/c\//) // a candidate alone is taken to the day
  await other.getByRole('button', { name: /^Account/ }).click()
  await other.getByText('Sign out', { exact: true }).click()
  await expect(other.getByRole('heading', { name: 'Sign in' })).toBeVisible()
  await context.setOffline(true)
  await other.goto(`${at('DEMO')}/c/${id}/card`)
  await expect(other.getByRole('alert')).toContainText('No card is kept in this browser')
})

test('the pace card prints on a quarter of a page, nothing cut', async ({ page }) => {
  await enterDemo(page, 'Corvane Tessel')
  await openDemo(page, 'Maudra Okonby', 'Pacing')
  await page.getByRole('link', { name: 'Pace card' }).click()
  const cards = page.locator('article.card')
  await expect(cards).toHaveCount(3)
  await page.emulateMedia({ media: 'print' })
  for (const card of await cards.all()) {
    const size = await card.evaluate((own) => ({
      cut: own.scrollHeight > own.clientHeight + 1 || own.scrollWidth > own.clientWidth + 1,
      width: own.getBoundingClientRect().width / (96 / 25.4),
      height: own.getBoundingClientRect().height / (96 / 25.4),
      type: parseFloat(getComputedStyle(own).fontSize) * 0.75,
    }))
    expect(size.cut).toBe(false)
    expect(size.width).toBeLessThanOrEqual(105)
    expect(size.height).toBeLessThanOrEqual(148.5)
    expect(size.type).toBeGreaterThanOrEqual(6)
  }
  const pdf = await page.pdf({ format: 'A4', preferCSSPageSize: true })
  // Three cards on one page.
  expect((pdf.toString('latin1').match(/\/Type\s*\/Page[^s]/g) ?? []).length).toBe(1)
  if (process.env['CLIMBER_KEEP_PDF']) writeFileSync(process.env['CLIMBER_KEEP_PDF'], pdf)
  await page.emulateMedia({ media: 'screen' })
  await page.getByRole('link', { name: 'Back to Pacing' }).click()
  await expect(placeLink(page, 'Practise')).toHaveAttribute('aria-current', 'page')
})
