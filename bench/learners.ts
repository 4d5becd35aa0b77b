import { readFileSync } from 'node:fs'
import path from 'node:path'
import {
  type CandidateRecord,
  ClimberFile,
  type Counts,
  diagnosticId,
  type ExamFormat,
  type PlanSession,
  recordFrom,
} from '@climber/contract'
import {
  assess,
  type Assessment,
  dateOf,
  dayNumber,
  estimateOf,
  makePlan,
  planInput,
  topicsOf,
} from '@climber/core'
import { numbers } from './shared/numbers'
import { table } from './table'

/**
 * Simulated candidates follow Climber's plan and plain alternatives over the same slots. The learner is not the
 * planner's: learning follows a power law with a pace of the learner's own, forgetting a power law that spaced touches
 * flatten, sessions slip, what builds on something unknown goes slower, reviews teach what a test missed, tests teach
 * to reach the end in time. What a learner knows at first is drawn about the diagnosis, which is all the plans see.
 */
const today = '2031-03-03'
const first = dayNumber(today)
const perRecord = 24

/** Neighbouring seeds give unlike numbers. */
const scattered = (seed: number) => numbers((seed * 2654435761) % 2147483647 || 1)
const normal = (random: () => number) =>
  Math.sqrt(-2 * Math.log(Math.max(1e-12, random()))) * Math.cos(2 * Math.PI * random())
const clamp = (value: number, low = 0.02, high = 0.98) => Math.min(high, Math.max(low, value))

const exams = ['tidal-pilotage', 'timber-conservation', 'garden-records'].map(
  (name) =>
    ClimberFile.parse(
      JSON.parse(readFileSync(path.join(process.cwd(), `demo/${name}.exam.climber.json`), 'utf8')),
    ).exam,
)

/** A candidate with an uneven baseline, some free windows and a date. */
function candidate(seed: number): CandidateRecord {
  const random = scattered(seed)
  const exam: ExamFormat = exams[seed % exams.length]!
  const days = 35 + Math.floor(random() * 110)
  const ratings = ['weak', 'fair', 'strong', 'not-covered'] as const
  const evenings = 2 + Math.floor(random() * 4)
  const sitting = { id: 'only', date: dateOf(first + days), start: exam.sittings[0]?.start ?? '09:30' }
  const groups = Object.fromEntries(
    exam.sections.flatMap((section) =>
      section.groups.map((group): [string, Counts] => {
        const right = Math.round(group.items * (0.3 + 0.35 * random()))
        const blank = Math.floor((group.items - right) * 0.3)
        const none = { right: 0, wrong: 0, blank: 0, notReached: 0 }
        return [
          group.id,
          group.kind === 'written'
            ? { ...none, marks: Math.round(group.items * group.perRight * (0.3 + 0.3 * random())) }
            : { ...none, right, wrong: group.items - right - blank, blank },
        ]
      }),
    ),
  )
  return recordFrom({
    exam: { ...exam, sittings: [sitting] },
    parts: {
      availability: {
        windows: [
          ...[1, 2, 3, 4, 5].slice(0, evenings).map((weekday) => ({ weekday, from: '18:00', to: '20:30' })),
          { weekday: 6, from: '09:00', to: '14:30' },
        ],
      },
      ratings: {
        topics: Object.fromEntries(
          exam.topics.flatMap(({ id }) => (random() < 0.5 ? [[id, ratings[Math.floor(random() * 4)]]] : [])),
        ),
      },
    },
    attempts: [
      {
        id: diagnosticId,
        kind: 'diagnostic',
        date: dateOf(first - 2),
        seen: false,
        counts: { groups, topics: {} },
      },
    ],
  })
}

interface Event {
  day: number
  minutes: number
  kind: 'study' | 'test' | 'review' | 'touch'
  topics: number[]
}
type Way = (slots: PlanSession[], assessment: Assessment) => Event[]

const dayOf = ({ date }: PlanSession) => dayNumber(date)
const kindOf = ({ kind }: PlanSession): Event['kind'] =>
  kind === 'test'
    ? 'test'
    : kind === 'review'
      ? 'review'
      : kind === 'retest' || kind === 'light'
        ? 'touch'
        : 'study'
