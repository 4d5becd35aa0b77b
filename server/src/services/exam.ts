import { createHash } from 'node:crypto'
import { readdir, readFile } from 'node:fs/promises'
import path from 'node:path'
import type { Transaction } from 'sequelize'
import { ClimberFile, type ExamFormat, type ExamRow as ExamListRow } from '@climber/contract'
import { aheadByWholeWeeks } from '../../../demo/dates'
import type { ExamRow } from '../models'
import { conflict } from '../refusal'
import { homeWorkspace, workspacesOf } from './access'
import { type Context, onceOnly } from './context'

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
  const workspaceId = await homeWorkspace(context, userId)
  const exam = await onceOnly(
    () => context.models.exams.findByPk(id),
    () => context.models.exams.create({ id, workspaceId, title: format.title, digest, document: format }),
  )
  if (exam.digest !== digest || exam.workspaceId !== workspaceId) throw conflict(undefined)
  return exam
}

/** The workspace's exam that equals `format`, made if there is none. */
export async function sameExam(
  context: Context,
  workspaceId: string,
  format: ExamFormat,
  id: string,
  transaction: Transaction,
): Promise<ExamRow> {
  const digest = digestOf(format)
  const stored = await context.models.exams.findOne({ where: { workspaceId, digest }, transaction })
  return (
    stored ??
    context.models.exams.create(
      { id, workspaceId, title: format.title, digest, document: format },
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
  return exams.map(({ id, title, document }) => ({
    id,
    title,
    field: document.field ?? '',
    candidates: used.get(id) ?? 0,
  }))
}

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
