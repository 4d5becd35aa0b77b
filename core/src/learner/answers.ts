import type { Attempt, ExamFormat, Materials, Ratings, Recalled } from '@climber/contract'
import { examOfAttempt, formOf, isBaseline, sourceOf } from '../attempts/sat'
import { square } from '../exact/functions'
import { dayNumber, type DayNumber } from '../time/day'
import { halvings, newestBaseline } from './ageing'
import {
  answered,
  type Answers,
  type Cell,
  type Known,
  knownOf,
  ofTopic,
  scaled,
  tally,
  weights,
} from './cells'
import { ofMemory } from './fromMemory'
import { ofPaper } from './paperCells'
import { type Measured, prior } from './prior'

/** Cells of a set, a drill or a retest, by the topics that it counts. */
const ofLoose = (known: Known, { kind, counts }: Attempt): Cell[] =>
  Object.entries(counts.topics).flatMap(([id, own]): Cell[] => {
    const at = known.topicAt.get(id)
    if (at === undefined) return []
    const cell = scaled(
      { ...ofTopic(known, at), ...tally(own), easier: 0 },
      kind === 'retest' ? weights.met : weights.picked,
    )
    return answered(cell) > 0 ? [cell] : []
  })

/** Who wrote a paper, where that was not the publisher: of the exam itself nobody else, of a baseline only where that is said. */
export function makerOf(
  exam: ExamFormat,
  attempt: Pick<Attempt, 'kind' | 'form' | 'source' | 'maker'>,
  materials?: Materials,
): string | undefined {
  const source = isBaseline(attempt)
    ? (attempt.source ?? formOf(exam, attempt)?.source)
    : sourceOf(exam, attempt, materials)
  return attempt.kind !== 'exam' && source === 'other' ? (attempt.maker ?? 'other') : undefined
}

/** What an exam's attempts say, besides the attempts themselves. */
export interface Told {
  exam: ExamFormat
  attempts: readonly Attempt[]
  ratings: Ratings
  recalled: Recalled
  materials?: Materials
  /** By how much the questions of a form are known to be easier than the exam's, as the logarithm of their odds. */
  easier?: ReadonlyMap<string, number>
  today: DayNumber
}

/**
 * Everything that was answered, oldest first: papers and parts of them at the finest grain that is known, sets, drills, retests, and what
 * was brought back from memory. A form that had been sat before says nothing, and what has no date was sat before all else.
 */
export function answersOf({ exam, attempts, ratings, recalled, materials, easier, today }: Told): Answers[] {
  const known = knownOf(exam)
  const dated = attempts.filter(
    // Items that are tried again were seen, of course: that is what their weight says.
    ({ seen, kind, date }) => (!seen || kind === 'retest') && (!date || dayNumber(date) <= today),
  )
  const days = dated.flatMap(({ date }) => (date ? [dayNumber(date)] : []))
  const [first, newest] = [Math.min(today, ...days), Math.max(...days, -Infinity)]
  const baseline = newestBaseline(dated)
  const variance = square(prior.day.sd)
  const sat = dated.flatMap((attempt): Answers[] => {
    const own = examOfAttempt(exam, attempt)
    const day = attempt.date ? dayNumber(attempt.date) : first
    const { cells, reached } = own
      ? ofPaper(known, attempt, own)
      : { cells: ofLoose(known, attempt), reached: [] }
    if (!cells.length && !reached.length) return []
    const ageing = isBaseline(attempt) ? prior.ageing * halvings(day, baseline, ratings.halfWeightDays) : 0
    const eased = attempt.form === undefined ? 0 : (easier?.get(attempt.form) ?? 0)
    const maker = own && makerOf(exam, attempt, materials)
    return [
      {
        day,
        ...(maker !== undefined && { maker }),
        of: own ? 'tests' : attempt.kind === 'retest' ? 'retests' : 'sets and drills',
        variance: own ? variance + ageing + prior.walk * Math.max(0, newest - day) : 0,
        cells: eased ? cells.map((cell) => ({ ...cell, easier: cell.easier + eased })) : cells,
        reached,
      },
    ]
  })
  return [...sat, ...ofMemory(known, recalled, today)].sort((a, b) => a.day - b.day)
}

/** Which parts of the exam some answers measure by themselves. */
export function measuredBy(exam: ExamFormat, answers: Answers[]): Measured {
  const sections = new Set<string>()
  let whole = false
  for (const { cells, variance } of answers)
    if (variance > 0)
      for (const { section } of cells)
        if (section === undefined) whole = true
        else sections.add(exam.sections[section]!.id)
  return { sections, whole }
}
