import { isDeepStrictEqual } from 'node:util'
import type { Transaction } from 'sequelize'
import { type PlanSession, type SessionReport, type StoredSession, withReport } from '@climber/contract'
import type { CandidateRow } from '../models'
import { conflict, notFound } from '../refusal'
import { type Context, lockCandidate, together } from './context'
import type { Loaded } from './record'
import { doneOnce } from './request'
import { plainly, sessionOf } from './stored'

/** Writes sessions of the open plan over those of their ids. */
export async function writeSessions(
  { models }: Context,
  loaded: Pick<Loaded, 'sessions'>,
  sessions: PlanSession[],
  transaction: Transaction,
): Promise<StoredSession[]> {
  const rows = new Map(loaded.sessions.map((row) => [row.id, row]))
  const written: StoredSession[] = []
  for (const session of sessions) {
    const row = rows.get(session.id)
    if (!row) continue
    const { candidateId, id, version } = row
    const { date, start, status } = session
    await models.sessions.update(
      { date, start, status, document: session, version: version + 1 },
      { where: { candidateId, id }, transaction },
    )
    written.push({ ...session, version: version + 1 })
  }
  return written
}

/** Marks what became of a session. The same change sent twice is done once. */
export async function saveSession(
  context: Context,
  candidate: CandidateRow,
  id: string,
  { version, request, ...report }: { version: number; request?: string } & SessionReport,
): Promise<StoredSession> {
  return together(context, async (transaction) => {
    await lockCandidate(context, candidate, transaction)
    const row = await context.models.sessions.findOne({
      where: { candidateId: candidate.id, id },
      transaction,
      lock: true,
    })
    if (!row) throw notFound()
    const before = sessionOf(row)
    const now: StoredSession = { ...before, version: row.version }
    return doneOnce(context, candidate.id, request, transaction, {
      what: `session ${id}`,
      left: ({ version }) => ({ version }),
      again: () => Promise.resolve(now),
      work: async () => {
        const after = plainly(withReport(before, report))
        if (isDeepStrictEqual(before, after)) return now
        if (row.version !== version) throw conflict(now)
        await row.update({ document: after, status: after.status, version: version + 1 }, { transaction })
        return { ...after, version: version + 1 }
      },
    })
  })
}
