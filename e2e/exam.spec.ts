import { readFileSync, writeFileSync } from 'node:fs'
import { expect, type Page, test } from './test'
import { type ClimberFile } from '@climber/contract'
import { countHands } from './hands'
import { addTopic, at, beginPlan, choose, enterDemo, goTo, makeAccount, paint, saved } from './steps'

test.use({ kinds: ['DEMO', 'EMPTY'] })

/** Something is said, in these words; that a slow server counts as away may be said beside it. */
const said = (page: Page, text: RegExp) =>
  expect(page.getByRole('status').filter({ hasText: text })).toBeVisible()

const part = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Parts of the exam format' }).getByRole('button', { name }).click()

/** Types what e2e/fifth-exam.md says, field by field, as a newcomer would. */
async function typeFifthExam(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'Exam formats' }).click()
  await page.getByRole('button', { name: 'New exam format' }).click()
  await page.getByLabel('Exam', { exact: true }).fill("Dew Pond Keeper's Examination")
  await page.getByLabel('Field', { exact: true }).fill('Dew ponds')

  const section = page
    .getByRole('region', { name: 'Section 1' })
    .or(page.getByRole('region', { name: 'Water and clay' }))
  await section.getByLabel('Section', { exact: true }).fill('Water and clay')
  await page.getByLabel('Group 1: how many').fill('60')
  await page.getByLabel('Group 1: wrong costs').fill('0.25')
  await choose(page, 'Group 1: difficulty', 'rising')
  await page.getByLabel('Cut, if it has one').fill('150')
  await page.getByLabel('Water and clay: raw and scaled scores').fill('0\t100\n20\t140\n40\t180\n60\t240')

  await page.getByRole('button', { name: 'Add a section' }).click()
  await page.getByLabel('Section', { exact: true }).fill('Banks and wells')
  await page.getByLabel('Minutes', { exact: true }).fill('50')
  await page.getByLabel('Group 1: how many').fill('30')
  await page.getByLabel('Group 1: options').fill('5')
  await page.getByLabel('Group 1: wrong costs').fill('0')
  await choose(page, 'Group 1: difficulty', 'flat')
  await page.getByLabel('Group 1: items in a set').fill('5')
  await page.getByLabel('Group 1: seconds to read a set').fill('90')
  await page.getByRole('button', { name: 'Another group of items' }).click()
  await choose(page, 'Group 2: kind', 'numeric')
  await page.getByLabel('Group 2: how many').fill('10')
  await page.getByLabel('Group 2: right earns').fill('2')
  await page.getByLabel('Group 2: items in a set').fill('')
  await page.getByLabel('Banks and wells: raw and scaled scores').fill('0 100\n25 160\n40 200\n50 240')
  await page.getByRole('button', { name: 'Water and clay' }).click()
  await page.getByRole('textbox', { name: 'Break after it' }).fill('10')

  await part(page, 'Score')
  await page.getByLabel('Pass mark, if there is one').fill('330')
  await page.getByRole('button', { name: 'Add a band' }).click()
  await page.getByLabel('Band 1', { exact: true }).fill('With honours')
  await page.getByLabel('Band 1 from').fill('400')

  await part(page, 'Blueprint')
  const water = page.getByRole('region', { name: 'Water and clay' })
  await water.getByText('Type or paste all of them').click()
  await page
    .getByLabel('Water and clay: topics, one a line with its share')
    .fill('Puddled clay 30\nRain and dew 25\nLeaks 25\nWeed and frost 20')
  await page.getByRole('button', { name: 'Take these for Water and clay' }).click()
  await page
    .getByLabel('Banks and wells: topics, one a line with its share')
    .fill('Bank slopes 40\nWell linings 35\nLevels and volumes 25')
  await page.getByRole('button', { name: 'Take these for Banks and wells' }).click()
  await addTopic(page, 'Leaks: comes after', 'Puddled clay')
  await addTopic(page, 'Levels and volumes: comes after', 'Bank slopes')

  await part(page, 'Practice tests')
  for (const title of ['Commoners’ paper 1', 'Commoners’ paper 2']) {
    await page.getByRole('button', { name: 'Add one of the publisher' }).click()
    await page.getByLabel(`Form ${title.slice(-1)}`).fill(title)
  }
  await page
    .getByRole('button', { name: /^Open / })
    .first()
    .click()
  await page.getByRole('button', { name: 'Own tables', exact: true }).click()
  await page.getByLabel('a table of its own for Water and clay').check()
  await page
    .getByLabel('Commoners’ paper 1, Water and clay: raw and scaled scores')
    .fill('0 100\n20 142\n40 184\n60 240')
  await page.getByRole('button', { name: 'Answer key', exact: true }).click()
  await page.getByLabel('Key, Water and clay, 60 letters').fill('ABCD'.repeat(15))
  await page.getByLabel('Key, Banks and wells, 30 letters').fill('ABCDE'.repeat(6))
  await page.getByLabel('Key, Banks and wells, 10 answers').fill('1 2 3 4 5 6 7 8 9 10')

  await part(page, 'Sittings and rules')
  await page.getByRole('button', { name: 'Add a sitting' }).click()
  await page.getByRole('textbox', { name: 'Sitting 1: date' }).fill('2030-05-18')
  await page.getByRole('textbox', { name: 'Sitting 1: start' }).fill('09:30')
  await page.getByLabel('Sitting 1: place').fill('Tithe barn')
  await page.getByRole('textbox', { name: 'Sitting 1: register by' }).fill('2030-04-27')
  await page.getByLabel('Sitting 1: fee').fill('30')
  await page.getByLabel('Sitting 1: currency').fill('groats')
  await page.getByRole('button', { name: 'Add a sitting' }).click()
  await page.getByRole('textbox', { name: 'Sitting 2: date' }).fill('2030-10-12')
  await page.getByRole('textbox', { name: 'Sitting 2: register by' }).fill('2030-09-21')
  await page.getByLabel('Again after, at the earliest').fill('60')
  await page.getByRole('button', { name: 'Add a thing' }).click()
  await page.getByLabel('Thing 1', { exact: true }).fill('Entry slip')
  await page.getByLabel('Tools that are permitted, a line each').fill('Slide rule')
  await page.getByLabel('Forbidden, a line each').fill('Telephones')
  await page.getByRole('button', { name: 'Add one', exact: true }).click()
}

