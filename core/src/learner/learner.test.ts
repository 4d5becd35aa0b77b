import fc from 'fast-check'
import { type Attempt, parts, type PlanSession, Ratings } from '@climber/contract'
import { learnerOf, on, paper, tinyExam } from '../../test/tiny'
import { dateOf, type Estimate, estimateOf, type Learner, quantile, weightedMean } from '../index'
import { logit } from '../exact/functions'
import { successes } from './paper'
import { prior } from './prior'
import { workOf } from './work'

const one = tinyExam([40], 1)
/** What is known today of a topic, and of the first if none is named. */
const knownOf = (learner: Learner, topic = 0, day = on): Estimate => {
  const [exposure] = learner.exposures([day])
  return estimateOf(learner.known(exposure!)[topic]!, learner.weights)
}
const meansOf = (learner: Learner): number[] => {
  const [exposure] = learner.exposures([on])
  return learner.known(exposure!).map((own) => weightedMean(own, learner.weights))
}
const scoreOf = (learner: Learner, day = on) => {
  const [exposure] = learner.exposures([day])
  return learner.scores(exposure!)
}

/** The same by brute force, over a grid of the level, the day and the blanks; shares no code with the learner. */
function byGrid(right: number, wrong: number, blank: number): { mean: number; sd: number; blanks: number } {
  const share = (x: number) => 1 / (1 + Math.exp(-x))
  const wide = Math.sqrt(0.9 ** 2 + 0.45 ** 2 + 0.75 ** 2)
  const day = Math.sqrt(prior.day.sd ** 2 + prior.day.section ** 2)
  let [all, first, second, left] = [0, 0, 0, 0]
  for (let i = -60; i <= 60; i++)
    for (let j = -8; j <= 8; j++)
      for (let l = -30; l <= 30; l++) {
        const [z, d, b] = [i / 15, j / 2.5, l / 7.5]
        const known = share(prior.general.mean + wide * z)
        const then = share(prior.general.mean + wide * z + day * d)
        const blanks = share(prior.blanks.mean + prior.blanks.sd * b)
        const missed = 1 - then
        const weight = Math.exp(
          -(z * z + d * d + b * b) / 2 +
            right * Math.log(then + (missed * (1 - blanks)) / 4) +
            wrong * Math.log(missed * (1 - blanks) * 0.75) +
            blank * Math.log(missed * blanks),
        )
        all += weight
        first += weight * known
        second += weight * known * known
        left += weight * blanks
      }
  const mean = first / all
  return { mean, sd: Math.sqrt(second / all - mean * mean), blanks: left / all }
}

describe('against brute force', () => {
  const told: string[] = []
  afterAll(() => console.log(`right/wrong/left, share known and its stated error\n${told.join('\n')}`))
  it.each([
    [6, 0, 0],
    [0, 6, 0],
    [3, 3, 0],
    [2, 3, 1],
    [20, 0, 20],
    [20, 20, 0],
    [30, 10, 0],
    [12, 28, 0],
    [40, 0, 0],
  ])(
    '%d right, %d wrong, %d left: the same within the error of so many candidates',
    (right, wrong, blank) => {
      const learner = learnerOf(one, [paper({ g0: [right, wrong, blank] })])
      const exact = byGrid(right, wrong, blank)
      const { mean, sd } = knownOf(learner)
      // The standard error of a mean of as many as they are worth.
      const error = exact.sd / Math.sqrt(learner.candidates.effective)
      told.push(
        `${[right, wrong, blank].join('/')}: ${mean.toFixed(4)} ± ${error.toFixed(4)}, exactly ${exact.mean.toFixed(4)}; spread ${sd.toFixed(4)}, exactly ${exact.sd.toFixed(4)}`,
      )
      expect(Math.abs(mean - exact.mean)).toBeLessThan(1.5 * error)
      expect(Math.abs(sd - exact.sd)).toBeLessThan(2 * error)
      expect(Math.abs(weightedMean(learner.candidates.blanks, learner.weights) - exact.blanks)).toBeLessThan(
        0.02,
      )
    },
  )
})

