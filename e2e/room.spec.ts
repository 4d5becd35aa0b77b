import { randomUUID } from 'node:crypto'
import type { Candidate, RoomRecord, StoredAttempt } from '@climber/contract'
import {
  byKeys,
  byThumb,
  compositeBy,
  dice,
  type Doing,
  doings,
  type ExamFile,
  examFile,
  handIn,
  type Hand,
  rawOf,
  scaledBy,
  work,
} from './sitting'
import { ask, at, choose, enterDemo, goTo, makeAccount, openDemo, saved } from './steps'
import { expect, type Page, test } from './test'

test.use({ kinds: ['DEMO', 'EMPTY'] })

/** A candidate of one's own on an exam, in the lobby. */
async function lobbyOn(page: Page, file: ExamFile): Promise<string> {
  await makeAccount(page, 'EMPTY')
  const examId = randomUUID()
  await ask(page, 'PUT', `/api/exams/${examId}`, { file })
  const id = randomUUID()
  await ask(page, 'PUT', `/api/candidates/${id}`, { name: 'Ottil Marran', examId, self: false })
  await page.goto(`${at('EMPTY')}/c/${id}/sit`)
  return id
}
const paper = (page: Page, name: RegExp) => choose(page, 'Paper', name)
async function begin(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Enter the room' }).click()
  await page.getByRole('button', { name: 'Start the clock' }).click()
}

/** Sits every section of a form; answers what it must come to. */
async function sitAll(page: Page, hand: Hand, { exam }: ExamFile, formId: string, random: () => number) {
  const form = exam.forms.find(({ id }) => id === formId)!
  const raws: number[] = []
  const scaled: number[] = []
  const all: Doing[] = []
  const keysOf = (group: { id: string }) => form.items![group.id]!.map(({ key }) => key!)
  for (const [index, section] of exam.sections.entries()) {
    let raw = 0
    const stint = async (groups: typeof section.groups) => {
      const done = groups.map((group) => doings(group, keysOf(group), random))
      await work(page, hand, all.length + 1, done.flat())
      groups.forEach((group, row) => (raw += rawOf(group, keysOf(group), done[row]!)))
      all.push(...done.flat())
      await handIn(page)
    }
    await stint(section.groups)
    const stage = section.stages?.filter(({ from }) => from <= raw).pop()
    if (stage) await stint(stage.groups)
    raws.push(raw)
    const table = form.conversions?.[stage?.id ?? section.id] ?? stage?.conversion ?? section.conversion
    scaled.push(scaledBy(table as Parameters<typeof scaledBy>[0], raw))
    if (index < exam.sections.length - 1) await page.getByRole('button', { name: 'Begin it now' }).click()
  }
  return { raws, scaled, composite: compositeBy(exam, scaled), all }
}

/** Compares what is shown, and what is stored, with what it must come to. */
async function compare(
  page: Page,
  candidateId: string,
  { raws, scaled, composite, all }: Awaited<ReturnType<typeof sitAll>>,
): Promise<StoredAttempt> {
  const id = /room\/([^/]+)/.exec(page.url())![1]!
  const find = async () =>
    (await ask<Candidate>(page, 'GET', `/api/candidates/${candidateId}`)).attempts.find(
      (one) => one.id === id,
    )
  await expect.poll(async () => Boolean(await find())).toBe(true)
  const stored = (await find())!
  expect(stored.items).toHaveLength(all.length)
  all.forEach(({ answer, first, doubt }, place) => {
    const item = stored.items![place]!
    expect([item.item, item.answer]).toEqual([place + 1, answer])
    expect(item.confidence).toBe(doubt)
    if (first && answer) expect(item.changes).toEqual([first, answer])
    expect(item.seconds).toBeGreaterThanOrEqual(0)
  })
  const rows = page.getByTestId('sections').locator('tbody tr')
  for (const [row, raw] of raws.entries()) {
    await expect(rows.nth(row).locator('td').nth(1)).toHaveText(
      Math.abs(raw - Math.round(raw)) < 1e-9 ? String(Math.round(raw)) : raw.toFixed(1),
    )
    await expect(rows.nth(row).locator('td').nth(2)).toHaveText(String(scaled[row]))
  }
  await expect(page.getByTestId('composite')).toHaveText(String(composite))
  return stored
}

test('a form with a penalty is sat by keyboard and marked to the digit; a planned test of it is done', async ({
  page,
}) => {
  await enterDemo(page, 'Corvane Tessel')
  await openDemo(page, 'Idrel Pellowick', 'Sit')
  const candidateId = /\/c\/([^/]+)/.exec(page.url())![1]!
  const planned = async () =>
    (await ask<Candidate>(page, 'GET', `/api/candidates/${candidateId}`)).plan!.sessions
  const due = (await planned()).filter(
    (one) => one.kind === 'test' && one.form === 'board-2' && one.status === 'planned',
  )
  await expect(page.getByTestId('expect')).toBeVisible()
  await paper(page, /^Pilotage Board paper 2/)
  await begin(page)
  const found = await sitAll(page, byKeys, examFile('tidal-pilotage'), 'board-2', dice(11))
  const stored = await compare(page, candidateId, found)
  // The plan may hold another form of the publisher's instead: then what was sat is no test of it.
  expect(stored.session).toBe(due[0]?.id)
  const sat = (await planned()).filter(({ id }) => id === stored.session)
  expect(sat.map(({ status }) => status)).toEqual(due.slice(0, 1).map(() => 'done'))
  await expect(page.getByTestId('changes')).toContainText('if the plan is kept')
})

