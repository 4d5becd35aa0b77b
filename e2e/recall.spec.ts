import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import type { Answer, Candidate, Card, PlanSession } from '@climber/contract'
import { dateOf, dayNumber } from '@climber/core'
import { today } from './servers'
import { examFile, pilotDiagnostic } from './sitting'
import { ask, at, makeAccount, numberIn, saved } from './steps'
import { expect, type Page, test } from './test'

test.use({ kinds: ['EMPTY'] })

type Deck = Answer<'readRecall'>
const deckOf = (page: Page, id: string) => ask<Deck>(page, 'GET', `/api/candidates/${id}/recall`)
const idOf = (n: number): string => `0e000000-0000-4000-8000-${String(n).padStart(12, '0')}`
/** Cards in the order in which they come. */
const plainCards = (count: number): Card[] =>
  Array.from({ length: count }, (_, n) => ({
    id: idOf(n + 1),
    kind: 'card',
    topic: 'lights',
    front: `Light ${n + 1}`,
    back: `Every ${n + 3} s`,
    added: '2029-12-01',
  }))
const water: Card = {
  id: idOf(9001),
  kind: 'numbers',
  topic: 'under-keel',
  added: '2029-12-02',
  question: {
    text: 'Sounding {s} m, height {h} m. What is the depth?',
    numbers: [
      { name: 's', low: 2, high: 4, step: 1 },
      { name: 'h', low: 5, high: 9, step: 1 },
    ],
    formula: 's + h',
    unit: 'm',
    tolerance: { kind: 'absolute', within: 0.1 },
    slips: [{ formula: 'h - s', name: 'the sounding taken away' }],
    worked: '{s} and {h} are {= s + h}.',
  },
}
const table: Card = {
  id: idOf(9002),
  kind: 'place',
  topic: 'tide-heights',
  added: '2029-12-03',
  front: 'Differences of the ports',
  section: 'Heights of tide',
  exact: 'table 1.4',
  seconds: 30,
}

/** An account of one's own with a candidate who has such cards; answers who it is. */
async function withCards(
  page: Page,
  cards: Card[],
  recall = { minutes: 60, fresh: 100 },
  more: object = {},
): Promise<string> {
  await makeAccount(page, 'EMPTY')
  const id = randomUUID()
  const file = {
    ...examFile('tidal-pilotage'),
    candidate: { name: 'Ottil Marran' },
    settings: { recall },
    target: { scaled: 310, sitting: 'first' },
    recall: { cards },
    ...more,
  }
  await ask(page, 'PUT', `/api/candidates/${id}/file`, { file })
  return id
}
const open = async (page: Page, id: string, query = ''): Promise<void> => {
  await page.goto(`${at('EMPTY')}/c/${id}/recall${query}`)
}
const front = (page: Page) => page.getByTestId('front')
/** The two numbers that were drawn, once they were. */
async function drawn(page: Page): Promise<[number, number]> {
  await expect(front(page)).toContainText('Sounding')
  const [, s, h] = /Sounding (\d) m, height (\d) m/.exec(await front(page).innerText())!
  return [Number(s), Number(h)]
}

test('a session by keys: cards, a place and changed numbers; undo', async ({ page }) => {
  const id = await withCards(page, [...plainCards(3), water, table])
  await open(page, id)
  await expect(page.getByTestId('due')).toContainText('5 due')
  await page.getByRole('button', { name: '10 min' }).click()
  await expect(front(page)).toHaveText('Light 1')
  await page.keyboard.press('Space')
  await expect(page.getByTestId('back')).toHaveText('Every 3 s')
  await page.keyboard.press('1')
  await expect(front(page)).toHaveText('Light 2')
  await page.keyboard.press('u')
  await expect(front(page)).toHaveText('Light 1')
  await page.keyboard.press('Space')
  await page.keyboard.press('4')
  for (const n of [2, 3]) {
    await expect(front(page)).toHaveText(`Light ${n}`)
    await page.keyboard.press('Space')
    await page.keyboard.press('3')
  }
  // The numbers are new each time; the slip is named when it is met.
  const [s, h] = await drawn(page)
  await page.keyboard.type(String(h - s))
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('verdict')).toHaveText('Not right: the sounding taken away.')
  await expect(page.getByTestId('back')).toContainText(`${s} and ${h} are ${s + h}.`)
  await page.keyboard.press('Enter')
  await expect(front(page)).toHaveText('Differences of the ports')
  await page.keyboard.press('Space')
  await expect(page.getByTestId('back')).toContainText('Heights of tide, table 1.4')
  await page.keyboard.press('3')
  // What did not come back comes again when nothing else is left, with other numbers.
  const [s2, h2] = await drawn(page)
  await page.keyboard.type(`${s2 + h2} m`)
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('verdict')).toHaveText('Right.')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: '5 of 6 came back' })).toBeVisible()
  await page.getByTestId('over').click()
  await expect(page.getByTestId('due')).toHaveText('Nothing is due now')
  await saved(page)
  const { histories } = await deckOf(page, id)
  const grades = Object.fromEntries(
    histories.map(({ card, answers }) => [card, answers.map(([, grade]) => grade)]),
  )
  expect(grades).toEqual({
    [idOf(1)]: [4],
    [idOf(2)]: [3],
    [idOf(3)]: [3],
    [water.id]: [1, 3],
    [table.id]: [3],
  })
})

