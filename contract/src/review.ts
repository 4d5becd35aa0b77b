import { z } from 'zod'
import { Confidence } from './attempt'
import { Form } from './examShape'
import { open, PlainDate, Slug, Uuid } from './shared'

/** Why an item was missed, as the candidate names it; `sound` is an item that was right for the right reason. */
export const Cause = z.enum([
  'content',
  'misread',
  'overthought',
  'question',
  'careless',
  'time',
  'guess',
  'sound',
])

/** An item tried again without a clock, before its answer was looked at. */
export const Rework = open({
  answer: z.string().max(40, 'at most 40 characters').describe('empty where it was left'),
  struck: z.array(z.string().max(4)).max(26).optional().describe('options struck out as surely wrong'),
  confidence: Confidence.optional(),
  right: z
    .boolean()
    .optional()
    .describe('as the candidate judged it, where no key is known; else the key judges'),
})

const ItemNumber = z.number().int().min(1).max(100_000)
const noted = {
  topic: Slug.optional().describe('where what was sat does not say it'),
  rework: Rework.optional(),
  cause: Cause.optional(),
  next: z.string().max(1000, 'at most 1000 characters').optional().describe('what to do the next time'),
  text: z.string().max(4000, 'at most 4000 characters').optional(),
  seconds: z.number().min(0).max(86_400).optional().describe('spent on reviewing it'),
  reviewedOn: PlainDate.optional().describe('the day on which it was done with'),
}

export const CommentText = z.string().trim().min(1, 'write something').max(2000, 'at most 2000 characters')

/** What somebody else, or the candidate, says of an item in its review. */
export const Comment = open({
  id: Uuid,
  by: z.string().max(200).describe('their name'),
  user: Uuid.optional().describe('their account, where it was written'),
  at: z.iso.datetime().optional(),
  text: CommentText,
})

/** What was found in review about one item of something that was sat. There is one for an item, whoever writes in it. */
export const ReviewNote = open({
  attempt: Uuid,
  item: ItemNumber,
  ...noted,
  comments: z.array(Comment).max(200).optional(),
})

/** What people of the same workspace may do with a review that was shared with them. */
export const ShareMode = z.enum(['read', 'comment'])

/** One item of a shared review: as it was sat, what was found, and what is said of it. */
export const SharedItem = z.object({
  item: ItemNumber,
  topic: z.string().describe('its title; empty where nobody knows'),
  group: Slug.optional().describe('where its text stands in the form, with its place there from 0'),
  at: z.number().int().min(0).optional(),
  choices: z.number().int().optional(),
  outcome: z.enum(['right', 'wrong', 'blank']),
  answer: z.string(),
  key: z.string(),
  note: ReviewNote.optional(),
})
/** A review as those see it with whom it was shared. */
export const SharedReview = z.object({
  title: z.string(),
  date: PlainDate.nullable(),
  candidate: z.string().describe('the name'),
  mode: ShareMode,
  form: Form.nullable().describe('with the texts of its items, where they are known'),
  items: z.array(SharedItem),
})

/** A note with a comment in the place of that of its id, or without it where there is no text. */
export function noteCommented(note: ReviewNote, comment: Comment | { id: string; text: null }): ReviewNote {
  const { comments = [], ...rest } = note
  const others = comments.filter(({ id }) => id !== comment.id)
  const now = comment.text === null ? others : [...others, comment as Comment]
  return now.length ? { ...rest, comments: now } : rest
}

/** What is written anew of a note; null takes away. What is not named stays, so that two may write in one note at once. */
export const NoteChanges = z.object({
  topic: noted.topic.nullable(),
  rework: noted.rework.nullable(),
  cause: noted.cause.nullable(),
  next: noted.next.nullable(),
  text: noted.text.nullable(),
  seconds: noted.seconds.nullable(),
  reviewedOn: noted.reviewedOn.nullable(),
})

/** Notes on so many items are kept of one candidate. */
export const mostNotes = 20_000

/** A note with changes written into it. */
export function noteWith(note: ReviewNote, changes: NoteChanges): ReviewNote {
  const changed = Object.entries({ ...note, ...changes })
  return Object.fromEntries(
    changed.filter(([, value]) => value !== null && value !== undefined && value !== ''),
  ) as ReviewNote
}

export type Cause = z.infer<typeof Cause>
export type Rework = z.infer<typeof Rework>
export type ReviewNote = z.infer<typeof ReviewNote>
export type NoteChanges = z.infer<typeof NoteChanges>
export type Comment = z.infer<typeof Comment>
export type ShareMode = z.infer<typeof ShareMode>
export type SharedItem = z.infer<typeof SharedItem>
export type SharedReview = z.infer<typeof SharedReview>
