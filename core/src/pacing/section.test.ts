import fc from 'fast-check'
import { parts, type Section } from '@climber/contract'
import { sectionOf, tableE } from '../../test/fixture'
import { goalWords, inSatOrder, movable, paceSection, readGoal, sectionClocks } from '../index'

const wish = (more: object) => parts.pacing.parse({ sections: { p: more } }).sections['p']!

const group = fc.record({
  items: fc.integer({ min: 1, max: 30 }),
  perRight: fc.constantFrom(1, 2, 5),
  rising: fc.boolean(),
  set: fc.option(
    fc.record({ items: fc.integer({ min: 2, max: 6 }), readingSeconds: fc.integer({ min: 0, max: 90 }) }),
    {
      nil: undefined,
    },
  ),
})
const groupsOf = (groups: (typeof group extends fc.Arbitrary<infer G> ? G : never)[], prefix: string) =>
  groups.map(({ items, perRight, rising, set }, at) => ({
    id: `${prefix}-${at}`,
    kind: 'choice' as const,
    items,
    choices: 4,
    perRight,
    perWrong: 0,
    ...(rising && { difficulty: 'rising' as const }),
    ...(set && set.items <= items && { set }),
  }))
/** Sections of any kind: item sets, marks of different size, rising difficulty, untimed, adaptive. */
const section = fc
  .record({
    groups: fc.array(group, { minLength: 1, maxLength: 4 }),
    stages: fc.option(
      fc.array(fc.array(group, { minLength: 1, maxLength: 2 }), { minLength: 2, maxLength: 3 }),
      {
        nil: undefined,
      },
    ),
    timed: fc.boolean(),
    minutes: fc.integer({ min: 60, max: 240 }),
  })
  .map(({ groups, stages, timed, minutes }): Section => ({
    ...sectionOf('p', 1, minutes, tableE),
    timed,
    groups: groupsOf(groups, 'first'),
    ...(stages && {
      stages: stages.map((own, at) => ({
        id: `stage-${at}`,
        title: `Stage ${at}`,
        from: at * 2,
        groups: groupsOf(own, `stage-${at}`),
        conversion: tableE,
      })),
    }),
  }))

describe('any section', () => {
  it('has whole checkpoints that rise and end on the total, whatever is wished for', () => {
    fc.assert(
      fc.property(
        section,
        fc.integer({ min: 0, max: 8 }),
        fc.constantFrom(1, 1.25, 1.5, 2),
        fc.double({ min: 1, max: 5, noNaN: true }),
        fc.boolean(),
        (own, reserveMinutes, factor, rise, backwards) => {
          const order = backwards ? own.groups.map(({ id }) => id).reverse() : undefined
          const stages = own.stages?.map(({ id }) => id) ?? [undefined]
          const ends = stages.map((stage) => {
            const pace = paceSection(own, wish({ reserveMinutes, rise, order }), factor, stage)
            const paused = pace.pauses.reduce((sum, { seconds }) => sum + seconds, 0)
            const working = Math.round(own.minutes * 60 * factor) - reserveMinutes * 60
            expect(pace.finishBy[pace.finishBy.length - 1]).toBe(working + paused)
            expect(pace.sectionSeconds).toBe(Math.round(own.minutes * 60 * factor) + paused)
            pace.finishBy.forEach((at, item) => {
              expect(Number.isInteger(at)).toBe(true)
              expect(at).toBeGreaterThanOrEqual(item ? pace.finishBy[item - 1]! : 0)
            })
            const seconds = pace.items.reduce((sum, item) => sum + item.seconds + item.reading, 0)
            expect(seconds).toBe(working)
            expect(pace.items.map(({ number }) => number).sort((a, b) => a - b)).toEqual(
              pace.items.map((_, at) => at + 1),
            )
            pace.checkpoints.forEach(({ item, at, left }, place) => {
              expect(at).toBe(pace.finishBy[item - 1])
              expect(at + left).toBe(pace.sectionSeconds)
              if (place) expect(item).toBeGreaterThan(pace.checkpoints[place - 1]!.item)
            })
            return own.stages ? pace.finishBy[pace.firstStage! - 1] : undefined
          })
          // Which second stage comes is not known while the first is sat.
          if (!own.timed) return
          expect(new Set(ends).size).toBe(1)
        },
      ),
      { numRuns: 300 },
    )
  })
  it('drops a round checkpoint beside one where something ends or was wished for', () => {
    const groups = groupsOf(
      [
        { items: 30, perRight: 1, rising: false, set: undefined },
        { items: 20, perRight: 1, rising: false, set: undefined },
      ],
      'g',
    )
    const own: Section = { ...sectionOf('p', 1, 100, tableE), groups }
    const at = (more: object) => paceSection(own, wish(more), 1).checkpoints.map(({ item }) => item)
    expect(at({ every: 8 })).toEqual([8, 16, 24, 30, 40, 50])
    expect(at({ every: 8, goals: [{ kind: 'by', items: 17, minutes: 30 }] })).toEqual([8, 17, 24, 30, 40, 50])
  })
  it('gives marks their share: twice the marks, twice the seconds', () => {
    const own: Section = {
      ...sectionOf('p', 1, 60, tableE),
      groups: groupsOf(
        [
          { items: 10, perRight: 1, rising: false, set: undefined },
          { items: 10, perRight: 2, rising: false, set: undefined },
        ],
        'g',
      ),
    }
    const pace = paceSection(own, wish({}), 1)
    expect(pace.items[0]!.seconds).toBe(120)
    expect(pace.items[10]!.seconds).toBe(240)
    expect(pace.secondsPerMark).toBe(120)
    expect(paceSection(own, wish({ order: ['g-1'] }), 1).items[0]).toMatchObject({ number: 11, seconds: 240 })
  })
  it('takes reading off before the items share the rest, and gives it before the first of each set', () => {
    const own: Section = {
      ...sectionOf('p', 1, 45, tableE),
      groups: groupsOf(
        [{ items: 10, perRight: 1, rising: false, set: { items: 5, readingSeconds: 150 } }],
        'g',
      ),
    }
    const { items, finishBy } = paceSection(own, wish({}), 1)
    expect(items.map(({ reading }) => reading)).toEqual([150, 0, 0, 0, 0, 150, 0, 0, 0, 0])
    expect(finishBy).toEqual([390, 630, 870, 1110, 1350, 1740, 1980, 2220, 2460, 2700])
  })
  it('lets the last of rising items take twice the first, or as wished', () => {
    const own: Section = {
      ...sectionOf('p', 1, 60, tableE),
      groups: groupsOf([{ items: 21, perRight: 1, rising: true, set: undefined }], 'g'),
    }
    const seconds = (rise?: number) => paceSection(own, wish({ rise }), 1).items.map((item) => item.seconds)
    for (const rise of [2, 3]) {
      const [first, last] = [seconds(rise)[0]!, seconds(rise)[20]!]
      expect(last / first).toBeCloseTo(rise, 1)
    }
    expect(seconds()).toEqual(seconds(2))
  })
  it('suggests breaks in an untimed section, never after the last item', () => {
    const own = { ...sectionOf('p', 40, 60, tableE), timed: false }
    const { pauses, finishBy } = paceSection(own, wish({}), 1)
    expect(pauses).toEqual([
      { after: 14, at: 1260, seconds: 120 },
      { after: 28, at: 2640, seconds: 120 },
    ])
    expect(finishBy[39]).toBe(3600 + 240)
    expect(paceSection(own, wish({ pauses: null }), 1).pauses).toEqual([])
  })
})

