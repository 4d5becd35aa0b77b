import type { Transaction } from 'sequelize'
import { type Candidate, type PartDocument, type PartName, parts, type StoredPlan } from '@climber/contract'
import type { CandidateRecord } from '@climber/core'
import type { CandidateRow, ExamRow, PartRow, PlanRow, SessionRow, TestRow } from '../models'
import type { Context } from './context'

export interface Loaded {
  candidate: CandidateRow
  exam: ExamRow
  parts: Map<PartName, PartRow>
  plan: PlanRow | null
  sessions: SessionRow[]
  tests: TestRow[]
}

/** Everything stored of one candidate. */
export async function load(
  { models }: Context,
  candidate: CandidateRow,
  transaction?: Transaction,
): Promise<Loaded> {
  const where = { candidateId: candidate.id }
  const exam = await models.exams.findByPk(candidate.examId, { transaction, rejectOnEmpty: true })
  const partRows = await models.parts.findAll({ where, transaction })
  const plan = await models.plans.findByPk(candidate.id, { transaction })
  const sessions = await models.sessions.findAll({
    where,
    order: [
      ['date', 'ASC'],
      ['start', 'ASC'],
      ['id', 'ASC'],
    ],
    transaction,
  })
  const tests = await models.tests.findAll({
    where,
    order: [
      ['date', 'ASC'],
      ['id', 'ASC'],
    ],
    transaction,
  })
  return { candidate, exam, parts: new Map(partRows.map((row) => [row.part, row])), plan, sessions, tests }
}

/** One part, with its defaults where it was never saved. */
export function documentOf<P extends PartName>(loaded: Loaded, part: P): PartDocument<P> {
  const stored = loaded.parts.get(part)?.document
  const fallback = part === 'candidate' ? { name: 'Candidate' } : {}
  return parts[part].parse(stored ?? fallback) as PartDocument<P>
}

/** The stored candidate as the core sees it. */
export function recordOf(loaded: Loaded): CandidateRecord {
  const { exam, plan, sessions, tests } = loaded
  return {
    exam: exam.document,
    availability: documentOf(loaded, 'availability'),
    diagnosis: documentOf(loaded, 'diagnosis'),
    target: documentOf(loaded, 'target'),
    settings: documentOf(loaded, 'settings'),
    pacing: documentOf(loaded, 'pacing'),
    examDay: documentOf(loaded, 'examDay'),
    tests: tests.map(({ document }) => document),
    plan: plan ? { ...plan.document, sessions: sessions.map(({ document }) => document) } : undefined,
  }
}

export function storedPlan({ plan, sessions }: Pick<Loaded, 'plan' | 'sessions'>): StoredPlan | null {
  if (!plan) return null
  return {
    ...plan.document,
    version: plan.version,
    sessions: sessions.map(({ document, version }) => ({ ...document, version })),
  }
}

/** The stored candidate as the browser gets it. */
export async function answerOf(context: Context, loaded: Loaded, userId: string): Promise<Candidate> {
  const changers = [...loaded.parts.values()].flatMap(({ changedBy }) => changedBy ?? [])
  const names = new Map(
    (await context.models.users.findAll({ where: { id: [...new Set(changers)] } })).map(({ id, name }) => [
      id,
      name,
    ]),
  )
  const stored: Candidate['parts'] = {}
  for (const [part, { document, version, changedBy, updatedAt }] of loaded.parts)
    stored[part] = {
      document,
      version,
      changedBy: changedBy ? (names.get(changedBy) ?? null) : null,
      changedAt: updatedAt.toISOString(),
    }
  return {
    id: loaded.candidate.id,
    examId: loaded.exam.id,
    exam: loaded.exam.document,
    parts: stored,
    plan: storedPlan(loaded),
    tests: loaded.tests.map(({ document, version }) => ({ ...document, version })),
    mine: loaded.candidate.userId === userId,
  }
}
