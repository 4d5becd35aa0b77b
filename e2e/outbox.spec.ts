import type { BrowserContext } from '@playwright/test'
import type { Candidate } from '@climber/contract'
import { randomFrom } from '@climber/core'
import { ownServer } from './servers'
import { at, choose, enterDemo, fillCounts, goTo, openDemo } from './steps'
import { expect, type Page, test } from './test'

test.use({ serviceWorkers: 'allow' })

const idOf = (page: Page): string => /\/c\/([^/]+)/.exec(page.url())![1]!
const state = (page: Page) => page.getByTestId('save-state')
const kept = async (page: Page): Promise<void> => {
  await page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state)
}
const recordOf = async (page: Page, server: string, id: string): Promise<Candidate> =>
  (await (await page.request.get(`${server}/api/candidates/${id}`)).json()) as Candidate

test('Today, Plan and Exam day open with the network off, and what is done there waits and is sent', async ({
  page,
  context,
}) => {
  await enterDemo(page, 'Maudra Okonby')
  await openDemo(page, 'Maudra Okonby', 'Today')
  await kept(page)
  await context.setOffline(true)
  await page.reload()
  await expect(state(page)).toHaveText('Offline: what you do is kept here and sent later')
  const done = page.getByText(/^Done, \d+ minutes\.$/)
  const before = await done.count()
  await page.getByRole('button', { name: 'Done', exact: true }).first().click()
  await expect(done).toHaveCount(before + 1)
  await expect(state(page)).toHaveText('Offline: 1 change kept in this browser, sent when the server answers')
  await page.reload()
  await expect(done).toHaveCount(before + 1)
  await expect(state(page)).toHaveText(/^Offline: 1 change kept/)
  for (const screen of ['Plan', 'Exam day']) {
    await goTo(page, screen)
    await expect(page.getByRole('heading', { name: screen, exact: true })).toBeAttached()
    await page.reload()
    await expect(page.getByRole('heading', { name: screen, exact: true })).toBeAttached()
  }
  await page.getByLabel('Way there, min').fill('47')
  await expect(state(page)).toHaveText(/^Offline: 2 changes kept/)
  await state(page).click()
  await expect(page.getByRole('list', { name: 'What waits' }).getByText('The exam day')).toBeVisible()
  await context.setOffline(false)
  await expect(state(page)).toHaveText('Saved')
  const { parts, plan } = await recordOf(page, at('DEMO'), idOf(page))
  expect(parts.examDay?.document).toMatchObject({ travelMinutes: 47 })
  expect(plan?.sessions.filter(({ status, date }) => status === 'done' && date === '2030-01-15').length).toBe(
    before + 1,
  )
  await page.getByLabel('Way there, min').fill('40')
  await goTo(page, 'Today')
  await page.getByRole('button', { name: 'Not done after all' }).first().click()
  await expect(state(page)).toHaveText('Saved')
})

test('two tabs share what waits: what one types offline shows in the other, and goes once', async ({
  page,
  context,
}) => {
  await enterDemo(page, 'Idrel Pellowick')
  await openDemo(page, 'Idrel Pellowick', 'Exam day')
  await kept(page)
  const other = await context.newPage()
  await other.goto(page.url())
  const field = (tab: Page) => tab.getByLabel('Way there, min')
  const was = await field(page).inputValue()
  await expect(field(other)).toHaveValue(was)
  await context.setOffline(true)
  await field(page).fill('33')
  await expect(field(other)).toHaveValue('33')
  await field(other).fill('34')
  await expect(field(page)).toHaveValue('34')
  await expect(state(page)).toHaveText(/^Offline: 1 change kept/)
  await page.close()
  await context.setOffline(false)
  await expect(state(other)).toHaveText('Saved')
  const { parts } = await recordOf(other, at('DEMO'), idOf(other))
  expect(parts.examDay?.document).toMatchObject({ travelMinutes: 34 })
  await field(other).fill(was)
  await expect(state(other)).toHaveText('Saved')
})

