import type { Settings, Template } from '@climber/contract'
import type { TemplateRow } from '../models'
import { notFound } from '../refusal'
import { homeWorkspace, workspacesOf } from './access'
import type { Context } from './context'

const answer = ({ id, title, document }: TemplateRow): Template => ({ id, title, settings: document })

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

/** The template, if it is of a workspace that the user belongs to; null where there is none of this id. */
async function own(context: Context, userId: string, id: string): Promise<TemplateRow | null> {
  const row = await context.models.templates.findByPk(id)
  if (row && !(await workspacesOf(context, userId)).includes(row.workspaceId)) throw notFound()
  return row
}

/** Keeps settings under a name, anew or in place of what was kept under this id. */
export async function saveTemplate(
  context: Context,
  userId: string,
  id: string,
  { title, settings }: { title: string; settings: Settings },
): Promise<Template> {
  const row = await own(context, userId, id)
  if (row) return answer(await row.update({ title, document: settings }))
  const workspaceId = await homeWorkspace(context, userId)
  return answer(await context.models.templates.create({ id, workspaceId, title, document: settings }))
}

export async function deleteTemplate(context: Context, userId: string, id: string): Promise<void> {
  const row = await own(context, userId, id)
  if (!row) throw notFound()
  await row.destroy()
}
