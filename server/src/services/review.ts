import type { Transaction } from 'sequelize'
import {
  type Comment,
  mostNotes,
  type NoteChanges,
  noteCommented,
  noteWith,
  type ReviewNote,
  type StoredNote,
} from '@climber/contract'
import type { CandidateRow, NoteRow } from '../models'
import { forbidden, invalid } from '../refusal'
import { type Context, inParts, lockCandidate, together } from './context'
import { refuseUnknownTopics } from './exam'
import { refuseLarge } from './quota'
import { doneOnce } from './request'
import { plainly } from './stored'

export const storedNote = ({ document, version }: Pick<NoteRow, 'document' | 'version'>): StoredNote => ({
  ...document,
  version,
})

/** Stores notes as new ones. */
export async function createNotes(
  { models }: Context,
  candidateId: string,
  notes: ReviewNote[],
  transaction: Transaction,
): Promise<void> {
  const rows = notes.map((document) => ({
    candidateId,
    attemptId: document.attempt,
    item: document.item,
    document,
    version: 1,
  }))
  await inParts(rows, (part) => models.notes.bulkCreate(part, { transaction }))
}

/** One item of something that was sat. */
interface Reviewed {
  attemptId: string
  item: number
}

/** Writes into the note on one item, which is made where there is none; the same request sent twice is done once. */
async function writeNote(
  context: Context,
  { id: candidateId }: CandidateRow,
  { attemptId, item }: Reviewed,
  request: string | undefined,
  change: (note: ReviewNote, candidate: CandidateRow, transaction: Transaction) => Promise<ReviewNote>,
): Promise<StoredNote> {
  const { models } = context
  const where = { candidateId, attemptId, item }
  return together(context, async (transaction) => {
    const candidate = await lockCandidate(context, { id: candidateId }, transaction)
    const found = await models.notes.findOne({ where, transaction })
    const blank: ReviewNote = { attempt: attemptId, item }
    return doneOnce(context, candidateId, request, transaction, {
      what: `note ${attemptId} ${item}`,
      left: ({ version }) => ({ version }),
      again: () => Promise.resolve(found ? storedNote(found) : { ...blank, version: 0 }),
      work: async () => {
        const document = plainly(await change(found?.document ?? blank, candidate, transaction))
        await refuseLarge(context, candidate.workspaceId, JSON.stringify(document).length, transaction)
        if (found) {
          await found.update({ document, version: found.version + 1 }, { transaction })
          return storedNote(found)
        }
        if ((await models.notes.count({ where: { candidateId }, transaction })) >= mostNotes)
          throw invalid([{ field: '', message: `${mostNotes} notes are kept already; delete one first` }])
        return storedNote(await models.notes.create({ ...where, document, version: 1 }, { transaction }))
      },
    })
  })
}

/**
 * Writes changes into the note on one item. Each field is its own: two people in one note meet only where both write the same
 * field, and there the later stands.
 */
export const noteItem = (
  context: Context,
  candidate: CandidateRow,
  reviewed: Reviewed,
  { changes, request }: { changes: NoteChanges; request?: string },
): Promise<StoredNote> =>
  writeNote(context, candidate, reviewed, request, async (note, locked, transaction) => {
    await refuseUnknownTopics(context, locked, [{ topic: changes.topic, path: ['topic'] }], transaction)
    return noteWith(note, changes)
  })

/** So many comments stand at one item. */
const mostComments = 200

/**
 * Says something of one item, under the client's id; with no text it is taken away. What stands there under that id may only be
 * changed by whom `may` lets.
 */
export const commentNote = (
  context: Context,
  candidate: CandidateRow,
  { commentId: id, ...reviewed }: Reviewed & { commentId: string },
  {
    userId: user,
    text,
    request,
    may = () => true,
  }: { userId: string; text: string | null; request?: string; may?: (comment: Comment) => boolean },
): Promise<StoredNote> =>
  writeNote(context, candidate, reviewed, request, async (note, _locked, transaction) => {
    const { comments = [] } = note
    const there = comments.find((comment) => comment.id === id)
    if (there && !may(there)) throw forbidden()
    if (text === null) return noteCommented(note, { id, text })
    if (!there && comments.length >= mostComments)
      throw invalid([{ field: 'text', message: `${mostComments} comments stand there already` }])
    const author = await context.models.users.findByPk(user, { transaction })
    return noteCommented(note, { id, by: author?.name ?? '', user, at: context.clock.now(), text })
  })
