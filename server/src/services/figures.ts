import { createHash } from 'node:crypto'
import { col, fn, ForeignKeyConstraintError, literal, type Model } from 'sequelize'
import { assess, hasSlipped, isOpen, latelyOf, modelVersion, planOdds } from '@climber/core'
import type { CandidateRow, Figures } from '../models'
import type { Context } from './context'
import { documentOf, grouped, loadAll, type Loaded, momentOf, recordOf } from './record'

/** Raised when other figures are stored than before: those that are there are then worked out again. */
const figuresVersion = 2

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
    forecast: odds ? { mean: odds.forecast.mean, low: odds.forecast.low, high: odds.forecast.high } : null,
    slippedMinutes: sessions
      .filter((session) => hasSlipped(session, now.date))
      .reduce((sum, { minutes }) => sum + minutes, 0),
    nextTest: sessions.find((session) => session.kind === 'test' && isOpen(session, now.date))?.date ?? null,
    lastScore: last ? { date: last.test.date, scaled: last.score.composite } : null,
    lately: latelyOf(assessment),
  }
}

type Plain = { candidateId: string } & Record<string, unknown>
const plainly = (rows: Model[]): Plain[] => rows.map((row) => row.get({ plain: true }) as Plain)

/** For each candidate a hash of the versions of everything that the figures are worked out from. */
async function restsOf({ models }: Context, candidates: CandidateRow[]): Promise<Map<string, string>> {
  const where = { candidateId: candidates.map(({ id }) => id) }
  const examIds = [...new Set(candidates.map(({ examId }) => examId))]
  const exams = new Map(
    (await models.exams.findAll({ where: { id: examIds }, attributes: ['id', 'version'] })).map(
      ({ id, version }) => [id, version],
    ),
  )
  const found = await Promise.all([
    models.parts.findAll({ where, attributes: ['candidateId', 'part', 'version'] }),
    models.plans.findAll({ where, attributes: ['candidateId', 'id', 'version'] }),
    models.sessions.findAll({
      where,
      attributes: [
        'candidateId',
        'planId',
        [fn('SUM', col('version')), 'versions'],
        [fn('COUNT', col('id')), 'many'],
        [fn('MAX', col('updated_at')), 'latest'],
      ],
      group: ['candidateId', 'planId'],
    }),
    models.attempts.findAll({ where, attributes: ['candidateId', 'id', 'version'] }),
    models.recalled.findAll({
      where,
      attributes: ['candidateId', [literal("JSON_VALUE(document, '$.version')"), 'version']],
    }),
  ])
  const versions = grouped(
    found.flatMap((rows, table) =>
      plainly(rows as Model[]).map(({ candidateId, ...row }) => ({
        candidateId,
        words: `${table} ${JSON.stringify(row)}`,
      })),
    ),
    ({ candidateId }) => candidateId,
  )
  return new Map(
    candidates.map(({ id, examId }) => {
      const own = (versions.get(id) ?? []).map(({ words }) => words).sort()
      const all = [figuresVersion, modelVersion, examId, exams.get(examId), ...own]
      return [id, createHash('sha256').update(all.join('\n')).digest('hex')]
    }),
  )
}

/**
 * What lists show of some candidates: as it was stored where nothing that it rests on has changed and the day is the same there, else
 * worked out from the whole record and stored. Somebody who is deleted meanwhile is left out.
 */
export async function figuresOf(context: Context, candidates: CandidateRow[]): Promise<Map<string, Figures>> {
  const { models, clock } = context
  if (!candidates.length) return new Map()
  const rests = await restsOf(context, candidates)
  const stored = await models.figures.findAll({
    where: { candidateId: candidates.map(({ id }) => id) },
  })
  const found = new Map(
    stored
      .filter((row) => row.rests === rests.get(row.candidateId) && row.date === clock.at(row.zone).date)
      .map(({ candidateId, document }) => [candidateId, document]),
  )
  const missing = candidates.filter(({ id }) => !found.has(id))
  for (let at = 0; at < missing.length; at += atOnce)
    for (const loaded of await loadAll(context, missing.slice(at, at + atOnce), { items: true })) {
      const { id } = loaded.candidate
      const document = figuresFrom(context, loaded)
      found.set(id, document)
      const { zone } = documentOf(loaded, 'availability')
      const row = {
        candidateId: id,
        rests: rests.get(id)!,
        zone,
        date: momentOf(context, loaded).date,
        document,
      }
      await models.figures.upsert(row).catch((error: unknown) => {
        if (!(error instanceof ForeignKeyConstraintError)) throw error
        found.delete(id)
      })
    }
  return found
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
  await figuresOf(context, await models.candidates.findAll({ where: { id: ids } }))
  return ids.length
}