/** One seeded try: things done on screens, with faults between them; then everything is put right and the record looked at. */
async function tryOut(
  seed: number,
  context: BrowserContext,
  first: Page,
  server: Awaited<ReturnType<typeof ownServer>>,
  id: string,
): Promise<Page> {
  const random = randomFrom(seed)
  let page = first
  let up = true
  let online = true
  let minutes: number | undefined
  let done: number | undefined
  const titles: string[] = []
  /** Shown as waiting or as confirmed: from here on it must not be lost. */
  const shown = () => expect(state(page)).toHaveText(/^Offline: \d+ changes? kept|^Saved$/)
  const go = (screen: string) => goTo(page, screen)
  const doneWords = () => page.getByText(/^Done, \d+ minutes\.$/)
  for (let step = 0; step < 7; step++) {
    const what = random()
    if (what < 0.13) await context.setOffline((online = !online) === false)
    else if (what < 0.24) {
      if (up) server.kill()
      else await server.restart()
      up = !up
    } else if (what < 0.38) {
      const url = page.url()
      await page.close()
      page = await context.newPage()
      await page.goto(url)
    } else if (what < 0.68) {
      minutes = 10 + ((seed * 10 + step) % 200)
      await go('Exam day')
      await page.getByLabel('Way there, min').fill(String(minutes))
      await shown()
    } else if (what < 0.9) {
      await go('Today')
      await expect(page.getByRole('heading', { name: 'Today', exact: true })).toBeAttached()
      const before = await doneWords().count()
      // Two sessions stand on this day; with both done the next is another day's.
      const undo = before === 2 || (before === 1 && random() < 0.5)
      await page
        .getByRole('button', { name: undo ? 'Not done after all' : 'Done', exact: true })
        .first()
        .click()
      done = before + (undo ? -1 : 1)
      await expect(doneWords()).toHaveCount(done)
      await shown()
    } else {
      await go('Scores')
      await page.getByRole('button', { name: 'Log a test' }).first().click()
      const dialog = page.getByRole('dialog')
      const title = `Paper ${seed} ${step}`
      await choose(dialog, 'Paper', 'another one')
      await dialog.getByLabel('Its name').fill(title)
      await fillCounts(dialog)
      await dialog.getByRole('button', { name: 'Keep it' }).click()
      await expect(dialog).toBeHidden()
      titles.push(title)
      await shown()
    }
  }
  if (!up) await server.restart()
  await context.setOffline(false)
  await expect(state(page)).toHaveText('Saved', { timeout: 60_000 })
  const { parts, plan, attempts } = await recordOf(page, server.url, id)
  if (minutes !== undefined) expect(parts.examDay?.document).toMatchObject({ travelMinutes: minutes })
  const today = plan?.sessions.filter(({ date, status }) => date === '2030-01-15' && status === 'done')
  if (done !== undefined) expect(today).toHaveLength(done)
  expect(titles.map((title) => attempts.filter((attempt) => attempt.title === title).length)).toEqual(
    titles.map(() => 1),
  )
  return page
}

test('seeded tries: network cut, tab closed, server killed in any order, and nothing shown is lost', async ({
  page,
  context,
}) => {
  const first = Number(process.env['CLIMBER_SEED'] ?? 1)
  const tries = Number(process.env['CLIMBER_TRIES'] ?? 4)
  test.setTimeout(120_000 + tries * 60_000)
  const server = await ownServer(`tries_${test.info().parallelIndex}`)
  try {
    await page.goto(`${server.url}/sign-in`)
    // A candidate alone is on the day at once.
    await page.getByRole('button', { name: 'Maudra Okonby' }).click()
    await page.waitForURL(/\/c\//)
    await expect(state(page)).toHaveText('Saved')
    await kept(page)
    const id = idOf(page)
    let now: Page = page
    for (let seed = first; seed < first + tries; seed++)
      await test.step(`seed ${seed}`, async () => void (now = await tryOut(seed, context, now, server, id)))
  } finally {
    server.kill()
  }
})