async function takenFile(page: Page): Promise<ClimberFile> {
  const waiting = page.waitForEvent('download')
  await page.getByRole('button', { name: 'As a Climber file' }).click()
  return JSON.parse(readFileSync((await (await waiting).path())!, 'utf8')) as ClimberFile
}

test('a fifth exam, typed from a one-page description, then 100 items by keyboard and what it takes', async ({
  page,
}) => {
  test.setTimeout(240_000)
  const hands = await countHands(page)
  await makeAccount(page, 'EMPTY')
  const before = await hands()
  const begun = Date.now()
  await typeFifthExam(page)
  await expect(page.getByText('to mend before it can be saved')).toHaveCount(0)
  await page.getByTestId('save-exam').click()
  await said(page, /^\s*Saved\.\s*$/)
  const minutes = (Date.now() - begun) / 60_000
  const after = await hands()
  const byHand = after.minutes - before.minutes
  console.log(
    `the fifth exam: ${(minutes * 60).toFixed(0)} s by machine; ${after.fields - before.fields} fields, ` +
      `${after.presses - before.presses} presses, ${after.keys - before.keys} keys, so ${byHand.toFixed(1)} min by hand`,
  )
  expect(byHand).toBeLessThan(10)

  const { exam } = await takenFile(page)
  expect(
    exam.sections.map(({ title, minutes: own, breakAfter, cut }) => [title, own, breakAfter, cut]),
  ).toEqual([
    ['Water and clay', 60, 10, 150],
    ['Banks and wells', 50, 0, undefined],
  ])
  expect(exam.sections[1]!.groups).toMatchObject([
    { kind: 'choice', items: 30, choices: 5, perWrong: 0, set: { items: 5, readingSeconds: 90 } },
    { kind: 'numeric', items: 10, perRight: 2 },
  ])
  expect(exam.topics.map(({ title, share, prerequisites }) => [title, share, prerequisites])).toEqual([
    ['Puddled clay', 0.3, []],
    ['Rain and dew', 0.25, []],
    ['Leaks', 0.25, ['puddled-clay']],
    ['Weed and frost', 0.2, []],
    ['Bank slopes', 0.4, []],
    ['Well linings', 0.35, []],
    ['Levels and volumes', 0.25, ['bank-slopes']],
  ])
  expect(exam.composite).toMatchObject({ kind: 'sum', cut: 330 })
  expect(exam.forms[0]!.conversions['section-1']!.points[1]).toEqual([20, 142])
  expect(exam.sittings[0]).toMatchObject({
    date: '2030-05-18',
    start: '09:30',
    fee: { amount: 30, currency: 'groats' },
  })
  expect(exam.accommodations).toMatchObject([{ timeFactor: 1.25 }])

  // A plan on it, its diagnostic item by item, by keyboard only.
  await page.getByRole('link', { name: 'Plans' }).click()
  await page.getByRole('link', { name: 'New plan' }).click()
  await page.getByRole('radio', { name: /Dew Pond Keeper/ }).check()
  await page.getByRole('button', { name: 'Begin' }).click()
  await page.getByRole('tab', { name: 'Where you stand' }).click()
  await choose(page, 'form', 'Commoners’ paper 1')
  await page.getByRole('button', { name: 'Item by item' }).click()
  const typing = Date.now()
  await page
    .getByLabel('Water and clay: topics of the items')
    .evaluate((field) => (field.closest('details')!.open = true))
  await page
    .getByLabel('Water and clay: topics of the items')
    .fill('1-18 Puddled clay\n19-33 Rain and dew\n34-48 Leaks\n49-60 Weed and frost')
  await page.getByLabel('Item 1,', { exact: false }).first().focus()
  const answers = `${'ABCD'.repeat(10)}${'A'.repeat(16)}    ${'ABCDE'.repeat(5)}BBBBBRRRRRRWWW `
  for (const key of answers) await page.keyboard.press(key === ' ' ? 'Space' : key)
  await expect(page.getByRole('region', { name: 'Water and clay' })).toContainText('44 right, 12 wrong')
  await expect(page.getByRole('region', { name: 'Banks and wells' })).toContainText('32 right, 7 wrong')
  console.log(`100 items by keyboard: ${((Date.now() - typing) / 1000).toFixed(0)} s by machine`)
  expect(Date.now() - typing).toBeLessThan(180_000)
  await saved(page)
  await page.getByRole('button', { name: 'By section' }).click()
  await expect(page.getByLabel('Water and clay: right')).toHaveValue('44')
  await expect(page.getByLabel('Water and clay: of those not reached')).toHaveValue('4')
  await expect(page.getByLabel('Puddled clay: right')).toHaveValue('18')

  await goTo(page, 'Topics')
  await expect(page.getByTestId('sections')).toContainText('Banks and wells')
  await expect(page.getByTestId('telling').getByRole('listitem').first()).toContainText('of the variance')
})

