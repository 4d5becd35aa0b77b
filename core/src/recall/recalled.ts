import type { Card, CardHistory, Recalled, RecalledDay } from '@climber/contract'
import { type AskedKind, knownOf, usualSeconds } from './known'
import { ordinary } from './memory'

/** One thing that is asked, as it counts for the candidate. */
export interface AskedThing {
  /** As answers name it. */
  card: string
  kind: AskedKind
  topic?: string
  suspended?: boolean
  /** Oldest first. */
  answers: CardHistory['answers']
}

/** A card as it counts, with what was answered to it. */
export const countedCard = (
  { id, kind, topic, suspended }: Pick<Card, 'id' | 'kind' | 'topic' | 'suspended'>,
  answers: AskedThing['answers'] = [],
): AskedThing => ({
  card: id,
  kind,
  ...(topic !== undefined && { topic }),
  ...(suspended && { suspended }),
  answers,
})

const bucket = { card: 'cards', place: 'cards', numbers: 'numbers', item: 'items' } as const
/** What is due at nine in ten takes so much more than what comes back: the tenth is learned again. */
const withLost = 1.15

/**
 * Days of one thing, by topic. Of a card, how its state changes: one more that came back, or not, with its first answer; and after that one
 * more or one less that comes back, of none more, whenever the first answer of a day is another than that of the day before.
 */
function daysOf({ kind, topic, answers }: AskedThing): RecalledDay[] {
  if (topic === undefined) return []
  const days: RecalledDay[] = []
  let before: boolean | undefined
  for (const [day, grade, seconds] of answers) {
    const back = grade > 1
    let last = days.at(-1)
    if (last?.day !== day) {
      last = emptyDay(topic, day)
      if (kind === 'item' || before === undefined) last[bucket[kind]] = [Number(back), 1]
      else if (back !== before) last[bucket[kind]] = [back ? 1 : -1, 0]
      days.push(last)
      before = back
    }
    last.answers += 1
    last.seconds += seconds
  }
  return days
}

/** What it adds to the load of the deck. */
function loadOf({ card, kind, suspended, answers }: AskedThing): Recalled['load'] {
  const none = { daily: 0, begun: 0, unbegun: 0 }
  if (suspended) return none
  const { memory } = knownOf(card, answers, ordinary)
  const seconds = usualSeconds[kind]
  if (memory) return { ...none, daily: (withLost * seconds) / Math.max(1, memory.stability), begun: seconds }
  return kind === 'item' ? none : { ...none, unbegun: seconds }
}

const nameOf = ({ topic, day }: RecalledDay): string => `${day} ${topic}`
const isLater = (one: RecalledDay, two: RecalledDay): number =>
  one.day - two.day || (one.topic < two.topic ? -1 : 1)
const kinds = ['cards', 'numbers', 'items'] as const
const emptyDay = (topic: string, day: number): RecalledDay => ({ topic, day, answers: 0, seconds: 0 })

/** One day of a topic with another added, or taken off; what comes to nothing is left out. */
function added(one: RecalledDay, more: RecalledDay, sign: 1 | -1): RecalledDay {
  const sum = emptyDay(one.topic, one.day)
  sum.answers = one.answers + sign * more.answers
  sum.seconds = one.seconds + sign * more.seconds
  for (const kind of kinds) {
    const [back, of] = one[kind] ?? [0, 0]
    const [backToo, ofToo] = more[kind] ?? [0, 0]
    const both: [number, number] = [back + sign * backToo, of + sign * ofToo]
    if (both[0] || both[1]) sum[kind] = both
  }
  return sum
}

/**
 * What changes where things that counted as `less` count as `more` now. Days without an answer left, and items without one, are gone; the
 * load is the new one.
 */
export function recalledChange(
  recalled: Recalled,
  less: readonly AskedThing[],
  more: readonly AskedThing[],
): Recalled {
  const known = new Map(recalled.days.map((one) => [nameOf(one), one]))
  const touched = new Map<string, RecalledDay>()
  const load = { ...recalled.load }
  for (const [all, sign] of [
    [less, -1],
    [more, 1],
  ] as const)
    for (const one of all) {
      for (const day of daysOf(one)) {
        const name = nameOf(day)
        const before = touched.get(name) ?? known.get(name) ?? emptyDay(day.topic, day.day)
        touched.set(name, added(before, day, sign))
      }
      const own = loadOf(one)
      for (const part of ['daily', 'begun', 'unbegun'] as const) load[part] += sign * own[part]
    }
  const items = more
    .filter(({ kind }) => kind === 'item')
    .map(({ card, topic, answers }) => ({ card, answers, ...(topic !== undefined && { topic }) }))
  return { version: recalled.version + 1, days: [...touched.values()], items, load }
}

/** What was recalled, with a change of it. */
export function recalledAfter(recalled: Recalled, change: Recalled): Recalled {
  if (change.version <= recalled.version) return recalled
  const days = new Map(recalled.days.map((one) => [nameOf(one), one]))
  for (const one of change.days) days.set(nameOf(one), one)
  return {
    // One that came between was not heard of: the record is that of before until it is read anew.
    version: change.version === recalled.version + 1 ? change.version : recalled.version,
    days: [...days.values()].filter(({ answers }) => answers > 0).sort(isLater),
    items: itemsAfter(recalled.items, change.items),
    load: change.load,
  }
}
/** The same list where none of them changed, so that what rests on it does not change either. */
function itemsAfter(before: Recalled['items'], changed: Recalled['items']): Recalled['items'] {
  if (!changed.length) return before
  const items = new Map([...before, ...changed].map((one) => [one.card, one]))
  return [...items.values()]
    .filter(({ answers }) => answers.length)
    .sort((a, b) => (a.card < b.card ? -1 : 1))
}

/** The same of everything there is. */
export const recalledFrom = (nothing: Recalled, all: readonly AskedThing[]): Recalled =>
  recalledAfter(nothing, recalledChange(nothing, [], all))
