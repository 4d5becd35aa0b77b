import { readFileSync } from 'node:fs'
import { enterDemo, goTo, makeAccount, openDemo } from './steps'
import { expect, type Page, test } from './test'

test.use({ kinds: ['DEMO', 'EMPTY'] })

const csv = (name: string, lines: string[]) => ({
  name,
  mimeType: 'text/csv',
  buffer: Buffer.from(lines.join('\r\n')),
})

async function ownExam(page: Page): Promise<void> {
  await makeAccount(page, 'EMPTY')
  await page.getByRole('link', { name: 'Exam formats' }).click()
  await page.getByRole('button', { name: 'Take Keeper of Garden Records' }).click()
  await page.getByRole('button', { name: 'Practice tests', exact: true }).click()
}

test('a form gets its key, its items from a CSV and by hand, a stimulus and a picture; what is wrong is said at its place', async ({
  page,
}) => {
  await ownExam(page)
  await page.getByRole('button', { name: 'Add another maker' }).click()
  const added = page.getByLabel(/^Form \d+$/).last()
  await added.fill('Orchard press paper')
  await page.getByRole('row').last().getByRole('button', { name: 'Open' }).click()
  const form = page.getByRole('region', { name: 'Orchard press paper' })

  // A key too long, one with a letter that is not offered, two for an item: each is said, and stays as typed.
  const key = form.getByLabel('Key, Names and labels, 40 letters')
  for (const [typed, said] of [
    ['ABCD'.repeat(10) + 'A', '41 answers in the key; 40 items are to mark'],
    ['ABCD'.repeat(9) + 'ABCZ', 'item 40: "Z" is none of A to'],
    ['1A 2B 2C', 'two keys for item 2: B and C'],
  ] as const) {
    await key.fill(typed)
    await key.press('Tab')
    await expect(form.getByRole('alert')).toContainText(said)
    await expect(key).toHaveValue(typed)
  }
  await key.fill('ABCD'.repeat(10))
  await key.press('Tab')
  await expect(form.getByRole('alert')).toHaveCount(0)
  await expect(page.getByRole('row').filter({ hasText: 'another maker' }).last()).toContainText('40')

  // The sheet of a bare form is one to fill in.
  const waiting = page.waitForEvent('download')
  await form.getByRole('button', { name: 'Items as CSV' }).click()
  const [head, ...rows] = readFileSync(await (await waiting).path(), 'utf8')
    .trim()
    .split('\r\n')
  expect(head).toMatch(/^item,key,topic,text,option_a/)
  expect(rows).toHaveLength(89)
  const file = form.getByLabel('Items from a CSV')
  await file.setInputFiles(csv('items.csv', ['item,key,text', '1,Z,First', '1,B,Again', '90,A,Beyond']))
  for (const fault of ['row 2, key', 'row 3, item', 'row 4, item'])
    await expect(form.getByRole('alert')).toContainText(fault)
  await file.setInputFiles(
    csv('items.csv', [
      'item,key,text,option_a,option_b,option_c,option_d,stimulus,stimulus_text',
      '1,C,"Which label names the graft, and which the stock?",One,Two,Three,Four,Bed list,"The list of **bed seven**."',
      '2,D,How deep is $\\frac{h}{2}$?,-1 ell,2 ells,3 ells,4 ells,Bed list,',
    ]),
  )
  await expect(form.getByRole('status')).toContainText('2 rows read')

  await form.getByRole('button', { name: 'Items and texts' }).click()
  await form.getByRole('button', { name: /item 2: key D, text/ }).click()
  await expect(form.getByRole('combobox', { name: 'Key' })).toHaveValue('D')
  await expect(form.getByLabel('Option A')).toHaveValue('-1 ell')
  await expect(form.getByRole('group', { name: 'The stimulus as it is seen' }).locator('strong')).toHaveText(
    'bed seven',
  )
  await expect(form.getByRole('group', { name: 'The item as it is seen' }).locator('math')).toHaveCount(1)
  await form.getByRole('button', { name: 'Next item' }).click()
  await form.getByLabel('Text of the item').fill('Who wrote the label? ![a label](picture:label)')
  await form.getByLabel('Option A').fill('The gardener')
  await expect(form.getByText('write the option').first()).toBeVisible()
  await expect(page.getByTestId('save-exam')).toBeDisabled()
  for (const letter of ['B', 'C', 'D']) await form.getByLabel(`Option ${letter}`).fill(`Hand ${letter}`)
  await expect(page.getByTestId('save-exam')).toBeEnabled()

  await form.getByRole('button', { name: 'Pictures', exact: true }).click()
  const picture = form.getByLabel('Add a picture')
  const draw = (name: string, text: string) => ({
    name,
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(text),
  })
  await picture.setInputFiles(draw('large.svg', `<svg>${' '.repeat(300_001)}</svg>`))
  await expect(form.getByRole('alert')).toContainText('large.svg has 300 kB; a picture may have 300 kB')
  await picture.setInputFiles(draw('label.svg', 'no picture at all'))
  await expect(form.getByRole('alert')).toContainText('the browser cannot draw this file')
  await picture.setInputFiles(
    draw(
      'label.svg',
      '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20"><rect width="40" height="20" fill="teal"/></svg>',
    ),
  )
  await expect(form.getByText('in 1 text')).toBeVisible()
  await form.getByLabel(/label: what it shows/).fill('a copper label')
  await form.getByRole('button', { name: 'Items and texts' }).click()
  await page.getByTestId('save-exam').click()
  await expect(page.getByRole('status').filter({ hasText: 'Saved.' })).toBeVisible()

  await page.reload()
  await page.getByRole('button', { name: 'Practice tests', exact: true }).click()
  await page.getByRole('row').last().getByRole('button', { name: 'Open' }).click()
  await expect(form.getByLabel('Key, Names and labels, 40 letters')).toHaveValue(`CD${'CDAB'.repeat(9)}CD`)
  await form.getByRole('button', { name: 'Items and texts' }).click()
  await form
    .getByRole('button', { name: /item 3:/ })
    .first()
    .click()
  await expect(form.getByRole('group', { name: 'The item as it is seen' }).locator('img')).toHaveAttribute(
    'alt',
    'a label',
  )
})