test('a table that does not rise is refused with its row; the old one stays; undo brings back', async ({
  page,
}, info) => {
  await makeAccount(page, 'EMPTY')
  await page.getByRole('link', { name: 'Exam formats' }).click()
  await page.getByRole('button', { name: 'Take Keeper of Garden Records' }).click()
  const table = page.getByLabel('Names and labels: raw and scaled scores')
  await table.fill('-13 0\n0 6\n14 22\n14 30\n40 60')
  await expect(page.getByText('Row 4: raw scores must rise: 14 comes after 14')).toBeVisible()
  await expect(page.getByTestId('save-exam')).toBeDisabled()
  await table.fill('-13 0\n0 6\n14 22\n20 30\n40 60')
  await expect(page.getByTestId('save-exam')).toBeEnabled()

  // Pulled in the drawing: the first section's end, by keyboard and by mouse.
  const end = page.getByRole('slider', { name: 'Names and labels: minutes', exact: true })
  await end.focus()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByLabel('Minutes', { exact: true })).toHaveValue('45')
  const grip = (await end.boundingBox())!
  await page.mouse.move(grip.x + grip.width / 2, grip.y + grip.height / 2)
  await page.mouse.down()
  await page.mouse.move(grip.x + 160, grip.y + grip.height / 2, { steps: 6 })
  await page.mouse.up()
  expect(Number(await page.getByLabel('Minutes', { exact: true }).inputValue())).toBeGreaterThan(55)
  await page.getByLabel('Minutes', { exact: true }).fill('')
  await page.getByLabel('Minutes', { exact: true }).blur()
  await expect(page.getByText('1 to mend before it can be saved')).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()

  // A closed tab loses nothing.
  const minutes = await page.getByLabel('Minutes', { exact: true }).inputValue()
  await page.reload()
  await expect(page.getByText('These changes were not saved yet')).toBeVisible()
  await expect(page.getByLabel('Minutes', { exact: true })).toHaveValue(minutes)

  await part(page, 'Blueprint')
  const names = page.getByRole('region', { name: 'Names and labels' })
  await names.getByLabel('Old names of plants: share').fill('30')
  await expect(names).toContainText('110.0%')
  await names.getByRole('button', { name: 'Make it 100%' }).click()
  await expect(names).toContainText('100.0%')
  await addTopic(page, 'Old names of plants: comes after', 'Synonyms and sports')
  await expect(page.getByText(/in a circle: old-names -> synonyms -> old-names/).first()).toBeVisible()
  await page
    .getByRole('row')
    .filter({ has: page.getByLabel('Old names of plants: comes after') })
    .locator('.v-chip__close')
    .click()

  // Blueprint and forms go out as CSV and come back the same; a faulty one is listed and changes nothing.
  for (const [name, button, field] of [
    ['Blueprint', 'As CSV', 'Topics as CSV'],
    ['Practice tests', 'Own tables as CSV', 'Own tables from a CSV'],
  ] as const) {
    await part(page, name)
    const download = async () => {
      const waiting = page.waitForEvent('download')
      await page.getByRole('button', { name: button, exact: true }).click()
      return readFileSync((await (await waiting).path())!)
    }
    const out = await download()
    const file = info.outputPath('out.csv')
    writeFileSync(file, out)
    await page.getByLabel(field).setInputFiles(file)
    expect((await download()).equals(out)).toBe(true)
    writeFileSync(file, out.toString().replace(',names,', ',nowhere,'))
    await page.getByLabel(field).setInputFiles(file)
    await expect(page.getByText('Nothing was taken from the file')).toBeVisible()
    expect((await download()).equals(out)).toBe(true)
  }

  await part(page, 'Books')
  await page.getByLabel('Read What they called it').check()
  await expect(page.getByTestId('covered')).not.toHaveText('0%')
  await page.getByTestId('save-exam').click()
  await said(page, /^\s*Saved\.\s*$/)
})

