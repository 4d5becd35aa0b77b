import { randomUUID } from 'node:crypto'
import type { Answer, Candidate, PlanSession } from '@climber/contract'
import { dateOf, dayNumber } from '@climber/core'
import { ownServer, today } from './servers'
import { type ExamFile, examFile, pilotDiagnostic } from './sitting'
import { ask, at, enterDemo, makeAccount, saved } from './steps'
import { expect, type Locator, type Page, test } from './test'

test.use({ kinds: ['DEMO', 'EMPTY'] })

/** Fourteen items of the board's paper, of three topics and more. */
const misses = [2, 5, 9, 14, 18, 23, 31, 44, 52, 60, 71, 83, 96, 110]

/** The pilot's exam, with the texts of the one paper that has them for every paper: whichever is planned can be read. */
function fullExam(): ExamFile {
  const file = examFile('tidal-pilotage')
  const whole = file.exam.forms.find(({ items }) => items)!
  const forms = file.exam.forms.map((form) => ({
    ...form,
    items: whole.items,
    stimuli: whole.stimuli,
    pictures: whole.pictures,
  }))
  return { ...file, exam: { ...file.exam, forms } } as ExamFile
}
interface Sat {
  id: string
  attempt: string
  keys: Map<number, string>
}

/** An account of one's own, and in it such a candidate. */
async function satToday(page: Page, url: string): Promise<Sat> {
  await makeAccount(page, new URL(url))
  return newlySat(page)
}

/** A new candidate with a plan, who sat its next test today: all right and sure, but for fourteen. */
async function newlySat(page: Page): Promise<Sat> {
  const file = fullExam()
  const [id, attempt] = [randomUUID(), randomUUID()]
  const windows = [1, 2, 3, 4, 5].map((weekday) => ({ weekday, from: '17:30', to: '20:30' }))
  const record = {
    ...file,
    candidate: { name: 'Ottil Marran' },
    availability: { windows: [...windows, { weekday: 6, from: '08:00', to: '14:00' }] },
    target: { scaled: 330, sitting: 'first' },
    attempts: [pilotDiagnostic],
  }
  await ask(page, 'PUT', `/api/candidates/${id}/file`, { file: record })
  const plan = await ask<{ sessions: PlanSession[] }>(page, 'PUT', `/api/candidates/${id}/plan`, {
    version: 0,
    seed: 1,
  })
  const next = plan.sessions.find(({ kind }) => kind === 'test')!
  const form = file.exam.forms.find((one) => 'form' in next && one.id === next.form)!
  const places = file.exam.sections.flatMap(({ groups }) =>
    groups.flatMap((group) => form.items![group.id]!.map((item) => ({ group: group.id, item }))),
  )
  const items = places.map(({ item: { key = '', topic } }, at) => ({
    item: at + 1,
    key,
    topic,
    answer: misses.includes(at + 1) ? [...'ABCD'].find((letter) => letter !== key)! : key,
    seconds: 45,
    order: at + 1,
  }))
  const groups = Object.fromEntries(
    file.exam.sections.flatMap((section) =>
      section.groups.map((group) => {
        const own = items.filter((_, at) => places[at]!.group === group.id)
        const right = own.filter(({ answer, key }) => answer === key).length
        return [group.id, { right, wrong: own.length - right, blank: 0, notReached: 0 }]
      }),
    ),
  )
  await ask(page, 'PUT', `/api/candidates/${id}/attempts/${attempt}`, {
    version: 0,
    attempt: {
      id: attempt,
      kind: 'practice',
      date: today,
      form: form.id,
      session: next.id,
      counts: { groups, topics: {} },
      items,
    },
  })
  return { id, attempt, keys: new Map(items.map(({ item, key }) => [item, key])) }
}
const candidateOf = (page: Page, id: string) => ask<Candidate>(page, 'GET', `/api/candidates/${id}`)
/** The item that is being reviewed. */
const itemNow = async (page: Page): Promise<number> =>
  Number(/^Item (\d+)$/.exec((await page.getByRole('article').getAttribute('aria-label')) ?? '')![1])

