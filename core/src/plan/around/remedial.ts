import type { PlanSession, SessionMaterial, StudySession } from '@climber/contract'
import { covers, type Shelved } from '../../hours/shelf'
import type { Remedy } from '../../review/remedies'
import { isStudy } from '../../sessions/session'
import { dateOf, dayNumber, type DayNumber, timeOf } from '../../time/day'
import type { Calendar } from '../calendar/calendar'
import { shortestSession } from '../calendar/cut'
import type { PlanInput } from '../input'
import { place } from './place'

/** Days from today within which remedial work is to stand: what was found should be mended while it is fresh. */
const window = 14
const shortest = shortestSession
/** What a test has shown goes before what is only expected: an hour of it counts so many times its topics' worth. */
const shownWorth = 1.5

/** Whether a session is the work of a remedy: of what was not known, on one of its topics. */
export const serves = (
  session: PlanSession,
  { aim, attempt, topics }: Pick<Remedy, 'aim' | 'attempt' | 'topics'>,
): boolean =>
  isStudy(session) &&
  session.remedy?.attempt === attempt &&
  session.remedy.aim === aim &&
  (aim !== 'again' || session.topics.some((id) => topics.includes(id)))

/** Work for a remedy is planned once, whatever became of it: taken out by hand it stays out. */
const isServed = (remedy: Remedy, sessions: readonly PlanSession[]): boolean =>
  sessions.some((session) => serves(session, remedy))

/** Topics that can be worked at: begun, or with all that they build on begun. Others are learned from their beginning, with hours of their own. */
export function readyTopics(
  topics: readonly Pick<PlanInput['topics'][number], 'id' | 'prerequisites' | 'touches'>[],
): Set<string> {
  const begun = new Set(topics.flatMap(({ id, touches }) => (touches.length ? [id] : [])))
  return new Set(
    topics.flatMap(({ id, prerequisites }) =>
      begun.has(id) || prerequisites.every((needed) => begun.has(needed)) ? [id] : [],
    ),
  )
}

/** Remedies that nothing among `sessions` serves, on topics that can be worked at. */
export function remediesOpen({ remedies, topics }: PlanInput, sessions: readonly PlanSession[]): Remedy[] {
  const ready = readyTopics(topics)
  return remedies.flatMap((remedy) => {
    const own = { ...remedy, topics: remedy.topics.filter((id) => ready.has(id)) }
    return own.topics.length && !isServed(own, sessions) ? [own] : []
  })
}

const pagesBefore = (item: Shelved, chapter: number): number =>
  (item.chapters ?? []).slice(0, chapter).reduce((sum, { pages }) => sum + pages, 0)

/** The chapter to read again; or questions of a bank on these topics. */
function materialFor(
  shelf: readonly Shelved[],
  { aim, topics, minutes }: Remedy,
): SessionMaterial | undefined {
  const [lead] = topics
  if (aim === 'again' && topics.length === 1)
    for (const item of shelf) {
      const at = (item.chapters ?? []).findIndex((chapter) => chapter.topics.includes(lead!))
      const chapter = item.chapters?.[at]
      if (item.kind !== 'book' || !chapter) continue
      const before = pagesBefore(item, at)
      const pages = `pages ${Math.floor(before) + 1} to ${Math.ceil(before + chapter.pages)}`
      return { id: item.id, text: `${item.title}, ${chapter.title}: ${pages}, again`.slice(0, 300) }
    }
  const bank = shelf.find(({ kind, topics: own }) => kind === 'bank' && topics.some((id) => covers(own, id)))
  if (!bank) return undefined
  const questions = Math.max(1, Math.floor(minutes / bank.minutesEach / 2))
  return { id: bank.id, text: `${questions} questions from ${bank.title}`.slice(0, 300) }
}

/** A remedy as a session that stands at a place. */
export function remedialSession(
  { shelf, topics: known }: PlanInput,
  remedy: Remedy,
  id: string,
  { day, from, minutes }: { day: DayNumber; from: number; minutes: number },
): StudySession {
  const { aim, attempt, topics, misses, marks } = remedy
  const material = materialFor(shelf, remedy)
  const worth = known.flatMap((topic) =>
    topics.includes(topic.id) ? [(topic.value * (1 - topic.known)) / topic.tau] : [],
  )
  const gain = (shownWorth * worth.reduce((sum, one) => sum + one, 0)) / Math.max(1, worth.length)
  return {
    id,
    date: dateOf(day),
    start: timeOf(from),
    minutes,
    kind: aim === 'again' ? 'learn' : 'drill',
    topics,
    remedy: { aim, attempt, misses, marks },
    ...(material && { material }),
    reason: { yield: gain },
    pinned: false,
    status: 'planned',
  }
}

/** Under what a remedial session is numbered. */
export const remedialKey = ({ aim, topics }: Remedy): string =>
  aim === 'again' ? `again.${topics[0]}` : `set.${aim.replace(' ', '-')}`

/** The work that reviews ask for, each in the first free time of the coming two weeks. What finds none waits for the next plan. */
export function remedialWork(
  input: PlanInput,
  calendar: Calendar,
  taper: DayNumber,
  name: (key: string) => string,
): StudySession[] {
  const today = dayNumber(input.today)
  const days = calendar.days().filter((day) => day >= today && day <= today + window && day < taper)
  return remediesOpen(input, [...input.lived, ...input.kept]).flatMap((remedy) => {
    const found = place(calendar, days, remedy.minutes, Math.min(shortest, remedy.minutes))
    return found ? [remedialSession(input, remedy, name(remedialKey(remedy)), found)] : []
  })
}