test('two people edit one format: the second hears of it, and may take theirs or save over it', async ({
  page,
  context,
  browser,
}) => {
  await makeAccount(page, 'EMPTY')
  await page.getByRole('link', { name: 'Exam formats' }).click()
  await page.getByRole('button', { name: 'Take Keeper of Garden Records' }).click()
  await expect(page.getByLabel('Exam', { exact: true })).toHaveValue('Keeper of Garden Records')
  // On another machine: tabs of one browser share what is typed.
  const machine = await browser.newContext({ storageState: await context.storageState() })
  const other = await machine.newPage()
  await other.goto(page.url())
  await other.getByLabel('Exam', { exact: true }).fill('Keeper of Garden Records, new')
  await other.getByTestId('save-exam').click()
  await said(other, /^\s*Saved\.\s*$/)
  await page.getByLabel('Minutes', { exact: true }).fill('55')
  await page.getByTestId('save-exam').click()
  await expect(page.getByText('changed this in the meantime')).toBeVisible()
  await expect(page.getByLabel('Minutes', { exact: true })).toHaveValue('55')
  await page.getByRole('button', { name: 'Take theirs' }).click()
  await expect(page.getByLabel('Exam', { exact: true })).toHaveValue('Keeper of Garden Records, new')
  await expect(page.getByLabel('Minutes', { exact: true })).toHaveValue('40')
})

test('a format in use: what a change means, a new edition, and moving a candidate to it', async ({
  page,
}) => {
  await makeAccount(page, 'EMPTY')
  await beginPlan(page)
  await saved(page)
  await page.goto(`${at('EMPTY')}/exams`)
  await page.getByRole('link', { name: /Tidal Pilot/ }).click()
  await part(page, 'Score')
  await page.getByLabel('Pass mark, if there is one').fill('310')
  await page.getByRole('button', { name: 'What it changes for them' }).click()
  await expect(page.getByTestId('effects')).toContainText('Tamsel Orrin')
  await page.getByRole('button', { name: 'Keep as a new edition' }).click()
  await said(page, /Kept as edition 2/)
  await page.getByRole('button', { name: 'Move to edition 2' }).click()
  await expect(page.getByText('moved', { exact: true })).toBeVisible()
  await page.getByRole('link', { name: 'Plans' }).click()
  await page.getByRole('link', { name: 'Tamsel Orrin' }).click()
  await goTo(page, 'Set-up')
  await page.getByRole('tab', { name: 'Target' }).click()
  await expect(page.getByText('; the pass mark, 310, where it is left empty')).toBeVisible()
})

