import { readFileSync } from 'node:fs'
import path from 'node:path'
import {
  type Attempt,
  Attempt as AttemptSchema,
  type CandidateRecord,
  ClimberFile,
  type Counts,
  diagnosticId,
  type ExamFormat,
  nothingRecalled,
  type PlanSession,
  recordFrom,
} from '@climber/contract'
import { dateOf, dayNumber, previewPlan, sourceOf, topicsOf } from '@climber/core'
import { Learner, quantile } from '../core/src/learner/learner'
import { compositeRange } from '../core/src/scoring/composite'
import { paperScore } from '../core/src/scoring/paperScore'
import { own } from './learners/own'
import { powerLaw } from './learners/powerLaw'
import { traces } from './learners/traces'
import { type Kind, normalOf, type Person, shareOf } from './learners/kind'
import { numbers } from './shared/numbers'
import { table } from './table'

const today = '2031-03-03'
const first = dayNumber(today)
const seeded = (seed: number) => numbers((seed * 2654435761) % 2147483647 || 1)
const exams = ['tidal-pilotage', 'timber-conservation', 'garden-records', 'archive-cataloguing'].map(
  (name) =>
    ClimberFile.parse(
      JSON.parse(readFileSync(path.join(process.cwd(), `demo/${name}.exam.climber.json`), 'utf8')),
    ).exam,
)

const tausOf = (exam: ExamFormat) =>
  exam.topics.map((topic) => {
    const section = exam.sections.find(({ id }) => id === topic.section)!
    const items = section.groups.reduce((sum, { items }) => sum + items, 0)
    return topic.hours ?? Math.max(2, topic.share * items * 0.6)
  })

/** One paper sat, counted by group, and by topic where `fine`. */
function sits(person: Person, exam: ExamFormat, day: number, random: () => number, harder: number, fine: boolean) {
  const groups: Record<string, Counts> = {}
  const topics: Record<string, Counts> = {}
  const wide = person.day() + harder
  const none = () => ({ right: 0, wrong: 0, blank: 0, notReached: 0 })
  exam.sections.forEach((section, at) => {
    const shift = wide + person.ofSection()
    const own = exam.topics.flatMap((topic, place) => (topic.section === section.id ? [place] : []))
    const reach = section.timed === false ? 1 : person.reaches(at)
    const sitGroups = (list: typeof section.groups) => {
      const all = list.reduce((sum, { items }) => sum + items, 0)
      let left = Math.round(all * reach)
      let raw = 0
      for (const group of list) {
        const counts: Counts = { ...none(), ...(group.kind === 'written' && { marks: 0 }) }
        for (let item = 0; item < group.items; item++) {
          let pick = random()
          const topic = own.find((place) => (pick -= exam.topics[place]!.share) < 0) ?? own[own.length - 1]!
          const id = exam.topics[topic]!.id
          const told = (topics[id] ??= none())
          if (left-- <= 0) {
            counts.blank++
            counts.notReached++
            told.blank++
            told.notReached++
            continue
          }
          const known = person.knows(topic, day)
          const harder = group.difficulty === 'rising' ? 0.8 - (1.6 * item) / Math.max(1, group.items - 1) : 0
          const p = shareOf(Math.log(known / (1 - known + 1e-9) + 1e-9) + shift + harder)
          if (group.kind === 'written') {
            const marks = Math.min(1, Math.max(0, p + 0.25 * normalOf(random))) * group.perRight
            counts.marks! += marks
            raw += marks
            told[marks * 2 >= group.perRight ? 'right' : 'wrong']++
          } else if (random() < p) (counts.right++, told.right++, (raw += group.perRight))
          else if (random() < person.blanks) (counts.blank++, told.blank++)
          else if (group.kind === 'choice' && random() < 1 / group.choices!)
            (counts.right++, told.right++, (raw += group.perRight))
          else (counts.wrong++, told.wrong++, (raw -= group.perWrong))
        }
        groups[group.id] = counts
      }
      return raw
    }
    const raw = sitGroups(section.groups)
    if (section.stages) {
      const stage = [...section.stages].reverse().find(({ from }) => raw >= from) ?? section.stages[0]!
      sitGroups(stage.groups)
    }
  })
  return { groups, topics: fine ? topics : {} }
}

