import type { PlanSession, SessionMaterial } from '@climber/contract'
import { covers, type Shelved } from '../../hours/shelf'
import { isActive, materialOf } from '../../sessions/session'
import type { PlanTopic } from '../input'
import type { Filled } from './slots'

interface Chapter {
  item: Shelved
  title: string
  /** Pages of the book before it, and up to its end. */
  from: number
  to: number
  topics: string[]
  /** Page up to which it is read. */
  read: number
}

const noted = ({ errors }: Shelved) => (errors ? ` (known errors: ${errors})` : '')
const cut = (text: string) => (text.length > 300 ? `${text.slice(0, 297)}...` : text)

/** All chapters of the shelf, in order; pages that were read count from the front of each book. */
function chaptersOf(shelf: Shelved[], pagesRead: Map<string, number>): Chapter[] {
  const left = new Map(pagesRead)
  return shelf
    .filter(({ kind }) => kind === 'book')
    .flatMap((item) => {
      let from = 0
      return (item.chapters ?? []).map(({ title, pages, topics }): Chapter => {
        const done = Math.min(left.get(item.id) ?? 0, pages)
        left.set(item.id, (left.get(item.id) ?? 0) - done)
        const chapter = { item, title, from, to: from + pages, topics, read: from + done }
        from += pages
        return chapter
      })
    })
}

/** The shelf as it is handed out: what of each book, bank and recording is spoken for. */
class Handing {
  private readonly chapters: Chapter[]
  private readonly asked = new Map<string, number>()
  private readonly heard = new Map<string, number>()

  constructor(
    private readonly shelf: Shelved[],
    kept: PlanSession[],
  ) {
    const pages = new Map<string, number>()
    for (const session of kept) {
      const material = materialOf(session)
      if (!material || !isActive(session)) continue
      const { id, questions, pages: own } = material
      if (questions) this.asked.set(id, (this.asked.get(id) ?? 0) + questions)
      else if (own) pages.set(id, (pages.get(id) ?? 0) + own)
    }
    this.chapters = chaptersOf(shelf, pages)
  }

  questions(ids: string[], minutes: number, daily: boolean): SessionMaterial | undefined {
    const { asked } = this
    const bank = this.shelf.find(
      ({ kind, topics: own, questions: all, id, perDay }) =>
        kind === 'bank' &&
        (!daily || perDay) &&
        ids.some((topic) => covers(own, topic)) &&
        (asked.get(id) ?? 0) < (all ?? Infinity),
    )
    if (!bank) return undefined
    const done = asked.get(bank.id) ?? 0
    const most = (bank.questions ?? Infinity) - done
    const count = Math.min(
      most,
      daily && bank.perDay ? bank.perDay : Math.max(1, Math.floor(minutes / bank.minutesEach)),
    )
    asked.set(bank.id, done + count)
    return { id: bank.id, questions: count, text: cut(`${count} questions from ${bank.title}${noted(bank)}`) }
  }

  pages(topic: string, minutes: number): SessionMaterial | undefined {
    const chapter = this.chapters.find((one) => one.topics.includes(topic) && one.read < one.to)
    if (!chapter) return undefined
    const { item, read: from } = chapter
    const to = Math.min(chapter.to, from + Math.max(1, Math.floor(minutes / item.minutesEach)))
    chapter.read = to
    const range = `pages ${Math.floor(from) + 1} to ${Math.ceil(to)}`
    return {
      id: item.id,
      pages: to - from,
      text: cut(`${item.title}, ${chapter.title}: ${range}${noted(item)}`),
    }
  }

  recording(topic: string, minutes: number): SessionMaterial | undefined {
    const { heard } = this
    const recording = this.shelf.find(
      ({ kind, topics, minutes: long, id }) =>
        kind === 'recording' && topics?.includes(topic) && (heard.get(id) ?? 0) < (long ?? 0),
    )
    if (!recording) return undefined
    const from = heard.get(recording.id) ?? 0
    const to = Math.min(recording.minutes ?? 0, from + minutes)
    heard.set(recording.id, to)
    return { id: recording.id, text: cut(`${recording.title}: minutes ${from} to ${to}${noted(recording)}`) }
  }
}

/**
 * What of the shelf each study session works through, in order of time: pages while a topic is learnt, then recordings,
 * then questions; what was done or is still planned is not handed out again.
 */
export function handOut(
  shelf: Shelved[],
  topics: PlanTopic[],
  filled: Filled[],
  kept: PlanSession[],
): (SessionMaterial | undefined)[] {
  const handing = new Handing(shelf, kept)
  return filled.map(({ kind, topics: at, minutes, quota }) => {
    const ids = at.flatMap((place) => topics[place]?.id ?? [])
    const [lead] = ids
    if (quota || kind !== 'learn' || lead === undefined)
      return handing.questions(ids, minutes, Boolean(quota))
    return (
      handing.pages(lead, minutes) ??
      handing.recording(lead, minutes) ??
      handing.questions(ids, minutes, false)
    )
  })
}
