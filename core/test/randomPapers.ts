import { type PacedPaper, randomFrom } from '../src/index'

/** Invented papers of one to five kinds of items, in which time is short by any amount. */
export function randomPaper(seed: number): PacedPaper {
  const random = randomFrom(seed)
  const kinds = 1 + Math.floor(random() * 5)
  const classes = Array.from({ length: kinds }, () => ({
    p: 0.1 + 0.87 * random(),
    median: 20 + 130 * random(),
    s: 0.3 + 0.4 * random(),
    marks: random() < 0.6 ? 1 : 1 + Math.floor(random() * 3),
    wrong: 0,
    blank: 0,
    guess: 0,
  }))
  const n = 20 + Math.floor(random() * 80)
  const of = Array.from({ length: n }, () => Math.floor(random() * kinds))
  const needed = of.reduce((sum, kind) => {
    const { p, median } = classes[kind]!
    return sum + median * (1.13 * p + 2 * (1 - p))
  }, 0)
  return {
    paper: {
      classes,
      first: {
        of,
        reading: of.map(() => 0),
        setStart: of.map((_, at) => at),
        until: needed * (0.35 + 0.65 * random()),
      },
    },
    worth: classes.map(({ marks }) => marks),
  }
}
