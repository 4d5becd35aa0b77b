import { readFileSync } from 'node:fs'
import path from 'node:path'
import { ClimberFile, recordFrom } from '@climber/contract'
import {
  assess,
  checkPlan,
  checkQuestion,
  dayNumber,
  isPractice,
  makePlan,
  planInput,
  planOdds,
  readQuestion,
} from '@climber/core'
import { aheadByWholeWeeks, movedBy } from '../../demo/dates'
import { scenario } from '../../demo/scenario'
import { Clock } from '../src/clock'
import { type Database } from '../src/database'
import { loadDemo } from '../src/demo'
import { appOn, Browser, freshDatabase, now } from './harness'

const read = async (name: string) =>
  ClimberFile.parse(JSON.parse(readFileSync(path.join(process.cwd(), 'demo', name), 'utf8')))
let database: Database
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.sequelize.close())

describe('the scenario', () => {
  it('has a deck for its exam, every question of which can be asked, with months of answers', async () => {
    const files = await scenario('2030-01-15', read)
    for (const { file } of files) {
      const cards = file.recall!.cards!
      const of = (kind: string) => cards.filter((card) => card.kind === kind)
      expect(of('card').length).toBeGreaterThanOrEqual(60)
      expect(of('place').length).toBeGreaterThanOrEqual(15)
      expect(of('numbers').length).toBeGreaterThanOrEqual(12)
      const topics = new Set(file.exam.topics.map(({ id }) => id))
      for (const { topic } of cards) expect(topics).toContain(topic)
      for (const card of cards) {
        if (card.kind !== 'numbers') continue
        const question = readQuestion(card.question)
        if ('problems' in question) throw new Error(JSON.stringify(question.problems))
        const { answers, flaws } = checkQuestion(question)
        expect(answers).toBeGreaterThan(10)
        expect(flaws.reduce((sum, { draws }) => sum + draws, 0)).toBeLessThan(60)
      }
    }
    // What was missed was tried again, as the plans say.
    const retests = files.map(({ file }) => file.attempts!.filter(({ kind }) => kind === 'retest').length)
    expect(retests[0]).toBe(0)
    expect(retests[1]).toBeGreaterThan(0)
    expect(retests[2]).toBeGreaterThan(2)
    const [starting, , last] = files.map(({ file }) => file.recall!)
    expect(starting!.answers).toBeUndefined()
    const days = last!.answers!.map(({ on }) => dayNumber(on))
    expect(Math.max(...days)).toBeLessThan(dayNumber('2030-01-15'))
    expect(Math.max(...days) - Math.min(...days)).toBeGreaterThan(60)
  })
  it.each(['2030-01-14', '2030-01-15', '2030-01-16', '2030-01-19', '2030-01-20', '2031-03-30'])(
    'on %s is whole and true',
    async (today) => {
      const files = await scenario(today, read)
      expect(files).toHaveLength(3)
      const days = files.map(({ file }) => {
        expect(ClimberFile.safeParse(JSON.parse(JSON.stringify(file))).error).toBeUndefined()
        const sitting = file.exam.sittings.find(({ id }) => id === file.target!.sitting)!
        return dayNumber(sitting.date) - dayNumber(today)
      })
      // Just starting, half-way, in the last week.
      expect(days[0]).toBeGreaterThan(80)
      expect(days[1]).toBeGreaterThan(35)
      expect(days[1]).toBeLessThan(60)
      expect(days[2]).toBeLessThan(10)
      expect(days[2]).toBeGreaterThan(1)
      const [starting, slipping, last] = files.map(({ file }) => file)
      const tests = (file: ClimberFile) => (file.attempts ?? []).filter(isPractice)
      expect(tests(starting!)).toHaveLength(0)
      expect(tests(slipping!).length).toBeGreaterThan(1)
      expect(tests(last!).length).toBeGreaterThan(3)
      const slipped = slipping!.plan!.sessions.filter(({ status }) => status === 'slipped').length
      expect(slipped).toBeGreaterThan(5)
      for (const { file } of files) {
        for (const test of tests(file)) expect(test.date! < today).toBe(true)
        const record = recordFrom({
          exam: file.exam,
          parts: file,
          attempts: file.attempts,
          plan: file.plan,
        })
        const assessment = assess(record, { date: today, minute: 900 })
        const odds = planOdds(assessment)!.odds!
        expect(odds).toBeGreaterThan(0.05)
        expect(odds).toBeLessThan(0.99)
        const input = planInput(assessment, assessment.sitting!, 1)
        expect(
          checkPlan(
            {
              exam: file.exam,
              sitting: assessment.sitting!,
              today,
              nowMinute: 900,
              availability: record.availability,
              busy: input.busy,
              settings: record.settings,
              sat: input.sat,
              measured: input.measured,
              kept: input.kept.filter(({ id }) => !input.owed.some((owed) => owed.id === id)),
              begun: input.topics.filter(({ touches }) => touches.length).map(({ id }) => id),
            },
            makePlan(input),
          ),
        ).toEqual([])
      }
    },
  )
  it('is the same twice on the same day', async () => {
    expect(await scenario('2030-01-15', read)).toEqual(await scenario('2030-01-15', read))
  })
})

