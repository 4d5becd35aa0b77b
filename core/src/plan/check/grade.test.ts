import type { Plan, PlanSession } from '@climber/contract'
import { gardenShelf, inputsOf } from '../../../test/arbitrary'
import { gardenExam, gardenRecord } from '../../../test/fixture'
import { gradeInputOf } from '../../../test/graded'
import { gradePlan, isStudy, makePlan, timedSeconds } from '../../index'

const few = { ...gardenExam, forms: gardenExam.forms.slice(0, 3) }
const record = gardenRecord({ materials: { items: gardenShelf.items.slice(0, 3) }, exam: few })
record.availability = {
  ...record.availability,
  windows: [...record.availability.windows, { weekday: 7, from: '09:00', to: '15:00' }],
}
const { plan: input } = inputsOf({ record, minute: 420, seed: 1 })
const good = makePlan(input)
const weak = input.topics.find(({ known, share }) => known < 0.5 && share > 0.02)!
const told = gradeInputOf(input)

/** What is wrong with the plan once something was done to it, by what the grades are of. */
function wrong(change: (plan: Plan) => void): string[] {
  const plan = structuredClone(good)
  change(plan)
  return gradePlan(told, plan)
    .filter(({ mark }) => mark !== 'good')
    .map(({ of }) => of)
}
const drop = (plan: Plan, which: (session: PlanSession) => boolean) =>
  (plan.sessions = plan.sessions.filter((session) => !which(session)))
const study = (plan: Plan) => plan.sessions.filter(isStudy)

describe('a plan looked over as a tutor would', () => {
  it('of ours has nothing poor in it', () => {
    expect(gradePlan(told, good).filter(({ mark }) => mark === 'poor')).toEqual([])
    expect(gradePlan(told, good).length).toBeGreaterThanOrEqual(12)
  })
  it.each<[string, (plan: Plan) => void]>([
    [
      'weekly timed work',
      (plan) => drop(plan, (one) => one.kind === 'test' || timedSeconds(one) !== undefined),
    ],
    ['last rehearsal', (plan) => drop(plan, ({ kind, date }) => kind === 'test' && date > '2031-05-10')],
    ['papers used', (plan) => drop(plan, ({ kind }) => kind === 'test')],
    [
      'pages finished',
      (plan) => {
        const read = study(plan).filter(({ material }) => material?.pages)
        drop(plan, ({ id }) => id === read[read.length - 1]!.id)
      },
    ],
    [
      'large topics touched',
      (plan) => study(plan).forEach((one) => (one.topics = one.topics.filter((id) => id !== weak.id))),
    ],
    ['no crumb', (plan) => study(plan).forEach((one) => (one.minutes = 20))],
    ['a day of rest', (plan) => (plan.sessions = plan.sessions.flatMap((one) => everyDay(one)))],
    ['reviews with their tests', (plan) => drop(plan, ({ kind }) => kind === 'review')],
    ['last fortnight', (plan) => (study(plan)[0]!.date = '2031-05-23')],
    [
      'quiet before a test',
      (plan) => {
        const test = plan.sessions.find(({ kind, start }) => kind === 'test' && start === '09:30')!
        Object.assign(study(plan)[0]!, { date: test.date, start: '08:40' })
      },
    ],
    [
      'no first meeting in a mixed set',
      (plan) =>
        Object.assign(study(plan)[0]!, { kind: 'mixed', topics: ['names-1', 'names-5', 'ledgers-4'] }),
    ],
    ['time used', (plan) => drop(plan, ({ kind }) => kind === 'drill')],
  ])('is found wanting: %s', (of, change) => {
    expect(wrong(() => undefined)).not.toContain(of)
    expect(wrong(change)).toContain(of)
  })
})

/** The session on each of the seven days that begin with its own. */
function everyDay(session: PlanSession): PlanSession[] {
  return session.kind === 'drill'
    ? Array.from({ length: 7 }, (_, at) => ({
        ...session,
        id: `${session.id}.${at}`,
        date: new Date(Date.parse(session.date) + at * 86_400_000).toISOString().slice(0, 10),
      }))
    : [session]
}