test('cards are written at speed, asked with formulas, buried, suspended and deleted', async ({ page }) => {
  const id = await withCards(page, [])
  await open(page, id)
  await page.getByRole('button', { name: 'Write the first card' }).click()
  await page.getByRole('button', { name: 'New card' }).click()
  for (const [one, two] of [
    ['Speed with the stream abeam', '$\\sqrt{v^2 - r^2}$'],
    ['What does $R$ stand for?', 'the range'],
    ['Thrown away', 'at once'],
  ]) {
    await page.getByLabel('Front').fill(one!)
    await page.getByLabel('Back').fill(two!)
    await page.keyboard.press('Control+Enter')
    await expect(page.getByLabel('Front')).toHaveValue('')
    await expect(page.getByLabel('Front')).toBeFocused()
  }
  // What is typed and not kept is there again.
  await page.getByLabel('Front').fill('Half written')
  await page.keyboard.press('Control+Enter')
  await expect(page.getByText('write the back')).toBeVisible()
  await page.reload()
  await expect(page.getByLabel('Front')).toHaveValue('Half written')
  await page.getByLabel('Back').fill('and then whole')
  await page.getByRole('button', { name: 'Keep it' }).click()
  await expect(page.getByTestId('found')).toContainText('4 of 4')
  await page.getByRole('button', { name: 'Thrown away' }).click()
  await page.getByRole('button', { name: 'Delete it' }).click()
  await expect(page.getByTestId('found')).toContainText('3 of 3')
  await page.getByRole('button', { name: 'Half written' }).click()
  await page.getByRole('button', { name: 'Ask it no longer' }).click()
  await expect(page.getByTestId('found')).toContainText('1 not asked')
  await saved(page)

  await page.getByRole('tab', { name: 'Due' }).click()
  await expect(page.getByTestId('due')).toContainText('2 due')
  await page.getByRole('button', { name: '5 min', exact: true }).click()
  const [asked] = await front(page).allInnerTexts()
  await page.keyboard.press('Space')
  await expect(page.locator('math').first()).toBeVisible()
  await page.getByRole('button', { name: 'not today' }).click()
  await expect(front(page)).not.toHaveText(asked!)
  await page.keyboard.press('Escape')
  await saved(page)
  const { cards } = await deckOf(page, id)
  expect(cards.filter(({ rests }) => rests)).toHaveLength(1)
  expect(
    cards.filter(({ suspended }) => suspended).map((card) => card.kind === 'card' && card.front),
  ).toEqual(['Half written'])
})

