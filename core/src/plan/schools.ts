import type { Settings } from '@climber/contract'

/** A way to prepare, as the settings in which it differs from the defaults, with its reason in a line. */
export interface School {
  id: string
  title: string
  about: string
  settings: Partial<Settings>
}

/** The schools that can be compared and taken; the first is the default. docs/models.md says where they disagree. */
export const schools: School[] = [
  {
    id: 'lead-time',
    title: 'By lead time',
    about: 'Tests as often as review keeps up, topics by what an hour yields.',
    settings: {},
  },
  {
    id: 'read-first',
    title: 'Read first, test late',
    about: 'The first test after a first read; tests only near the end.',
    settings: { schools: { firstTest: 'after the first read', tests: 'near the end' } },
  },
  {
    id: 'few-then-often',
    title: 'Few tests, then every third day',
    about: 'Concepts first; then tests close together, each reworked the next day.',
    settings: { schools: { tests: 'few, then often' }, reviewRatio: 1 },
  },
  {
    id: 'weekly',
    title: 'A test every week',
    about: 'The same rhythm throughout: one timed test a week with its review.',
    settings: { schools: { tests: 'weekly' } },
  },
  {
    id: 'weakest',
    title: 'Weakest topics first',
    about: 'What is known least comes first, whatever an hour there yields.',
    settings: { schools: { order: 'weakest' } },
  },
  {
    id: 'easiest',
    title: 'The easiest section to lift',
    about: 'Most hours go where the score moves soonest; misses only are reviewed.',
    settings: { schools: { order: 'easiest section', review: 'misses' }, reviewRatio: 0.5 },
  },
  {
    id: 'book-order',
    title: 'The book, in order',
    about: 'Chapters as they come, each with its questions; short review.',
    settings: { schools: { order: 'book' }, reviewRatio: 1 },
  },
  {
    id: 'section-weeks',
    title: 'A section a week',
    about: 'Whole weeks on one subject, so that it is learned in one stretch.',
    settings: { schools: { subjects: 'a section a week' } },
  },
  {
    id: 'rehearse-at-28-14',
    title: 'Two full rehearsals',
    about: 'A rehearsal four weeks before and again two weeks before; little testing else.',
    settings: { schools: { tests: 'near the end' }, rehearsals: [28, 14] },
  },
]
