import { at, candidateMenu, enterDemo, goTo } from './steps'
import { expect, test } from './test'

test('one figure in seven places is one figure, and opens to the candidates it was counted on', async ({
  page,
}) => {
  await enterDemo(page, 'Corvane Tessel')
  const row = page.getByRole('row').filter({ hasText: 'Idrel Pellowick' })
  const odds = (await row.locator('.odds').innerText()).trim()
  expect(odds).toMatch(/^\d+%$/)
  const [mean] = /^\d+/.exec(await row.getByText(/^\d+ for \d+/).innerText())!

  await page.getByRole('link', { name: 'Idrel Pellowick' }).click()
  await expect(candidateMenu(page)).toBeVisible()
  await goTo(page, 'Gap')
  await expect(page.getByTestId('plan-odds')).toHaveText(odds)
  await expect(page.getByTestId('explored').getByTestId('verdict-odds')).toHaveText(odds)
  await expect(page.getByTestId('levers')).toBeVisible()
  await page
    .getByTestId('explored')
    .getByRole('button', { name: /Odds of the target/ })
    .click()
  const why = page.locator('.v-overlay .why')
  const share = Number(await why.locator('strong').first().innerText()) / 10
  expect(Math.abs(share - Number.parseInt(odds))).toBeLessThanOrEqual(0.5)
  await expect(
    why.getByRole('img', { name: `${Math.round(share)} of 100 possible candidates pass` }),
  ).toBeVisible()
  await page.keyboard.press('Escape')

  await goTo(page, 'Scores')
  await expect(page.getByTestId('odds')).toHaveText(odds)
  await expect(page.getByTestId('forecast')).toHaveText(mean!)
  await expect(page.getByTestId('last-test')).toContainText(`the odds are ${odds}`)
  await page.getByRole('link', { name: 'What a re-plan would change' }).click()
  await expect(page.getByTestId('replan')).toContainText(`${odds} if nothing is mended`)

  await goTo(page, 'Set-up')
  await expect(page.getByTestId('verdict-odds')).toHaveText(odds)
  expect(page.url()).toContain(at('DEMO'))
})