const taus = (assessment: Assessment) => assessment.landscape.topics.map(({ tau }) => tau)
const asPlanned: Way = (slots, { record }) => {
  const place = new Map(record.exam.topics.map(({ id }, at) => [id, at]))
  return slots.map((slot) => ({
    day: dayOf(slot),
    minutes: slot.minutes,
    kind: kindOf(slot),
    topics: topicsOf(slot).map((id) => place.get(id)!),
  }))
}
/** The slots as they are, tests and reviews where they are, study by another choice of topic. */
const choosing =
  (choose: (at: number, assessment: Assessment, hours: number[]) => number): Way =>
  (slots, assessment) => {
    const hours = assessment.known.map(() => 0)
    let at = 0
    return slots.map((slot) => {
      const kind = kindOf(slot)
      if (kind !== 'study') return { day: dayOf(slot), minutes: slot.minutes, kind, topics: [] }
      const topic = choose(at++, assessment, hours)
      hours[topic]! += slot.minutes / 60
      return { day: dayOf(slot), minutes: slot.minutes, kind, topics: [topic] }
    })
  }
const ways: [string, Way][] = [
  ['Climber', asPlanned],
  ['even time over topics', choosing((at, { known }) => at % known.length)],
  [
    'weakest topic first',
    choosing((_, assessment, hours) => {
      const tau = taus(assessment)
      const now = assessment.known.map((known, at) => 1 - (1 - known) * Math.exp(-hours[at]! / tau[at]!))
      return now.indexOf(Math.min(...now))
    }),
  ],
  [
    'chapters in order, then tests',
    (slots, assessment) => {
      const tau = taus(assessment)
      const all = slots.reduce((sum, { minutes }) => sum + minutes, 0)
      const reading = (all * 2) / 3
      const sum = tau.reduce((a, b) => a + b, 0)
      const ends = tau.map((_, at) => (reading * tau.slice(0, at + 1).reduce((a, b) => a + b, 0)) / sum)
      let spent = 0
      let turn = 0
      return slots.map((slot): Event => {
        const before = spent
        spent += slot.minutes
        const day = dayOf(slot)
        if (before < reading)
          return {
            day,
            minutes: slot.minutes,
            kind: 'study',
            topics: [
              Math.max(
                0,
                ends.findIndex((end) => before < end),
              ),
            ],
          }
        return { day, minutes: slot.minutes, kind: turn++ % 2 ? 'review' : 'test', topics: [] }
      })
    },
  ],
  [
    'a fixed weekly template',
    (slots, { known }) => {
      let week = -1
      let inWeek = 0
      return slots.map((slot): Event => {
        const day = dayOf(slot)
        const own = Math.floor((day - first) / 7)
        if (own !== week) [week, inWeek] = [own, 0]
        const at = inWeek++
        const kind = at % 6 === 4 ? 'test' : at % 6 === 5 ? 'review' : 'study'
        return {
          day,
          minutes: slot.minutes,
          kind,
          topics: kind === 'study' ? [(at + week * 2) % known.length] : [],
        }
      })
    },
  ],
]

