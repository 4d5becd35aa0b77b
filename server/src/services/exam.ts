import { createHash } from 'node:crypto'
import { readdir, readFile } from 'node:fs/promises'
import path from 'node:path'
import type { Transaction } from 'sequelize'
import { ClimberFile, type ExamFormat, type ExamRow as ExamListRow, issuesOf } from '@climber/contract'
import { aheadByWholeWeeks } from '../../../demo/dates'
import type { CandidateRow, ExamRow } from '../models'
import { conflict, conflictWith, invalid, notFound } from '../refusal'
import { deletedBy, homeWorkspace, noteDeleted, refuseDeleted, workspacesOf } from './access'
import { type Context, together } from './context'
import { longest, refuseLarge, refuseLonger, refuseMoreThan } from './quota'
import { formatOf } from './stored'

/** Two formats with the same digest are the same format. */
export const digestOf = (format: ExamFormat): string =>
  createHash('sha256').update(JSON.stringify(format)).digest('hex')

/** Stores an exam under the client's id; the same request sent twice is stored once. */
export async function createExam(
  context: Context,
  userId: string,
  id: string,
  format: ExamFormat,
): Promise<ExamRow> {
  const digest = digestOf(format)
  const length = refuseLonger('file.exam', format, longest.exam)
  const workspaceId = await homeWorkspace(context, userId)
  const exam = await together(context, async (transaction) => {
    await refuseMoreThan(context, 'exams', workspaceId, transaction)
    const stored = await context.models.exams.findByPk(id, { transaction, lock: true })
    if (stored) return stored
    await refuseDeleted(context, id, transaction)
    await refuseLarge(context, workspaceId, length, transaction)
    return context.models.exams.create(
      { id, workspaceId, lineage: id, title: format.title, digest, document: format, changedBy: userId },
      { transaction },
    )
  })
  if (exam.digest !== digest || exam.workspaceId !== workspaceId) throw conflict(undefined)
  return exam
}

/** The workspace's exam that equals `format`, made as it was `written` if there is none. */
export async function sameExam(
  context: Context,
  workspaceId: string,
  format: ExamFormat,
  written: ExamFormat,
  id: string,
  transaction: Transaction,
): Promise<ExamRow> {
  const digest = digestOf(format)
  const stored = await context.models.exams.findOne({
    where: { workspaceId, digest },
    order: [['edition', 'DESC']],
    transaction,
  })
  return (
    stored ??
    context.models.exams.create(
      { id, workspaceId, lineage: id, title: format.title, digest, document: written, changedBy: null },
      { transaction },
    )
  )
}

export async function listExams(context: Context, userId: string): Promise<ExamListRow[]> {
  const exams = await context.models.exams.findAll({
    where: { workspaceId: await workspacesOf(context, userId) },
    order: [
      ['title', 'ASC'],
      ['id', 'ASC'],
    ],
  })
  const counts = (await context.models.candidates.count({
    where: { examId: exams.map(({ id }) => id) },
    group: ['examId'],
  })) as unknown as { examId: string; count: number }[]
  const used = new Map(counts.map(({ examId, count }) => [examId, count]))
  return exams.map(({ id, title, document, edition, lineage }) => ({
    id,
    title,
    field: document.field ?? '',
    candidates: used.get(id) ?? 0,
    edition,
    lineage,
  }))
}

/** Everything of an exam that its screen shows. */
export async function examAnswer(context: Context, exam: ExamRow) {
  const { id, edition, version, lineage, workspaceId } = exam
  const editions = await context.models.exams.findAll({
    where: { workspaceId, lineage },
    attributes: ['id', 'edition'],
    order: [['edition', 'ASC']],
  })
  return {
    id,
    format: formatOf(exam),
    edition,
    version,
    candidates: await context.models.candidates.count({ where: { examId: id } }),
    editions: editions.map((one) => ({ id: one.id, edition: one.edition })),
  }
}

/**
 * Keeps a changed format. An edition that no candidate is on is changed itself, if it is still at `version`; of one in
 * use a new edition is made under `newId`. The same request sent twice is stored once.
 */
