import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import path from 'node:path'
import type { Database } from '../src/database'

export type Json = Record<string, unknown>
interface Version1 extends Json {
  candidate: Json
  exam: Json & { title: string }
  diagnosis: Json
  drills: Json
  plan: Json & { sessions: (Json & { id: string; title: string; why: { text: string } })[] }
  tests: (Json & { id: string; date: string })[]
}
/** A rich file of version 1. */
export const file = () =>
  JSON.parse(
    readFileSync(path.join(process.cwd(), 'server/test/files/version1.climber.json'), 'utf8'),
  ) as Version1

/** The file as version 1 stored it, in the tables that it had. */
export async function storeAsVersion1(to: Database): Promise<string> {
  const { sequelize } = to
  const { exam, plan, tests, candidate: profile, climber: _climber, moods, ...parts } = file()
  const { sessions, ...head } = plan
  const [user, workspace, examId, id] = [randomUUID(), randomUUID(), randomUUID(), randomUUID()]
  const put = (table: string, row: Record<string, string | number | null>) =>
    sequelize.query(
      `INSERT INTO ${table} (${Object.keys(row).join(', ')}) VALUES (${Object.keys(row)
        .map(() => '?')
        .join(', ')})`,
      { replacements: Object.values(row) },
    )
  const dated = { created_at: '2030-01-10 10:00:00', updated_at: '2030-01-10 10:00:00' }
  const json = (value: unknown) => JSON.stringify(value)
  await put('users', { id: user, email: 'one@mail.example', name: 'One', password_hash: 'x', ...dated })
  await put('workspaces', { id: workspace, name: 'One', ...dated })
  await put('memberships', { workspace_id: workspace, user_id: user })
  await put('exams', {
    id: examId,
    workspace_id: workspace,
    lineage: examId,
    title: exam.title,
    digest: 'd'.repeat(64),
    document: json(exam),
    ...dated,
  })
  await put('candidates', { id, workspace_id: workspace, exam_id: examId, extra: json({ moods }), ...dated })
  for (const [part, document] of Object.entries({ candidate: profile, ...parts }))
    await put('parts', {
      candidate_id: id,
      part,
      document: json(document),
      version: 3,
      updated_at: dated.updated_at,
    })
  await put('plans', { candidate_id: id, version: 4, document: json(head), ...dated })
  for (const session of sessions)
    await put('plan_sessions', {
      candidate_id: id,
      id: session.id,
      date: String(session['date']),
      start: String(session['start']),
      status: String(session['status']),
      document: json(session),
      version: 2,
      ...dated,
    })
  for (const test of tests)
    await put('practice_tests', {
      candidate_id: id,
      id: test.id,
      date: test.date,
      document: json(test),
      version: 2,
      ...dated,
    })
  const moved = { ...sessions[0]!, start: '18:30' }
  await put('plan_steps', {
    candidate_id: id,
    what: 'one session moved',
    back: json({ put: [sessions[0]], drop: [], head }),
    forth: json({ put: [moved], drop: [], head }),
    undone: 0,
  })
  return id
}