interface Life {
  exam: ExamFormat
  record: CandidateRecord
  /** Records after 0, 1, 3 and 6 tests, with the day. */
  looks: Map<number, { record: CandidateRecord; day: number }>
  sections: number[]
  composite: number
  target: number
  examDay: number
}

function live(kind: Kind, seed: number): Life | undefined {
  const random = seeded(seed)
  const base = exams[seed % exams.length]!
  const weeks = 9 + Math.floor(9 * random())
  const sitting = { id: 'only', date: dateOf(first + weeks * 7 - 2), start: base.sittings[0]?.start ?? '09:30' }
  const exam: ExamFormat = { ...base, sittings: [sitting] }
  const taus = tausOf(exam)
  const person = kind({ exam, taus, random, today: first })
  const fine = random() < 0.5
  const counts = sits(person, exam, first - 1, random, 0, fine)
  const baseline = AttemptSchema.parse({ id: diagnosticId, kind: 'diagnostic', date: dateOf(first - 1), counts })
  const evenings = 2 + Math.floor(random() * 4)
  const rated = exam.topics.flatMap(({ id }, at) => {
    const seen = person.knows(at, first) + 0.15 * normalOf(random)
    return random() < 0.4 ? [[id, seen < 0.35 ? 'weak' : seen > 0.65 ? 'strong' : 'fair'] as const] : []
  })
  const start = paperScore(exam, counts.groups)!
  const top = exam.composite.kind === 'mean' ? 1 : 1
  const scaleTop = paperScore(exam, Object.fromEntries(exam.sections.flatMap((section) => [...section.groups, ...(section.stages?.flatMap(({ groups }) => groups) ?? [])].map((group) => [group.id, { right: group.items, wrong: 0, blank: 0, notReached: 0, marks: group.items * group.perRight }]))))!.composite
  const target = Math.round((start.composite + (0.15 + 0.5 * random()) * (scaleTop - start.composite)) * top)
  let record = recordFrom({
    exam,
    parts: {
      availability: {
        windows: [
          ...[1, 2, 3, 4, 5].slice(0, evenings).map((weekday) => ({ weekday, from: '18:00', to: '20:30' })),
          { weekday: 6, from: '09:00', to: '14:30' },
        ],
      },
      ratings: { topics: Object.fromEntries(rated) },
      target: { kind: 'number', scaled: target },
    },
    attempts: [baseline],
  })
  const made = previewPlan(record, { date: today, minute: 420 }, seed)
  if (!made) return undefined
  const place = new Map(exam.topics.map(({ id }, at) => [id, at]))
  const looks: Life['looks'] = new Map([[0, { record: { ...record, plan: made.plan }, day: first }]])
  const sessions: PlanSession[] = [...made.plan.sessions].sort((a, b) => (a.date + a.start).localeCompare(b.date + b.start))
  const attempts: Attempt[] = [baseline]
  let tests = 0
  for (let at = 0; at < sessions.length; at++) {
    const session = sessions[at]!
    if (session.kind === 'errand') continue
    const day = dayNumber(session.date)
    const whole = session.kind === 'test' && !session.split
    if (!whole && !person.keeps()) {
      sessions[at] = { ...session, status: 'skipped' }
      continue
    }
    const minutes = Math.max(5, Math.round(session.minutes * Math.exp(0.1 * normalOf(random))))
    sessions[at] = { ...session, status: 'done', minutesDone: minutes }
    if (whole) {
      const source = sourceOf(exam, { form: session.form } as Attempt)
      const sat = sits(person, exam, day, random, source === 'other' ? person.maker : 0, fine)
      attempts.push(
        AttemptSchema.parse({
          id: `00000000-0000-4000-8000-${String(at + 1).padStart(12, '0')}`,
          kind: 'practice',
          date: session.date,
          source,
          counts: sat,
        }),
      )
      tests++
    }
    person.works(day, session.kind, minutes, topicsOf(session).map((id) => place.get(id)!))
    if (whole && (tests === 1 || tests === 3 || tests === 6))
      looks.set(tests, {
        record: { ...record, attempts: [...attempts], plan: { ...made.plan, sessions: sessions.map((one, i) => (i <= at ? one : one)) } },
        day,
      })
  }
  record = { ...record, attempts }
  const examDay = dayNumber(sitting.date)
  const result = paperScore(exam, sits(person, exam, examDay, random, 0, false).groups)!
  return {
    exam,
    record,
    looks,
    sections: result.sections.map(({ scaled }) => scaled),
    composite: result.composite,
    target,
    examDay,
  }
}