const rows = (count: number, row: (item: number) => string) =>
  `item,answer,key\n${Array.from({ length: count }, (_, at) => row(at + 1)).join('\n')}\n`

test('item responses from CSV: every fault with its row, nothing half taken; 50,000 rows while the page stays awake', async ({
  page,
}, info) => {
  await makeAccount(page, 'EMPTY')
  await beginPlan(page)
  await page.getByRole('button', { name: 'From a CSV' }).click()
  const file = info.outputPath('answers.csv')
  const good = (item: number) => `${item},${'ABCD'[item % 4]},${'ABCA'[item % 4]}`
  const bad: Record<number, string> = { 10: '10,F,A', 20: '20,B,', 30: '29,A,A', 40: '40,=SUM(A1),A' }
  const text = rows(115, (item) => bad[item] ?? good(item))
  writeFileSync(
    file,
    Buffer.concat([Buffer.from(text), Buffer.from([0x31, 0x31, 0x36, 0x2c, 0xe4, 0x2c, 0x41, 0x0a])]),
  )
  await page.getByLabel('Answers as CSV').setInputFiles(file)
  const problems = page.getByTestId('csv-problems')
  await expect(problems).toContainText('row 11, answer')
  for (const row of ['row 21, key', 'row 31, item', 'row 41, answer', 'row 117'])
    await expect(problems).toContainText(row)
  await page.getByRole('button', { name: 'By section' }).click()
  await expect(page.getByLabel('Tides and streams: right')).toHaveValue('')

  await page.getByRole('button', { name: 'From a CSV' }).click()
  writeFileSync(file, rows(115, good))
  await page.getByLabel('Answers as CSV').setInputFiles(file)
  await expect(page.getByTestId('csv-read')).toHaveText('115 rows read.')
  await page.getByRole('button', { name: 'By section' }).click()
  await expect(page.getByLabel('Tides and streams: right')).toHaveValue('30')

  await page.getByRole('button', { name: 'From a CSV' }).click()
  writeFileSync(file, rows(50_000, good))
  await page.evaluate(() => {
    ;(window as unknown as { longest: number }).longest = 0
    let last = performance.now()
    const beat = () => {
      const now = performance.now()
      const w = window as unknown as { longest: number }
      w.longest = Math.max(w.longest, now - last)
      last = now
      setTimeout(beat, 0)
    }
    beat()
  })
  const begun = Date.now()
  await page.getByLabel('Answers as CSV').setInputFiles(file)
  await expect(problems).toContainText('49885 things')
  const took = Date.now() - begun
  const longest = await page.evaluate(() => (window as unknown as { longest: number }).longest)
  console.log(
    `50,000 rows: ${took} ms to every problem named, longest pause of the page ${longest.toFixed(0)} ms`,
  )
})

test('a target from places, and levers that answer at once', async ({ page }) => {
  await enterDemo(page, 'Corvane Tessel')
  await page.getByRole('link', { name: 'Wenna Tarrowby' }).click()
  await goTo(page, 'Gap')
  const odds = page.getByTestId('explored').getByTestId('verdict-odds')
  const before = Number.parseInt((await odds.textContent())!, 10)
  await page.getByRole('slider', { name: 'Minutes more a week' }).focus()
  for (let step = 0; step < 20; step++) await page.keyboard.press('ArrowRight')
  await expect.poll(async () => Number.parseInt((await odds.textContent())!, 10)).toBeGreaterThan(before)
  await expect(page.getByRole('region', { name: 'Levers' })).toContainText('register by')
  await page.getByRole('button', { name: 'Put back' }).click()
  await expect(odds).toHaveText(`${before}%`)
  await expect(page.getByTestId('sharing').getByRole('row')).toHaveCount(4)
})

