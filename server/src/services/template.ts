import { isDeepStrictEqual } from 'node:util'
import type { Settings, Template } from '@climber/contract'
import type { TemplateRow } from '../models'
import { conflict, notFound } from '../refusal'
import { deletedBy, homeWorkspace, noteDeleted, refuseDeleted, workspacesOf } from './access'
import { type Context, together } from './context'
import { refuseMoreThan } from './quota'

const answer = ({ id, title, version, document }: TemplateRow): Template => ({
  id,
  title,
  version,
  settings: document,
})

/** Templates of all workspaces that a user belongs to, by name. */
export async function listTemplates(context: Context, userId: string): Promise<Template[]> {
  const rows = await context.models.templates.findAll({
    where: { workspaceId: await workspacesOf(context, userId) },
    order: [
      ['title', 'ASC'],
      ['id', 'ASC'],
    ],
  })
  return rows.map(answer)
}

/**
 * Keeps settings under a name. What was kept under this id already is changed only by who knows its `version`; the same sent
 * twice is stored once.
 */
export async function saveTemplate(
  context: Context,
  userId: string,
  id: string,
  { version, title, settings }: { version?: number; title: string; settings: Settings },
): Promise<Template> {
  const { models } = context
  const own = await workspacesOf(context, userId)
  const workspaceId = await homeWorkspace(context, userId)
  return together(context, async (transaction) => {
    const row = await models.templates.findByPk(id, { transaction, lock: true })
    if (!row) {
      await refuseDeleted(context, id, transaction)
      await refuseMoreThan(context, 'templates', workspaceId, transaction)
      return answer(
        await models.templates.create({ id, workspaceId, title, document: settings }, { transaction }),
      )
    }
    if (!own.includes(row.workspaceId)) throw notFound()
    const same = row.title === title && isDeepStrictEqual(row.document, JSON.parse(JSON.stringify(settings)))
    if (same) return answer(row)
    if (row.version !== version) throw conflict(answer(row))
    return answer(await row.update({ title, document: settings, version: row.version + 1 }, { transaction }))
  })
}

/** Forgets a template; asked again by the same person it is answered as the first time. */
export async function deleteTemplate(context: Context, userId: string, id: string): Promise<void> {
  const own = await workspacesOf(context, userId)
  await together(context, async (transaction) => {
    const row = await context.models.templates.findByPk(id, { transaction, lock: true })
    if (!row && (await deletedBy(context, userId, id, transaction))) return
    if (!row || !own.includes(row.workspaceId)) throw notFound()
    await noteDeleted(context, userId, id, transaction)
    await row.destroy({ transaction })
  })
}
