import type { ReadItem } from './item'

/** What changing answers brought: first answer against last. */
export interface Changed {
  toRight: ReadItem[]
  toWrong: ReadItem[]
  /** From one wrong answer to another, or back to where it began. */
  neither: ReadItem[]
  /** Items won less items lost. */
  net: number
  /** Marks won less marks lost. */
  marks: number
  /** Chance of as uneven a split, or more, where a change helps as often as it harms. */
  p: number
}

const choose = (n: number, k: number): number => {
  let ways = 1
  for (let at = 1; at <= k; at++) ways = (ways * (n - k + at)) / at
  return ways
}

/** Two-sided sign test: exact for up to a thousand changes. */
export function signTest(a: number, b: number): number {
  const n = a + b
  if (n === 0) return 1
  const most = Math.max(a, b)
  let tail = 0
  let half = 1
  for (let at = 0; at < n; at++) half /= 2
  for (let k = most; k <= n; k++) tail += choose(n, k) * half
  return Math.min(1, 2 * tail)
}

const same = (a: string, b: string): boolean => a.trim().toUpperCase() === b.trim().toUpperCase()

/** Changed answers of one test or of several. An item left blank in the end, or not to be judged by a key, is none. */
export function changedAnswers(items: readonly ReadItem[]): Changed {
  const toRight: ReadItem[] = []
  const toWrong: ReadItem[] = []
  const neither: ReadItem[] = []
  for (const item of items) {
    const given = item.changes.filter(Boolean)
    const [first] = given
    if (first === undefined || given.length < 2 || !item.key || item.outcome === 'blank') continue
    const was = same(first, item.key)
    const is = item.outcome === 'right'
    if (was === is) neither.push(item)
    else (is ? toRight : toWrong).push(item)
  }
  const worth = (own: readonly ReadItem[]) =>
    own.reduce((sum, { marks, perWrong }) => sum + marks + perWrong, 0)
  return {
    toRight,
    toWrong,
    neither,
    net: toRight.length - toWrong.length,
    marks: worth(toRight) - worth(toWrong),
    p: signTest(toRight.length, toWrong.length),
  }
}