test('a question with changed numbers: live draws, hostile formulas refused, and ten of it on paper', async ({
  page,
}) => {
  const id = await withCards(page, [])
  await open(page, id, '?part=cards&card=new')
  await page.getByRole('combobox', { name: 'Kind' }).press('ArrowDown')
  await page.getByRole('option', { name: 'Changed numbers' }).click()
  await page.getByLabel('Question').fill('A lamp of {p} W burns {h} h. How much does it use?')
  await page.getByRole('button', { name: 'Add p' }).click()
  await page.getByRole('button', { name: 'Add h' }).click()
  for (const [name, low, high] of [
    ['p', '40', '100'],
    ['h', '6', '14'],
  ] as const) {
    await page.getByLabel(`${name}: lowest`).fill(low)
    await page.getByLabel(`${name}: highest`).fill(high)
  }
  const formula = page.getByLabel('Formula of the answer')
  for (const bad of ['import("fs")', 'p.constructor', 'f(x) = x', 'q * h', 'p *']) {
    await formula.fill(bad)
    await expect(page.getByRole('region', { name: 'Draws' }).getByRole('alert')).toBeVisible()
  }
  // What is beyond all numbers is no answer; what takes long does not hang the page.
  await formula.fill('p ^ h ^ p ^ h ^ p')
  await expect(page.getByTestId('checked')).toContainText('None of 200 draws')
  await formula.fill('p * h / 1000')
  await page.getByLabel('Unit').fill('kWh')
  await page.getByRole('button', { name: 'Add a slip' }).click()
  await page.getByLabel('Slip 1: what it comes to').fill('p * h')
  await page.getByLabel('Slip 1: its name').fill('thousands forgotten')
  await expect(page.getByTestId('draw')).toHaveCount(3)
  await expect(page.getByTestId('draw').first()).toContainText('thousands forgotten')
  await expect(page.getByTestId('checked')).toContainText('Checked on 200 draws')
  await page.getByRole('button', { name: 'Keep it' }).click()
  await expect(page.getByTestId('found')).toContainText('1 of 1')
  await saved(page)
  await page.getByRole('link', { name: 'Print ten' }).click()
  const sheet = page.getByRole('region', { name: 'Questions' })
  await expect(sheet.getByRole('listitem').first()).toContainText('A lamp of')
  const before = await sheet.innerText()
  const number = await page.getByLabel('Sheet').inputValue()
  await page.getByLabel('Sheet').fill(number === '7' ? '8' : '7')
  await expect(sheet).not.toHaveText(before)
  await page.getByLabel('Sheet').fill(number)
  await expect.poll(() => sheet.innerText()).toBe(before)
})

test('a table is pasted, five thousand rows are read with every problem by its row, and saved as they were', async ({
  page,
}) => {
  test.slow()
  const id = await withCards(page, [])
  await open(page, id, '?part=cards')
  await page.getByRole('button', { name: 'Paste or read a table' }).click()
  await page
    .getByLabel('Paste a table')
    .fill('Spring tides\tafter full and new moon\nNeap tides\tat the quarters')
  await page.getByRole('button', { name: 'Look at it' }).click()
  await page.getByTestId('keep').click()
  await expect(page.getByTestId('found')).toContainText('2 of 2')
  const rows = Array.from({ length: 5000 }, (_, at) =>
    at % 1000 === 7 ? `Nowhere,Light ${at},white` : `Lights of vessels,Light ${at},"white, every ${at} s"`,
  )
  await page.getByRole('button', { name: 'Paste or read a table' }).click()
  await page.getByLabel('Or a CSV file').setInputFiles({
    name: 'cards.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`topic,front,back\n${rows.join('\n')}\n`),
  })
  const problems = page.getByRole('region', { name: 'Many cards at once' }).locator('.kit-problems')
  await expect(problems).toContainText('5 things are not right')
  await expect(problems).toContainText('row 9, topic: the exam has no topic "Nowhere"')
  await page.getByRole('button', { name: 'Keep 4995 cards' }).click()
  await expect(page.getByTestId('found')).toContainText('of 4997')
  await expect(page.getByTestId('save-state')).toHaveText('Saved', { timeout: 120_000 })
  expect((await deckOf(page, id)).cards).toHaveLength(4997)
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save them as a table' }).click(),
  ])
  expect(readFileSync(await file.path(), 'utf8').split('\n').length).toBeGreaterThan(4997)
})

test('the days until the exam: more minutes bring more back, a choice is kept', async ({ page }) => {
  const id = await withCards(page, plainCards(300), { minutes: 4, fresh: 20 })
  await open(page, id, '?part=season')
  const recalled = page.getByTestId('recalled')
  const before = await numberIn(recalled)
  await page.getByRole('slider', { name: 'Minutes a day' }).focus()
  for (let more = 0; more < 16; more++) await page.keyboard.press('ArrowRight')
  await expect.poll(() => numberIn(recalled)).toBeGreaterThan(before)
  await page.getByRole('button', { name: 'Keep this' }).click()
  await expect(page.getByRole('button', { name: 'Keep this' })).toBeDisabled()
  const settings = async () =>
    (await ask<Candidate>(page, 'GET', `/api/candidates/${id}`)).parts.settings?.document
  await expect.poll(settings).toMatchObject({ recall: { minutes: 20, fresh: 20 } })
})

