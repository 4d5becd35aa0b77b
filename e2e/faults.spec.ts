import { expect, test } from './test'
import {
  at,
  beginPlan,
  candidateMenu,
  enterDemo,
  fillCounts,
  goTo,
  makeAccount,
  openDemo,
  saved,
} from './steps'

test.use({ kinds: ['DEMO', 'EMPTY'] })

test('with the server gone what is typed stays, is said, and is sent when it is back', async ({ page }) => {
  await makeAccount(page, 'EMPTY')
  await beginPlan(page)
  await saved(page)
  await page.route('**/api/**', (route) => route.abort())
  await fillCounts(page)
  await expect(page.getByTestId('save-state')).toHaveText(/Offline: 1 change kept in this browser/)
  await page.unroute('**/api/**')
  await expect(page.getByTestId('save-state')).toHaveText('Saved', { timeout: 30_000 })
  await page.reload()
  await expect(page.getByLabel('Tides and streams: right')).toHaveValue('18')
})

test('a closed tab loses nothing that was typed', async ({ page, context }) => {
  await makeAccount(page, 'EMPTY')
  await beginPlan(page)
  await saved(page)
  const address = page.url()
  await page.route('**/api/**', (route) => route.abort())
  await page.getByRole('tab', { name: 'Target' }).click()
  await page.getByLabel('The score you need').fill('299')
  await page.close()
  const again = await context.newPage()
  await again.goto(address)
  await again.getByRole('tab', { name: 'Target' }).click()
  await expect(again.getByLabel('The score you need')).toHaveValue('299')
  await saved(again)
})

test('two people editing the same part: the second hears of it and chooses', async ({ browser }) => {
  const [tutor, candidate] = await Promise.all([browser.newPage(), browser.newPage()])
  await enterDemo(tutor, 'Corvane Tessel')
  await enterDemo(candidate, 'Maudra Okonby')
  for (const page of [tutor, candidate]) {
    await openDemo(page, 'Maudra Okonby', 'Exam day')
    await expect(page.getByLabel('Way there, min')).toHaveValue('40')
  }
  await tutor.getByLabel('Way there, min').fill('55')
  await saved(tutor)
  await candidate.getByLabel('Way there, min').fill('25')
  const notice = candidate.getByRole('alert').filter({ hasText: 'Corvane Tessel changed this' })
  await expect(notice).toBeVisible()
  await expect(candidate.getByLabel('Way there, min')).toHaveValue('25')
  await expect(notice.getByRole('row', { name: 'travel minutes' })).toContainText('5525')
  await notice.getByRole('button', { name: 'Take theirs' }).click()
  await expect(candidate.getByLabel('Way there, min')).toHaveValue('55')
  await candidate.getByLabel('Way there, min').fill('40')
  await saved(candidate)
})

test('bad input is explained at its field and stays', async ({ page }) => {
  await makeAccount(page, 'EMPTY')
  await beginPlan(page)
  await fillCounts(page, { 'Tides and streams': [30, 14, 8] })
  await expect(page.getByText('52 of 40: 12 too many')).toBeVisible()
  await expect(page.getByTestId('save-state')).toHaveText(/a field needs mending/)
  await expect(page.getByTestId('make-plan')).toBeDisabled()
  await page.getByLabel('Tides and streams: right').fill('18')
  await expect(page.getByText('40 of 40')).toBeVisible()
  await page.getByRole('tab', { name: 'Free time' }).click()
  await page.getByLabel('Day off').fill('2029-12-24')
  await page.getByRole('button', { name: 'Add the day' }).click()
  await expect(page.getByText(/24 Dec 2029 is over; choose a day from today on/)).toBeVisible()
  await page.getByLabel('At most, days a week').fill('9')
  await page.getByLabel('At most, days a week').blur()
  await expect(page.getByText('a whole number, from 1 to 7')).toBeVisible()
  await page.getByLabel('At most, days a week').fill('6')
  await page.getByTestId('make-plan').click()
  await expect(
    page
      .getByText('There is no free hour left for any topic before the exam.')
      .or(page.getByText(/No free hour/))
      .first(),
  ).toBeVisible()
})

test('a broken Climber file is listed problem by problem and changes nothing', async ({ page }) => {
  await makeAccount(page, 'EMPTY')
  await page.goto(`${at('EMPTY')}/new`)
  const bring = (name: string, text: string) =>
    page
      .getByLabel('Climber file')
      .setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) })
  await bring('cut.json', '{"climber": 1, "exam": {')
  await expect(page.getByText(/this is not JSON/)).toBeVisible()
  await bring(
    'empty.json',
    '{"climber": 1, "exam": {"title": "", "sections": [], "topics": [], "composite": {"kind": "sum"}}}',
  )
  await expect(page.getByRole('row', { name: /exam.title/ })).toContainText('write a name')
  await expect(page.getByRole('row', { name: /exam.sections/ })).toBeVisible()
  await bring('newer.json', '{"climber": 3, "exam": {}}')
  await expect(page.getByText(/version 3; this Climber reads version 2/)).toBeVisible()
  await page.goto(`${at('EMPTY')}/exams`)
  await expect(page.getByText('None yet.')).toBeVisible()
})

test('a plan deleted by mistake is put back with one press', async ({ page }) => {
  await makeAccount(page, 'EMPTY')
  await beginPlan(page)
  await fillCounts(page)
  await saved(page)
  await candidateMenu(page).click()
  await page.getByText('Delete this plan').click()
  await expect(page.getByText('The plan of Tamsel Orrin is deleted.')).toBeVisible()
  await expect(page.getByTestId('roster-row')).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByRole('link', { name: 'Tamsel Orrin' }).click()
  await goTo(page, 'Set-up')
  await expect(page.getByLabel('Tides and streams: right')).toHaveValue('18')
})

test('a tutor hands a plan over, and the candidate opens it with an account of their own', async ({
  page,
  browser,
}) => {
  await makeAccount(page, 'EMPTY')
  await page.getByRole('link', { name: 'New plan' }).click()
  await page.getByRole('button', { name: 'Somebody I teach' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Perrin Skell')
  await page.getByRole('radio', { name: /Tidal Pilot's Certificate/ }).check()
  await page.getByRole('button', { name: 'Begin' }).click()
  await candidateMenu(page).click()
  await page.getByText('Invite the candidate').click()
  const address = await page.getByLabel(/Give Perrin Skell this address/).inputValue()
  const candidate = await (await browser.newContext()).newPage()
  // Who invites, and to what, is told before anybody signs in.
  await candidate.goto(address)
  await expect(candidate.getByRole('heading', { name: /invites you to your plan/ })).toBeVisible()
  await expect(candidate.getByText("Tidal Pilot's Certificate, second grade")).toBeVisible()
  await candidate.getByRole('link', { name: /Sign in, or make an account/ }).click()
  await candidate.waitForURL(/sign-in\?to=/)
  await makeAccount(candidate, 'EMPTY')
  await candidate.goto(address)
  await candidate.getByRole('button', { name: /^Open it as/ }).click()
  await expect(candidate.getByText('Perrin Skell')).toBeVisible()
  const late = await (await browser.newContext()).newPage()
  await makeAccount(late, 'EMPTY')
  await late.goto(address)
  await expect(late.getByText(/was used already, has run out, or was replaced/)).toBeVisible()
})
