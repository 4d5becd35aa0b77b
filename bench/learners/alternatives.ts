import type { CandidateRecord } from '@climber/contract'
import {
  type Assessment,
  dayNumber,
  type Deed,
  examShares,
  knownAfter,
  minuteOf,
  weekdayOf,
} from '@climber/core'
import { firstMoment } from './life'

type Slot = Pick<Deed, 'day' | 'minutes'>
const first = dayNumber(firstMoment.date)

export const minutesOf = (deeds: Slot[]): number => deeds.reduce((sum, { minutes }) => sum + minutes, 0)

/** Which topic each slot is given, by a plain rule that sees what the plan sees. */
type Sharing = (slots: Slot[], seen: Seen) => number[]
interface Seen {
  share: number[]
  known: number[]
  tau: number[]
}
export const seenOf = ({ record, known, landscape }: Assessment): Seen => ({
  share: examShares(record.exam),
  known,
  tau: landscape.topics.map(({ tau }) => tau),
})

/** Hours by weights, interleaved: always the topic furthest behind its part, no topic twice running. */
const byWeight =
  (weight: (seen: Seen, at: number) => number): Sharing =>
  (slots, seen) => {
    const weights = seen.share.map((_, at) => weight(seen, at))
    const all = weights.reduce((a, b) => a + b, 0)
    const given = weights.map(() => 0)
    let spent = 0
    let last = -1
    return slots.map(({ minutes }) => {
      spent += minutes
      let best = -1
      weights.forEach((own, at) => {
        const behind = (own / all) * spent - given[at]!
        if (at !== last && (best < 0 || behind > (weights[best]! / all) * spent - given[best]!)) best = at
      })
      given[best]! += minutes
      return (last = best)
    })
  }

const weakestFirst: Sharing = (slots, { known, tau }) => {
  const now = [...known]
  let last = -1
  return slots.map(({ minutes }) => {
    let best = -1
    now.forEach((own, at) => {
      if (at !== last && (best < 0 || own < now[best]!)) best = at
    })
    now[best] = knownAfter({ value: 1, known: now[best]!, tau: tau[best]! }, minutes / 60)
    return (last = best)
  })
}

/** The book from cover to cover in two thirds of the time, then by share and gap. */
const bookFirst: Sharing = (slots, seen) => {
  const reading = (minutesOf(slots) * 2) / 3
  const all = seen.tau.reduce((a, b) => a + b, 0)
  let spent = 0
  const rest = slots.filter(({ minutes }) => (spent += minutes) > reading)
  const later = shared(rest, seen)
  let [before, at, upTo] = [0, 0, seen.tau[0]! / all]
  return slots.map(({ minutes }, index) => {
    if (index >= slots.length - rest.length) return later[index - (slots.length - rest.length)]!
    while (at < seen.tau.length - 1 && before >= upTo * reading) upTo += seen.tau[++at]! / all
    before += minutes
    return at
  })
}
const shared = byWeight(({ share, known }, at) => share[at]! * (1 - known[at]!))

/** Each week the four topics that stand to gain most, in turn. */
const weekly: Sharing = (slots, { share, known, tau }) => {
  const now = [...known]
  let [week, turn] = [-1, 0]
  let four: number[] = []
  return slots.map(({ day, minutes }) => {
    if (Math.floor((day - first) / 7) !== week) {
      week = Math.floor((day - first) / 7)
      four = share
        .map((_, at) => at)
        .sort((a, b) => share[b]! * (1 - now[b]!) - share[a]! * (1 - now[a]!))
        .slice(0, 4)
    }
    const at = four[turn++ % four.length]!
    now[at] = knownAfter({ value: 1, known: now[at]!, tau: tau[at]! }, minutes / 60)
    return at
  })
}