const shipped: [title: RegExp, counts: Record<string, number>][] = [
  [
    /Archive Cataloguers/,
    {
      'Describing records, first stage: right': 15,
      'Describing records, first stage: wrong': 5,
      'Hard records: right': 8,
      'Hard records: wrong': 7,
      'Hands and dates: right': 14,
      'Hands and dates: wrong': 6,
      'Hands and dates: left blank': 4,
      'Reference codes: right': 9,
      'Reference codes: wrong': 7,
    },
  ],
  [
    /Warden of Old Timber/,
    {
      'Identifying and surveying, part 1: right': 15,
      'Identifying and surveying, part 1: wrong': 15,
      'Identifying and surveying, part 2: right': 12,
      'Identifying and surveying, part 2: wrong': 8,
      'Measuring decay: right': 7,
      'Measuring decay: wrong': 8,
      'Written judgement, part 1: marks': 14,
      'Written judgement, part 2: marks': 15,
    },
  ],
  [
    /Keeper of Garden Records/,
    {
      'Names and labels: right': 22,
      'Names and labels: wrong': 12,
      'Names and labels: left blank': 6,
      'Ledgers, part 1: right': 7,
      'Ledgers, part 1: wrong': 5,
      'Ledgers, part 2: right': 4,
      'Ledgers, part 2: wrong': 4,
      'Ledgers, part 3: right': 1,
      'Ledgers, part 3: wrong': 3,
      'Beds and plans: right': 15,
      'Beds and plans: wrong': 10,
    },
  ],
]
for (const [title, counts] of shipped)
  test(`a whole plan on ${title.source}, every screen of it`, async ({ page }) => {
    const faults: string[] = []
    page.on('pageerror', ({ message }) => faults.push(message))
    page.on('console', (message) => message.type() === 'error' && faults.push(message.text()))
    await makeAccount(page, 'EMPTY')
    await page.getByRole('link', { name: 'New plan' }).click()
    await page.getByRole('radio', { name: title }).check()
    await page.getByRole('button', { name: 'Begin' }).click()
    await page.getByRole('tab', { name: 'Where you stand' }).click()
    for (const [label, count] of Object.entries(counts)) await page.getByLabel(label).fill(String(count))
    await page.getByRole('tab', { name: 'Free time' }).click()
    for (const day of ['Mon', 'Wed', 'Sat']) await paint(page, day, '16:00', '19:30')
    await page.getByRole('tab', { name: 'Target' }).click()
    if (title.source.startsWith('Archive')) {
      await page.getByRole('button', { name: 'a percentile' }).click()
      await page.getByLabel('better than').fill('75')
      await expect(page.getByTestId('goal')).toContainText('161')
      await page.getByRole('button', { name: 'places', exact: true }).click()
      await page.getByLabel('Place 1', { exact: true }).fill('Fennholt reading room')
      await page.getByLabel('Place 1: asks').fill('158')
      await page.getByRole('button', { name: 'Another place' }).click()
      await page.getByLabel('Place 2: asks').fill('150')
      await page.getByLabel('At least').fill('2')
      await expect(page.getByTestId('goal')).toContainText('158')
    } else {
      await page.getByRole('button', { name: 'a cut that moves' }).click()
      await expect(page.getByTestId('goal')).toContainText('±')
    }
    await expect(page.getByTestId('verdict-odds')).toHaveText(/%/)
    await saved(page)
    await page.getByTestId('make-plan').click()
    await expect(page.locator('[data-session]').first()).toBeVisible()
    for (const screen of ['Today', 'Scores', 'Topics', 'Gap', 'Exam day']) {
      await goTo(page, screen)
      await page.waitForLoadState('networkidle')
    }
    await goTo(page, 'Gap')
    await expect(page.getByTestId('topics')).toBeVisible()
    // Every section has its pace, its leave times and its way with doubts.
    await goTo(page, 'Pacing')
    const tabs = page.getByRole('tablist', { name: 'Sections' }).getByRole('tab')
    for (let tab = 0; tab < (await tabs.count()); tab++) {
      await tabs.nth(tab).click()
      await expect(page.getByTestId('checkpoints').getByRole('row').nth(2)).toBeVisible()
      await page.getByRole('button', { name: 'When to leave' }).click()
      await expect(page.getByTestId('leave-times')).toContainText(/leave after|leave at once|stay until/)
      await page.getByRole('button', { name: 'Ways compared' }).click()
      await choose(page, 'Sittings', '2 000')
      await page.getByRole('button', { name: 'Sit them' }).click()
      await expect(page.getByTestId('approaches').getByRole('row')).toHaveCount(8)
      await page.getByRole('button', { name: 'Budget' }).click()
    }
    await goTo(page, 'Guessing')
    await expect(page.getByTestId('plain')).toBeVisible()
    await expect(page.getByTestId('sentence')).toContainText(/options left/)
    expect(faults).toEqual([])
  })