const kinds: [string, Kind][] = [
  ['own kind', own()],
  ['no pace limit', own({ pace: () => 0.5 })],
  ['makers run hard', own({ maker: (random) => -0.35 + 0.2 * normalOf(random) })],
  ['power law', powerLaw],
  ['traces, fatigue', traces],
]
const lives = Number(process.env.LIVES ?? 100)
const rows: (string | number)[][] = []
for (const [name, kind] of kinds.slice(0, Number(process.env.KINDS ?? 9))) {
  const all = new Map<number, { inside: number; sections: number; ofSections: number; bias: number; brier: number; z: number[]; n: number; width: number; ps: [number, boolean][]; effective: number }>()
  for (let seed = 1; seed <= lives; seed++) {
    const life = live(kind, seed)
    if (!life || !life.looks.has(6)) continue
    const { exam } = life
    for (const [tests, { record, day }] of life.looks) {
      const own = all.get(tests) ?? { inside: 0, sections: 0, ofSections: 0, bias: 0, brier: 0, z: [], n: 0, width: 0, ps: [], effective: 0 }
      all.set(tests, own)
      const learner = new Learner({
        exam,
        attempts: record.attempts,
        ratings: record.ratings,
        recalled: nothingRecalled,
        sessions: record.plan!.sessions,
        taus: tausOf(exam),
        today: day,
      })
      const [exposure] = learner.exposures([life.examDay], true)
      const scores = learner.scores(exposure!, process.env.RATE ? 'rate' : 'kept')
      const { composite } = scores
      const at = (list: Float64Array, share: number) => quantile(list, learner.weights, share)
      const [low, high] = [at(composite, 0.1), at(composite, 0.9)]
      own.effective += learner.candidates.effective
      own.n++
      if (life.composite >= low && life.composite <= high) own.inside++
      life.sections.forEach((score, section) => {
        const list = scores.sections[section]!
        own.ofSections++
        if (score >= at(list, 0.1) && score <= at(list, 0.9)) own.sections++
      })
      const wide = scaleOf(exam)
      own.width += (high - low) / wide
      own.bias += (composite.reduce((a, b, one) => a + b * learner.weights[one]!, 0) / composite.length - life.composite) / wide
      const p = learner.reaching(scores, life.target)
      const reached = life.composite >= life.target && exam.sections.every(({ cut }, s) => cut === undefined || life.sections[s]! >= cut)
      own.brier += (p - (reached ? 1 : 0)) ** 2
      own.ps.push([p, reached])
    }
  }
  for (const tests of [0, 1, 3, 6]) {
    const own = all.get(tests)
    if (!own) continue
    const base = own.ps.filter(([, yes]) => yes).length / own.n
    rows.push([
      name,
      tests,
      own.n,
      `${((100 * own.inside) / own.n).toFixed(1)}%`,
      `${((100 * own.sections) / own.ofSections).toFixed(1)}%`,
      `${((100 * own.width) / own.n).toFixed(1)}`,
      `${((100 * own.bias) / own.n).toFixed(1)}%`,
      (own.brier / own.n).toFixed(3),
      (base * (1 - base)).toFixed(3),
      (own.effective / own.n).toFixed(0),
    ])
  }
}
function scaleOf(exam: ExamFormat): number {
  const { low, high } = compositeRange(exam)
  return high - low
}
table(`Lives, ${lives} a kind`, ['kind', 'tests', 'lives', 'whole', 'sections', 'width', 'bias', 'Brier', 'base', 'eff'], rows)
