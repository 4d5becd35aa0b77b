import { buildSync } from 'esbuild'
import { execFile } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { promisify } from 'node:util'
import { parts, type PlanSession } from '@climber/contract'
import { inputsOf } from '../../test/arbitrary'
import { gardenRecord, morning } from '../../test/fixture'
import { flatPlan } from '../../test/flat'
import {
  assess,
  checkPlan,
  isStudy,
  isWhole,
  makePlan,
  ofKind,
  overview,
  PlanProblem,
  reviewsOf,
  verdict,
} from '../index'

const run = promisify(execFile)
/** So many random plans: 4,000, other ones each day; CLIMBER_PLAN_RUNS=20000 and CLIMBER_PLAN_SEED ask for more, and for a day's again. */
const runs = Number(process.env.CLIMBER_PLAN_RUNS ?? 4000)
const seed = Number(process.env.CLIMBER_PLAN_SEED ?? Math.floor(Date.now() / 86_400_000))
const spring = () => inputsOf({ record: gardenRecord(), minute: 420, seed: 1 })

describe('every plan', () => {
  it(`breaks no rule, on ${runs} random inputs of seed ${seed}, nor any of them once a day fell through and it was mended`, async () => {
    const folder = mkdtempSync(path.join(os.tmpdir(), 'climber-plans-'))
    const script = path.join(folder, 'manyPlans.mjs')
    buildSync({
      entryPoints: [path.join(process.cwd(), 'core/test/manyPlans.ts')],
      outfile: script,
      bundle: true,
      platform: 'node',
      format: 'esm',
    })
    // Two processes share the work: it is the longest of all tests.
    const half = (count: number, seed: number) =>
      run(process.execPath, [script, String(count), String(seed)], {
        env: { ...process.env, NODE_OPTIONS: '' },
      }).then(
        ({ stdout }) =>
          JSON.parse(stdout) as Record<'runs' | 'sessions' | 'tests' | 'mended' | 'remedied', number>,
      )
    const both = await Promise.all([
      half(Math.ceil(runs / 2), seed),
      half(Math.floor(runs / 2), seed + 1_000_000),
    ]).finally(() => rmSync(folder, { recursive: true }))
    const found = Object.fromEntries(
      Object.keys(both[0]).map((key) => [key, both[0][key as 'runs'] + both[1][key as 'runs']]),
    ) as (typeof both)[0]
    expect(found.runs).toBe(runs)
    // Inputs so awkward that nothing is ever planned would prove nothing.
    expect(found.sessions / runs).toBeGreaterThan(25)
    expect(found.tests).toBeGreaterThan(runs / 2)
    expect(found.mended).toBeGreaterThan(runs / 4)
    expect(found.remedied).toBeGreaterThan(runs / 8)
  }, 1_200_000)

  it('is the same for the same input and seed', () => {
    const { plan } = spring()
    expect(makePlan(plan)).toEqual(makePlan(plan))
  })

  it('keeps the ids of its sessions when it is made again', () => {
    const { plan } = spring()
    const ids = makePlan(plan).sessions.map(({ id }) => id)
    expect(makePlan(plan).sessions.map(({ id }) => id)).toEqual(ids)
    expect(new Set(ids).size).toBe(ids.length)
  })
})

describe('a plan for twelve weeks', () => {
  const { plan: input } = spring()
  const plan = flatPlan(input, makePlan(input))
  const tests = plan.sessions.filter(({ kind }) => kind === 'test')

  it('has a whole test in every other week, and review after each', () => {
    expect(plan.leadTime).toBe('two-phase')
    expect(tests.length).toBeGreaterThanOrEqual(6)
    for (const test of tests)
      expect(plan.sessions.some(({ kind, of }) => kind === 'review' && of === test.id)).toBe(true)
  })
  it("keeps the publisher's forms for rehearsal, at the exam's time of day", () => {
    const last = tests[tests.length - 1]!
    expect(last.form).toMatch(/^board-/)
    expect(last.start).toBe('09:30')
    const rehearsal = plan.phases.find(({ name }) => name === 'Rehearse')!
    for (const test of tests)
      if (test.form!.startsWith('board')) expect(test.date >= rehearsal.from).toBe(true)
  })
  it('leaves slack in full weeks without losing them', () => {
    const middle = plan.weeks.slice(1, -2)
    for (const week of middle) {
      expect(week.plannedMinutes).toBeLessThanOrEqual(week.freeMinutes * 0.9)
      expect(week.plannedMinutes).toBeGreaterThan(week.freeMinutes * 0.5)
    }
  })
  it('spreads topics and never studies one twice running', () => {
    const study = plan.sessions.filter(({ topics }) => topics.length)
    const twice = study.filter((session, at) => {
      const next = study[at + 1]
      return session.topics.length === 1 && next?.topics.length === 1 && next.topics[0] === session.topics[0]
    })
    expect(twice).toEqual([])
    expect(new Set(study.flatMap(({ topics }) => topics)).size).toBeGreaterThanOrEqual(7)
  })
  it('gives each session a reason with its figures', () => {
    for (const { why, kind } of plan.sessions) {
      expect(why.text.length).toBeGreaterThan(20)
      if (kind === 'learn') expect(why.figures.yield).toBeGreaterThan(0)
    }
  })
})

