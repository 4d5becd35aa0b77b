import type { Cause, RemedyAim } from '@climber/contract'
import type { ReviewItem } from './item'

/** Work that the causes of one review ask for. */
export interface Remedy {
  aim: RemedyAim
  attempt: string
  /** The day from which it is due: that of the review. */
  from: string
  topics: string[]
  minutes: number
  /** Items with these causes, and the marks that they lost. */
  misses: number
  marks: number
}

const aims: Record<Cause, RemedyAim | undefined> = {
  content: 'again',
  guess: 'again',
  misread: 'reading',
  question: 'reading',
  overthought: 'first instinct',
  careless: 'checking',
  time: 'pace',
  sound: undefined,
}

export const aimOf = (cause: Cause): RemedyAim | undefined => aims[cause]

/** Topics of one review that are learned again by themselves; the others share a session. */
const mostAlone = 3
const mostTopics = 6
/** Minutes for reading a chapter again, and for each item that was missed in it. */
const openingMinutes = 20
const minutesEach = 10
const setMinutes = 30
/** A set against a habit is worth its time from so many items on. */
const fewest = 2

const marksOf = (items: readonly ReviewItem[]) => items.reduce((sum, { lost }) => sum + lost, 0)
const upTo = (most: number, misses: number) =>
  Math.min(most, Math.ceil((openingMinutes + minutesEach * misses) / 5) * 5)

function byTopic(items: readonly ReviewItem[]): [string, ReviewItem[]][] {
  const found = new Map<string, ReviewItem[]>()
  for (const item of items) {
    const topic = item.topic ?? item.note?.topic
    if (topic) found.set(topic, [...(found.get(topic) ?? []), item])
  }
  const worth = (own: readonly ReviewItem[]) => marksOf(own) * Math.max(1e-6, own[0]?.yield ?? 0)
  return [...found].sort(([a, own], [b, theirs]) => worth(theirs) - worth(own) || a.localeCompare(b))
}

/**
 * The remedies of one reviewed test. What was not known: the topics that lost most, each with its chapter again, and one session for
 * the rest. Misread and answered another question, overthought, careless, out of time: one set each against that habit, on the
 * topics where it showed. `sessionMinutes` is the longest session. Source: docs/models.md, 10.
 */
export function remediesOf(items: readonly ReviewItem[], sessionMinutes: number): Remedy[] {
  const [first] = items
  if (!first) return []
  const { attempt } = first
  const from = items.reduce(
    (last, { note }) => ((note?.reviewedOn ?? '') > last ? (note?.reviewedOn ?? '') : last),
    '',
  )
  const withAim = (aim: RemedyAim) =>
    items.filter(({ note }) => note?.cause !== undefined && aimOf(note.cause) === aim)
  const remedy = (aim: RemedyAim, topics: string[], own: readonly ReviewItem[], minutes: number): Remedy => ({
    aim,
    attempt,
    from,
    topics: topics.slice(0, mostTopics),
    minutes,
    misses: own.length,
    marks: marksOf(own),
  })
  const content = byTopic(withAim('again'))
  const alone = content.slice(0, mostAlone)
  const rest = content.slice(mostAlone)
  const again = alone.map(([topic, own]) => remedy('again', [topic], own, upTo(sessionMinutes, own.length)))
  const restItems = rest.flatMap(([, own]) => own)
  const together = rest.length
    ? [
        remedy(
          'again',
          rest.map(([topic]) => topic),
          restItems,
          upTo(sessionMinutes, restItems.length),
        ),
      ]
    : []
  const sets = (['reading', 'first instinct', 'checking', 'pace'] as const).flatMap((aim) => {
    const own = withAim(aim)
    const topics = byTopic(own).map(([topic]) => topic)
    return own.length >= fewest && topics.length
      ? [remedy(aim, topics, own, Math.min(setMinutes, sessionMinutes))]
      : []
  })
  return [...again, ...together, ...sets]
}