describe('goals as people say them', () => {
  const ground = { items: 40, sets: [5, 5, 5, 5], startMinute: 9 * 60 + 10 }
  it.each([
    ['the first 22 by half past', { kind: 'by', items: 22, minutes: 20 }],
    ['first 22 by 10:00', { kind: 'by', items: 22, minutes: 50 }],
    ['first twenty-two by quarter to', { kind: 'by', items: 22, minutes: 35 }],
    ['first 20 by 22 minutes', { kind: 'by', items: 20, minutes: 22 }],
    ['half in half an hour', { kind: 'by', items: 20, minutes: 30 }],
    ['four sets at eleven minutes', { kind: 'sets', sets: 4, minutesEach: 11 }],
    ['10 items at 45 s', { kind: 'each', items: 10, seconds: 45 }],
    ['10 items at 1.5 minutes each', { kind: 'each', items: 10, seconds: 90 }],
    ['last 6 in 12 min', { kind: 'last', items: 6, minutes: 12 }],
  ])('%s', (said, goal) => {
    expect(readGoal(said, ground)).toEqual({ goal })
  })
  it.each(['soon', 'first 22 by teatime', 'faster, please'])('%s is refused with a way to say it', (said) => {
    expect(readGoal(said, ground)).toHaveProperty('problem')
  })
  it('a time on the clock needs a start', () => {
    expect(readGoal('first 22 by half past', { items: 40, sets: [] })).toHaveProperty('problem')
  })
  it('what is read is said again and read as the same', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('by', 'each', 'last', 'sets'),
        fc.integer({ min: 2, max: 39 }),
        fc.integer({ min: 2, max: 90 }),
        (kind, items, number) => {
          const goal =
            kind === 'each'
              ? ({ kind, items, seconds: number } as const)
              : kind === 'sets'
                ? ({ kind, sets: items, minutesEach: number } as const)
                : ({ kind, items, minutes: number } as const)
          expect(readGoal(goalWords(goal), ground)).toEqual({ goal })
        },
      ),
    )
  })
  it('are met to the second, and the rest follows', () => {
    const own: Section = {
      ...sectionOf('p', 1, 60, tableE),
      groups: groupsOf(
        [{ items: 20, perRight: 1, rising: false, set: { items: 5, readingSeconds: 60 } }],
        'g',
      ),
    }
    const { finishBy } = paceSection(own, wish({ goals: [{ kind: 'sets', sets: 3, minutesEach: 11 }] }), 1)
    expect([5, 10, 15, 20].map((item) => finishBy[item - 1])).toEqual([660, 1320, 1980, 3600])
  })
})

describe('the clock of exam day', () => {
  const paper = (id: string, minutes: number, more: Partial<Section> = {}): Section => ({
    ...sectionOf(id, 10, minutes, tableE),
    breakAfter: 10,
    ...more,
  })
  const sections = [
    paper('a', 50, { paper: 'Morning', anyOrder: true }),
    paper('b', 40, { paper: 'Morning', anyOrder: true, breakAfter: 75 }),
    paper('c', 60, { paper: 'Afternoon', anyOrder: true }),
  ]
  it('runs through two papers with a gap, accommodations to the second', () => {
    const clocks = sectionClocks({ sections }, 1.25, '09:00')
    expect(clocks.map(({ start, end, gap }) => [start, end, gap])).toEqual([
      [540, 602.5, 10],
      [612.5, 662.5, 75],
      [737.5, 812.5, 0],
    ])
  })
  it('lets sections of one paper change places, breaks staying where they are', () => {
    expect(inSatOrder(sections, ['c', 'b', 'a']).map(({ id }) => id)).toEqual(['b', 'a', 'c'])
    expect(sectionClocks({ sections }, 1, '09:00', ['b', 'a']).map(({ start }) => start)).toEqual([
      540, 590, 715,
    ])
    expect(sections.map((_, at) => movable(sections, at))).toEqual([true, true, false])
  })
})
