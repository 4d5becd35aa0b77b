import { isDeepStrictEqual } from 'node:util'
import { Op, QueryTypes, type Transaction } from 'sequelize'
import {
  type Card,
  type CardHistory,
  inRecallOrder,
  mostAnswers,
  mostCards,
  nothingRecalled,
  type ParsedBody,
  type RecallAnswer,
  type Recalled,
  type StoredCard,
} from '@climber/contract'
import { type AskedThing, countedCard, dateOf, dayNumber, isItem, recalledFrom } from '@climber/core'
import { Text } from '../aside/task'
import type { CandidateRow, CardRow } from '../models'
import { invalid } from '../refusal'
import { type Context, inParts, lockCandidate, together } from './context'
import { refuseUnknownTopics } from './exam'
import { refuseLarge } from './quota'
import { recalledBefore, storeRecalled } from './recalled'
import { grouped } from './record'
import { plainly } from './stored'

/** Days of which a deck that is read tells the ids of the answers; what waits longer to be sent is counted twice until it is. */
const recentDays = 30

const storedCard = ({ document, version }: Pick<CardRow, 'document' | 'version'>): StoredCard => ({
  ...document,
  version,
})

/**
 * All of a deck. A large one is ten thousand rows of JSON, which goes out as it is stored: it is put together as text, and neither read
 * nor written anew.
 */
export async function readRecall({ sequelize, models, clock }: Context, { id }: CandidateRow): Promise<Text> {
  const rows = <R extends object>(sql: string) =>
    sequelize.query<R>(sql, { replacements: { id }, type: QueryTypes.SELECT })
  const [cards, histories, recent] = await Promise.all([
    rows<{ document: string; version: number }>(
      'SELECT document, version FROM recall_cards WHERE candidate_id = :id',
    ),
    rows<{ card: string; document: string }>(
      'SELECT card, document FROM recall_histories WHERE candidate_id = :id',
    ),
    models.recallAnswers.findAll({
      attributes: ['id'],
      where: {
        candidateId: id,
        answeredOn: { [Op.gte]: dateOf(dayNumber(clock.now().slice(0, 10)) - recentDays) },
      },
      raw: true,
    }),
  ])
  const list = (name: string, items: string[]) => `"${name}":[${items.join(',')}]`
  return new Text(
    `{${[
      list(
        'cards',
        cards.map(({ document, version }) => `${document.slice(0, -1)},"version":${version}}`),
      ),
      list(
        'histories',
        histories.map(({ card, document }) => `{"card":"${card}","answers":${document}}`),
      ),
      list(
        'recent',
        recent.map((row) => `"${row.id}"`),
      ),
    ].join(',')}}`,
    'application/json; charset=utf-8',
  )
}

/**
 * Keeps cards and deletes others, each only as long as nobody changed it since the version that is named; what came as it is stored is
 * kept already. A card that was deleted meanwhile comes back: what somebody wrote is worth more than that somebody else cleared up.
 */
export function saveCards(
  context: Context,
  candidate: CandidateRow,
  body: ParsedBody<'saveCards'>,
): Promise<{ saved: StoredCard[]; gone: string[]; conflicts: StoredCard[]; recalled: Recalled }> {
  const { models } = context
  return together(context, async (transaction) => {
    const locked = await lockCandidate(context, candidate, transaction)
    const candidateId = locked.id
    const named = body.cards.map(({ card: { topic } }, at) => ({
      topic,
      path: ['cards', at, 'card', 'topic'],
    }))
    await refuseUnknownTopics(context, locked, named, transaction)
    await refuseLarge(context, locked.workspaceId, JSON.stringify(body.cards).length, transaction)
    const ids = [...body.cards.map(({ card }) => card.id), ...body.gone.map(({ id }) => id)]
    const settle = await recalledBefore(context, candidateId, ids, transaction)
    const found = await models.cards.findAll({ where: { candidateId, id: ids }, transaction })
    const stored = new Map(found.map((row) => [row.id, row]))
    const saved: StoredCard[] = []
    const conflicts: StoredCard[] = []
    for (const { card, version } of body.cards) {
      const document = plainly(card)
      const row = stored.get(card.id)
      if (!row) {
        const made = models.cards.build({ candidateId, id: card.id, document, version: 1 })
        stored.set(card.id, made)
        saved.push(storedCard(made))
      } else if (isDeepStrictEqual(row.document, document)) saved.push(storedCard(row))
      else if (row.version !== version) conflicts.push(storedCard(row))
      else {
        await row.update({ document, version: version + 1 }, { transaction })
        saved.push(storedCard(row))
      }
    }
    // A table of new cards goes in at once. One that is named twice in it was stored with its second form.
    const fresh = [...stored.values()].filter(({ isNewRecord }) => isNewRecord)
    const rows = fresh.map(({ id, document, version }) => ({ candidateId, id, document, version }))
    await inParts(rows, (part) => models.cards.bulkCreate(part, { transaction }))
    for (const row of fresh) row.isNewRecord = false
    const gone: string[] = []
    for (const { id, version } of body.gone) {
      const row = stored.get(id)
      if (row && row.version !== version) conflicts.push(storedCard(row))
      else {
        await row?.destroy({ transaction })
        gone.push(id)
      }
    }
    if ((await models.cards.count({ where: { candidateId }, transaction })) > mostCards)
      throw invalid([{ field: 'cards', message: `at most ${mostCards} cards are kept; delete some first` }])
    return { saved, gone, conflicts, recalled: await settle() }
  })
}

