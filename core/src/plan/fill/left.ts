import type { PlanNotice, PlanSession } from '@climber/contract'
import { yieldOf } from '../../hours/allocate'
import { isActive, topicsOf } from '../../sessions/session'
import type { PlanInput } from '../input'
import { largeTopics, wellKnown } from './budgets'
import { chaptersOf } from './chapters'

const mostNamed = 3
const percent = (share: number) => `${Math.round(100 * share)}%`
const listed = (names: string[]): string =>
  names.length > mostNamed
    ? `${names.slice(0, mostNamed).join(', ')} and ${names.length - mostNamed} more`
    : names.join(names.length === 2 ? ' and ' : ', ')

/** Topics of some size of which little is known and that nothing in the plan touches, and what that costs. */
function untouched({ topics, by }: PlanInput, sessions: readonly PlanSession[]): PlanNotice[] {
  const met = new Set(sessions.filter(isActive).flatMap((session) => topicsOf(session)))
  const left = largeTopics(topics)
    .flatMap((at) => topics[at] ?? [])
    .filter(({ id, touches }) => !met.has(id) && !touches.length)
  if (!left.length) return []
  const share = left.reduce((sum, topic) => sum + topic.share, 0)
  const points = left.reduce((sum, topic) => sum + yieldOf(topic), 0)
  return [
    {
      code: 'topics-left-out',
      message: `${listed(left.map(({ title }) => title))}, ${percent(share)} of the exam, ${left.length === 1 ? 'gets' : 'get'} no session: the sessions go where an hour brings more. An hour on each would ${by === 'odds' ? 'count for' : 'bring'} ${points.toFixed(1)} points in all; more free time makes room for them.`,
    },
  ]
}

/** Chapters that are begun and not finished, since all of them would take more time than there is. */
function halfRead(input: PlanInput, sessions: readonly PlanSession[]): PlanNotice[] {
  const known = new Map(input.topics.map((topic) => [topic.id, topic]))
  const chapters = chaptersOf(input.shelf, [...input.lived, ...sessions]).filter(({ topics }) =>
    topics.some((id) => {
      const topic = known.get(id)
      return topic && topic.known < wellKnown && topic.value > 0
    }),
  )
  const open = chapters.filter((chapter) => chapter.left() > 0)
  if (!open.length) return []
  const hours = open.reduce((sum, chapter) => sum + (chapter.left() * chapter.item.minutesEach) / 60, 0)
  return [
    {
      code: 'books-unfinished',
      message: `${open.length} of ${chapters.length} chapters are not read to the end before the exam: the rest of them takes ${hours < 10 ? hours.toFixed(1) : Math.round(hours)} hours. Those that pay most are read first.`,
    },
  ]
}

/** What of topics and books has no place in a plan, in words. */
export const leftOut = (input: PlanInput, sessions: readonly PlanSession[]): PlanNotice[] => [
  ...untouched(input, sessions),
  ...halfRead(input, sessions),
]