describe('the checker', () => {
  const { plan: input, check } = spring()
  const good = makePlan(input)
  const spoil = (change: (sessions: PlanSession[]) => void) => {
    const sessions = structuredClone(good.sessions)
    change(sessions)
    return new Set(checkPlan(check, { ...good, sessions }).map(({ rule }) => rule))
  }
  const tests = (sessions: PlanSession[]) => ofKind(sessions, 'test')
  const first = (sessions: PlanSession[], kind: string) => sessions.find((session) => session.kind === kind)!
  it.each<[string, (sessions: PlanSession[]) => void]>([
    ['free', (sessions) => (first(sessions, 'learn').start = '06:00')],
    [
      'overlap',
      (sessions) => Object.assign(sessions[1]!, { date: sessions[0]!.date, start: sessions[0]!.start }),
    ],
    ['unique', (sessions) => (sessions[1]!.id = sessions[0]!.id)],
    ['range', (sessions) => (sessions[0]!.date = '2031-05-25')],
    ['taper', (sessions) => (first(sessions, 'learn').date = '2031-05-23')],
    ['review', (sessions) => sessions.splice(sessions.indexOf(first(sessions, 'review')), 1)],
    ['test-length', (sessions) => (first(sessions, 'test').minutes -= 10)],
    ['test-said', (sessions) => (sessions.find((one) => isWhole(one))!.start = '09:40')],
    [
      'reserved',
      (sessions) =>
        tests(sessions)
          .slice(0, 1)
          .forEach((test) => (test.form = 'board-1')),
    ],
    ['resit', (sessions) => tests(sessions).forEach((test) => (test.form = 'wall-1'))],
    [
      'timed',
      (sessions) => {
        const study = sessions.find(isStudy)!
        study.timed = { items: 20, seconds: 60 * study.minutes + 1 }
      },
    ],
    ['day-cap', (sessions) => (first(sessions, 'drill').minutes = 900)],
    [
      'order',
      (sessions) => {
        const begun = sessions.find(isStudy)!
        begun.topics = ['names-3']
      },
    ],
  ])('notices a plan that breaks the rule %s', (rule, change) => {
    expect(checkPlan(check, good)).toEqual([])
    expect(spoil(change)).toContain(rule)
  })
})

describe('the checker, on what candidates add', () => {
  const { plan: input, check } = spring()
  const plan = makePlan(input)
  const rules = (change: object, changed = plan) =>
    new Set(checkPlan({ ...check, ...change }, changed).map(({ rule }) => rule))
  it('notices a commitment that is met, a week over its cap, light windows, a retest too soon, too many days', () => {
    const study = plan.sessions.find(({ kind }) => kind === 'learn')!
    expect(rules({ busy: [{ date: study.date, from: study.start, to: '23:00' }] })).toContain('busy')
    const { availability } = check
    expect(rules({ availability: { ...availability, minutesPerWeek: 100 } })).toContain('week-cap')
    expect(rules({ availability: { ...availability, daysPerWeek: 2 } })).toContain('week-cap')
    const light = { ...availability, windows: availability.windows.map((one) => ({ ...one, light: true })) }
    expect(rules({ availability: light })).toContain('free')
    const retest = ofKind(plan.sessions, 'retest')[0]!
    const review = reviewsOf(retest.of!, plan.sessions)[0]!
    const soon = plan.sessions.map((one) => (one.id === retest.id ? { ...one, date: review.date } : one))
    expect(rules({}, { ...plan, sessions: soon })).toContain('retest')
  })
})

