import { roleOn } from '../services/access'
import type { Context } from '../services/context'
import { exportFile, importFile } from '../services/file'
import { answerOf, load } from '../services/record'
import type { Bind } from './bind'

export function fileRoutes(bind: Bind, context: Context): void {
  bind.aside('exportFile', ({ candidate }) => exportFile(context, candidate))
  bind.aside('importFile', async ({ user, params, body }) => {
    const candidate = await importFile(context, user.id, params.candidateId, body.file, body)
    const role = await roleOn(context, user.id, candidate)
    return answerOf(context, await load(context, candidate), user.id, role ?? 'reader')
  })
}
