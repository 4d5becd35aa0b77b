import type { Router } from 'express'
import { createExam, listExams, listSamples } from '../services/exam'
import type { Context } from '../services/context'
import { bind } from './bind'

export function examRoutes(router: Router, context: Context): void {
  bind(router, context, 'listExams', ({ user }) => listExams(context, user.id))
  bind(router, context, 'listSamples', () => listSamples(context))
  bind(router, context, 'readExam', async ({ exam }) => ({ id: exam.id, format: exam.document }))
  bind(router, context, 'createExam', async ({ user, params, body }) => {
    const exam = await createExam(context, user.id, params.examId, body.file.exam)
    return { id: exam.id, format: exam.document }
  })
}
