import {
  type Attempt,
  Attempt as AttemptSchema,
  type CandidateRecord,
  type Counts,
  diagnosticId,
  type ExamFormat,
  type ItemGroup,
  type PlanSession,
  recordFrom,
  type SelfRating,
} from '@climber/contract'
import {
  compositeRange,
  dateOf,
  dayNumber,
  itemsOf,
  type Kind,
  paperScore,
  type Person,
  previewPlan,
  sourceOf,
  stageFor,
  topicsOf,
} from '@climber/core'
import { numbers } from '../shared/numbers'
import { normalOf, shareOf } from './normal'

const today = '2031-03-03'
const first = dayNumber(today)
/** Neighbouring seeds give unlike numbers. */
const seeded = (seed: number) => numbers((seed * 2654435761) % 2147483647 || 1)
const none = (): Counts => ({ right: 0, wrong: 0, blank: 0, notReached: 0 })

/** A life to its end, and what was on record after 0, 1, 3 and 6 tests. */
export interface Life {
  exam: ExamFormat
  looks: Map<number, { record: CandidateRecord; day: number }>
  target: number
  sections: number[]
  composite: number
}

/** One item answered; its marks. */
function answer(
  group: ItemGroup,
  able: number,
  person: Person,
  random: () => number,
  counts: Counts,
  told: Counts,
): number {
  const count = (what: 'right' | 'wrong' | 'blank') => {
    counts[what]++
    told[what]++
    return what === 'right' ? group.perRight : what === 'wrong' ? -group.perWrong : (group.perBlank ?? 0)
  }
  if (group.kind === 'written') {
    const marks = Math.min(1, Math.max(0, able + 0.25 * normalOf(random))) * group.perRight
    counts.marks! += marks
    told[marks * 2 >= group.perRight ? 'right' : 'wrong']++
    return marks
  }
  if (random() < able) return count('right')
  if (random() < person.blanks) return count('blank')
  return count(group.kind === 'choice' && random() < 1 / group.choices! ? 'right' : 'wrong')
}

/** Whether scores are enough for a target and every cut. */
export const passes = (exam: ExamFormat, target: number, composite: number, sections: number[]): boolean =>
  composite >= target && exam.sections.every(({ cut }, at) => cut === undefined || sections[at]! >= cut)

/** One paper sat: counts by group, and by topic. */
export function sits(person: Person, exam: ExamFormat, day: number, random: () => number, easier: number) {
  const groups: Record<string, Counts> = {}
  const topics: Record<string, Counts> = {}
  const wide = person.day() + easier
  exam.sections.forEach((section, at) => {
    const shift = wide + person.ofSection()
    const own = exam.topics.flatMap((topic, place) => (topic.section === section.id ? [place] : []))
    const reach = section.timed === false ? 1 : person.reaches(at)
    const sit = (list: ItemGroup[]): number => {
      let left = Math.round(list.reduce((sum, { items }) => sum + items, 0) * reach)
      let raw = 0
      for (const group of list) {
        const counts: Counts = { ...none(), ...(group.kind === 'written' && { marks: 0 }) }
        groups[group.id] = counts
        for (let item = 0; item < group.items; item++) {
          let pick = random()
          const topic = own.find((place) => (pick -= exam.topics[place]!.share) < 0) ?? own[own.length - 1]!
          const told = (topics[exam.topics[topic]!.id] ??= none())
          if (left-- <= 0) {
            for (const one of [counts, told]) {
              one.blank++
              one.notReached++
            }
            continue
          }
          const known = Math.min(1 - 1e-9, Math.max(1e-9, person.knows(topic, day)))
          const place = group.difficulty === 'rising' && group.items > 1 ? item / (group.items - 1) : 0.5
          const able = shareOf(Math.log(known / (1 - known)) + shift + 0.8 * (1 - 2 * place))
          raw += answer(group, able, person, random, counts, told)
        }
      }
      return raw
    }
    const stage = stageFor(section, sit(section.groups))
    if (stage) sit(stage.groups)
  })
  return { groups, topics }
}