describe('by hand', () => {
  it('of 40 items 20 right and 20 left blank: half is known', () => {
    expect(knownOf(learnerOf(one, [paper({ g0: [20, 0, 20] })])).mean).toBeCloseTo(0.5, 1)
  })
  it('a paper of six items is more uncertain than one of sixty', () => {
    const wide = (items: number) => {
      const exam = tinyExam([items], 1)
      const { low, high } = estimateOf(
        scoreOf(learnerOf(exam, [paper({ g0: [items / 2, items / 2] })])).composite,
        learnerOf(exam, []).weights,
      )
      return high - low
    }
    expect(wide(6)).toBeGreaterThan(wide(60) * 1.3)
  })
  it('rating everything "strong" changes a measured total by nothing, and one topic only sets it against the others', () => {
    const exam = tinyExam([45, 45], 3)
    const sat = paper({ g0: [30, 15], g1: [22, 23] })
    const rated = (topics: Record<string, string>) =>
      learnerOf(exam, [sat], { ratings: Ratings.parse({ topics }) })
    const all = Object.fromEntries(exam.topics.map(({ id }) => [id, 'strong']))
    const none = scoreOf(rated({})).composite
    expect(scoreOf(rated(all)).composite).toEqual(none)
    const mean = (learner: Learner) => weightedMean(scoreOf(learner).composite, learner.weights)
    const missing = rated({ 't0-0': 'not-covered' })
    expect(Math.abs(mean(missing) - mean(rated({})))).toBeLessThan(2)
    expect(meansOf(missing)[0]!).toBeLessThan(meansOf(missing)[1]! - 0.3)
  })
  it('a rating speaks where nothing was measured', () => {
    const rated = (word: string) =>
      meansOf(learnerOf(one, [], { ratings: Ratings.parse({ topics: { 't0-0': word } }) }))[0]!
    expect(rated('strong')).toBeGreaterThan(rated('covered'))
    expect(rated('covered')).toBeGreaterThan(rated('fair'))
    expect(rated('fair')).toBeGreaterThan(rated('weak'))
    expect(rated('not-covered')).toBeLessThan(0.15)
  })
  it('the range of somebody who knows everything stops at the top of the scale', () => {
    const learner = learnerOf(one, [paper({ g0: [40, 0] }), paper({ g0: [40, 0] }, { kind: 'practice' }, 1)])
    const { low, high } = estimateOf(scoreOf(learner).composite, learner.weights)
    expect(high).toBeLessThanOrEqual(100)
    expect(low).toBeGreaterThan(80)
  })
  it('not reached tells of reach, never of knowledge', () => {
    const short = learnerOf(one, [paper({ g0: [18, 12, 10, 10] })])
    const whole = learnerOf(tinyExam([30], 1), [paper({ g0: [18, 12] })])
    expect(knownOf(short).mean).toBeCloseTo(knownOf(whole).mean, 2)
    expect(weightedMean(short.candidates.paces[0]!, short.weights)).toBeLessThan(-0.15)
    // Somebody who did not get to the end will not without practice; tests teach it.
    const [now, later] = short.exposures([on, on + 30])
    const mean = (timed: number) =>
      weightedMean(short.scores({ ...later!, timed }).composite, short.weights) -
      weightedMean(short.scores(now!).composite, short.weights)
    expect(mean(6)).toBeGreaterThan(6)
  })
  it('where several makers run differently, each has its own', () => {
    const exam = tinyExam([60], 1)
    const sat = [
      paper({ g0: [30, 30] }),
      paper({ g0: [20, 40] }, { kind: 'practice', source: 'other', date: '2031-03-04' }, 1),
      {
        ...paper({ g0: [33, 27] }, { kind: 'practice', source: 'other', date: '2031-03-04' }, 2),
        maker: 'kind',
      },
    ]
    const { candidates, weights } = learnerOf(exam, sat)
    const of = (maker: string) => weightedMean(candidates.makers.get(maker)!, weights)
    expect(of('other')).toBeLessThan(of('kind') - 0.2)
  })
})

const few = fc.tuple(fc.integer({ min: 0, max: 12 }), fc.integer({ min: 0, max: 12 }))
const exam = tinyExam([24, 24], 3)
const sat = (answers: [number, number][]): Attempt =>
  paper({}, { topics: Object.fromEntries(exam.topics.map(({ id }, at) => [id, answers[at]!])) })