describe('dates that move', () => {
  it('all of them, by whole weeks, and nothing else', () => {
    expect(movedBy({ date: '2030-01-31', text: 'since 2030-01-31', list: ['2030-02-28'], n: 7 }, 1)).toEqual({
      date: '2030-02-01',
      text: 'since 2030-01-31',
      list: ['2030-03-01'],
      n: 7,
    })
    const { first } = aheadByWholeWeeks({ first: '2020-05-04' }, '2020-05-04', '2030-01-15', 42)
    expect((dayNumber(first) - dayNumber('2020-05-04')) % 7).toBe(0)
    expect(dayNumber(first) - dayNumber('2030-01-15')).toBeGreaterThanOrEqual(42)
    expect(dayNumber(first) - dayNumber('2030-01-15')).toBeLessThan(49)
  })
})

describe('the demo server', () => {
  const clock = new Clock(now)
  const load = (at = clock) =>
    loadDemo({ ...database, clock: at, demo: true, samples: path.join(process.cwd(), 'demo') })
  it('loads once a day and keeps what was changed since', async () => {
    await load()
    const before = (await database.models.candidates.findAll()).map(({ id }) => id).sort()
    await load()
    expect((await database.models.candidates.findAll()).map(({ id }) => id).sort()).toEqual(before)
    await load(new Clock('2030-01-16T10:00:00Z'))
    const after = (await database.models.candidates.findAll()).map(({ id }) => id).sort()
    expect(after).toHaveLength(3)
    expect(after).not.toEqual(before)
  })
  it('shows the tutor all three in the roster, and each candidate their own', async () => {
    await load()
    const app = appOn(database, { CLIMBER_DEMO: '1' })
    const enter = async (email: string) => {
      const browser = new Browser(app)
      await browser.arrive()
      const answer = await browser.send('post', '/api/demo-sign-in', { email })
      browser.csrf = answer.body.csrf
      return (await browser.send('get', '/api/candidates')).body as {
        name: string
        odds: number
        mine: boolean
        slippedMinutes: number
      }[]
    }
    const rows = await enter('tutor@demo.example')
    expect(rows.map(({ name }) => name).sort()).toEqual([
      'Idrel Pellowick',
      'Maudra Okonby',
      'Wenna Tarrowby',
    ])
    expect(rows.find(({ name }) => name.startsWith('Idrel'))!.slippedMinutes).toBeGreaterThan(300)
    for (const { odds } of rows) expect(odds).toBeGreaterThan(0)
    const own = await enter('maudra@demo.example')
    expect(own).toMatchObject([{ name: 'Maudra Okonby', mine: true }])
  })
  it('offers the exams that ship with their first sitting weeks ahead', async () => {
    const browser = new Browser(appOn(database))
    await browser.signUp()
    const samples = (await browser.send('get', '/api/samples')).body as {
      title: string
      file: { exam: { sittings: { date: string }[] } }
    }[]
    expect(samples.map(({ title }) => title)).toContain("Tidal Pilot's Certificate, second grade")
    for (const { file } of samples) expect(file.exam.sittings[0]!.date > '2030-02-20').toBe(true)
  })
})
