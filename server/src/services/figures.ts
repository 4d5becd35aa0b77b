import { createHash } from 'node:crypto'
import { ForeignKeyConstraintError, QueryTypes } from 'sequelize'
import { assess, hasSlipped, isOpen, latelyOf, modelVersion, planOdds } from '@climber/core'
import type { Figures } from '../models'
import { visibleTo } from './access'
import type { Context } from './context'
import { documentOf, loadAll, type Loaded, momentOf, recordOf } from './record'

/** Raised when other figures are stored than before: those that are there are then worked out again. */
const figuresVersion = 3

/** Records that are worked out in one go. */
const atOnce = 6

/** What lists show of a candidate, worked out from the record. */
function figuresFrom(context: Context, loaded: Loaded): Figures {
  const { candidate } = loaded
  const record = recordOf(loaded)
  const now = momentOf(context, loaded)
  const assessment = assess(record, now)
  const odds = record.plan && planOdds(assessment)
  const sessions = record.plan?.sessions ?? []
  const last = assessment.scored[assessment.scored.length - 1]
  return {
    id: candidate.id,
    name: documentOf(loaded, 'candidate').name,
    examTitle: record.exam.title,
    examDate: assessment.sitting?.date ?? null,
    target: assessment.goal.mean ?? null,
    odds: odds?.odds ?? null,
    oddsAtRate: odds?.atRate?.odds ?? null,
    forecast: odds ? { mean: odds.forecast.mean, low: odds.forecast.low, high: odds.forecast.high } : null,
    slippedMinutes: sessions
      .filter((session) => hasSlipped(session, now.date))
      .reduce((sum, { minutes }) => sum + minutes, 0),
    nextTest: sessions.find((session) => session.kind === 'test' && isOpen(session, now.date))?.date ?? null,
    lastScore: last ? { date: last.test.date, scaled: last.score.composite } : null,
    lately: latelyOf(assessment),
  }
}

/** A candidate with the figures that are stored for it, and what they would rest on now. */
interface Standing {
  id: string
  examId: string
  userId: string | null
  revision: number
  examVersion: number
  rests: string | null
  zone: string | null
  date: string | null
  /** JSON. */
  document: string | null
}

/** In one query, however many there are. `which` selects their ids. */
const standing = ({ sequelize }: Context, which: string, replacements: Record<string, unknown>) =>
  sequelize.query<Standing>(
    `SELECT c.id, c.exam_id AS examId, c.user_id AS userId, c.revision, e.version AS examVersion,
       f.rests, f.zone, DATE_FORMAT(f.date, '%Y-%m-%d') AS date, f.document
     FROM (${which}) AS own
     JOIN candidates c ON c.id = own.id
     JOIN exams e ON e.id = c.exam_id
     LEFT JOIN candidate_figures f ON f.candidate_id = c.id
     ORDER BY c.created_at, c.id`,
    { replacements, type: QueryTypes.SELECT },
  )

/** A hash of the versions of everything that a candidate's figures are worked out from. */
const restsNow = ({ examId, examVersion, revision }: Standing): string =>
  createHash('sha256')
    .update([figuresVersion, modelVersion, examId, examVersion, revision].join('\n'))
    .digest('hex')

/** Works figures out from whole records, and stores them with what they rest on. As JSON, by candidate. */
async function workedOut(context: Context, missing: Standing[]): Promise<Map<string, string>> {
  const { models } = context
  const found = new Map<string, string>()
  for (let at = 0; at < missing.length; at += atOnce) {
    const rests = new Map(missing.slice(at, at + atOnce).map((one) => [one.id, restsNow(one)]))
    const rows = await models.candidates.findAll({ where: { id: [...rests.keys()] } })
    for (const loaded of await loadAll(context, rows, { items: true })) {
      const { id: candidateId } = loaded.candidate
      const document = figuresFrom(context, loaded)
      const { zone } = documentOf(loaded, 'availability')
      const { date } = momentOf(context, loaded)
      try {
        await models.figures.upsert({ candidateId, rests: rests.get(candidateId)!, zone, date, document })
        found.set(candidateId, JSON.stringify(document))
      } catch (error) {
        // Deleted meanwhile.
        if (!(error instanceof ForeignKeyConstraintError)) throw error
      }
    }
  }
  return found
}

/**
 * What lists show of some candidates: as it was stored where nothing that it rests on has changed and the day is the same there, else
 * worked out from the whole record and stored. Somebody who is deleted meanwhile is left out.
 */
async function figuresOf(context: Context, candidates: Standing[]): Promise<Map<string, string>> {
  const dates = new Map<string, string>()
  const dateIn = (zone: string): string => {
    const date = dates.get(zone) ?? context.clock.at(zone).date
    dates.set(zone, date)
    return date
  }
  const isGood = (one: Standing) =>
    one.document !== null && one.zone !== null && one.date === dateIn(one.zone) && one.rests === restsNow(one)
  const good = new Map(candidates.filter(isGood).map(({ id, document }) => [id, document!]))
  const fresh = await workedOut(
    context,
    candidates.filter(({ id }) => !good.has(id)),
  )
  return new Map([...good, ...fresh])
}

/** The roster of a user: a JSON array of `CandidateRow`, put together from the stored texts without reading them. */
export async function rosterOf(context: Context, userId: string): Promise<string> {
  const candidates = await standing(context, visibleTo, { userId })
  const figures = await figuresOf(context, candidates)
  const rows = candidates.flatMap((one) => {
    const own = figures.get(one.id)
    return own ? [`${own.slice(0, -1)},"mine":${one.userId === userId}}`] : []
  })
  return `[${rows.join(',')}]`
}

/** Figures that are brought to a new day in one go. */
const ofOneGo = 12

/**
 * Brings what lists show to the day that has begun, before anybody looks: of candidates who were listed before, those left longest first.
 * How many there were; none where all are of today.
 */
export async function refreshFigures(context: Context): Promise<number> {
  const { models, clock } = context
  const stored = await models.figures.findAll({
    attributes: ['candidateId', 'zone', 'date'],
    order: ['date', 'candidateId'],
  })
  const old = stored.filter(({ zone, date }) => date !== clock.at(zone).date).slice(0, ofOneGo)
  const ids = old.map(({ candidateId }) => candidateId)
  if (ids.length)
    await figuresOf(context, await standing(context, 'SELECT id FROM candidates WHERE id IN (:ids)', { ids }))
  return ids.length
}
