/** One screen of a candidate: its route, its name, and the key that goes to it after `g`. */
export interface Part {
  name: string
  title: string
  key: string
}
/** One of the five places of a candidate; it opens on its first part. */
export interface Place {
  title: string
  parts: [Part, ...Part[]]
}

export const places: readonly Place[] = [
  { title: 'Today', parts: [{ name: 'today', title: 'Today', key: 't' }] },
  { title: 'Plan', parts: [{ name: 'plan', title: 'Plan', key: 'p' }] },
  {
    title: 'Practise',
    parts: [
      { name: 'sit', title: 'Sit', key: 'i' },
      { name: 'review', title: 'Review', key: 'r' },
      { name: 'recall', title: 'Recall', key: 'c' },
      { name: 'pacing', title: 'Pacing', key: 'a' },
      { name: 'guessing', title: 'Guessing', key: 'n' },
    ],
  },
  {
    title: 'Progress',
    parts: [
      { name: 'scores', title: 'Scores', key: 's' },
      { name: 'tests', title: 'What tests say', key: 'y' },
      { name: 'diagnosis', title: 'Topics', key: 'd' },
      { name: 'gap', title: 'Gap', key: 'w' },
    ],
  },
  { title: 'Exam day', parts: [{ name: 'exam-day', title: 'Exam day', key: 'e' }] },
]
/** Behind the candidate's name. */
export const setUp: Part = { name: 'set-up', title: 'Set-up', key: 'u' }

export const allParts: readonly Part[] = [...places.flatMap(({ parts }) => parts), setUp]

/** The place that a route belongs to; the printed plan to Plan. */
export const placeOf = (route: unknown): Place | undefined =>
  places.find(({ parts }) =>
    parts.some(({ name }) => name === route || (typeof route === 'string' && route.startsWith(`${name}-`))),
  )