test('an exam with two stages follows the first one, and takes numbers for answers', async ({ page }) => {
  const file = examFile('archive-cataloguing')
  const random = dice(5)
  const form = file.exam.forms.find(({ id }) => id === 'registry-a')!
  const groups = file.exam.sections.flatMap(({ groups: own, stages }) => [
    ...own,
    ...(stages ?? []).flatMap((stage) => stage.groups),
  ])
  form.items = Object.fromEntries(
    groups.map((group) => [
      group.id,
      Array.from({ length: group.items }, () => ({
        key:
          group.kind === 'numeric'
            ? String(Math.floor(random() * 90))
            : 'ABCDE'.slice(0, group.choices)[Math.floor(random() * group.choices!)]!,
      })),
    ]),
  )
  const candidateId = await lobbyOn(page, file)
  await page.getByRole('button', { name: 'on screen' }).click()
  await begin(page)
  const found = await sitAll(page, byKeys, file, 'registry-a', random)
  await compare(page, candidateId, found)
})

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })
  test('a form with item sets and an untimed section is sat with a thumb and marked to the digit', async ({
    page,
  }) => {
    const file = examFile('garden-records')
    const candidateId = await lobbyOn(page, file)
    await paper(page, /^Society paper 2/)
    await begin(page)
    const found = await sitAll(page, byThumb, file, 'society-2', dice(7))
    await compare(page, candidateId, found)
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  })
})