test('cards that do not stay are looked at: one is split, one rests until it was read about', async ({
  page,
}) => {
  const cards = plainCards(2)
  const start = dayNumber(today) - 40
  const answers = cards.flatMap(({ id: card }, at) =>
    [3, 1, 1, 1, 1, 1, 1].map((grade, day) => ({
      id: idOf(5000 + at * 100 + day),
      card,
      on: dateOf(start + day * 5),
      at: `${dateOf(start + day * 5)}T08:00:00Z`,
      grade,
      seconds: 9,
    })),
  )
  const id = await withCards(page, cards, undefined, { recall: { cards, answers } })
  await open(page, id)
  const list = page.getByRole('region', { name: 'These do not stay' })
  await expect(list.getByRole('listitem')).toHaveText([
    'Light 1, forgotten 6 times',
    'Light 2, forgotten 6 times',
  ])
  await list.getByRole('link', { name: 'Light 1' }).click()
  await expect(page.getByRole('heading', { name: 'A card that does not stay' })).toBeVisible()
  await expect(page.getByText('Forgotten 6 times in 7 answers')).toBeVisible()
  await page.getByRole('button', { name: 'too much at once' }).click()
  await page.getByLabel('Back').fill('Every 4 s, white')
  await page.getByRole('button', { name: 'Write the other half' }).click()
  // The other half begins with what this one says.
  const fresh = page.getByRole('form', { name: 'A new card' })
  await expect(fresh.getByLabel('Front')).toHaveValue('Light 1')
  await fresh.getByLabel('Front').fill('Light 1, its arc')
  await fresh.getByRole('button', { name: 'Keep it' }).click()
  await open(page, id)
  await expect(list.getByRole('listitem')).toHaveCount(1)
  await list.getByRole('link', { name: 'Light 2' }).click()
  await page.getByRole('button', { name: 'never understood' }).click()
  await expect(page.getByText('the card rests for three days')).toBeVisible()
  await page.getByRole('button', { name: 'Keep it' }).click()
  await saved(page)
  const after = new Map((await deckOf(page, id)).cards.map((card) => [card.id, card]))
  expect(after.size).toBe(3)
  expect(after.get(idOf(1))).toMatchObject({
    back: 'Every 4 s, white',
    looked: { on: today, lapses: 6, why: 'too much at once' },
  })
  expect(after.get(idOf(2))).toMatchObject({
    rests: dateOf(dayNumber(today) + 3),
    looked: { lapses: 6, why: 'never understood' },
  })
  await open(page, id)
  await expect(page.getByTestId('due')).toBeVisible()
  await expect(list).toBeHidden()
})

/** Shows and grades as many cards as are said, as fast as they come. */
async function answerMany(page: Page, count: number, grade: string): Promise<void> {
  await expect(front(page)).toBeVisible()
  for (let done = 0; done < count; done++) {
    await page.keyboard.press('Space')
    await expect(page.getByTestId('back')).toBeVisible()
    await page.keyboard.press(grade)
    await expect(page.getByTestId('back')).toBeHidden()
  }
}

test('two devices answer two hundred cards each without a network, fifty of them the same; nothing is lost', async ({
  page,
  context,
  browser,
}) => {
  test.slow()
  const cards = plainCards(350)
  const id = await withCards(page, cards, { minutes: 180, fresh: 200 })
  const keep = async (changed: Card[]) => {
    const versions = new Map((await deckOf(page, id)).cards.map((card) => [card.id, card.version]))
    await ask(page, 'PUT', `/api/candidates/${id}/recall/cards`, {
      cards: changed.map((card) => ({ card, version: versions.get(card.id)! })),
      gone: [],
    })
  }
  // The second device begins behind the first hundred and fifty.
  await keep(cards.slice(0, 150).map((card) => ({ ...card, rests: '2030-03-01' })))
  const second = await browser.newContext({
    storageState: await context.storageState(),
    serviceWorkers: 'block',
    timezoneId: 'Etc/UTC',
  })
  const other = await second.newPage()
  await open(other, id, '?minutes=180')
  await expect(front(other)).toHaveText('Light 151')
  await keep(cards.slice(0, 150))
  await open(page, id, '?minutes=180')
  await expect(front(page)).toHaveText('Light 1')
  await Promise.all([context.setOffline(true), second.setOffline(true)])
  await Promise.all([answerMany(page, 200, '3'), answerMany(other, 200, '4')])
  await Promise.all([context.setOffline(false), second.setOffline(false)])
  for (const own of [page, other])
    await expect(own.getByTestId('save-state')).toHaveText('Saved', { timeout: 120_000 })
  const { histories } = await deckOf(page, id)
  const answers = new Map(histories.map((one) => [one.card, one.answers.map(([, grade]) => grade).sort()]))
  for (let n = 1; n <= 350; n++)
    expect(answers.get(idOf(n)), `Light ${n}`).toEqual(n <= 150 ? [3] : n <= 200 ? [3, 4] : [4])
  // Both show the same now.
  for (const own of [page, other]) {
    await open(own, id)
    await expect(own.getByText('Today 400 answers', { exact: false })).toBeVisible()
  }
  await second.close()
})

