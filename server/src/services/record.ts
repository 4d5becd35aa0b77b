import type { Transaction } from 'sequelize'
import { type Candidate, type PartDocument, type PartName, parts, type StoredPlan } from '@climber/contract'
import type { CandidateRecord } from '@climber/core'
import type { CandidateRow, ExamRow, PartRow, PlanRow, SessionRow, TestRow } from '../models'
import type { Context } from './context'
import { stepsOf } from './steps'

export interface Loaded {
  candidate: CandidateRow
  exam: ExamRow
  parts: Map<PartName, PartRow>
  plan: PlanRow | null
  sessions: SessionRow[]
  tests: TestRow[]
}

const grouped = <T extends { candidateId: string }>(rows: T[]): Map<string, T[]> => {
  const groups = new Map<string, T[]>()
  for (const row of rows) {
    const group = groups.get(row.candidateId)
    if (group) group.push(row)
    else groups.set(row.candidateId, [row])
  }
  return groups
}

/** Everything stored of several candidates, in five queries however many they are. */
export async function loadAll(
  { models }: Context,
  candidates: CandidateRow[],
  transaction?: Transaction,
): Promise<Loaded[]> {
  const where = { candidateId: candidates.map(({ id }) => id) }
  const examIds = [...new Set(candidates.map(({ examId }) => examId))]
  const exams = await models.exams.findAll({ where: { id: examIds }, transaction })
  const partRows = grouped(await models.parts.findAll({ where, transaction }))
  const plans = new Map(
    (await models.plans.findAll({ where, transaction })).map((row) => [row.candidateId, row]),
  )
  const sessions = grouped(
    await models.sessions.findAll({
      where,
      order: [
        ['date', 'ASC'],
        ['start', 'ASC'],
        ['id', 'ASC'],
      ],
      transaction,
    }),
  )
  const tests = grouped(
    await models.tests.findAll({
      where,
      order: [
        ['date', 'ASC'],
        ['id', 'ASC'],
      ],
      transaction,
    }),
  )
  const byId = new Map(exams.map((exam) => [exam.id, exam]))
  return candidates.map((candidate) => ({
    candidate,
    exam: byId.get(candidate.examId)!,
    parts: new Map((partRows.get(candidate.id) ?? []).map((row) => [row.part, row])),
    plan: plans.get(candidate.id) ?? null,
    sessions: sessions.get(candidate.id) ?? [],
    tests: tests.get(candidate.id) ?? [],
  }))
}

/** Everything stored of one candidate. */
export const load = async (
  context: Context,
  candidate: CandidateRow,
  transaction?: Transaction,
): Promise<Loaded> => (await loadAll(context, [candidate], transaction))[0]!

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
    materials: documentOf(loaded, 'materials'),
    commitments: documentOf(loaded, 'commitments'),
    drills: documentOf(loaded, 'drills'),
    guessing: documentOf(loaded, 'guessing'),
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
  const partsStored: Candidate['parts'] = {}
  for (const [part, { document, version, changedBy, updatedAt }] of loaded.parts)
    partsStored[part] = {
      document,
      version,
      changedBy: changedBy ? (names.get(changedBy) ?? null) : null,
      changedAt: updatedAt.toISOString(),
    }
  const stored = storedPlan(loaded)
  return {
    id: loaded.candidate.id,
    examId: loaded.exam.id,
    exam: loaded.exam.document,
    parts: partsStored,
    plan: stored && { ...stored, steps: await stepsOf(context, loaded.candidate.id) },
    tests: loaded.tests.map(({ document, version }) => ({ ...document, version })),
    mine: loaded.candidate.userId === userId,
  }
}
