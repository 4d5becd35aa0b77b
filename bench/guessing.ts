import { guessTable, mixOdds, reaching } from '@climber/core'
import { time } from './shared/candidate'
import { table } from './table'

const rows = [30, 60, 120].map((items) => {
  const question = {
    items,
    perRight: 1,
    perWrong: 1 / 3,
    perBlank: 0,
    sure: 0.95,
    unsure: 1 / 3,
    worth: reaching(items * 0.7),
  }
  const alone = time(() => guessTable({ ...question, others: [] }))
  const beside = time(() =>
    guessTable({ ...question, others: [{ items: 20, chance: 0.7, perRight: 1, perWrong: 0 }] }),
  )
  const mixed = time(() =>
    mixOdds(
      [{ items: Math.round(items * 0.6), chance: 0.95, perRight: 1, perWrong: 1 / 3 }],
      [2, 3, 4].map((left) => ({
        items: Math.round(items / 10),
        chance: 1 / left,
        perRight: 1,
        perWrong: 1 / 3,
      })),
      reaching(items * 0.7),
    ),
  )
  return [items, ((items + 1) * (items + 2)) / 2, alone.toFixed(1), beside.toFixed(1), mixed.toFixed(1)]
})
table(
  'The table of guessing, exact (median of 9)',
  ['items', 'cells', 'ms', 'ms beside 20 other items', 'ms for one paper, three kinds of doubt'],
  rows,
)
