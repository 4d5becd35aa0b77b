import type { Attempt, Counts, ExamFormat, Form } from '@climber/contract'
import { filledGroups } from '../scoring/fill'
import { scoreOfCounts, type PaperScore } from '../scoring/paperScore'
import { formOf, isPractice } from './sat'

/** A whole paper that was sat, with its scores. */
export interface ScoredTest {
  test: Attempt & { date: string }
  form?: Form
  score: PaperScore
  /** By item group; shares of a total where nothing finer is known. */
  counts: Record<string, Counts>
}

/** Scores of all practice tests, oldest first; those with nothing known of a section are left out. */
export const scoredTests = (exam: ExamFormat, attempts: Attempt[]): ScoredTest[] =>
  attempts
    .filter(isPractice)
    .flatMap((test): ScoredTest[] => {
      const { date } = test
      const form = formOf(exam, test)
      const score = scoreOfCounts(exam, test.counts, form)
      return score && date !== undefined
        ? [{ test: { ...test, date }, form, score, counts: filledGroups(exam, test.counts).groups }]
        : []
    })
    .sort((a, b) => a.test.date.localeCompare(b.test.date) || a.test.id.localeCompare(b.test.id))
