import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import type { ExamFormat } from '@climber/contract'
import { dateOf, dayNumber } from '@climber/core'
import { ask, at, cutNames, enterDemo } from './steps'
import { expect, test } from './test'

const file = JSON.parse(readFileSync('demo/tidal-pilotage.exam.climber.json', 'utf8')) as {
  climber: unknown
  exam: ExamFormat
}
const clock = (quarter: number) =>
  `${String(Math.floor(quarter / 4)).padStart(2, '0')}:${String((quarter % 4) * 15).padStart(2, '0')}`

/** Titles of one to six words, some long, some alike. */
const words =
  'Ledger Seasoning Provenance Lichen-covered Kiln Accessions of the Greenwood Uncatalogued Beetle in Quarantine and Fumigation Timber Paperwork Ö Deaccessioning'.split(
    ' ',
  )
const title = fc
  .array(fc.constantFrom(...words), { minLength: 1, maxLength: 6 })
  .map((all) => all.join(' ').replace(/^\p{Ll}/u, (letter) => letter.toUpperCase()))
const window = fc
  .tuple(fc.integer({ min: 1, max: 7 }), fc.integer({ min: 20, max: 84 }), fc.integer({ min: 2, max: 24 }))
  .map(([weekday, from, length]) => ({ weekday, from: clock(from), to: clock(Math.min(95, from + length)) }))
/** Before work, too. */
const early = fc
  .tuple(fc.integer({ min: 1, max: 7 }), fc.integer({ min: 1, max: 10 }))
  .map(([weekday, length]) => ({ weekday, from: clock(8), to: clock(8 + length) }))
/** Somebody with an exam of that shape and a week of their own. */
const somebody = fc.record({
  titles: fc.uniqueArray(title, {
    minLength: file.exam.topics.length,
    maxLength: file.exam.topics.length,
    selector: (one) => one.toLowerCase(),
  }),
  days: fc.integer({ min: 12, max: 120 }),
  windows: fc.uniqueArray(window, { minLength: 1, maxLength: 9, selector: ({ weekday }) => weekday }),
  mornings: fc.uniqueArray(early, { maxLength: 4, selector: ({ weekday }) => weekday }),
  sessionMinutes: fc.constantFrom(20, 25, 45, 90),
  breakMinutes: fc.constantFrom(0, 5, 15),
  seed: fc.integer({ min: 1, max: 1000 }),
})

test('fifty plans of all kinds: six weeks name each session, and no name is cut', async ({ page }) => {
  test.setTimeout(1_800_000)
  await enterDemo(page, 'Corvane Tessel')
  const { now } = await ask<{ now: string }>(page, 'GET', '/api/session')
  const today = now.slice(0, 10)
  let seen = 0
  for (const [number, one] of fc.sample(somebody, { numRuns: 50, seed: 20_261_202 }).entries()) {
    const date = dateOf(dayNumber(today) + one.days)
    const exam: ExamFormat = {
      ...file.exam,
      title: `Invented ${number}`,
      topics: file.exam.topics.map((topic, place) => ({ ...topic, title: one.titles[place]! })),
      sittings: [{ id: 'only', date, start: '09:30' }],
    }
    const [examId, id] = [crypto.randomUUID(), crypto.randomUUID()]
    await ask(page, 'PUT', `/api/exams/${examId}`, { file: { ...file, exam } })
    await ask(page, 'PUT', `/api/candidates/${id}`, { name: `Somebody ${number}`, examId, self: false })
    const part = (name: string, document: object) =>
      ask(page, 'PUT', `/api/candidates/${id}/parts/${name}`, { version: 0, document })
    await part('availability', { windows: [...one.mornings, ...one.windows], zone: 'Etc/UTC' })
    await part('settings', { sessionMinutes: one.sessionMinutes, breakMinutes: one.breakMinutes })
    const plan = { version: 0, seed: one.seed }
    const { sessions } = await ask<{ sessions: unknown[] }>(page, 'PUT', `/api/candidates/${id}/plan`, plan)
    await page.goto(`${at('DEMO')}/c/${id}/plan`)
    await page.getByRole('button', { name: '6 weeks', exact: true }).click()
    if (!sessions.length) continue
    await expect(page.locator('.rulers .session').first()).toBeVisible()
    expect.soft(await cutNames(page), `${number}: ${JSON.stringify(one)}`).toEqual([])
    seen += await page.locator('.rulers .session').count()
    await ask(page, 'DELETE', `/api/candidates/${id}`)
  }
  console.log(`50 plans, ${seen} sessions in sight`)
  expect(seen).toBeGreaterThan(500)
})
