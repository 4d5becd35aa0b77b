import type { PlanSession, SessionMaterial } from '@climber/contract'
import { covers, type Shelved } from '../../hours/shelf'
import { materialDone } from '../../sessions/rest'
import { byTime, isActive, materialOf, topicsOf } from '../../sessions/session'
import type { PlanTopic } from '../input'
import { type Chapter, chaptersOf } from './chapters'
import { wellKnown } from './budgets'
import type { Filled } from './slots'

const rangeWords = ({ from, to }: { from: number; to: number }) =>
  `pages ${Math.floor(from) + 1} to ${Math.ceil(to)}`
const noted = ({ errors }: Shelved) => (errors ? ` (known errors: ${errors})` : '')
const cut = (text: string) => (text.length > 300 ? `${text.slice(0, 297)}...` : text)

/** The shelf as it is handed out: what of each book, bank and recording is spoken for. */
class Handing {
  private readonly chapters: Chapter[]
  private readonly asked = new Map<string, number>()
  private readonly heard = new Map<string, number>()
  /** Where the second reading of a topic's chapters has come to. */
  private readonly second = new Map<string, { chapter: number; page: number }>()

  constructor(
    private readonly shelf: Shelved[],
    kept: PlanSession[],
  ) {
    const recordings = new Set(shelf.flatMap(({ id, kind }) => (kind === 'recording' ? [id] : [])))
    const add = (to: Map<string, number>, id: string, more: number) => to.set(id, (to.get(id) ?? 0) + more)
    for (const session of kept) {
      const material = materialDone(session)
      if (!material || !isActive(session)) continue
      if (material.questions) add(this.asked, material.id, material.questions)
      if (recordings.has(material.id)) add(this.heard, material.id, session.minutes)
    }
    this.chapters = chaptersOf(shelf, kept)
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

  /** Minutes of reading that are left on a topic, the whole of chapters that it shares with others. */
  minutesLeft(topic: string): number {
    return this.chapters
      .filter(({ topics }) => topics.includes(topic))
      .reduce((sum, chapter) => sum + chapter.left() * chapter.item.minutesEach, 0)
  }

  pages(topic: string, minutes: number): SessionMaterial | undefined {
    const chapter = this.chapters.find((one) => one.topics.includes(topic) && one.next())
    if (!chapter) return undefined
    const most = Math.max(1, Math.floor(minutes / chapter.item.minutesEach))
    // A few pages more end a chapter rather than leave a rest of it for another day.
    const pages = chapter.next(chapter.left() <= most * endsWith ? Infinity : most)
    if (!pages) return undefined
    chapter.take(pages)
    const { item, title } = chapter
    return {
      id: item.id,
      pages: pages.to - pages.from,
      from: pages.from,
      text: cut(`${item.title}, ${title}: ${rangeWords(pages)}${noted(item)}`),
    }
  }

  /** A second reading, where all was read and nothing else treats a topic; from its first page on again once it is through. */
  again(topic: string, minutes: number): SessionMaterial | undefined {
    const chapters = this.chapters.filter((one) => one.topics.includes(topic) && !one.next())
    const [first] = chapters
    if (!first) return undefined
    const at = this.second.get(topic) ?? { chapter: 0, page: 0 }
    const chapter = chapters[at.chapter] ?? first
    const { from, to } = chapter.pages
    const begin = from + at.page
    const end = Math.min(to, begin + Math.max(1, Math.floor((1.5 * minutes) / chapter.item.minutesEach)))
    const over = end >= to
    this.second.set(topic, {
      chapter: over ? (at.chapter + 1) % chapters.length : at.chapter,
      page: over ? 0 : end - from,
    })
    const { item, title } = chapter
    return {
      id: item.id,
      text: cut(`${item.title}, ${title}: ${rangeWords({ from: begin, to: end })}, second reading`),
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

/** Sessions of reading on each topic since the last of questions, by what was done or stands. */
function readingsOf(kept: PlanSession[]): Map<string, number> {
  const readings = new Map<string, number>()
  for (const session of [...kept].sort(byTime)) {
    const [lead, ...others] = topicsOf(session)
    const material = materialOf(session)
    if (lead === undefined || others.length || !material || !isActive(session)) continue
    readings.set(lead, material.pages ? (readings.get(lead) ?? 0) + 1 : 0)
  }
  return readings
}

/** A study session that is handed something; it is called learning where it reads. */
export type Handed = Pick<Filled, 'topics' | 'minutes' | 'quota' | 'timed' | 'kind'>

/** A session may read so many times its pages to end a chapter. */
const endsWith = 1.15
/** After so many sessions of reading one of questions on what was read, where there is the time to finish the chapter too. */
const readingsBeforeDrill = 2

/**
 * What of the shelf each study session works through, in order of time. The pages of a topic's chapters until they are read, whatever is
 * known of it in part, with a session of questions now and then while there is time for all of them; then recordings, questions, and a
 * second reading. What was done or is still planned is not handed out again. Sessions that read are called learning.
 */
export function handOut(
  shelf: Shelved[],
  topics: PlanTopic[],
  filled: Handed[],
  kept: PlanSession[],
): (SessionMaterial | undefined)[] {
  const handing = new Handing(shelf, kept)
  const ahead = new Map<string, number>()
  const readings = readingsOf(kept)
  const leadOf = ({ topics: [at], topics: { length }, quota, timed }: Handed) =>
    quota || timed || length !== 1 ? undefined : topics[at ?? 0]
  for (const session of filled) {
    const lead = leadOf(session)
    if (lead) ahead.set(lead.id, (ahead.get(lead.id) ?? 0) + session.minutes)
  }
  return filled.map((session) => {
    const { topics: at, minutes, quota } = session
    const ids = at.flatMap((place) => topics[place]?.id ?? [])
    const lead = leadOf(session)
    if (!lead) return handing.questions(ids, minutes, Boolean(quota))
    const rest = (ahead.get(lead.id) ?? 0) - minutes
    ahead.set(lead.id, rest)
    const left = lead.known < wellKnown ? handing.minutesLeft(lead.id) : 0
    const drills = (readings.get(lead.id) ?? 0) >= readingsBeforeDrill && rest >= left
    const asked = drills ? handing.questions(ids, minutes, false) : undefined
    if (asked || !left) readings.set(lead.id, 0)
    if (asked) {
      session.kind = 'drill'
      return asked
    }
    const pages = left ? handing.pages(lead.id, minutes) : undefined
    if (pages) {
      readings.set(lead.id, (readings.get(lead.id) ?? 0) + 1)
      session.kind = 'learn'
      return pages
    }
    return (
      (session.kind === 'learn' ? handing.recording(lead.id, minutes) : undefined) ??
      handing.questions(ids, minutes, false) ??
      handing.again(lead.id, minutes)
    )
  })
}
