import { randomUUID } from 'node:crypto'
import { expect, type Locator, type Page, test } from './test'
import { at, candidateMenu, chosenIn, placeLink, saved } from './steps'

test.use({ kinds: ['DEMO', 'EMPTY'] })

/** Presses Tab until the element has the focus, as a person without a mouse does. */
async function tabTo(page: Page, wanted: Locator, most = 140): Promise<void> {
  await wanted.first().waitFor()
  for (let presses = 0; presses < most; presses++) {
    if (await wanted.first().evaluate((element) => element === document.activeElement)) return
    await page.keyboard.press('Tab')
  }
  throw new Error(`${String(wanted)} cannot be reached with Tab`)
}

/** Goes to an element by Tab and presses a key on it. */
const presser =
  (page: Page) =>
  async (wanted: Locator, key = 'Enter'): Promise<void> => {
    await tabTo(page, wanted)
    await page.keyboard.press(key)
  }

test('every step of the path can be done by keyboard', async ({ page }) => {
  const keys = page.keyboard
  const press = presser(page)
  const write = async (wanted: Locator, text: string) => {
    await tabTo(page, wanted)
    await keys.press('ControlOrMeta+a')
    await keys.type(text)
  }
  await page.goto(`${at('EMPTY')}/sign-in`)
  await press(page.getByRole('button', { name: 'I am new here' }))
  await write(page.getByLabel('Your name'), 'Keys Only')
  await write(page.getByLabel('E-mail'), `${randomUUID()}@mail.example`)
  await write(page.getByLabel('Password'), 'a long enough secret')
  await keys.press('Enter')
  await press(page.getByRole('link', { name: 'Start the first plan' }))
  const tidal = page.getByRole('radio', { name: /Tidal Pilot's Certificate/ })
  await tabTo(page, page.getByRole('radio', { name: /Archive Cataloguers/ }))
  for (let step = 0; step < 4 && !(await tidal.isChecked()); step++) await keys.press('ArrowDown')
  await expect(tidal).toBeChecked()
  await press(page.getByRole('button', { name: 'Begin' }))
  await press(page.getByRole('tab', { name: 'Where you stand' }), 'Space')

  const counts = {
    'Tides and streams': [18, 14, 8],
    'Passage work': [12, 11, 7],
    'Lights, marks and signals': [26, 13, 6],
  }
  for (const [section, [right, wrong, blank]] of Object.entries(counts)) {
    await write(page.getByLabel(`${section}: right`), String(right))
    await write(page.getByLabel(`${section}: wrong`), String(wrong))
    await write(page.getByLabel(`${section}: left blank`), String(blank))
  }
  await press(
    page.getByRole('group', { name: 'Tidal curves: your rating' }).getByRole('button', { name: 'weak' }),
    'Space',
  )
  await press(page.getByRole('tab', { name: 'Target' }), 'Space')
  await write(page.getByLabel('The score you need'), '300')
  await press(page.getByRole('tab', { name: 'Free time' }), 'Space')
  // The painter: Space frees a half-hour, Shift and an arrow key paint along.
  await tabTo(page, page.getByRole('gridcell', { name: /^Mon 18:00:/ }))
  await keys.press('Space')
  for (let half = 0; half < 5; half++) await keys.press('Shift+ArrowRight')
  await keys.press('ArrowDown')
  await keys.press('Space')
  for (let half = 0; half < 8; half++) await keys.press('Shift+ArrowLeft')
  await expect(page.getByRole('gridcell', { name: 'Tue 16:30: free' })).toBeFocused()
  await press(page.getByTestId('make-plan'))
  await expect(page).toHaveURL(/\/plan$/)

  await tabTo(page, page.locator('[data-session][tabindex="0"]'))
  const first = await page.evaluate(() => document.activeElement?.getAttribute('data-session'))
  await keys.press('ArrowDown')
  expect(await page.evaluate(() => document.activeElement?.getAttribute('data-session'))).not.toBe(first)

  await keys.press('g')
  await keys.press('t')
  await expect(page).toHaveURL(/\/today$/)
  await press(page.getByRole('button', { name: 'Start', exact: true }))
  await press(page.getByRole('button', { name: 'Stop: done' }))
  await expect(page.getByText(/min of .* done/)).toBeVisible()

  // Slow hands: what was begun with g waits for its letter.
  await keys.press('g')
  await page.waitForTimeout(1500)
  await keys.press('s')
  await press(page.getByRole('button', { name: 'Log a test' }))
  for (const [section, [right, wrong, blank]] of Object.entries(counts)) {
    const dialog = page.getByRole('dialog')
    await write(dialog.getByLabel(`${section}: right`), String(right))
    await write(dialog.getByLabel(`${section}: wrong`), String(wrong))
    await write(dialog.getByLabel(`${section}: left blank`), String(blank))
  }
  await press(page.getByRole('button', { name: 'Keep it' }))
  await expect(page.getByTestId('tests')).toBeVisible()

  await keys.press('g')
  await keys.press('a')
  await write(page.getByLabel('Kept back to transfer and check'), '3')
  await tabTo(page, placeLink(page, 'Exam day'))
  await keys.press('?')
  await expect(page.getByRole('heading', { name: 'Keys' })).toBeVisible()
  await keys.press('Escape')
  await expect(page.getByRole('heading', { name: 'Keys' })).toBeHidden()
  await keys.press('Control+k')
  const find = page.getByRole('textbox', { name: 'Go to, or do' })
  await expect(find).toBeFocused()
  await keys.type('guessing tr')
  await expect(page.getByRole('option')).toHaveCount(1)
  await keys.press('Enter')
  await expect(find).toBeHidden()
  await expect(page).toHaveURL(/\/guessing\?view=trainer$/)
  await tabTo(page, placeLink(page, 'Exam day'))
  await keys.press('Enter')
  await press(page.getByLabel('Admission slip'), 'Space')
  await expect(page.getByText('3 of what you must bring are not packed yet.')).toBeVisible()
  await press(candidateMenu(page))
  await expect(page.getByText('Calendar file (iCalendar)')).toBeVisible()
})

test.describe('with little motion', () => {
  test.use({ contextOptions: { reducedMotion: 'reduce' } })
  test('a test is set up, sat, marked and read by keyboard alone, and told aloud', async ({ page }) => {
    const keys = page.keyboard
    const press = presser(page)
    /** Opens a list by an arrow and goes down it to an option. */
    const pick = async (label: string, option: RegExp) => {
      const box = page.getByRole('combobox', { name: label })
      const wanted = page.getByRole('option', { name: option })
      // A list that still opens puts the focus on what was chosen before: what is chosen is seen, or chosen again.
      await expect(async () => {
        await press(box, 'ArrowDown')
        await wanted.waitFor({ timeout: 10_000 })
        for (let step = 0; step < 60; step++) {
          if (await wanted.evaluate((element) => element.contains(document.activeElement))) break
          await keys.press('ArrowDown')
        }
        await keys.press('Enter')
        await expect(chosenIn(page, label)).toHaveText(option, { timeout: 5000 })
      }).toPass({ timeout: 90_000 })
    }
    await page.goto(`${at('DEMO')}/sign-in`)
    await press(page.getByRole('button', { name: /Corvane Tessel/ }))
    await press(page.getByRole('link', { name: 'Maudra Okonby' }))
    await expect(page.getByText('Saved', { exact: true })).toBeVisible()
    await keys.press('g')
    await keys.press('i')
    await expect(page.getByRole('heading', { name: 'Sit a test' })).toBeVisible()
    await pick('Paper', /^Pilotage Board paper 2/)
    await pick('What', /Only Passage work/)
    await press(page.getByRole('button', { name: 'Enter the room' }))
    await press(page.getByRole('button', { name: 'Start the clock' }))
    const aloud = page.getByRole('status').first()
    await expect(aloud).toHaveText('Item 1 of 30')
    await keys.press('b')
    await expect(aloud).toHaveText('B for item 1. Item 2 of 30')
    await keys.press('Shift+A')
    await expect(aloud).toHaveText('A struck out. Item 2 of 30')
    await keys.press('?')
    await expect(aloud).toHaveText('Marked between two. Item 2 of 30')
    await keys.press('Space')
    await expect(aloud).toHaveText('Item 2 left. Item 3 of 30')
    for (let item = 3; item <= 30; item++) await keys.press('abcd'[item % 4]!)
    // Behind the last item stands the list of all of them, with the focus in it.
    const list = page.getByRole('dialog', { name: 'All items' })
    await expect(list).toContainText('29 of 30 answered, 1 left')
    expect(await list.evaluate((element) => element.contains(document.activeElement))).toBe(true)
    await press(list.getByRole('button', { name: 'Item 2, left, between two' }))
    await keys.press('c')
    await keys.press('3')
    await keys.press('0')
    await keys.press('Enter')
    await keys.press('ArrowRight')
    await press(list.getByRole('button', { name: 'Hand in Passage work' }))
    await press(list.getByRole('button', { name: 'Hand in now' }))
    await expect(page.getByTestId('tally')).toHaveText(/of 30$/)
    await press(page.getByRole('link', { name: 'What this test says' }))
    await expect(page.getByRole('region', { name: 'Passage work' })).toBeVisible()
    await tabTo(page, page.getByRole('application', { name: /Passage work/ }))
    for (const [key, item] of [
      ['ArrowRight', 1],
      ['ArrowRight', 2],
      ['ArrowLeft', 1],
    ] as const) {
      await keys.press(key)
      await expect(page.getByRole('status').filter({ hasText: `Item ${item} ` })).toBeVisible()
    }
    // Deleted by a slip, it is put back.
    await press(page.getByRole('button', { name: 'Delete this test' }))
    await expect(page.getByText(/The test of .* is gone/)).toBeVisible()
    await press(page.getByRole('button', { name: 'Undo' }))
    await expect(page.getByText(/The test of .* is gone/)).toHaveCount(0)
    // What is on its way arrives: journeys after this one have the same candidate.
    await saved(page)
    // Nothing moves for whoever asked for that.
    const moving = await page.evaluate(
      () => document.getAnimations().filter(({ playState }) => playState === 'running').length,
    )
    expect(moving).toBe(0)
  })
})
