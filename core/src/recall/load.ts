import type { Recalled, Settings } from '@climber/contract'

/** Minutes a day for what must come back from memory, unless chosen otherwise. */
const usualMinutes = 15
export const recallMinutes = ({ recall }: Pick<Settings, 'recall'>): number => recall?.minutes ?? usualMinutes

/** As many times the seconds of one answer a card takes in all until the exam; found by playing decks of 60 to 300 new cards. */
const timesInAll = 12

/**
 * Minutes a day that a deck asks for in the days left until the exam, at most `most`: what was begun as often as it is due now and once in
 * the last days, but no more than it takes in all, and what was not begun spread over them. An estimate for the planner, which has no deck; the season plays it.
 */
export function minutesADay({ daily, begun, unbegun }: Recalled['load'], left: number, most: number): number {
  const days = Math.max(1, left)
  const again = Math.min(daily + begun / days, (timesInAll * begun) / days)
  const seconds = again + (timesInAll * unbegun) / days
  return Math.min(most, seconds / 60)
}
