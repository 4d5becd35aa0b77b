import fc from 'fast-check'
import highs from 'highs'
import { randomFrom } from '../exact/random'
import { allocate, allocateWithCuts, type CutGroup, knownAfter, type Learnable, yieldOf } from '../index'

const randomTopics = (seed: number, count: number): Learnable[] => {
  const random = randomFrom(seed)
  return Array.from({ length: count }, () => ({
    value: random() < 0.05 ? 0 : 50 * random(),
    known: random() < 0.05 ? 1 : random(),
    tau: 0.5 + 40 * random(),
  }))
}

describe('allocation by its optimality conditions (Karush-Kuhn-Tucker)', () => {
  it('is optimal within 1e-9 on random problems of 3 to 400 topics', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 400 }),
        fc.integer({ min: 0, max: 1e9 }),
        fc.double({ min: 0.1, max: 5000, noNaN: true }),
        (count, seed, hours) => {
          const topics = randomTopics(seed, count)
          const found = allocate(topics, hours)
          expect(Math.abs(found.hours.reduce((a, b) => a + b, 0) - hours)).toBeLessThan(
            1e-9 * Math.max(1, hours),
          )
          topics.forEach((topic, at) => {
            const slope = yieldOf({ ...topic, known: knownAfter(topic, found.hours[at]!) })
            const scale = Math.max(1, yieldOf(topic))
            if (found.hours[at]! > 0) expect(Math.abs(slope - found.marginal)).toBeLessThan(1e-9 * scale)
            else expect(slope - found.marginal).toBeLessThanOrEqual(1e-9 * scale)
          })
        },
      ),
      { numRuns: 300 },
    )
  })
})

/**
 * The same problem as a linear programme on a fine piecewise-linear copy: each topic's gain is cut into slices of falling
 * slope, so the best slices are taken in order by themselves.
 */
function programme(
  topics: Learnable[],
  hours: number,
  groups: { topics: number[]; least: number }[],
): string {
  const slices = 240
  const name = (topic: number, slice: number) => `h${topic}_${slice}`
  const gain = topics.map((topic) => {
    const most = Math.min(hours, 12 * topic.tau)
    const width = most / slices
    return {
      width,
      known: Array.from(
        { length: slices },
        (_, at) => (knownAfter(topic, (at + 1) * width) - knownAfter(topic, at * width)) / width,
      ),
    }
  })
  const terms = (of: (topic: number, slice: number) => number, which = topics.map((_, at) => at)) =>
    which
      .flatMap((topic) =>
        gain[topic]!.known.map((_, slice) => `${of(topic, slice).toFixed(12)} ${name(topic, slice)}`),
      )
      .join(' + ')
  return [
    'Maximize',
    ` obj: ${terms((topic, slice) => topics[topic]!.value * gain[topic]!.known[slice]!)}`,
    'Subject To',
    ` time: ${terms(() => 1)} <= ${hours}`,
    ...groups.map(
      ({ topics: own, least }, at) =>
        ` cut${at}: ${terms((topic, slice) => gain[topic]!.known[slice]!, own)} >= ${least}`,
    ),
    'Bounds',
    ...topics.flatMap((_, topic) =>
      gain[topic]!.known.map((__, slice) => ` 0 <= ${name(topic, slice)} <= ${gain[topic]!.width}`),
    ),
    'End',
  ].join('\n')
}

describe('allocation with section cuts, against a linear programme solved by HiGHS', () => {
  it('is within 0.1 per cent of its optimum, and meets the same cuts', async () => {
    const solver = await highs()
    let bound = 0
    for (let seed = 1; seed <= 14; seed++) {
      const random = randomFrom(seed)
      const topics = randomTopics(seed, 6 + Math.floor(10 * random())).map((topic) => ({
        ...topic,
        known: 0.8 * topic.known,
      }))
      const hours = 30 + 120 * random()
      const half = Math.floor(topics.length / 2)
      const sections = [topics.map((_, at) => at).slice(0, half), topics.map((_, at) => at).slice(half)]
      const free = allocate(topics, hours)
      // Cuts a little above what the unhindered optimum gives one section, so that they bind where they can be met.
      const cuts: CutGroup[] = sections.map((own, at) => {
        const sum = own.reduce((total, topic) => total + knownAfter(topics[topic]!, free.hours[topic]!), 0)
        return {
          topics: own,
          cut: at === 0 ? sum + 0.04 * own.length * random() : 0.9 * sum,
          expected: (known) => known.reduce((a, b) => a + b, 0),
          // A section's own scale may weigh its topics otherwise than the composite does: here all alike.
          lift: own.map(() => 1),
        }
      })
      const found = allocateWithCuts(topics, hours, cuts)
      const start = (own: number[]) => own.reduce((sum, at) => sum + topics[at]!.known, 0)
      const answer = solver.solve(
        programme(
          topics,
          hours,
          cuts.map((one) => ({ topics: one.topics, least: one.cut - start(one.topics) })),
        ),
      )
      const base = topics.reduce((sum, topic) => sum + topic.value * topic.known, 0)
      if (answer.Status !== 'Optimal') {
        expect(found.missed.length).toBeGreaterThan(0)
        continue
      }
      expect(found.missed).toEqual([])
      if (found.weights.some((weight) => weight > 1)) bound += 1
      const optimum = base + answer.ObjectiveValue
      expect(found.points).toBeGreaterThan(optimum * (1 - 1e-3))
      expect(found.points).toBeLessThan(optimum * (1 + 1e-3))
    }
    expect(bound).toBeGreaterThan(5)
  })
})