test('twenty thousand cards open, and what is due is found while one looks', async ({ page }) => {
  test.slow()
  const cards = plainCards(20_000)
  const id = await withCards(page, [])
  const path = `/api/candidates/${id}/recall`
  for (let from = 0; from < cards.length; from += 500) {
    const part = cards.slice(from, from + 500)
    await ask(page, 'PUT', `${path}/cards`, { cards: part.map((card) => ({ card, version: 0 })), gone: [] })
    // Half of them were answered.
    if (from % 1000) continue
    await ask(page, 'POST', `${path}/answers`, {
      answers: part.map((card, at) => ({
        id: randomUUID(),
        card: card.id,
        on: dateOf(dayNumber(today) - 9 - (at % 30)),
        at: '2029-11-01T08:00:00.000Z',
        grade: 1 + (at % 4),
        seconds: 6,
      })),
    })
  }
  await open(page, id)
  await expect(page.getByTestId('due')).toBeVisible({ timeout: 120_000 })
  await page.getByRole('button', { name: '3 min' }).click()
  await answerMany(page, 3, '3')
  await page.keyboard.press('Escape')
  await page.getByTestId('over').click()
  await expect(page.getByText('Today 3 answers', { exact: false })).toBeVisible({ timeout: 60_000 })
  const times = await page.evaluate(() =>
    performance.getEntriesByName('climber.due').map(({ duration }) => duration),
  )
  console.log(`due of 20,000 cards: ${times.map((one) => one.toFixed(0)).join(', ')} ms`)
  // A bound against what grows without end; the times are in docs/measurements.md.
  expect(Math.min(...times.slice(1))).toBeLessThan(2000)
})

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true })
  test('a quarter of an hour by thumb, the network gone in between; the planned session takes its minutes', async ({
    page,
    context,
  }) => {
    const id = await withCards(page, plainCards(12), undefined, {
      availability: {
        windows: [1, 2, 3, 4, 5, 6, 7].map((weekday) => ({ weekday, from: '18:00', to: '19:00' })),
        minutesPerWeek: 120,
        keepWarm: true,
        daysPerWeek: 7,
      },
      attempts: [pilotDiagnostic],
    })
    const path = `/api/candidates/${id}/plan`
    const planned = await ask<{ sessions: PlanSession[] }>(page, 'PUT', path, { version: 0, seed: 1 })
    const light = planned.sessions.find(({ kind }) => kind === 'light')!
    await page.goto(`${at('EMPTY')}/c/${id}/recall?minutes=${light.minutes}&session=${light.id}`)
    for (let done = 0; done < 12; done++) {
      if (done === 3) await context.setOffline(true)
      if (done === 9) await context.setOffline(false)
      await expect(front(page)).toHaveText(`Light ${done + 1}`)
      await page.getByTestId('show').tap()
      await page.getByRole('group', { name: 'How it came back' }).getByRole('button', { name: 'well' }).tap()
    }
    await expect(page.getByRole('heading', { name: '12 of 12 came back' })).toBeVisible()
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
    await page.getByRole('button', { name: /^The session is done/ }).tap()
    await expect(page.getByText('Done, 1 min.')).toBeVisible()
    await saved(page)
    expect((await deckOf(page, id)).histories).toHaveLength(12)
    const { plan } = await ask<Candidate>(page, 'GET', `/api/candidates/${id}`)
    expect(plan!.sessions.find((one) => one.id === light.id)).toMatchObject({
      status: 'done',
      minutesDone: 1,
    })
  })
})
