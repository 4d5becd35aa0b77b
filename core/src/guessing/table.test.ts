import fc from 'fast-check'
import {
  adviceAt,
  type Answers,
  bestGuessing,
  costOf,
  type GuessTable,
  guessTable,
  habitOf,
  mixOdds,
  noDifference,
  randomFrom,
  reaching,
  ruleCost,
  ruleOf,
  sentenceOf,
  situationsOf,
  type TableQuestion,
} from '../index'
import { rawNeeded } from '../index'
import { sectionE, tableE } from '../../test/fixture'

const needed = rawNeeded(sectionE, tableE, 240)!
const questionE: TableQuestion = {
  items: 60,
  perRight: 1,
  perWrong: 1 / 3,
  perBlank: 0,
  sure: 0.97,
  unsure: 1 / 3,
  others: [],
  worth: reaching(needed),
}
const cell = (safe: number, unsure: number) => safe * 61 + unsure

describe('the table', () => {
  const table = guessTable(questionE)
  it('has the worked examples in it', () => {
    for (const [safe, none, all, best, odds] of [
      [40, 0, 0.194, 18, 0.225],
      [44, 0.262, 0.593, 14, 0.659],
      [48, 0.944, 0.937, 2, 0.969],
    ] as const) {
      const at = cell(safe, 60 - safe)
      expect(table.none[at]).toBeCloseTo(none, 3)
      expect(table.all[at]).toBeCloseTo(all, 3)
      expect(table.best[at]).toBe(best)
      expect(table.odds[at]).toBeCloseTo(odds, 3)
    }
    expect(adviceAt(table, 44, 16)).toBe('some')
    expect(adviceAt(table, 30, 10)).toBeUndefined()
  })
  it('agrees in every cell with the curve of that cell alone', () => {
    for (let safe = 20; safe <= 60; safe += 7)
      for (let unsure = 0; safe + unsure <= 60; unsure += 3) {
        const found = bestGuessing({
          safe,
          safeRate: 0.97,
          unsure,
          optionsLeft: 3,
          perRight: 1,
          perWrong: 1 / 3,
          rawNeeded: needed,
        })
        const at = cell(safe, unsure)
        expect(table.odds[at]).toBeCloseTo(found.odds, 10)
        expect(table.none[at]).toBeCloseTo(found.none, 10)
        expect(table.all[at]).toBeCloseTo(found.all, 10)
        expect(table.best[at]).toBe(found.best)
      }
  })
  it('never says less than the better of all and none, and never more with less to reach', () => {
    fc.assert(
      fc.property(
        fc.record({
          items: fc.integer({ min: 1, max: 25 }),
          perWrong: fc.constantFrom(0, 0.25, 1 / 3, 1),
          perBlank: fc.constantFrom(0, 0.2),
          sure: fc.double({ min: 0.5, max: 1, noNaN: true }),
          unsure: fc.double({ min: 0, max: 1, noNaN: true }),
          target: fc.integer({ min: -5, max: 25 }),
        }),
        ({ target, ...own }) => {
          const question = { ...own, perRight: 1, others: [], worth: reaching(target) }
          const harder = guessTable({ ...question, worth: reaching(target + 1) })
          const found = guessTable(question)
          for (let safe = 0; safe <= own.items; safe++)
            for (let unsure = 0; safe + unsure <= own.items; unsure++) {
              const at = safe * found.size + unsure
              expect(found.odds[at]).toBeGreaterThanOrEqual(Math.max(found.none[at]!, found.all[at]!) - 1e-12)
              expect(harder.odds[at]).toBeLessThanOrEqual(found.odds[at]! + 1e-9)
              if (own.perWrong === 0 && own.perBlank === 0)
                expect(found.all[at]).toBeCloseTo(found.odds[at]!, 9)
            }
        },
      ),
      { numRuns: 60 },
    )
  })
})

const answers = (most: number) =>
  fc.record({
    items: fc.integer({ min: 0, max: most }),
    chance: fc.double({ min: 0, max: 1, noNaN: true }),
    perRight: fc.constantFrom(1, 2),
    perWrong: fc.constantFrom(0, 0.25, 1 / 3, 1),
    perBlank: fc.constantFrom(0, 0, 0.2),
  })