/** The candidate on the first evening: a diagnostic, some ratings, free hours, a sitting, a target in reach of some. */
function begins(person: Person, exam: ExamFormat, random: () => number, fine: boolean, far: number) {
  const counts = sits(person, exam, first - 1, random, 0)
  const baseline = AttemptSchema.parse({
    id: diagnosticId,
    kind: 'diagnostic',
    date: dateOf(first - 1),
    counts: fine ? counts : { groups: counts.groups },
  })
  const evenings = 2 + Math.floor(random() * 4)
  const topics = exam.topics.flatMap(({ id }, at): [string, SelfRating][] => {
    const felt = person.knows(at, first) + 0.15 * normalOf(random)
    return random() < 0.4 ? [[id, felt < 0.35 ? 'weak' : felt > 0.65 ? 'strong' : 'fair']] : []
  })
  const level = paperScore(exam, counts.groups)!.composite
  const target = Math.round(level + (far + 0.5 * random()) * (compositeRange(exam).high - level))
  const record = recordFrom({
    exam,
    parts: {
      availability: {
        windows: [
          ...[1, 2, 3, 4, 5].slice(0, evenings).map((weekday) => ({ weekday, from: '18:00', to: '20:30' })),
          { weekday: 6, from: '09:00', to: '14:30' },
        ],
      },
      ratings: { topics: Object.fromEntries(topics) },
      target: { kind: 'number', scaled: target },
    },
    attempts: [baseline],
  })
  return { record, target }
}

/**
 * A person of a kind before a first plan: the exam with one sitting ahead, and what is on record. The target lies `far`, and up to half
 * more, of the way from the first score to the top.
 */
export function beginning(kind: Kind, of: ExamFormat, seed: number, far = 0.15) {
  const random = seeded(seed)
  const weeks = 9 + Math.floor(9 * random())
  const exam: ExamFormat = {
    ...of,
    sittings: [{ id: 'only', date: dateOf(first + weeks * 7 - 2), start: of.sittings[0]?.start ?? '09:30' }],
  }
  const taus = exam.topics.map((topic) => {
    const section = exam.sections.find(({ id }) => id === topic.section)!
    return topic.hours ?? Math.max(2, topic.share * itemsOf(section) * 0.6)
  })
  const person = kind({ exam, taus, random, today: first })
  const fine = random() < 0.5
  return { exam, person, random, fine, ...begins(person, exam, random, fine, far) }
}
export const firstMoment = { date: today, minute: 420 }

/** One life of a kind, its target `far` off; undefined where its plan has fewer than six whole tests. */
export function live(kind: Kind, of: ExamFormat, seed: number, far?: number): Life | undefined {
  const { exam, person, random, fine, target, record: unplanned } = beginning(kind, of, seed, far)
  const made = previewPlan(unplanned, firstMoment, seed)
  if (!made) return undefined
  const record = { ...unplanned, plan: made.plan }
  const place = new Map(exam.topics.map(({ id }, at) => [id, at]))
  const sessions: PlanSession[] = [...record.plan.sessions].sort((a, b) =>
    (a.date + a.start).localeCompare(b.date + b.start),
  )
  const attempts: Attempt[] = [...record.attempts]
  const looks: Life['looks'] = new Map([[0, { record, day: first }]])
  for (let at = 0; at < sessions.length; at++) {
    const session = sessions[at]!
    if (session.kind === 'errand') continue
    const whole = session.kind === 'test' && !session.split
    if (!whole && !person.keeps()) {
      sessions[at] = { ...session, status: 'skipped' }
      continue
    }
    const day = dayNumber(session.date)
    const minutesDone = Math.max(5, Math.round(session.minutes * Math.exp(0.1 * normalOf(random))))
    sessions[at] = { ...session, status: 'done', minutesDone }
    if (whole) {
      const source = sourceOf(exam, { form: session.form } as Attempt)
      const { groups, topics } = sits(person, exam, day, random, source === 'other' ? person.maker : 0)
      attempts.push(
        AttemptSchema.parse({
          id: `00000000-0000-4000-8000-${String(at + 1).padStart(12, '0')}`,
          kind: 'practice',
          date: session.date,
          source,
          counts: fine ? { groups, topics } : { groups },
        }),
      )
    }
    person.works(
      day,
      session.kind,
      minutesDone,
      topicsOf(session).map((id) => place.get(id)!),
    )
    const tests = attempts.length - 1
    if (whole && (tests === 1 || tests === 3 || tests === 6))
      looks.set(tests, {
        record: { ...record, attempts: [...attempts], plan: { ...record.plan, sessions: [...sessions] } },
        day,
      })
  }
  if (!looks.has(6)) return undefined
  const end = sits(person, exam, dayNumber(exam.sittings[0]!.date), random, 0)
  const { sections, composite } = paperScore(exam, end.groups)!
  return { exam, looks, target, sections: sections.map(({ scaled }) => scaled), composite }
}
