import type { Cause, RemedyAim, Schools } from '@climber/contract'
import { causeTitle, type Look, type Notebook, type placesOf, type ReviewItem } from '@climber/core'
import { spanWords } from '../../manners/words'

export const lookWords: Record<Look, string> = {
  wrong: 'wrong',
  blank: 'left blank',
  lucky: 'right without being sure',
  slow: 'over twice its time',
  changed: 'changed from right',
  every: 'right',
}

/** What each cause leads to, in a line. */
export const remedyWords: Record<Cause, string> = {
  content: 'Hours on this topic, and its chapter again.',
  misread: 'A set read slowly: what is asked, before the options.',
  overthought: 'A set at first instinct: answer, mark the doubt, do not go back.',
  question: 'A set read slowly: say what is asked in your own words.',
  careless: 'A checking set: each item worked through twice.',
  time: 'A pace drill, leaving each item when its time is up.',
  guess: 'Hours on this topic: a guess is a gap.',
  sound: 'Nothing to mend.',
}

export const aimWords: Record<RemedyAim, string> = {
  again: 'Read again',
  reading: 'Slow-reading set',
  'first instinct': 'First-instinct set',
  checking: 'Checking set',
  pace: 'Pace drill',
}

/** What the answers against the clock and without one say together. */
export function bothTimes({ outcome }: Pick<ReviewItem, 'outcome'>, right: boolean | undefined): string {
  if (right === undefined) return ''
  if (outcome === 'right') return right ? 'Right both times.' : 'Right only against the clock: luck.'
  return right ? 'Right without the clock: it was pressure, not content.' : 'Wrong both times: content.'
}

/** Seconds of an item against its budget. */
export const timeWords = ({ seconds, budget }: Pick<ReviewItem, 'seconds' | 'budget'>): string =>
  seconds === undefined ? '' : `${spanWords(seconds)} where ${spanWords(budget)} were due`

/** What came of an item met again: `missed again on Tue 9 Mar`. */
export const againWords = ({ again }: Pick<ReviewItem, 'again'>, day: (date: string) => string): string => {
  const last = again[again.length - 1]
  if (!last) return ''
  return last.right ? `Right again on ${day(last.date)}.` : `Missed again on ${day(last.date)}.`
}

/** Where a topic is treated: book, chapter and pages. */
export const placeWords = ({ book, chapter, from, to }: ReturnType<typeof placesOf>[number]): string =>
  `${book}, ${chapter}${from ? `, pages ${from} to ${to}` : ''}`

/** Items of the notebook with a cause, or with any, in which all these words are to be found. */
export function notesFound(
  noted: Notebook['noted'],
  { words, cause }: { words: string; cause: string },
  titles: ReadonlyMap<string, string>,
  way: Schools['mistakes'],
): Notebook['noted'] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean)
  return noted.filter(({ topic, title, item, note }) => {
    if (cause && note?.cause !== cause) return false
    const named = note?.cause && causeTitle(note.cause, way)
    const text = [titles.get(topic ?? '') ?? 'No topic', named, title, `item ${item}`, note?.next, note?.text]
    const own = text.filter(Boolean).join(' ').toLowerCase()
    return wanted.every((word) => own.includes(word))
  })
}
