import type { Router } from 'express'
import { effectOf, moveTo } from '../services/edition'
import { createExam, deleteExam, examAnswer, listExams, listSamples, saveFormat } from '../services/exam'
import { answerOf, load } from '../services/record'
import type { Context } from '../services/context'
import { bind } from './bind'

export function examRoutes(router: Router, context: Context): void {
  bind(router, context, 'listExams', ({ user }) => listExams(context, user.id))
  bind(router, context, 'listSamples', () => listSamples(context))
  bind(router, context, 'readExam', ({ exam }) => examAnswer(context, exam))
  bind(router, context, 'createExam', async ({ user, params, body }) =>
    examAnswer(context, await createExam(context, user.id, params.examId, body.file.file.exam)),
  )
  bind(router, context, 'saveFormat', async ({ user, exam, body }) =>
    examAnswer(context, await saveFormat(context, user.id, exam, body)),
  )
  bind(router, context, 'deleteExam', async ({ exam }) => {
    await deleteExam(context, exam)
    return { ok: true }
  })
  bind(router, context, 'examEffect', ({ exam, body }) => effectOf(context, exam, body.format))
  bind(router, context, 'moveToEdition', async ({ user, candidate, role, body }) => {
    await moveTo(context, user.id, candidate, body.examId)
    return answerOf(context, await load(context, await candidate.reload()), user.id, role)
  })
}