/** The chance of the target when some of each kind are answered, over every outcome of every item. */
function bruteForce(
  base: Answers[],
  unsure: Answers[],
  counts: number[],
  worth: (raw: number) => number,
): number {
  const answered = [
    ...base.flatMap((own) => Array.from({ length: own.items }, () => own)),
    ...unsure.flatMap((own, kind) => Array.from({ length: counts[kind]! }, () => own)),
  ]
  const blank = unsure.reduce((sum, own, kind) => sum + (own.items - counts[kind]!) * (own.perBlank ?? 0), 0)
  let odds = 0
  for (let mask = 0; mask < 1 << answered.length; mask++) {
    let [chance, raw] = [1, blank]
    answered.forEach((own, item) => {
      const right = (mask >> item) & 1
      chance *= right ? own.chance : 1 - own.chance
      raw += right ? own.perRight : -own.perWrong
    })
    odds += chance * worth(raw)
  }
  return odds
}

describe('unsure items of several kinds', () => {
  it('agree with brute force over every outcome and every way of sharing out, on small papers', () => {
    fc.assert(
      fc.property(
        fc.array(answers(3), { maxLength: 2 }),
        fc.array(answers(3), { minLength: 1, maxLength: 3 }),
        fc.integer({ min: -3, max: 10 }),
        (base, unsure, target) => {
          const worth = reaching(target)
          const found = mixOdds(base, unsure, worth)
          expect(found.best.odds).toBeCloseTo(bruteForce(base, unsure, found.best.counts, worth), 9)
          let best = 0
          const counts = unsure.map(() => 0)
          for (let way = 0; way < unsure.reduce((product, { items }) => product * (items + 1), 1); way++) {
            let rest = way
            unsure.forEach(({ items }, kind) => {
              counts[kind] = rest % (items + 1)
              rest = Math.floor(rest / (items + 1))
            })
            best = Math.max(best, bruteForce(base, unsure, counts, worth))
          }
          expect(found.best.odds).toBeCloseTo(best, 9)
          const along = unsure.map(() => 0)
          found.order.forEach((kind, at) => {
            along[kind]! += 1
            expect(found.odds[at + 1]).toBeCloseTo(bruteForce(base, unsure, along, worth), 9)
          })
        },
      ),
      { numRuns: 80 },
    )
  })
  it('agree with seeded simulation on a large paper within three standard errors', () => {
    const base = [{ items: 44, chance: 0.96, perRight: 1, perWrong: 1 / 3 }]
    const unsure = [
      { items: 5, chance: 0.55, perRight: 1, perWrong: 1 / 3 },
      { items: 9, chance: 1 / 3, perRight: 1, perWrong: 1 / 3 },
      { items: 2, chance: 0.25, perRight: 1, perWrong: 1 / 3 },
    ]
    const found = mixOdds(base, unsure, reaching(needed))
    const random = randomFrom(8)
    const many = 60_000
    let reached = 0
    for (let paper = 0; paper < many; paper++) {
      let raw = 0
      const sit = (chance: number, items: number) => {
        for (let item = 0; item < items; item++) raw += random() < chance ? 1 : -1 / 3
      }
      sit(0.96, 44)
      unsure.forEach(({ chance }, kind) => sit(chance, found.best.counts[kind]!))
      if (raw >= needed - 1e-9) reached++
    }
    const { odds } = found.best
    expect(Math.abs(reached / many - odds)).toBeLessThan(3 * Math.sqrt((odds * (1 - odds)) / many))
    // Fewest options first, and everything that earns is not the best.
    expect(found.order.slice(0, 5)).toEqual([0, 0, 0, 0, 0])
    expect(found.best.odds).toBeGreaterThanOrEqual(found.earning.odds)
  })
  it('weighs a score by the chance it gives of the whole, where other sections are still to come', () => {
    const unsure = [{ items: 4, chance: 0.4, perRight: 1, perWrong: 1 / 3 }]
    const steep = mixOdds([], unsure, (raw) => Math.min(1, Math.max(0, raw / 4)))
    expect(steep.best.counts).toEqual([4])
    expect(steep.odds[4]).toBeCloseTo(
      bruteForce([], unsure, [4], (raw) => Math.min(1, Math.max(0, raw / 4))),
      12,
    )
  })
})

