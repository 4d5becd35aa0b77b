import { isDeepStrictEqual } from 'node:util'
import { countIssues, type PracticeTest, type StoredTest } from '@climber/contract'
import { countResponses } from '@climber/core'
import type { CandidateRow } from '../models'
import { conflict, invalid } from '../refusal'
import { type Context, together } from './context'
import { documentOf, load } from './record'

/** Stores a practice test under the client's id; the same request sent twice is stored once. */
export async function saveTest(
  context: Context,
  candidate: CandidateRow,
  id: string,
  version: number,
  input: PracticeTest,
): Promise<StoredTest> {
  const test = JSON.parse(JSON.stringify({ ...input, id })) as PracticeTest
  return together(context, async (transaction) => {
    await context.models.candidates.findByPk(candidate.id, { transaction, lock: true })
    const loaded = await load(context, candidate, transaction)
    const exam = loaded.exam.document
    const today = context.clock.at(documentOf(loaded, 'availability').zone).date
    const issues = countIssues(exam, test.counts).map(({ path, message }) => ({
      field: ['counts', ...path].join('.'),
      message,
    }))
    for (const section of exam.sections)
      for (const group of section.groups)
        if (!test.counts[group.id])
          issues.push({ field: `counts.${group.id}`, message: `the counts of ${section.title} are missing` })
    if (test.date > today)
      issues.push({ field: 'date', message: `${test.date} is still to come; log a test once it was sat` })
    if (test.form && !exam.forms.some(({ id: form }) => form === test.form))
      issues.push({ field: 'form', message: `the exam has no form ${test.form}` })
    if (test.responses?.length) {
      const form = exam.forms.find(({ id: own }) => own === test.form)
      const counted = countResponses(exam, test.responses, form).sections
      for (const [group, counts] of Object.entries(counted))
        if (!isDeepStrictEqual(test.counts[group], counts))
          issues.push({ field: 'responses', message: `the answers of ${group} come to other counts` })
    }
    if (issues.length) throw invalid(issues)
    const row = loaded.tests.find((stored) => stored.id === id)
    if (!row) {
      const made = await context.models.tests.create(
        { id, candidateId: candidate.id, date: test.date, document: test, version: 1 },
        { transaction },
      )
      return { ...test, version: made.version }
    }
    if (isDeepStrictEqual(row.document, test)) return { ...test, version: row.version }
    if (row.version !== version) throw conflict({ ...row.document, version: row.version })
    await row.update({ date: test.date, document: test, version: version + 1 }, { transaction })
    return { ...test, version: version + 1 }
  })
}

export async function deleteTest({ models }: Context, candidate: CandidateRow, id: string): Promise<void> {
  await models.tests.destroy({ where: { id, candidateId: candidate.id } })
}