test('a test is logged in all, and moves the forecast; nobody is asked for a split', async ({ page }) => {
  await enterDemo(page, 'Corvane Tessel')
  await openDemo(page, 'Wenna Tarrowby', 'Scores')
  const before = await page.getByTestId('forecast').textContent()
  await page.getByRole('button', { name: 'Log a test' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Its name').fill('Harbour evening paper')
  await dialog.getByRole('button', { name: 'In all' }).click()
  await dialog.getByRole('button', { name: 'Keep it' }).click()
  await expect(dialog.getByRole('alert')).toContainText('the counts of Tides and streams are missing')
  await dialog.getByLabel('In all: right').fill('108')
  await expect(dialog).toContainText('108 of 115: 7 missing')
  await dialog.getByRole('button', { name: 'Keep it' }).click()
  await expect(dialog.getByLabel('In all: right')).toHaveAttribute('aria-invalid', 'true')
  await dialog.getByRole('button', { name: 'the rest were wrong' }).click()
  await expect(dialog.getByTestId('score-preview')).toContainText('most likely between')
  // Pressed from the field above it, as slowly as people press: the hint that goes does not take the button with it.
  await dialog.getByLabel('Note').fill('Windy')
  await expect(dialog.getByText('may stay empty')).toBeVisible()
  await dialog.getByRole('button', { name: 'Keep it' }).click({ delay: 400, position: { x: 20, y: 33 } })
  await expect(dialog).toHaveCount(0)
  await expect(page.getByTestId('between')).toHaveText(/\d+ to \d+/)
  await expect(page.getByTestId('forecast')).not.toHaveText(before!)
  await page.reload()
  await page.getByTestId('tests').getByRole('button', { name: 'Edit' }).first().click()
  await expect(dialog.getByLabel('In all: wrong')).toHaveValue('7')
})

test('the baseline takes a total of all, by section, and the sample of its own CSV', async ({ page }) => {
  await enterDemo(page, 'Corvane Tessel')
  await page.getByRole('link', { name: 'Wenna Tarrowby' }).click()
  await goTo(page, 'Set-up')
  await page.getByRole('tab', { name: 'Where you stand' }).click()
  await page.getByRole('button', { name: 'Add an earlier test' }).click()
  await page.getByRole('button', { name: 'From a CSV' }).click()
  const waiting = page.waitForEvent('download')
  await page.getByRole('button', { name: 'A filled-in sample' }).click()
  const sample = await (await waiting).path()
  await page
    .getByLabel('Answers as CSV')
    .setInputFiles({ name: 'mine.csv', mimeType: 'text/csv', buffer: readFileSync(sample) })
  await expect(page.getByTestId('csv-read')).toHaveText('115 rows read.')
  await page.getByRole('button', { name: 'In all' }).click()
  await expect(page.getByLabel('In all: right')).toHaveValue('92')
  await page.getByLabel('In all: right').fill('60')
  await page.getByLabel('In all: wrong').fill('55')
  await expect(page.getByText('115 of 115')).toBeVisible()
  await page.getByRole('button', { name: 'By section' }).click()
  await expect(page.getByLabel('Tides and streams: right')).toHaveValue('')
  await expect(
    page
      .getByText('counts 0%')
      .or(page.getByText(/counts \d+%/))
      .first(),
  ).toBeVisible()
})
