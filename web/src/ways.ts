import type { LocationQueryRaw } from 'vue-router'
import type { Command } from './commands'

/** What lies behind a candidate's screens, by its name: the parts of each, and what is done there. */
const ways: readonly (readonly [title: string, of: string, name: string, query?: LocationQueryRaw])[] = [
  ['Log a test', 'Scores', 'scores', { log: '1' }],
  ['Re-plan', 'Plan', 'plan', { replan: 'mend' }],
  ['Make the plan again', 'Plan', 'plan', { replan: 'anew' }],
  ['Print the plan', 'Plan', 'plan-print'],
  ['Pace card', 'Exam day', 'card'],
  ['When to leave an item', 'Pacing', 'pacing', { view: 'leave' }],
  ['Ways through a section, compared', 'Pacing', 'pacing', { view: 'compare' }],
  ['Pacing drill', 'Pacing', 'pacing', { view: 'drill' }],
  ['Guessing trainer', 'Guessing', 'guessing', { view: 'trainer' }],
  ['Notebook', 'Review', 'review', { part: 'notebook' }],
  ['Causes over tests', 'Review', 'review', { part: 'causes' }],
  ['Cards', 'Recall', 'recall', { part: 'cards' }],
  ['Cards until the exam', 'Recall', 'recall', { part: 'season' }],
  ['Missed items, tried again', 'Review', 'review-again'],
  ['Notebook on paper', 'Review', 'review-notebook'],
  ['Questions with changed numbers on paper', 'Recall', 'recall-print'],
  ['Set-up in short', 'Set-up', 'set-up', { step: 'short' }],
  ['The exam and its sitting', 'Set-up', 'set-up', { step: 'exam' }],
  ['Where you stand', 'Set-up', 'set-up', { step: 'baseline' }],
  ['Target', 'Set-up', 'set-up', { step: 'target' }],
  ['Free time', 'Set-up', 'set-up', { step: 'time' }],
  ['Materials', 'Set-up', 'set-up', { step: 'materials' }],
  ['How you work', 'Set-up', 'set-up', { step: 'habits' }],
]

/** Screens that offer their own while they are open. */
const offering = new Set<unknown>(['plan', 'scores'])

/** All of them but those that the open screen offers itself. */
export const waysOf = (candidateId: string, here: unknown): Command[] =>
  ways.flatMap(([title, of, name, query]) =>
    name === here && offering.has(here)
      ? []
      : [{ title, of, to: { name, params: { candidateId }, ...(query && { query }) } }],
  )
