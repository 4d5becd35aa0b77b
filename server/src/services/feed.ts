import type { CandidateRow } from '../models'
import { notFound } from '../refusal'
import { planCalendar } from './calendar'
import { type Context, lockCandidate, together } from './context'
import { hashOf, newToken } from './token'

/** A new private address for this plan's calendar; the one before stops working. It is shown this once. */
export async function openFeed(context: Context, candidate: CandidateRow): Promise<{ token: string }> {
  const { models, clock } = context
  const token = newToken()
  const madeAt = new Date(clock.now())
  await together(context, async (transaction) => {
    const { id: candidateId } = await lockCandidate(context, candidate, transaction)
    await models.feeds.upsert(
      { candidateId, tokenHash: hashOf(token), madeAt, readAt: null },
      { transaction },
    )
  })
  return { token }
}

export async function closeFeed({ models }: Context, candidate: CandidateRow): Promise<void> {
  await models.feeds.destroy({ where: { candidateId: candidate.id } })
}

/** Whether there is an address, since when, and when a calendar program last read it. */
export async function feedState({ models }: Context, candidate: CandidateRow) {
  const feed = await models.feeds.findByPk(candidate.id)
  return {
    since: feed ? feed.madeAt.toISOString() : null,
    read: feed?.readAt ? feed.readAt.toISOString() : null,
  }
}

/** The calendar behind an address; whoever has the address may read it, nobody learns more. */
export async function readFeed(context: Context, token: string): Promise<string> {
  const { models, clock } = context
  const feed = await models.feeds.findOne({ where: { tokenHash: hashOf(token) } })
  const candidate = feed && (await models.candidates.findByPk(feed.candidateId))
  if (!candidate) throw notFound()
  await feed.update({ readAt: new Date(clock.now()) })
  return planCalendar(context, candidate)
}