/** The number of the item that is asked again, by what stands above it. */
const numberOn = async (scope: Locator): Promise<number> =>
  Number(/item (\d+) of/.exec(await scope.locator('header').first().innerText())![1])

test('fourteen misses reviewed by keys; causes change the plan; a week later what was missed is tried again, and tells', async ({
  page,
}) => {
  test.slow()
  const server = await ownServer(`review_${test.info().parallelIndex}`)
  try {
    const { id, attempt, keys } = await satToday(page, server.url)
    await page.goto(`${server.url}/c/${id}/review`)
    await page
      .getByRole('row', { name: /0 of 14/ })
      .getByRole('link', { name: 'Review', exact: true })
      .click()
    await expect(page.getByTestId('progress')).toHaveText('0 of 14 done')
    let presses = 0
    const press = async (key: string) => {
      presses++
      await page.keyboard.press(key)
    }
    for (let done = 0; done < misses.length; done++) {
      const item = await itemNow(page)
      // Its answer is hidden: neither the key nor what was answered is to be found.
      await expect(page.getByRole('article')).not.toContainText('Against the clock')
      const key = keys.get(item)!
      const pressure = done % 3 === 0
      await press((pressure ? key : [...'ABCD'].find((letter) => letter !== key)!).toLowerCase())
      await expect(page.getByTestId('both')).toContainText(pressure ? 'pressure' : 'content')
      // Misread where it came out right in peace; else the facts speak for a gap, and Enter keeps that.
      if (pressure) await press('2')
      // One press makes a card of it.
      if (done === 4) {
        await page.keyboard.press('k')
        await expect(page.getByRole('link', { name: 'its card' })).toBeVisible()
      }
      await press('Enter')
      await expect(page.getByTestId('progress')).toHaveText(`${done + 1} of 14 done`)
    }
    expect(presses / misses.length).toBeLessThan(4)
    test.info().annotations.push({ type: 'presses an item', description: (presses / 14).toFixed(2) })
    await expect(page.getByTestId('causes')).toContainText('Did not know it')
    await expect(page.getByTestId('both-times')).toContainText('pressure')
    await saved(page)
    const noted = (await candidateOf(page, id)).review
    expect(noted).toHaveLength(14)
    expect(noted.filter(({ cause }) => cause === 'misread')).toHaveLength(5)
    const { cards } = await ask<Answer<'readRecall'>>(page, 'GET', `/api/candidates/${id}/recall`)
    expect(cards).toMatchObject([{ kind: 'card', of: { attempt } }])
    expect(cards[0]!.kind === 'card' && cards[0]!.front).toContain('- A: ')

    await page.getByRole('button', { name: 'See what it changes' }).click()
    await expect(page.getByTestId('replan-sum')).toContainText('added')
    await expect(page.getByTestId('replan-odds')).toContainText('%')
    await page.getByRole('button', { name: 'Accept' }).click()
    await expect(page.getByText('The new plan is kept.')).toBeVisible()
    await expect(page.getByTestId('remedies')).not.toContainText('not in the plan')
    const { plan } = await candidateOf(page, id)
    const remedies = plan!.sessions.filter((one) => 'remedy' in one && one.remedy?.attempt === attempt)
    expect(remedies.map((one) => 'remedy' in one && one.remedy?.aim)).toEqual(
      expect.arrayContaining(['again', 'reading']),
    )
    await expect(page.getByTestId('retest')).toContainText('What was missed is tried again')
    const retest = plan!.sessions.find((one) => one.kind === 'retest' && one.date > today)!
    const review = plan!.sessions.filter(
      (one) => one.kind === 'review' && 'of' in retest && one.of === retest.of,
    )
    for (const one of review)
      expect(Date.parse(retest.date) - Date.parse(one.date)).toBeGreaterThanOrEqual(7 * 86_400_000)

    // The day of the retest.
    await page.goto('about:blank')
    server.kill()
    await server.restart({ CLIMBER_NOW: `${retest.date}T16:10:00Z` })
    await page.goto(`${server.url}/c/${id}/review/again?session=${retest.id}`)
    // As many as its half-hour holds, those that pay most.
    const article = page.getByRole('article')
    await expect(article).toHaveAttribute('aria-label', /^Item 1 of 1\d$/)
    const count = Number(/\d+$/.exec((await article.getAttribute('aria-label'))!)![0])
    let missedAgain = 0
    for (let at = 1; at <= count; at++) {
      await expect(article).toHaveAttribute('aria-label', `Item ${at} of ${count}`)
      const number = await numberOn(article)
      // All but the last come out right now.
      const key = keys.get(number)!
      const isLast = at === count
      missedAgain = number
      await page.keyboard.press((isLast ? [...'ABCD'].find((letter) => letter !== key)! : key).toLowerCase())
      await expect(page.getByTestId('verdict')).toContainText(isLast ? 'Missed again.' : 'Right now.')
      await page.keyboard.press('Enter')
    }
    await expect(page.getByRole('heading', { name: `${count - 1} of ${count} right now` })).toBeVisible()
    await page.getByRole('button', { name: /^The retest is done/ }).click()
    await saved(page)
    const after = await candidateOf(page, id)
    expect(after.attempts.find(({ kind }) => kind === 'retest')).toMatchObject({
      of: attempt,
      session: retest.id,
    })
    expect(after.plan!.sessions.find((one) => one.id === retest.id)!.status).toBe('done')
    // What was known of a topic opens to the test, and to what came of trying its misses again.
    await page.goto(`${server.url}/c/${id}/diagnosis`)
    await page.getByRole('button', { name: /^Tide heights and tables, known today/ }).click()
    await expect(page.locator('.v-overlay .why')).toContainText(/right in tests/)
    await expect(page.locator('.v-overlay .why')).toContainText(/right tried again/)
    await page.goto(`${server.url}/c/${id}/review?part=again`)
    await expect(page.getByText(`${14 - count} of ${15 - count} missed items are due`)).toBeVisible()
    await expect(page.getByText('1 of them, tried again before, comes with your cards')).toBeVisible()

    // From then on in recall, with the cards: the next day the one that was missed again.
    await page.goto('about:blank')
    server.kill()
    const next = dateOf(dayNumber(retest.date) + 1)
    await server.restart({ CLIMBER_NOW: `${next}T16:10:00Z` })
    await page.goto(`${server.url}/c/${id}/recall`)
    await expect(page.getByText('1 of them an item that you missed')).toBeVisible()
    await page.getByRole('button', { name: '10 min' }).click()
    await expect(page.getByText('missed 2 times')).toBeVisible()
    expect(await numberOn(page.getByRole('region', { name: 'Bring it back' }))).toBe(missedAgain)
    await page.keyboard.press(keys.get(missedAgain)!.toLowerCase())
    await expect(page.getByTestId('verdict')).toContainText('Right now.')
    await page.keyboard.press('Enter')
    await expect(page.getByText('missed 2 times')).toBeHidden()
    await expect
      .poll(async () => (await candidateOf(page, id)).recalled)
      .toMatchObject({
        items: [
          { card: `item:${attempt}:${missedAgain}`, answers: [[dayNumber(next), 3, expect.any(Number)]] },
        ],
        days: [{ day: dayNumber(next), items: [1, 1] }],
      })
    await page.goto(`${server.url}/c/${id}/review?part=again`)
    await expect(page.getByText(`${14 - count} of ${14 - count} missed items are due`)).toBeVisible()
  } finally {
    server.kill()
  }
})

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true })
  test('the same evening by thumb, and without the network; a tutor adds a word', async ({
    page,
    context,
  }) => {
    test.slow()
    const { id, attempt, keys } = await satToday(page, at('EMPTY'))
    const url = at('EMPTY')
    await page.goto(`${url}/c/${id}/review/${attempt}`)
    // What stands above the item comes a moment after it, and moves it under the thumb.
    await expect(page.getByRole('region', { name: /^Horizon/ }).getByRole('table')).toBeAttached()
    let taps = 0
    for (let done = 0; done < misses.length; done++) {
      if (done === 4) await context.setOffline(true)
      if (done === 9) await context.setOffline(false)
      const item = await itemNow(page)
      await page.locator(`[data-letter="${keys.get(item)!}"]`).tap()
      await page.getByRole('group', { name: 'Cause' }).getByRole('button', { name: 'Careless working' }).tap()
      await page.getByTestId('on').tap()
      taps += 3
      await expect(page.getByTestId('progress')).toHaveText(`${done + 1} of 14 done`)
    }
    expect(taps / misses.length).toBeLessThan(4)
    await saved(page)
    const { review } = await candidateOf(page, id)
    expect(review.filter(({ cause, rework }) => cause === 'careless' && rework)).toHaveLength(14)

    await page.getByRole('button', { name: 'List' }).tap()
    await page
      .getByRole('navigation', { name: 'Items worth a look' })
      .getByRole('button', { name: /^2 / })
      .tap()
    await page.getByRole('button', { name: 'say something of this item' }).tap()
    await page.getByLabel('What you say of it').fill('The datum is chart datum here.')
    await page.getByRole('button', { name: 'Say it' }).tap()
    await expect(page.getByText('The datum is chart datum here.')).toBeVisible()
    await saved(page)
    const noted = (await candidateOf(page, id)).review.find(({ item }) => item === 2)
    expect(noted!.comments).toMatchObject([{ by: 'Tamsel Orrin', text: 'The datum is chart datum here.' }])
  })
})

