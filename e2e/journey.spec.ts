import { readFileSync } from 'node:fs'
import ICAL from 'ical.js'
import { expect, test } from './test'
import {
  beginPlan,
  candidateMenu,
  choose,
  fillCounts,
  goTo,
  makeAccount,
  numberIn,
  paint,
  saved,
} from './steps'

test.use({ kinds: ['EMPTY', 'OTHER'] })

test('from an empty account to a logged score that moves the forecast, and on to another server', async ({
  page,
  browser,
}) => {
  await makeAccount(page, 'EMPTY')
  await expect(page.getByText('No plan yet.')).toBeVisible()
  await beginPlan(page)

  await fillCounts(page)
  await page
    .getByRole('group', { name: 'Tidal curves: your rating' })
    .getByRole('button', { name: 'weak' })
    .click()
  await page
    .getByRole('group', { name: 'Course offset for set: your rating' })
    .getByRole('button', { name: 'not covered' })
    .click()
  await page.getByRole('tab', { name: 'Free time' }).click()
  await expect(page.getByText('Nothing is free yet, so there is nothing to plan with.')).toBeVisible()
  for (const day of ['Mon', 'Tue', 'Thu']) await paint(page, day, '18:00', '20:00')
  await paint(page, 'Sat', '09:00', '14:30')
  await expect(page.getByText('13 h 30 a week')).toBeVisible()
  await page.getByRole('tab', { name: 'Target' }).click()
  await page.getByLabel('The score you need').fill('305')
  await page.getByRole('radio').nth(2).check()
  await expect(page.getByTestId('verdict-odds')).toHaveText(/%/)
  await saved(page)

  await page.getByTestId('make-plan').click()
  await expect(page).toHaveURL(/\/plan$/)
  const session = page.locator('[data-session]').first()
  await expect(session).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Why this' })).toBeVisible()

  await goTo(page, 'Today')
  const title = await page.getByTestId('next-title').textContent()
  await page.getByRole('button', { name: 'Start', exact: true }).click()
  // The answer to Start sets the minutes; what is typed while it is on its way would be mixed with it.
  await expect(page.getByRole('button', { name: 'Stop: done' })).toBeVisible()
  await page.getByLabel(`Minutes spent on ${title}`).fill('35')
  await page.getByRole('button', { name: 'Stop: done' }).click()
  await expect(page.getByText('35 min of')).toBeVisible()

  await goTo(page, 'Pacing')
  await page.getByLabel('Kept back to transfer and check').fill('4')
  await expect(page.getByTestId('checkpoints')).toContainText('56:00')
  await saved(page)

  await goTo(page, 'Scores')
  const before = await numberIn(page.getByTestId('forecast'))
  await page.getByRole('button', { name: 'Log a test' }).click()
  const dialog = page.getByRole('dialog')
  await choose(dialog, 'Paper', 'Tidewise practice paper 1')
  await fillCounts(dialog, {
    'Tides and streams': [33, 5, 2],
    'Passage work': [24, 4, 2],
    'Lights, marks and signals': [38, 5, 2],
  })
  await expect(dialog.getByTestId('score-preview')).toBeVisible()
  await dialog.getByRole('button', { name: 'Keep it' }).click()
  await expect(page.getByTestId('tests')).toContainText('Tidewise practice paper 1')
  await expect.poll(() => numberIn(page.getByTestId('forecast'))).toBeGreaterThan(before + 5)
  const forecast = await page.getByTestId('forecast').textContent()

  await goTo(page, 'Exam day')
  await expect(page.getByText('Leave home')).toBeVisible()
  await page.getByLabel('Admission slip').check()
  await saved(page)

  await candidateMenu(page).click()
  const calendarFile = page.waitForEvent('download')
  await page.getByText('Calendar file (iCalendar)').click()
  const calendar = new ICAL.Component(ICAL.parse(readFileSync((await (await calendarFile).path())!, 'utf8')))
  expect(calendar.getAllSubcomponents('vevent').length).toBeGreaterThan(50)
  await candidateMenu(page).click()
  const wholeFile = page.waitForEvent('download')
  await page.getByText('Everything, as a Climber file').click()
  const file = await (await wholeFile).path()

  // The same screens on an empty server.
  const elsewhere = await (
    await browser.newContext({ viewport: { width: 1280, height: 800 }, timezoneId: 'Etc/UTC' })
  ).newPage()
  await makeAccount(elsewhere, 'OTHER')
  await elsewhere.getByRole('link', { name: 'New plan' }).click()
  await elsewhere.getByLabel('Climber file').setInputFiles(file!)
  await expect(elsewhere.getByTestId('next-title')).toBeVisible()
  for (const screen of ['Today', 'Plan', 'Scores', 'Pacing', 'Guessing', 'Exam day', 'Set-up']) {
    const textOf = async (one: typeof page) => (await one.getByRole('main').innerText()).replace(/\s+/g, ' ')
    for (const one of [page, elsewhere]) {
      await goTo(one, screen)
      await expect(one.getByRole('main')).toBeVisible()
      if (screen === 'Scores') await expect(one.getByTestId('forecast')).toHaveText(forecast!)
    }
    // What is worked out beside the screen may still be on its way on either side: both must come to the same rest.
    await expect(async () => {
      const here = await textOf(page)
      expect(here).not.toContain('would give …')
      expect(await textOf(elsewhere), screen).toBe(here)
    }).toPass({ timeout: 20_000 })
  }
})