describe('laws', () => {
  const answers = fc.array(few, { minLength: 6, maxLength: 6 })
  it('more right answers of a topic never lower it', () => {
    fc.assert(
      fc.property(answers, fc.nat(5), fc.boolean(), (all, topic, instead) => {
        const [right, wrong] = all[topic]!
        const better = [...all]
        better[topic] = instead && wrong ? [right + 1, wrong - 1] : [right + 1, wrong]
        const [before, after] = [all, better].map((own) => meansOf(learnerOf(exam, [sat(own)]))[topic]!)
        expect(after!).toBeGreaterThan(before! - 1e-3)
      }),
      { numRuns: 60 },
    )
  })
  it('the order in which papers are written down does not matter, and the same is the same to the digit', () => {
    fc.assert(
      fc.property(answers, answers, (first, second) => {
        const papers = [
          { ...sat(first), date: '2031-02-01' },
          { ...sat(second), id: '00000000-0000-4000-8000-000000000001', kind: 'practice' as const },
        ]
        const [a, b] = [papers, [...papers].reverse()].map((own) => scoreOf(learnerOf(exam, own)))
        expect(a!.composite).toEqual(b!.composite)
      }),
      { numRuns: 20 },
    )
  })
  it('odds never rise with a higher target, and scores stay on their scales', () => {
    fc.assert(
      fc.property(answers, (all) => {
        const learner = learnerOf(exam, [sat(all)])
        const { composite, sections } = scoreOf(learner)
        let before = 1
        for (let target = 0; target <= 101; target += 5) {
          const odds = learner.share((at) => composite[at]! >= target)
          expect(odds).toBeLessThanOrEqual(before)
          before = odds
        }
        for (const own of [composite, ...sections]) {
          expect(Math.min(...own)).toBeGreaterThanOrEqual(0)
          expect(Math.max(...own)).toBeLessThanOrEqual(100)
        }
      }),
      { numRuns: 10 },
    )
  })
  it('whatever is believed beforehand more widely leaves nothing more certain', () => {
    const widths = (all: [number, number][]) => {
      const { candidates, weights } = learnerOf(exam, [sat(all)])
      // On the scale on which the beliefs are: a share near 0 or 1 is certain whatever one believes.
      return candidates.old.map((own) => estimateOf(own.map(logit), weights).sd)
    }
    const parts = [prior.general, prior.section, prior.topic] as { sd: number }[]
    fc.assert(
      fc.property(answers, fc.nat(2), fc.double({ min: 1.1, max: 2, noNaN: true }), (all, at, wider) => {
        const part = parts[at]!
        const before = widths(all)
        const usual = part.sd
        part.sd = usual * wider
        try {
          widths(all).forEach((width, topic) => expect(width).toBeGreaterThan(0.97 * before[topic]!))
        } finally {
          part.sd = usual
        }
      }),
      { numRuns: 25 },
    )
  })
  it('what is told twice counts once: totals beside their topics, and a whole beside its parts', () => {
    fc.assert(
      fc.property(answers, (all) => {
        const topics = Object.fromEntries(exam.topics.map(({ id }, at) => [id, all[at]!]))
        const total = (from: number): [number, number] => [
          all.slice(from, from + 3).reduce((sum, [right]) => sum + right, 0),
          all.slice(from, from + 3).reduce((sum, [, wrong]) => sum + wrong, 0),
        ]
        const bare = learnerOf(exam, [paper({}, { topics })])
        const both = learnerOf(exam, [paper({ g0: total(0), g1: total(3) }, { topics })])
        exam.topics.forEach((_, at) => {
          const [own, again] = [knownOf(bare, at), knownOf(both, at)]
          expect(Math.abs(again.mean - own.mean)).toBeLessThan(0.015)
          // Counted twice, its range would be a third narrower or so.
          expect(Math.abs(again.sd / own.sd - 1)).toBeLessThan(0.1)
        })
      }),
      { numRuns: 15 },
    )
  })
  it('a second paper narrows what is known, and an old one says less than a new one', () => {
    const papers = (date: string) => [
      paper({ g0: [12, 12], g1: [12, 12] }),
      paper({ g0: [18, 6], g1: [18, 6] }, { kind: 'earlier', date }, 1),
    ]
    const of = (attempts: Attempt[]) => {
      const learner = learnerOf(exam, attempts)
      return estimateOf(scoreOf(learner).composite, learner.weights)
    }
    const [alone, fresh, old] = [
      of(papers('2031-03-01').slice(0, 1)),
      of(papers('2031-03-01')),
      of(papers('2029-03-01')),
    ]
    expect(fresh.sd).toBeLessThan(alone.sd)
    expect(fresh.mean).toBeGreaterThan(old.mean)
    expect(old.mean).toBeGreaterThan(alone.mean - 0.5)
  })
  it('study before a newer paper is in it already: what that paper shows is what is known', () => {
    const session = (date: string): PlanSession => ({
      id: date,
      kind: 'learn',
      date,
      start: '18:00',
      minutes: 45,
      status: 'done',
      pinned: false,
      topics: ['t0-0'],
    })
    const work = Array.from({ length: 10 }, (_, at) => session(dateOf(on - 40 + 3 * at)))
    const papers = [
      paper({ g0: [6, 18], g1: [12, 12] }, { date: dateOf(on - 50), topics: { 't0-0': [2, 6] } }),
      paper(
        { g0: [5, 19], g1: [12, 12] },
        { kind: 'practice', date: dateOf(on - 1), topics: { 't0-0': [5, 19] } },
        1,
      ),
    ]
    const [studied, without] = [work, []].map((done) => knownOf(learnerOf(exam, papers, { done })))
    const unseen = knownOf(learnerOf(exam, papers.slice(0, 1), { done: work })).mean
    expect(unseen).toBeGreaterThan(without!.mean + 0.25)
    expect(studied!.mean).toBeLessThan(unseen - 0.12)
  })
  it('what is tried again tells though it was seen, a form sat again does not', () => {
    const papers = [paper({ g0: [12, 12], g1: [12, 12] })]
    const again = paper({}, { kind: 'retest', topics: { 't0-0': [6, 0] } }, 1)
    const form = paper({ g0: [24, 0], g1: [24, 0] }, { kind: 'practice' }, 1)
    const [none] = meansOf(learnerOf(exam, papers))
    expect(meansOf(learnerOf(exam, [...papers, { ...again, seen: true }]))[0]!).toBeGreaterThan(none! + 0.02)
    expect(meansOf(learnerOf(exam, [...papers, { ...form, seen: true }]))[0]!).toBe(none!)
  })
  it('work raises its topic and leaves the others; sitting the same test again today adds nothing by itself', () => {
    const learner = learnerOf(exam, [sat(exam.topics.map(() => [4, 4]))])
    const planned: PlanSession = {
      id: 'a',
      kind: 'learn',
      date: dateOf(on),
      start: '18:00',
      minutes: 90,
      status: 'planned',
      pinned: false,
      topics: ['t0-1'],
    }
    const ahead = workOf(exam, [planned], on, true)
    const [none] = learner.exposures([on + 1])
    const [after] = learner.exposures([on + 1], ahead)
    const [before, then] = [none!, after!].map((exposure) =>
      learner.known(exposure).map((own) => weightedMean(own, learner.weights)),
    )
    before!.forEach((known, at) =>
      at === 1 ? expect(then![at]!).toBeGreaterThan(known + 0.05) : expect(then![at]!).toBe(known),
    )
    const half = learner.known(after!, { kept: new Float64Array(learner.size).fill(0.5) })
    expect(weightedMean(half[1]!, learner.weights)).toBeLessThan(then![1]!)
  })
})

