import type { Router } from 'express'
import { roleOn } from '../services/access'
import type { Context } from '../services/context'
import { exportFile, importFile } from '../services/file'
import { answerOf, load } from '../services/record'
import { bind } from './bind'

export function fileRoutes(router: Router, context: Context): void {
  bind(router, context, 'exportFile', ({ candidate }) => exportFile(context, candidate))
  bind(router, context, 'importFile', async ({ user, params, body }) => {
    const candidate = await importFile(context, user.id, params.candidateId, body.file, body)
    const role = await roleOn(context, user.id, candidate)
    return answerOf(context, await load(context, candidate), user.id, role ?? 'reader')
  })
}
