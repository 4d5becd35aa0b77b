import { randomUUID } from 'node:crypto'
import { expect, type Locator, type Page, test } from './test'
import { at, candidateMenu, placeLink } from './steps'

/** Presses Tab until the element has the focus, as a person without a mouse does. */
async function tabTo(page: Page, wanted: Locator, most = 140): Promise<void> {
  await wanted.first().waitFor()
  for (let presses = 0; presses < most; presses++) {
    if (await wanted.first().evaluate((element) => element === document.activeElement)) return
    await page.keyboard.press('Tab')
  }
  throw new Error(`${String(wanted)} cannot be reached with Tab`)
}

test('every step of the path can be done by keyboard', async ({ page }) => {
  const keys = page.keyboard
  const press = async (wanted: Locator, key = 'Enter') => {
    await tabTo(page, wanted)
    await keys.press(key)
  }
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

  await keys.press('g')
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
  await tabTo(page, placeLink(page, 'Exam day'))
  await keys.press('Enter')
  await press(page.getByLabel('Admission slip'), 'Space')
  await expect(page.getByText('3 of what you must bring are not packed yet.')).toBeVisible()
  await press(candidateMenu(page))
  await expect(page.getByText('Calendar file (iCalendar)')).toBeVisible()
})