test('from paper: causes by number; the notebook finds them, and the sheet prints', async ({ page }) => {
  const url = at('EMPTY')
  const { id, attempt } = await satToday(page, url)
  await page.goto(`${url}/c/${id}/review/${attempt}`)
  await page.getByRole('button', { name: 'By number' }).click()
  const field = page.getByLabel('Items and causes')
  await field.fill('2 1\n999 1')
  await expect(page.getByText('there is no item 999')).toBeVisible()
  await field.fill(`1: ${misses.slice(0, 9).join(' ')}\n2: ${misses.slice(9).join(' ')}`)
  await page.getByRole('button', { name: 'Keep 14 causes' }).click()
  await expect(page.getByTestId('progress')).toHaveText('14 of 14 done')
  await saved(page)

  await page.getByRole('link', { name: 'Reviews', exact: true }).click()
  await page.getByRole('tab', { name: 'Notebook' }).click()
  await expect(page.getByText('14 of 14 items.')).toBeVisible()
  await page.getByLabel('Search').fill('misread')
  await expect(page.getByText('5 of 14 items.')).toBeVisible()
  await page.goto(`${url}/c/${id}/review/print/${attempt}`)
  await expect(page.getByRole('heading', { name: /^Review: / })).toBeVisible()
  await expect(page.locator('.paper tr')).toHaveCount(15)
})