describe('estimates', () => {
  it('weigh what they are made of', () => {
    const values = Float64Array.from([1, 2, 3, 4])
    expect(weightedMean(values, Float64Array.from([1, 1, 1, 1]))).toBe(2.5)
    expect(weightedMean(values, Float64Array.from([0, 0, 0, 4]))).toBe(4)
    expect(quantile(values, Float64Array.from([1, 1, 1, 1]), 0.5)).toBe(2.5)
    expect(estimateOf(values, Float64Array.from([2, 0, 0, 2]))).toMatchObject({ mean: 2.5, sd: 1.5 })
  })
  it('numbers of successes have the mean and the spread of their distribution, and are never outside it', () => {
    for (const [n, p] of [
      [10, 0.3],
      [60, 0.97],
      [2000, 0.4],
    ] as const) {
      const drawn = Array.from({ length: 4000 }, (_, at) => successes((at + 0.5) / 4000, n, p))
      const mean = drawn.reduce((a, b) => a + b, 0) / 4000
      const variance = drawn.reduce((sum, k) => sum + (k - mean) ** 2, 0) / 4000
      expect(mean).toBeCloseTo(n * p, n > 1000 ? 0 : 1)
      expect(variance / (n * p * (1 - p))).toBeCloseTo(1, 1)
      expect(Math.min(...drawn)).toBeGreaterThanOrEqual(0)
      expect(Math.max(...drawn)).toBeLessThanOrEqual(n)
    }
    expect([successes(0.3, 10, 0), successes(0.3, 10, 1), successes(0.9, 0, 0.5)]).toEqual([0, 10, 0])
  })
  it('work of a kind the planner does not know of counts for nothing', () => {
    expect(parts.settings.parse({}).topicHours).toEqual({})
    const errand: PlanSession = {
      id: 'e',
      kind: 'errand',
      date: dateOf(on),
      start: '09:00',
      minutes: 60,
      status: 'done',
      pinned: false,
    }
    expect(workOf(exam, [errand], on, true)).toEqual([])
  })
})
