import { bent, fixed, type Got, type Kept, plain, power, season, slowed, traces } from '../core/test/memories'
import { freshDeck, remember } from '../core/src/recall/deck'
import { ordinary } from '../core/src/recall/memory'
import { queueOf } from '../core/src/recall/queue'
import { median, table } from './table'

/** What comes back on the exam day from ten minutes a day, on memories of other kinds than the queue believes in. */
const seeds = Array.from({ length: Number(process.env.CLIMBER_TRIES ?? 4) }, (_, at) => at + 1)
const memories: [string, (cards: number, seed: number) => Kept][] = [
  ['traces', traces],
  ['power law', power(0.45)],
  ['power law, slow to learn', power(0.25)],
  ['no use of space', slowed],
]
const mean = (all: Got[], of: (got: Got) => number) =>
  (all.reduce((sum, got) => sum + of(got), 0) / all.length).toFixed(0)
const rows: string[][] = []
for (const [name, make] of memories)
  for (const [days, cards] of [
    [30, 300],
    [90, 600],
    [300, 1500],
  ] as const) {
    const course = { cards, days, minutes: 10 }
    const row = [name, String(days), String(cards)]
    for (const clerk of [plain, fixed, bent]) {
      const all = seeds.map((seed) => season(make(cards, seed), course, clerk(course), 100 + seed))
      row.push(`${mean(all, (got) => got.recalled)} (${mean(all, (got) => got.minutes)} min)`)
    }
    rows.push(row)
  }
table(
  `Cards that come back on the exam day, 10 minutes a day, mean of ${seeds.length} candidates`,
  ['memory', 'days', 'cards', 'FSRS at .9', 'fixed intervals', 'bent to the day'],
  rows,
)

// The queue of a day from a large deck: before the last days, and in them, where every card is weighed.
const deck = freshDeck(20_000)
for (let card = 0; card < 18_000; card++)
  remember(deck, card, { stability: 1 + (card % 90), difficulty: 1 + (card % 9), day: -(card % 60) })
const policy = { retention: 0.85, sweep: 14, fresh: 20 }
const timed = (left: number): string[] => {
  const times = Array.from({ length: 15 }, () => {
    const before = performance.now()
    queueOf(deck, 1, left, policy, 3600, ordinary)
    return performance.now() - before
  })
  return [left > policy.sweep ? 'before the last days' : 'in the last days', `${median(times).toFixed(0)} ms`]
}
table('The queue of a day, 20,000 cards, median of 15', ['when', 'takes'], [timed(90), timed(7)])