describe('the rule to remember', () => {
  /** What a rule gives away, cell by cell. */
  const given = (table: GuessTable, flips: number, below: 'answer' | 'leave') => {
    const away: number[] = []
    for (let safe = 0; safe < table.size; safe++)
      for (let unsure = 1; safe + unsure < table.size; unsure++) {
        const at = safe * table.size + unsure
        const answers = safe < flips === (below === 'answer')
        away.push(table.odds[at]! - (answers ? table.all : table.none)[at]!)
      }
    return { most: Math.max(...away), sum: away.reduce((a, b) => a + b, 0) }
  }
  it('is the best of all with two halves, and its cost is what it gives away', () => {
    const random = randomFrom(21)
    for (let paper = 0; paper < 25; paper++) {
      const items = 8 + Math.floor(random() * 25)
      const table = guessTable({
        ...questionE,
        items,
        sure: 0.8 + 0.2 * random(),
        unsure: 0.2 + 0.4 * random(),
        perWrong: random() < 0.5 ? 1 / 3 : 0.25,
        worth: reaching(Math.round(items * random())),
      })
      const rule = ruleOf(table)
      const every = (['answer', 'leave'] as const).flatMap((below) =>
        Array.from({ length: table.size + 1 }, (_, flips) => given(table, flips, below).sum),
      )
      if (!rule) {
        expect(Math.min(...every)).toBeLessThan(noDifference * items * items)
        continue
      }
      const own = given(table, rule.flips, rule.below)
      expect(own.sum).toBeLessThanOrEqual(Math.min(...every) + 1e-6)
      expect(rule.most).toBeCloseTo(own.most, 12)
      expect(rule.average).toBeLessThanOrEqual(rule.most + 1e-12)
    }
  })
  it('is said in two clauses, and what it costs beside it', () => {
    const table = guessTable(questionE)
    const rule = ruleOf(table)!
    expect(sentenceOf(table, rule, 3)).toBe(
      `With three options left: answer them all with fewer than ${rule.flips} safe, leave them blank from ${rule.flips} on.`,
    )
    expect([rule.below, rule.flips]).toEqual(['answer', 46])
    expect(ruleCost(rule)).toMatch(
      /^Kept everywhere it gives away .*% of the chance on average, .*% at worst/,
    )
    expect(sentenceOf(table, { ...rule, flips: 0 }, 2)).toBe('With two options left: leave them blank.')
    expect(sentenceOf(table, { ...rule, flips: 61 }, 2)).toBe('With two options left: answer them all.')
    expect(ruleCost({ ...rule, most: 0, average: 0 })).toBe('It gives nothing away.')
  })
  it('says so when it makes no difference', () => {
    const hopeless = guessTable({ ...questionE, worth: reaching(1000) })
    expect(ruleOf(hopeless)).toBeUndefined()
    expect(sentenceOf(hopeless, undefined, 3, 1 / 9)).toBe(
      'With three options left: the score is out of reach, whatever you do; on average an answer still brings 0.11 marks, so answer them all.',
    )
    expect(sentenceOf(hopeless, undefined, 3, -0.2)).toContain('costs 0.20 marks, so leave them blank')
    const safe = guessTable({ ...questionE, worth: reaching(-1000) })
    expect(sentenceOf(safe, ruleOf(safe), 3)).toContain('is reached')
  })
})

describe('the trainer', () => {
  const tables = new Map([
    [3, guessTable(questionE)],
    [4, guessTable({ ...questionE, unsure: 1 / 4 })],
  ])
  it('asks what matters, the same for the same seed, answering and leaving both', () => {
    const asked = situationsOf(tables, 20, 5)
    expect(asked).toHaveLength(20)
    expect(situationsOf(tables, 20, 5)).toEqual(asked)
    expect(situationsOf(tables, 20, 6)).not.toEqual(asked)
    for (const { answer, leave, odds, best, unsure } of asked) {
      expect(Math.abs(answer - leave)).toBeGreaterThanOrEqual(0.01)
      expect(odds).toBeGreaterThanOrEqual(Math.max(answer, leave) - 1e-12)
      expect(best).toBeLessThanOrEqual(unsure)
    }
    const answering = asked.filter(({ answer, leave }) => answer > leave).length
    expect(answering).toBe(10)
  })
  it('adds up what a habit costs', () => {
    const asked = situationsOf(tables, 20, 5)
    const always = habitOf(asked.map((situation) => ({ situation, answered: true })))
    expect(always.best).toBe(10)
    expect(always.answeredTooOften).toBe(10)
    expect(always.leftTooOften).toBe(0)
    const cost = asked.reduce((sum, one) => sum + costOf(one, true), 0)
    expect(always.cost).toBeCloseTo(cost, 12)
    const well = habitOf(
      asked.map((situation) => ({ situation, answered: situation.answer > situation.leave })),
    )
    expect(well).toMatchObject({ decided: 20, best: 20, cost: 0 })
  })
})