describe('what would make it fit', () => {
  it('is tried out before it is said', () => {
    const record = gardenRecord()
    record.availability = parts.availability.parse({
      windows: [1, 2, 3, 4, 5].map((weekday) => ({ weekday, from: '18:00', to: '18:50' })),
    })
    const { plan: input } = inputsOf({ record, minute: 420, seed: 1 })
    const plan = makePlan(input)
    const notice = plan.notices.find(({ code }) => code === 'no-rehearsal')!
    expect(notice.remedy).toMatch(/^Tried out: (Saturdays|Sundays) free from 09:30 to 11:40/)
    const wider = {
      ...record.availability,
      windows: [...record.availability.windows, { weekday: 6, from: '09:30', to: '11:40' }],
    }
    const again = makePlan({ ...input, availability: wider })
    expect(again.notices.map(({ code }) => code)).not.toContain('no-rehearsal')
  })
  it('is not claimed where nothing helps', () => {
    const record = gardenRecord({ settings: { reviewRatio: 4 } })
    const { plan: input } = inputsOf({ record, minute: 420, seed: 1 })
    for (const { code, remedy } of makePlan(input).notices)
      if (code === 'tests-thinned') expect(remedy).toMatch(/^Tried out: |^No single change/)
  })
})

describe('what does not fit is said', () => {
  const notices = (change: object, settings: object = {}) => {
    const record = gardenRecord()
    record.availability = parts.availability.parse({ ...record.availability, ...change })
    record.settings = parts.settings.parse(settings)
    const { plan } = inputsOf({ record, minute: 420, seed: 1 })
    return flatPlan(plan, makePlan(plan))
  }
  it('no free hour at all', () => {
    const plan = notices({ windows: [] })
    expect(plan.sessions).toEqual([])
    expect(plan.notices.map(({ code }) => code)).toContain('no-time')
  })
  it('no block as long as a test: split over two days, and said', () => {
    const plan = notices({
      windows: [1, 2, 3, 4, 5].map((weekday) => ({ weekday, from: '18:00', to: '20:00' })),
    })
    const test = plan.sessions.find(({ title }) => title.includes('split'))!
    expect(test.title).toMatch(/split/)
    expect(test.why.text).toMatch(/Split over two days/)
  })
  it('review that cannot keep up thins the tests', () => {
    const plan = notices({}, { reviewRatio: 4, testEveryDays: 7 })
    expect(plan.notices.map(({ code }) => code)).toContain('tests-thinned')
    expect(plan.sessions.filter(({ kind }) => kind === 'test').length).toBeLessThan(8)
  })
  it('an exam in a mistyped year, and no plan of nine centuries is begun', () => {
    const record = gardenRecord()
    const sitting = { ...record.exam.sittings[0]!, date: '2931-05-24' }
    const exam = { ...record.exam, sittings: [sitting] }
    const { plan, assessment } = inputsOf({ record: { ...record, exam }, minute: 420, seed: 1 })
    expect(() => makePlan(plan)).toThrow(/more than three years away/)
    expect(verdict(assessment)!.notices[0]!.message).toMatch(/more than three years away/)
    expect(overview({ ...record, exam }, { date: '2031-03-03', minute: 420 }).outlook.length).toBeLessThan(
      400,
    )
  })
  it('an exam that is over', () => {
    const record = gardenRecord()
    const { plan } = inputsOf({ record, minute: 420, seed: 1 })
    expect(() => makePlan({ ...plan, today: '2031-05-24' })).toThrow(PlanProblem)
  })
})

describe('made again half-way', () => {
  const { plan: input } = spring()
  const first = makePlan(input)
  const on = '2031-04-07'
  const sessions = first.sessions.map((session, at) =>
    session.date < on && at % 3 ? { ...session, status: 'done' as const, minutesDone: 45 } : session,
  )
  const record = gardenRecord({ plan: { ...first, sessions } })
  const again = inputsOf({ record, minute: 420, seed: 1 }, on)
  const plan = makePlan(again.plan)

  it('keeps what is done, marks the rest as slipped, and breaks no rule', () => {
    expect(checkPlan(again.check, plan)).toEqual([])
    const past = plan.sessions.filter(({ date }) => date < on)
    expect(new Set(past.map(({ status }) => status))).toEqual(new Set(['done', 'slipped']))
  })
  it('counts the work done', () => {
    const before = assess(gardenRecord(), morning(on)).known
    expect(again.assessment.known.some((known, at) => known > before[at]! + 0.05)).toBe(true)
    expect(again.assessment.learner.done.length).toBeGreaterThan(10)
  })
})