/** One learner through one list of events; the composite on exam day. */
function live(events: Event[], assessment: Assessment, exam: number, seed: number): number {
  const random = scattered(seed)
  const { landscape, knownBy, learner, record } = assessment
  const place = new Map(record.exam.topics.map(({ id }, at) => [id, at]))
  const start = knownBy.map((known) => {
    const { mean, sd } = estimateOf(known, learner.weights)
    return clamp(mean + sd * normal(random))
  })
  const pace = landscape.topics.map(({ tau }) => tau * Math.exp(0.35 * normal(random)))
  const bend = 1.2 + 0.8 * random()
  const fade = 0.12 + 0.12 * random()
  const slips = 0.05 + 0.15 * random()
  const hours = start.map(() => 0)
  const touches = start.map(() => 0)
  const last = start.map(() => first)
  let tests = 0
  const knows = (at: number, day: number): number => {
    const gained = (1 - start[at]!) * (1 - (1 + hours[at]! / (bend * pace[at]!)) ** -bend)
    const kept = (1 + Math.max(0, day - last[at]!) / (3 * (1 + 0.8 * touches[at]!))) ** -fade
    return start[at]! + gained * kept
  }
  const learn = (at: number, minutes: number, day: number): void => {
    const needs = record.exam.topics[at]!.prerequisites.map((id) => knows(place.get(id)!, day))
    const slower = needs.some((known) => known < 0.4) ? 0.6 : 1
    hours[at]! += (slower * minutes) / 60
    if (day > last[at]! || !touches[at]) touches[at]!++
    last[at] = day
  }
  for (const { day, minutes, kind, topics } of events) {
    const lost = random() < slips
    const real = minutes * Math.exp(0.15 * normal(random))
    if (lost) continue
    if (kind === 'test') tests += minutes / 150
    else if (kind === 'study') for (const at of topics) learn(at, real / topics.length, day)
    else {
      // What a test showed as missed: by its share of the exam and how little of it is known.
      const missed = record.exam.topics.map(({ share }, at) => share * (1 - knows(at, day)))
      const sum = missed.reduce((a, b) => a + b, 0)
      const order = missed.map((part, at) => ({ part, at })).sort((a, b) => b.part - a.part)
      for (const { part, at } of order.slice(0, 6)) learn(at, (real * part) / sum, day)
    }
  }
  const reached = 1 - 0.12 * Math.exp(-tests / 2)
  const then = start.map((_, at) => knows(at, exam) * reached)
  const { composite } = landscape.levels(then)
  const low = landscape.levels(start.map(() => 0)).composite
  const high = landscape.levels(start.map(() => 1)).composite
  return composite + 0.04 * (high - low) * normal(random)
}

const records = 96
const scores = new Map<string, number[]>(ways.map(([name]) => [name, []]))
const reach = new Map<string, number>(ways.map(([name]) => [name, 0]))
const spread: number[] = []
let people = 0
for (let seed = 1; seed <= records; seed++) {
  const record = candidate(seed)
  const assessment = assess(record, { date: today, minute: 420 })
  const sitting = assessment.sitting!
  const plan = makePlan(planInput(assessment, sitting, 1))
  const slots = plan.sessions.filter(({ kind }) => kind !== 'errand')
  if (slots.length < 8) continue
  const exam = dayNumber(sitting.date)
  const low = assessment.landscape.levels(assessment.known.map(() => 0)).composite
  const high = assessment.landscape.levels(assessment.known.map(() => 1)).composite
  const lists = ways.map(([name, way]) => ({ name, events: way(slots, assessment) }))
  // A target in reach of some and not of others: half of what separates today's level from all known, times the time there is.
  const target = assessment.landscape.now.composite + 0.42 * (high - assessment.landscape.now.composite)
  for (let learner = 0; learner < perRecord; learner++) {
    people++
    for (const { name, events } of lists) {
      const score = live(events, assessment, exam, seed * 1000 + learner)
      scores.get(name)!.push((100 * (score - low)) / (high - low))
      if (score >= target) reach.set(name, reach.get(name)! + 1)
    }
  }
  spread.push(slots.length)
}
const mean = (list: number[]) => list.reduce((a, b) => a + b, 0) / list.length
const own = scores.get('Climber')!
table(
  `Simulated learners: ${people} candidates, ${spread.length} plans on three exams, the same slots for each way`,
  ['way', 'mean score', 'behind Climber', '+- 2 s.e.', 'reach the target'],
  ways.map(([name]) => {
    const list = scores.get(name)!
    const behind = own.map((score, at) => score - list[at]!)
    const m = mean(behind)
    const se = Math.sqrt(mean(behind.map((d) => (d - m) ** 2)) / behind.length)
    return [
      name,
      mean(list).toFixed(2),
      name === 'Climber' ? '' : m.toFixed(2),
      name === 'Climber' ? '' : (2 * se).toFixed(2),
      `${((100 * reach.get(name)!) / people).toFixed(1)}%`,
    ]
  }),
)