interface Alternative {
  name: string
  sharing: Sharing
  /** Days between whole tests in slots of its own, each with its review at 1:1; and from which share of the days on. */
  testEvery: number
  testFrom: number
}
export const alternatives: Alternative[] = [
  { name: 'hours by share', sharing: byWeight(({ share }, at) => share[at]!), testEvery: 14, testFrom: 0 },
  { name: 'share x gap', sharing: shared, testEvery: 14, testFrom: 0 },
  { name: 'even', sharing: byWeight(() => 1), testEvery: 14, testFrom: 0 },
  { name: 'weakest first', sharing: weakestFirst, testEvery: 14, testFrom: 0 },
  { name: 'book, then tests', sharing: bookFirst, testEvery: 7, testFrom: 2 / 3 },
  { name: 'weekly template', sharing: weekly, testEvery: 7, testFrom: 0 },
]

/** The same slots, tests and reviews; study by another rule. */
export function inSameSlots({ sharing }: Alternative, deeds: Deed[], seen: Seen): Deed[] {
  const study = deeds.filter(({ kind }) => kind === 'study')
  const given = sharing(study, seen)
  let next = 0
  return deeds.map((deed) => (deed.kind === 'study' ? { ...deed, topics: [given[next++]!] } : deed))
}

/** All of the free windows, cut into fifty minutes and breaks of ten. */
function ownSlots({ availability }: CandidateRecord, until: number): Slot[] {
  const slots: Slot[] = []
  for (let day = first; day < until; day++)
    for (const { weekday, from, to } of availability.windows)
      if (weekday === weekdayOf(day))
        for (let at = minuteOf(from); at + 25 <= minuteOf(to); at += 60)
          slots.push({ day, minutes: Math.min(50, minuteOf(to) - at) })
  return slots
}

/**
 * A schedule of its own in the candidate's free time, of exactly so many minutes: tests at its rhythm in the longest day of the week, or
 * over two days where none holds the whole, each reviewed as long as it took, tests and reviews within two fifths of the time; the rest is
 * study.
 */
export function inOwnSlots(
  { sharing, testEvery, testFrom }: Alternative,
  record: CandidateRecord,
  exam: number,
  minutes: number,
  seen: Seen,
): Deed[] {
  const all = ownSlots(record, exam - 2)
  const test = record.exam.sections.reduce((sum, section) => sum + section.minutes, 0)
  const kinds = new Map<Slot, 'test' | 'review'>()
  let worked = 0
  for (
    let due = exam - 7;
    due >= first + testFrom * (exam - first) && worked + 2 * test <= 0.4 * minutes;
    due -= testEvery
  ) {
    const take = (kind: 'test' | 'review', from: number, most: number) => {
      let left = test
      for (const slot of all)
        if (left > 0 && slot.day >= from && slot.day < from + most && !kinds.has(slot)) {
          kinds.set(slot, kind)
          left -= slot.minutes
          worked += slot.minutes
        }
    }
    const longest = [0, 1, 2, 3, 4, 5, 6]
      .map((back) => due - back)
      .map((day) => ({ day, free: minutesOf(all.filter((slot) => slot.day === day && !kinds.has(slot))) }))
      .sort((a, b) => b.free - a.free)[0]!
    take(
      'test',
      longest.free >= test * 0.7 ? longest.day : longest.day - 3,
      longest.free >= test * 0.7 ? 1 : 4,
    )
    take('review', longest.day + 1, 7)
  }
  const study = all.filter((slot) => !kinds.has(slot))
  // Exactly so many minutes: study left out evenly where the free time is more, and cut or drawn out for the rest.
  const wanted = Math.max(0, minutes - worked)
  const keep = Math.min(1, wanted / Math.max(1, minutesOf(study)))
  let owed = 0
  const kept = study.filter(() => {
    owed += keep
    return owed >= 1 - 1e-9 && Boolean((owed -= 1) || true)
  })
  const factor = wanted / Math.max(1, minutesOf(kept))
  const fitted = kept.map((slot) => ({ ...slot, minutes: slot.minutes * factor }))
  const given = sharing(fitted, seen)
  const deeds: Deed[] = fitted.map((slot, at) => ({ ...slot, kind: 'study', topics: [given[at]!] }))
  for (const [slot, kind] of kinds) deeds.push({ ...slot, kind, topics: [] })
  return deeds.sort((a, b) => a.day - b.day)
}
