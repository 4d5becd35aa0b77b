import { randomUUID } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import path from 'node:path'
import { QueryTypes } from 'sequelize'
import { ClimberFile } from '@climber/contract'
import { scenario } from '../../demo/scenario'
import { demoAccounts, signUp } from './services/account'
import type { Context } from './services/context'
import { createExam, listSamples } from './services/exam'
import { importFile } from './services/file'

/** Loads the demo scenario, unless today's is there already. Earlier days' demo data is dropped first. */
export async function loadDemo(context: Context): Promise<void> {
  const { sequelize, models, clock, samples } = context
  const today = clock.at('Etc/UTC').date
  const [loaded] = await sequelize.query<{ value: string }>("SELECT value FROM facts WHERE name = 'demo'", {
    type: QueryTypes.SELECT,
  })
  if (loaded?.value === today) return
  for (const table of ['candidates', 'exams', 'workspaces', 'users', 'web_sessions'])
    await sequelize.query(`DELETE FROM ${table}`)
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
  await sequelize.query("REPLACE INTO facts (name, value) VALUES ('demo', ?)", { replacements: [today] })
}
