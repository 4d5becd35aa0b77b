import { effectOf, moveTo } from '../services/edition'
import { createExam, deleteExam, examAnswer, listExams, listSamples, saveFormat } from '../services/exam'
import { answerOf, load } from '../services/record'
import type { Context } from '../services/context'
import type { Bind } from './bind'

export function examRoutes(bind: Bind, context: Context): void {
  bind.aside('listExams', ({ user }) => listExams(context, user.id))
  bind.aside('listSamples', () => listSamples(context))
  bind.aside('readExam', ({ exam }) => examAnswer(context, exam))
  bind.aside('createExam', async ({ user, params, body }) =>
    examAnswer(context, await createExam(context, user.id, params.examId, body.file.file.exam)),
  )
  bind.aside('saveFormat', async ({ user, exam, body }) =>
    examAnswer(context, await saveFormat(context, user.id, exam, body)),
  )
  bind.here('deleteExam', async ({ user, exam }) => {
    await deleteExam(context, user.id, exam)
    return { ok: true }
  })
  bind.aside('examEffect', ({ exam, body }) => effectOf(context, exam, body.format))
  bind.aside('moveToEdition', async ({ user, candidate, role, body }) => {
    await moveTo(context, user.id, candidate, body.examId)
    return answerOf(context, await load(context, await candidate.reload()), user.id, role)
  })
}
