import type { Room } from '@climber/core'

const fractions: [number, string][] = [
  [1, 'a mark'],
  [1 / 2, 'half a mark'],
  [1 / 3, 'a third of a mark'],
  [1 / 4, 'a quarter of a mark'],
  [1 / 5, 'a fifth of a mark'],
]
const marksWords = (marks: number): string =>
  fractions.find(([value]) => Math.abs(value - marks) < 0.005)?.[1] ?? `${Number(marks.toFixed(2))} marks`

/** What to have ready, and what holds in the room, in the order in which it matters. */
export function announced({ setup, parts, form }: Room): string[] {
  const groups = parts.flatMap(({ section }) => section?.groups ?? [])
  const written = groups.some(({ kind }) => kind === 'written')
  const numeric = groups.some(({ kind }) => kind === 'numeric')
  const costs = groups.filter(({ perWrong }) => perWrong > 0)
  const wrong = [...new Set(costs.map(({ perWrong }) => marksWords(perWrong)))]
  const lines = [
    setup.medium === 'paper'
      ? `The paper${form ? `, ${form.title}` : ''}, face down; pencil, rubber, and the watch that you take to the exam.`
      : 'Paper for working, and a pencil.',
    numeric ? 'What the exam lets you calculate with, and nothing else.' : '',
    written ? 'Paper to write the long answers on: they are marked afterwards.' : '',
    wrong.length
      ? `A wrong answer costs ${wrong.join(' or ')}${costs.length < groups.length ? ' in some parts' : ''}.`
      : '',
    setup.strict
      ? 'As in the exam: the clock does not stop. Leave, and it goes on.'
      : 'The clock can be stopped; each stop is written down.',
    'Phone away, door closed, water at hand.',
  ]
  return lines.filter(Boolean)
}
