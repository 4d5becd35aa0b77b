import { randomUUID } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import path from 'node:path'
import { QueryTypes } from 'sequelize'
import { ClimberFile } from '@climber/contract'
import { scenario } from '../../demo/scenario'
import { alone } from './database'
import { Refusal } from './refusal'
import { demoAccounts, signUp } from './services/account'
import type { Context } from './services/context'
import { createExam, listSamples } from './services/exam'
import { importFile } from './services/file'

/** What is known of the demo in a database: the day it was loaded for, or that it is being loaded. */
const factOf = async ({ sequelize }: Context): Promise<string | undefined> => {
  const [row] = await sequelize.query<{ value: string }>("SELECT value FROM facts WHERE name = 'demo'", {
    type: QueryTypes.SELECT,
  })
  return row?.value
}
const noteFact = ({ sequelize }: Context, value: string) =>
  sequelize.query("REPLACE INTO facts (name, value) VALUES ('demo', ?)", { replacements: [value] })

/** Deletes the people of the demo and what is theirs, and nobody else's. */
async function dropDemo({ sequelize, models }: Context): Promise<void> {
  const people = await models.users.findAll({ where: { email: demoAccounts.map(({ email }) => email) } })
  const userId = people.map(({ id }) => id)
  const memberships = await models.memberships.findAll({ where: { userId } })
  const workspaceId = memberships.map((one) => one.workspaceId)
  await sequelize.transaction(async (transaction) => {
    await models.candidates.destroy({ where: { workspaceId }, transaction })
    await models.exams.destroy({ where: { workspaceId }, transaction })
    await models.workspaces.destroy({ where: { id: workspaceId }, transaction })
    await models.users.destroy({ where: { id: userId }, transaction })
  })
}

/**
 * Loads the demo scenario, unless today's is there already; that of an earlier day, and one cut short, is dropped first. Only
 * into a database that the demo began itself, or that nobody is in: any other is somebody's own.
 */
export const loadDemo = (context: Context): Promise<void> => alone(context, 'demo', () => loadAlone(context))

async function loadAlone(context: Context): Promise<void> {
  const { models, clock, samples } = context
  const today = clock.at('Etc/UTC').date
  const fact = await factOf(context)
  if (fact === today) return
  if (fact === undefined && (await models.users.count()))
    throw new Refusal({
      code: 'forbidden',
      message:
        'This database is somebody’s own: the demo did not make it, and leaves it alone. Give it another with DATABASE_URL, or start with "npm start".',
    })
  await noteFact(context, 'loading')
  await dropDemo(context)
  const users = new Map<string, string>()
  for (const { email, name } of demoAccounts)
    users.set(email, (await signUp(context, { email, name, password: `${randomUUID()}${randomUUID()}` })).id)
  const tutor = users.get('tutor@demo.example')!
  const lives = await scenario(today, async (name) =>
    ClimberFile.parse(JSON.parse(await readFile(path.join(samples!, name), 'utf8'))),
  )
  for (const { file, email } of lives) {
    const written = { file, written: file as Record<string, unknown> }
    const candidate = await importFile(context, tutor, randomUUID(), written, { self: false })
    await models.candidates.update({ userId: users.get(email)! }, { where: { id: candidate.id } })
  }
  // The other exams that ship, for the tutor to look into.
  for (const { file } of await listSamples(context))
    if (!lives.some((life) => life.file.exam.title === file.exam.title))
      await createExam(context, tutor, randomUUID(), file.exam)
  await noteFact(context, today)
}