test('a review is shared inside the workspace: another candidate of it reads and comments, a stranger does not', async ({
  page,
  browser,
}) => {
  await enterDemo(page, 'Corvane Tessel')
  // Of its own: the walk through every screen shares a review of the demo's.
  const { id, attempt } = await newlySat(page)
  await page.goto(`${at('DEMO')}/c/${id}/review/${attempt}`)
  await page.getByRole('button', { name: 'Share' }).click()
  await page.getByRole('button', { name: 'Make an address' }).click()
  const address = await page.getByLabel('Address, shown this once').inputValue()
  expect(address).toContain('/shared/')

  const other = await browser.newPage()
  await enterDemo(other, 'Idrel Pellowick')
  await other.goto(address)
  await expect(other.getByText('to read and to comment on')).toBeVisible()
  await other.getByRole('button', { name: 'say something of this item' }).first().click()
  await other.getByLabel('What you say of it').fill('I fell for that one, too.')
  await other.getByRole('button', { name: 'Say it' }).click()
  await expect(other.getByText('I fell for that one, too.')).toBeVisible()
  await other.getByRole('button', { name: 'take back' }).click()
  await expect(other.getByText('I fell for that one, too.')).toHaveCount(0)

  const stranger = await browser.newPage()
  await makeAccount(stranger, new URL(at('DEMO')))
  await stranger.goto(address)
  await expect(stranger.getByRole('alert')).toContainText('another workspace')
  await page.getByRole('button', { name: 'End it' }).click()
  await expect(page.getByRole('button', { name: 'Make an address' })).toBeVisible()
  await other.reload()
  await expect(other.getByRole('alert')).toContainText('was ended')
  await other.close()
  await stranger.close()
})
