import type { PlanSession, SessionMaterial } from '@climber/contract'
import { dayNumber } from '../time/day'
import { isStudy, isTimed, longestWait, materialOf } from './session'

/** Less than this, in minutes, is not worth another session. */
export const leastRest = 10
/** No session is shorter, in minutes, so that a rest of less has a little more. */
const shortest = 25

/** What of a session may be left for another time: of study that is not under the clock, of reviews and retests. */
export const restOf = (session: PlanSession): number => {
  const { kind, status, minutes, minutesDone = minutes } = session
  const divides = isStudy(session) || kind === 'review' || kind === 'retest'
  const left = minutes - minutesDone
  return status === 'done' && divides && !isTimed(session) && left >= leastRest ? left : 0
}

/** The share of a session that was worked through: all of it, but where its rest was left for another time. */
function shareDone({ status, minutes, minutesDone = minutes, restMinutes }: PlanSession): number {
  return status === 'done' && restMinutes !== undefined ? minutesDone / (minutesDone + restMinutes) : 1
}

const pagesWords = /pages \d+ to \d+/
const withPages = (material: SessionMaterial, from: number, pages: number): SessionMaterial => ({
  ...material,
  from,
  pages,
  text: material.text.replace(pagesWords, `pages ${Math.floor(from) + 1} to ${Math.ceil(from + pages)}`),
})
const withQuestions = (material: SessionMaterial, questions: number): SessionMaterial => ({
  ...material,
  questions,
  text: material.text.replace(/^\d+ /, `${questions} `),
})

/** What of the shelf a session works through, as far as it was come to; the rest of it where that is asked for. */
function partOfMaterial(session: PlanSession, part: 'done' | 'rest'): SessionMaterial | undefined {
  const material = materialOf(session)
  const share = shareDone(session)
  if (!material || share >= 1) return part === 'done' ? material : undefined
  const { pages, from = 0, questions } = material
  if (pages !== undefined) {
    const read = Math.floor(pages * share)
    if (part === 'done')
      return read ? withPages(material, from, read) : { id: material.id, text: material.text }
    return withPages(material, from + read, pages - read)
  }
  if (questions === undefined) return material
  const answered = Math.floor(questions * share)
  return withQuestions(material, part === 'done' ? answered : questions - answered)
}
export const materialDone = (session: PlanSession): SessionMaterial | undefined =>
  partOfMaterial(session, 'done')

/** Sessions done in part of late whose rest no other session is yet. */
export const restsOpen = (sessions: readonly PlanSession[], today: string): PlanSession[] =>
  sessions.filter(
    ({ id, date, status, restMinutes }) =>
      status === 'done' &&
      restMinutes !== undefined &&
      dayNumber(today) - dayNumber(date) <= longestWait &&
      !sessions.some(({ rest }) => rest?.of === id),
  )

/** The rest of a session as one of its own, that stands nowhere yet. */
export function restSession(session: PlanSession, id: string): PlanSession {
  const { minutesDone: _m, startedAt: _s, feeling: _f, restMinutes = 0, ...own } = session
  const material = partOfMaterial(session, 'rest')
  const rest = {
    ...own,
    ...(material && { material }),
    id,
    minutes: Math.max(shortest, restMinutes),
    rest: { of: session.id, on: session.date },
    pinned: false,
    status: 'planned' as const,
  } as PlanSession
  if (rest.kind === 'review') delete rest.piece
  return rest
}

/** Under what the rest of a session is numbered. */
export const restKey = ({ id }: PlanSession): string => id.replace(/\.\d+$/, '')