test('a test that is thrown away leaves nothing; one that is ended on paper waits to be marked', async ({
  page,
}) => {
  // A candidate of this journey's own: others leave tests under way.
  const listed = () => page.waitForResponse((answer) => /\/rooms$/.test(new URL(answer.url()).pathname))
  const candidateId = await lobbyOn(page, examFile('tidal-pilotage'))
  const sat = async () =>
    (await ask<Candidate>(page, 'GET', `/api/candidates/${candidateId}`)).attempts.length
  const before = await sat()
  await paper(page, /^Pilotage Board paper 2/)
  await begin(page)
  await page.keyboard.press('b')
  await page.getByRole('button', { name: /^Menu/ }).click()
  await Promise.all([listed(), page.getByRole('button', { name: 'Throw it away' }).click()])
  await expect(page.getByRole('heading', { name: 'Sit a test' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Tests under way' })).toHaveCount(0)
  // Thrown away by mistake: it is there again with what was pressed, and can be thrown away once more.
  await page.getByRole('button', { name: 'Undo' }).dblclick()
  await page.getByRole('region', { name: 'Tests under way' }).getByRole('link', { name: 'Go on' }).click()
  await page.getByTestId('list').first().click()
  await expect(page.getByRole('button', { name: 'Item 1, answered B' })).toBeVisible()
  await page.getByRole('button', { name: 'Back to the item' }).click()
  await page.getByRole('button', { name: /^Menu/ }).click()
  await Promise.all([listed(), page.getByRole('button', { name: 'Throw it away' }).click()])
  await expect(page.getByRole('region', { name: 'Tests under way' })).toHaveCount(0)
  await paper(page, /^Pilotage Board paper 2/)
  await page.getByRole('button', { name: 'on paper' }).click()
  await begin(page)
  for (const key of ['c', 'Enter', 'd']) await page.keyboard.press(key)
  await page.getByRole('button', { name: /^Menu/ }).click()
  await page.getByRole('button', { name: 'End the test here' }).click()
  await page.getByRole('link', { name: 'Mark it later' }).click()
  await page.getByRole('region', { name: 'Tests under way' }).getByRole('link', { name: 'Mark it' }).click()
  await expect(page.getByLabel(/^Item 1, key/)).toHaveValue('C')
  await page.getByLabel(/^Item 2, key/).press('a')
  await page.getByRole('button', { name: 'Mark it and keep it' }).click()
  await expect(page.getByTestId('tally')).toHaveText(/of 40$/)
  await expect.poll(sat).toBe(before + 1)
  // Marked and then deleted, it does not wait to be marked again; nor once it is put back, marked as it was.
  const underWay = async () => {
    await goTo(page, 'Sit')
    await saved(page)
    await Promise.all([listed(), page.reload()])
    await page.waitForLoadState('networkidle')
    return page.getByRole('region', { name: 'Tests under way' }).count()
  }
  await page.getByRole('link', { name: 'What this test says' }).click()
  await page.getByRole('button', { name: 'Delete this test' }).click()
  await expect.poll(sat).toBe(before)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(sat).toBe(before + 1)
  expect(await underWay()).toBe(0)
  await goTo(page, 'What tests say')
  await page.getByRole('button', { name: 'Delete this test' }).click()
  await expect.poll(sat).toBe(before)
  expect(await underWay()).toBe(0)
})

test('written answers are marked by what earns their marks, and those after the bell are kept apart', async ({
  page,
}) => {
  const candidateId = await lobbyOn(page, examFile('timber-conservation'))
  await paper(page, /^Guild paper, first/)
  await choose(page, 'What', 'Only Written judgement')
  await page.getByRole('button', { name: 'on paper' }).click()
  await begin(page)
  await page.getByRole('button', { name: /^Menu/ }).click()
  await page.getByRole('button', { name: 'End the test here' }).click()
  const first = page.getByRole('region', { name: 'Item 1', exact: true })
  await first.getByText('The question').click()
  await expect(first).toContainText('Tarrow barn')
  await first.getByLabel('marks for what earns 2, 1').fill('1.5')
  // Pressed as slowly as people press: nothing moves away from under it when the field is left.
  await first.getByRole('button', { name: 'Item 1: all of 3' }).click({ delay: 400 })
  await expect(first).toContainText('3.5 of 5 marks')
  await first.getByLabel('marks for what earns 2, 1').fill('9')
  await expect(first).toContainText('from 0 to 2')
  await first.getByLabel('marks for what earns 2, 1').fill('1')
  await expect(first).toContainText('3 of 5 marks')
  const case2 = page.getByRole('region', { name: 'Item 8', exact: true })
  for (const at of [1, 2, 3]) await case2.getByRole('button', { name: `Item 8: all of ${at}` }).click()
  await page
    .getByRole('region', { name: 'Item 2', exact: true })
    .getByRole('button', { name: 'Item 2: all of 1' })
    .click()
  // What was marked so far is there again after the tab was closed.
  await page.reload()
  await expect(first).toContainText('3 of 5 marks')
  const late = page.getByLabel('Items answered after the bell')
  await late.fill('2, 11')
  await page.getByRole('button', { name: 'Mark it and keep it' }).click()
  await expect(page.getByText('there is no item 11')).toBeVisible()
  await late.fill('2')
  await page.getByRole('button', { name: 'Mark it and keep it' }).click()
  await expect(page.getByTestId('counts')).toContainText('1 answered after the bell')
  // It shows before the server has it.
  const sat = async () => (await ask<Candidate>(page, 'GET', `/api/candidates/${candidateId}`)).attempts[0]
  await expect.poll(sat).toBeDefined()
  const one = await sat()
  const of = (item: number) => one!.items!.find((own) => own.item === item)!
  expect(of(1)).toMatchObject({ answer: '3', criteria: [1, null, 2] })
  expect(of(2)).toMatchObject({ answer: '', late: { answer: '2' } })
  expect(of(8)).toMatchObject({ answer: '9' })
  expect(one!.counts.groups['judgement-short']).toMatchObject({ marks: 3, blank: 5 })
  // Corrected later, what was marked is there.
  await page.getByRole('button', { name: 'Correct an answer or the key' }).click()
  await expect(first).toContainText('3 of 5 marks')
})

test.describe('without a network', () => {
  test.use({ serviceWorkers: 'allow' })
  test('a test is opened, sat, ended and marked; all of it is sent afterwards', async ({ page, context }) => {
    await enterDemo(page, 'Corvane Tessel')
    await openDemo(page, 'Wenna Tarrowby', 'Sit')
    const candidateId = /\/c\/([^/]+)/.exec(page.url())![1]!
    await page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state)
    await context.setOffline(true)
    await page.reload()
    await paper(page, /^Pilotage Board paper 2/)
    await choose(page, 'What', 'Only Passage work')
    await begin(page)
    const { exam } = examFile('tidal-pilotage')
    const [, section] = exam.sections
    const keys = exam.forms
      .find(({ id }) => id === 'board-2')!
      .items![section!.groups[0]!.id]!.map(({ key }) => key!)
    const done = doings(section!.groups[0]!, keys, dice(3))
    await work(page, byKeys, 1, done.slice(0, 12), false)
    // The tab is opened anew in the middle of it, still without any network.
    await page.reload()
    await expect(page.getByTestId('place')).toContainText(/^item\s+13\b/)
    await work(page, byKeys, 13, done.slice(12))
    await handIn(page)
    const right = done.filter(({ answer }, at) => answer === keys[at]).length
    await expect(page.getByTestId('tally')).toHaveText(`${right} of 30`)
    await context.setOffline(false)
    const id = /room\/([^/]+)/.exec(page.url())![1]!
    await expect
      .poll(async () => {
        const { attempts } = await ask<Candidate>(page, 'GET', `/api/candidates/${candidateId}`)
        return attempts.find((one) => one.id === id)?.items?.map(({ answer }) => answer)
      })
      .toEqual(done.map(({ answer }) => answer))
    const { events, stands } = await ask<RoomRecord>(
      page,
      'GET',
      `/api/candidates/${candidateId}/rooms/${id}`,
    )
    expect(stands).toBe('over')
    const pressed = done.reduce((sum, { answer, first }) => sum + (answer ? 1 : 0) + (first ? 1 : 0), 0)
    expect(events.filter(({ kind }) => kind === 'answer')).toHaveLength(pressed)
  })
})