export async function saveFormat(
  context: Context,
  userId: string,
  exam: ExamRow,
  input: { version: number; newId: string; format: ExamFormat },
): Promise<ExamRow> {
  const { format, newId } = input
  const digest = digestOf(format)
  const length = refuseLonger('format', format, longest.exam)
  const { models } = context
  return together(context, async (transaction) => {
    // Editions of one lineage are numbered one after the other: the workspace is held meanwhile.
    await models.workspaces.findByPk(exam.workspaceId, { transaction, lock: true })
    const row = await models.exams.findByPk(exam.id, { transaction, lock: true })
    if (!row) throw notFound()
    await refuseLarge(context, row.workspaceId, length, transaction)
    if (row.digest === digest) return row
    const repeated = await models.exams.findByPk(newId, { transaction })
    if (repeated) {
      if (repeated.lineage !== row.lineage || repeated.digest !== digest) throw notFound()
      return repeated
    }
    if (row.version !== input.version) {
      const by = row.changedBy && (await models.users.findByPk(row.changedBy, { transaction }))
      throw conflictWith({ document: formatOf(row), version: row.version }, by || null, userId)
    }
    const change = { title: format.title, digest, document: format, changedBy: userId }
    if (!(await models.candidates.count({ where: { examId: row.id }, transaction })))
      return row.update({ ...change, version: row.version + 1 }, { transaction })
    await refuseMoreThan(context, 'exams', row.workspaceId, transaction)
    const newest = (await models.exams.max('edition', {
      where: { workspaceId: row.workspaceId, lineage: row.lineage },
      transaction,
    })) as number
    return models.exams.create(
      { id: newId, workspaceId: row.workspaceId, lineage: row.lineage, edition: newest + 1, ...change },
      { transaction },
    )
  })
}

/** Removes an edition that no candidate is on. */
export const deleteExam = (context: Context, userId: string, exam: ExamRow): Promise<void> =>
  together(context, async (transaction) => {
    const row = await context.models.exams.findByPk(exam.id, { transaction, lock: true })
    if (!row && (await deletedBy(context, userId, exam.id, transaction))) return
    if (!row) throw notFound()
    if (await context.models.candidates.count({ where: { examId: exam.id }, transaction }))
      throw invalid([{ field: '', message: 'candidates prepare for this exam; delete their plans first' }])
    await noteDeleted(context, userId, row.id, transaction)
    await row.destroy({ transaction })
  })

/** Exam formats that ship, their dates moved ahead so that their first sitting is at least six weeks away. */
export async function listSamples({ samples, clock }: Context) {
  if (!samples) return []
  const names = (await readdir(samples)).filter((name) => name.endsWith('.exam.climber.json')).sort()
  return Promise.all(
    names.map(async (name) => {
      const file = ClimberFile.parse(JSON.parse(await readFile(path.join(samples, name), 'utf8')))
      const first = file.exam.sittings.map(({ date }) => date).sort()[0]
      const moved = first ? aheadByWholeWeeks(file, first, clock.at('Etc/UTC').date, 42) : file
      return { id: name, title: file.exam.title, about: file.exam.about ?? '', file: moved }
    }),
  )
}

/** Topics that a candidate's exam does not have are refused, each at its place in what was sent. */
export async function refuseUnknownTopics(
  { models }: Context,
  { examId }: CandidateRow,
  named: { topic?: string | null; path: (string | number)[] }[],
  transaction: Transaction,
): Promise<void> {
  if (!named.some(({ topic }) => topic)) return
  const exam = await models.exams.findByPk(examId, { transaction })
  if (!exam) return
  const known = new Set(formatOf(exam).topics.map(({ id }) => id))
  const issues = named.flatMap(({ topic, path }) =>
    topic && !known.has(topic) ? [{ path, message: `the exam has no topic ${topic}` }] : [],
  )
  if (issues.length) throw invalid(issuesOf({ issues }))
}