const historyOf = (answers: RecallAnswer[]): CardHistory['answers'] =>
  inRecallOrder(answers).map(({ on, grade, seconds }) => [dayNumber(on), grade, Math.round(seconds)])

/** Writes the histories of cards anew, from all of their answers. */
async function writeHistories(
  { models }: Context,
  candidateId: string,
  answers: RecallAnswer[],
  transaction: Transaction,
): Promise<CardHistory[]> {
  const byCard = grouped(answers, ({ card }) => card)
  const histories = [...byCard].map(([card, own]): CardHistory => ({ card, answers: historyOf(own) }))
  const rows = histories.map(({ card, answers: document }) => ({ candidateId, card, document }))
  await inParts(rows, (part) =>
    models.histories.bulkCreate(part, { updateOnDuplicate: ['document'], transaction }),
  )
  return histories
}

/** The missed items among what was answered, as they count. */
function itemsAmong(answers: RecallAnswer[]): AskedThing[] {
  const ofItems = answers.filter(({ card }) => isItem(card))
  return [...grouped(ofItems, ({ card }) => card)].map(([card, own]): AskedThing => {
    const topic = own.findLast((one) => one.topic !== undefined)?.topic
    return { card, kind: 'item', ...(topic !== undefined && { topic }), answers: historyOf(own) }
  })
}

const answerRow = (candidateId: string, document: RecallAnswer) => ({
  candidateId,
  id: document.id,
  card: document.card,
  answeredOn: document.on,
  undone: document.undone ?? false,
  document: plainly(document),
})

/**
 * Keeps answers. What two devices answered is joined by the ids of the answers alone: each counts once, in the order of their days and
 * moments, wherever it was given and whenever it is heard of; one that was taken back anywhere stays taken back.
 */
export function answerCards(
  context: Context,
  candidate: CandidateRow,
  answers: RecallAnswer[],
): Promise<{ histories: CardHistory[]; recalled: Recalled }> {
  const { models } = context
  return together(context, async (transaction) => {
    const { id: candidateId, workspaceId } = await lockCandidate(context, candidate, transaction)
    const came = new Map<string, RecallAnswer>()
    for (const one of answers) if (!came.get(one.id)?.undone) came.set(one.id, one)
    const found = await models.recallAnswers.findAll({
      where: { candidateId, id: [...came.keys()] },
      transaction,
    })
    const stored = new Map(found.map((row) => [row.id, row]))
    const fresh = [...came.values()].filter(({ id }) => !stored.has(id))
    await refuseLarge(context, workspaceId, JSON.stringify(fresh).length, transaction)
    if (
      (await models.recallAnswers.count({ where: { candidateId }, transaction })) + fresh.length >
      mostAnswers
    )
      throw invalid([{ field: 'answers', message: `at most ${mostAnswers} answers are kept` }])
    // Of one that is known already, the card is the one that it was given to.
    const cards = [...new Set([...fresh.map(({ card }) => card), ...found.map(({ card }) => card)])]
    const settle = await recalledBefore(context, candidateId, cards, transaction)
    await models.recallAnswers.bulkCreate(
      fresh.map((one) => answerRow(candidateId, one)),
      { transaction },
    )
    for (const row of found)
      if (came.get(row.id)?.undone && !row.undone)
        await row.update({ undone: true, document: { ...row.document, undone: true } }, { transaction })
    const all = await models.recallAnswers.findAll({ where: { candidateId, card: cards }, transaction })
    const documents = all.map(({ document }) => document)
    const histories = await writeHistories(context, candidateId, documents, transaction)
    return { histories, recalled: await settle(itemsAmong(documents)) }
  })
}

/** Stores what a file brings. */
export async function createRecall(
  context: Context,
  candidateId: string,
  { cards = [], answers = [] }: { cards?: Card[]; answers?: RecallAnswer[] },
  transaction: Transaction,
): Promise<void> {
  const { models } = context
  const rows = cards.map((document) => ({ candidateId, id: document.id, document, version: 1 }))
  await inParts(rows, (part) => models.cards.bulkCreate(part, { transaction }))
  await inParts(answers, (part) =>
    models.recallAnswers.bulkCreate(
      part.map((one) => answerRow(candidateId, one)),
      { transaction },
    ),
  )
  const histories = await writeHistories(context, candidateId, answers, transaction)
  const answersOf = new Map(histories.map((history) => [history.card, history.answers]))
  const counted = cards.map((card) => countedCard(card, answersOf.get(card.id)))
  if (counted.length || histories.length)
    await storeRecalled(
      context,
      candidateId,
      recalledFrom(nothingRecalled, [...counted, ...itemsAmong(answers)]),
      transaction,
    )
}

/** What of a deck goes into a file; nothing where there is none. */
export async function writtenRecall(
  { models }: Context,
  { id: candidateId }: CandidateRow,
): Promise<{ cards?: Card[]; answers?: RecallAnswer[] } | undefined> {
  const where = { candidateId }
  const [cards, answers] = await Promise.all([
    models.cards.findAll({ where, order: [['id', 'ASC']] }),
    models.recallAnswers.findAll({
      where,
      order: [
        ['answeredOn', 'ASC'],
        ['id', 'ASC'],
      ],
    }),
  ])
  if (!cards.length && !answers.length) return undefined
  return {
    ...(cards.length && { cards: cards.map(({ document }) => document) }),
    ...(answers.length && { answers: answers.map(({ document }) => document) }),
  }
}
