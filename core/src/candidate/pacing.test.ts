import { type ExamFormat, type ItemResponse, parts, Attempt, type SimulationRequest } from '@climber/contract'
import { exams, now, record } from '../../test/shipped'
import {
  aimsOf,
  asSat,
  assess,
  type CandidateRecord,
  groundsOf,
  guessAdvice,
  guessMix,
  leaveWords,
  paceCards,
  pacingView,
  randomFrom,
  reliabilityOf,
  simulation,
  tracesOf,
  usualAim,
} from '../index'

const named = (title: string): ExamFormat => exams.find(([own]) => own.includes(title))![1]
const timber = named('Timber')
const archive = named('Archive')
const garden = named('Garden')
const pilotage = named('Pilot')

function finish(of: CandidateRecord, request: SimulationRequest) {
  const run = simulation(of, now, request)
  let step = run.next()
  const shares: number[] = []
  for (; !step.done; step = run.next()) shares.push(step.value)
  return { result: step.value, shares }
}

describe.each(exams)('%s', (_, exam) => {
  const own = record(exam, 0.6)
  it.each(exam.sections.map(({ id }) => id))(
    '%s: mu fills the time within a second, and passes follow each other',
    (id) => {
      const view = pacingView(own, now, id)
      expect(view.problem).toBeUndefined()
      expect(view.classes.reduce((sum, { count }) => sum + count, 0)).toBe(view.pace!.items.length)
      if (view.mu > 0 && !view.stages.length) expect(Math.abs(view.expected - view.available)).toBeLessThan(1)
      else expect(view.expected).toBeLessThan(view.available + 1)
      for (const { p, median, rule } of view.classes) {
        expect(p).toBeGreaterThan(0)
        expect(median).toBeGreaterThan(0)
        expect(rule.seconds).toBeGreaterThanOrEqual(0)
      }
      view.passes.forEach(({ from, to }, at) => {
        expect(to).toBeGreaterThan(from)
        if (at) expect(from).toBeGreaterThanOrEqual(view.passes[at - 1]!.to - 1e-6)
        expect(to).toBeLessThanOrEqual(view.pace!.workingSeconds + 1)
      })
    },
  )
  it('gets extra time to the second in every section, for every accommodation', () => {
    for (const granted of exam.accommodations ?? []) {
      const settings = parts.settings.parse({ accommodation: granted.id })
      for (const section of exam.sections) {
        const view = pacingView({ ...own, settings }, now, section.id)
        const factor = granted.sections?.[section.id] ?? granted.timeFactor
        const paused = view.pace!.pauses.reduce((sum, { seconds }) => sum + seconds, 0)
        expect(view.pace!.sectionSeconds - paused).toBe(Math.round(section.minutes * 60 * factor))
        expect(view.granted).toBeCloseTo(factor, 9)
      }
    }
  })
  it('has a card for each section, on the clock, with every rule', () => {
    const cards = paceCards(own, now, 'Somebody')
    expect(cards.cards.map(({ section }) => section)).toEqual(exam.sections.map(({ id }) => id))
    cards.cards.forEach((card, at) => {
      expect(card.checkpoints.length).toBeGreaterThan(0)
      expect(card.checkpoints.length).toBeLessThanOrEqual(12)
      expect(card.passes.length).toBeGreaterThan(0)
      expect(card.leave.length).toBeGreaterThan(0)
      expect(card.guess.length).toBeGreaterThan(0)
      const last = card.checkpoints[card.checkpoints.length - 1]!
      expect(last.item).toBe(card.items)
      // Checkpoints and passes are of one way through: the first ends where the last checkpoint stands, the rest before what is kept back.
      const [first, ...rest] = card.passes
      if (card.firstTime) expect(first).toContain(`First time through, to ${last.clock!.slice(0, 5)}:`)
      expect(rest.join()).not.toContain('the end of the time')
      const clocks = card.checkpoints.map(({ clock }) => clock!)
      expect([...clocks].sort()).toEqual(clocks)
      for (const rule of card.leave)
        if (rule.includes('weak topics')) expect(rule).toMatch(/weak topics \(\S.*\)/)
      if (at) expect(card.start! >= cards.cards[at - 1]!.end!).toBe(true)
    })
  })
  it('simulates every section, the same again for the same seed, nothing better than the best found', () => {
    for (const section of exam.sections) {
      const request = { section: section.id, sittings: 1500, seed: 5, asOf: 'today' } as const
      const { result, shares } = finish(own, request)
      expect(shares).toEqual([...shares].sort((a, b) => a - b))
      expect(result.approaches.map(({ id }) => id)).toEqual([
        'straight',
        'even',
        'fixed',
        'leave',
        'two',
        'three',
        'best',
      ])
      for (const approach of result.approaches) {
        expect(approach.scores.reduce((sum, [, share]) => sum + share, 0)).toBeCloseTo(1, 9)
        expect(approach.odds).toBeGreaterThanOrEqual(0)
        expect(approach.odds).toBeLessThanOrEqual(1)
        expect(approach.used).toBeLessThanOrEqual(result.seconds + 1)
      }
      const marks = (id: string) => result.approaches.find((one) => one.id === id)!.marks
      const most = Math.max(...result.approaches.map((one) => one.marks))
      expect(marks('best')).toBeGreaterThan(most * 0.99)
      expect(result.orders.length === 0).toBe(section.groups.length < 2)
    }
    const request = { section: exam.sections[0]!.id, sittings: 500, seed: 5, asOf: 'exam' } as const
    expect(finish(own, request).result).toEqual(finish(own, request).result)
  }, 120_000)
})

describe('guessing on the exams that ship', () => {
  it('weighs where an answer has a price, and says the plain thing where it has none', () => {
    const kinds = (exam: ExamFormat) =>
      groundsOf(record(exam, 0.6), now).map(({ group, plain }) => [group.id, Boolean(plain)])
    expect(kinds(pilotage)).toEqual([
      ['streams-items', false],
      ['passage-items', false],
      ['signals-items', false],
    ])
    expect(kinds(timber)).toEqual([
      ['survey-identify', false],
      ['survey-reports', true],
      ['measuring-values', true],
      ['judgement-short', true],
      ['judgement-cases', true],
    ])
    // A blank that earns something is a price too.
    expect(Object.fromEntries(kinds(archive))['hands-items']).toBe(false)
    expect(kinds(garden).filter(([, plain]) => !plain)).toEqual([['names-items', false]])
  })
  it('what if: nothing gets likelier with a higher target, a stricter table, or less reliable answers', () => {
    const [ground] = groundsOf(record(pilotage, 0.6), now)
    const question = { aim: ground!.usual, left: 3, sure: 0.95 }
    const base = guessAdvice(ground!, question).table.odds
    for (const harder of [
      { ...question, aim: { kind: 'score' as const, scaled: ground!.usual.scaled + 5 } },
      { ...question, stricter: 1 },
      { ...question, sure: 0.9 },
    ])
      guessAdvice(ground!, harder).table.odds.forEach((odds, cell) =>
        expect(odds).toBeLessThanOrEqual(base[cell]! + 1e-9),
      )
  })
  it('a mixture with one kind only is the cell of the table', () => {
    for (const ground of groundsOf(record(timber, 0.7), now).filter(({ plain }) => !plain)) {
      const question = { aim: ground.usual, left: 3 }
      const { table } = guessAdvice(ground, question)
      for (const [safe, unsure] of [
        [10, 8],
        [18, 6],
        [22, 8],
      ] as const) {
        const mix = guessMix(ground, question, { safe, unsure: [{ left: 3, items: unsure }] })
        const cell = safe * table.size + unsure
        expect(mix.best.odds).toBeCloseTo(table.odds[cell]!, 9)
        expect(mix.odds[unsure]).toBeCloseTo(table.all[cell]!, 9)
      }
    }
  })
  it('aims at what the target asks of a section, never under its cut, and at its forecast where that is beyond its scale', () => {
    const asked = { section: 'x', low: 0, high: 100, step: 5, ahead: 62, share: 71.2, cut: 60 }
    expect(usualAim(asked).scaled).toBe(70)
    expect(usualAim({ ...asked, cut: 80 }).scaled).toBe(80)
    expect(usualAim({ ...asked, share: 130 }).scaled).toBe(60)
    expect(usualAim({ ...asked, share: undefined, cut: undefined }).scaled).toBe(60)
  })
  it('the whole target weighs a section by what the others are forecast to bring', () => {
    const own = record(pilotage, 0.6)
    const aims = aimsOf(assess(own, now))
    for (const aim of aims) {
      expect(aim.whole!.target).toBe(own.target.scaled)
      expect(aim.whole!.othersSd).toBeGreaterThan(0)
      // What the target asks of a section is what is missing when the others come out as forecast.
      expect(aim.share! * aim.whole!.weight + aim.whole!.others).toBeCloseTo(aim.whole!.least, 6)
    }
    const [ground] = groundsOf(own, now)
    const { table } = guessAdvice(ground!, { aim: { kind: 'whole' }, left: 3 })
    const cell = 30 * table.size
    expect(table.none[cell]).toBeGreaterThan(0)
    expect(table.none[cell]).toBeLessThan(1)
  })
})

/** A test of the pilotage exam: every item timed, answered at a rate, slow ones wrong. */
function timed(seed: number, sureRate: number): Attempt {
  const random = randomFrom(seed)
  const { sections } = pilotage
  const groups = sections.flatMap((section) => section.groups)
  const responses = groups.flatMap((group) =>
    Array.from({ length: group.items }, (): Omit<ItemResponse, 'item'> => {
      const sure = random() < 0.6
      const right = random() < (sure ? sureRate : 0.4)
      const seconds = sure ? 25 + Math.round(30 * random()) : 60 + Math.round(120 * random())
      return { answer: right ? 'A' : 'B', key: 'A', seconds, confidence: sure ? 'sure' : 'between two' }
    }),
  )
  return {
    id: '5f0c9a00-0000-4000-8000-0000000000aa',
    kind: 'practice',
    date: '2030-01-12',
    source: 'publisher',
    seen: false,
    counts: { groups: {}, topics: {} },
    items: responses.map((response, at) => ({ ...response, item: at + 1 })),
  }
}

describe('the record', () => {
  const before = record(pilotage, 0.6)
  const own = { ...before, attempts: [...before.attempts, timed(3, 0.9)] }
  it('gives one trace for each section that was timed, and what obeying the leave times would have gained', () => {
    const traces = tracesOf(own)
    expect(traces.map(({ section }) => section)).toEqual(pilotage.sections.map(({ id }) => id))
    for (const { id } of pilotage.sections) {
      const [line] = pacingView(own, now, id).traces
      const spent = traces.find(({ section }) => section === id)!.items
      expect(line!.points[line!.points.length - 1]!.at).toBe(
        spent.reduce((sum, { seconds }) => sum + seconds, 0),
      )
      const { saved, forgone, marks } = line!.obeying
      const { mu } = pacingView(own, now, id)
      expect(marks).toBeCloseTo(saved * mu - forgone, 9)
    }
  })
  it('moves the classes towards the own times, and more so with more of them', () => {
    const before = pacingView(record(pilotage, 0.6), now, 'signals').classes[0]!
    const after = pacingView(own, now, 'signals').classes[0]!
    expect(before.items).toBe(0)
    expect(after.median).not.toBeCloseTo(before.median, 0)
    const drills = [1, 2, 3].map((n) =>
      Attempt.parse({
        id: `5f0c9a00-0000-4000-8000-00000000000${n}`,
        kind: 'drill',
        date: '2030-01-13',
        scope: { sections: ['signals'], groups: ['signals-items'] },
        budgetSeconds: 40,
        items: Array.from({ length: 12 }, (_, at) => ({
          item: at + 1,
          seconds: 20,
          right: true,
          topic: 'lights',
        })),
      }),
    )
    const attempts = [...own.attempts, ...drills]
    const drilled = pacingView({ ...own, attempts }, now, 'signals').classes
    expect(Math.min(...drilled.map(({ median }) => median))).toBeLessThan(after.median)
  })
  it('measures how far certainty can be trusted, shrunk, unless the candidate sets it', () => {
    const { sure, betweenTwo } = reliabilityOf(own)
    expect(sure.answers).toBeGreaterThan(50)
    expect(sure.rate).toBeCloseTo((sure.right + 9.5) / (sure.answers + 10), 12)
    expect(betweenTwo.rate).toBeLessThan(0.5)
    const guessing = parts.guessing.parse({ sure: 0.8 })
    expect(reliabilityOf({ ...own, guessing }).sure).toMatchObject({ rate: 0.8, set: true })
    expect(reliabilityOf(record(pilotage, 0.6)).sure.rate).toBe(0.95)
  })
})

describe('wishes that do not fit', () => {
  it.each([
    ['reserveMinutes', { reserveMinutes: 70 }],
    ['goals.0.minutes', { goals: [{ kind: 'by', items: 20, minutes: 200 }] }],
  ])('are named at %s and leave the rest of the screen standing', (field, wish) => {
    const pacing = parts.pacing.parse({ sections: { streams: wish } })
    const own = { ...record(pilotage, 0.6), pacing }
    const view = pacingView(own, now, 'streams')
    expect(view.problem!.field).toBe(field)
    expect(view.clock).toBeDefined()
    const cards = paceCards(own, now, 'Somebody').cards
    expect(cards[0]!.problem).toBe(view.problem!.message)
    expect(cards[1]!.problem).toBeUndefined()
  })
})

describe('in words', () => {
  it('the card tells parts that differ apart, and says once what holds for all', () => {
    const [survey, measuring] = paceCards(record(timber, 0.6), now, 'Somebody').cards
    expect(survey!.guess.filter((rule) => rule.startsWith('Part 1. With'))).toHaveLength(2)
    expect(survey!.guess.filter((rule) => rule.startsWith('Part 2. Nothing is taken off'))).toHaveLength(1)
    expect(measuring!.guess).toHaveLength(1)
    expect(measuring!.guess[0]).toMatch(/^Numbers cannot be guessed/)
  })
  it('an item is left after its time, at once, or never in a hurry', () => {
    const [line] = pacingView(record(pilotage, 0.6), now, 'signals').classes
    const rule = { ...line!.rule, seconds: 67.8, started: line!.count }
    expect(leaveWords({ ...line!, rule, unhurried: false })).toBe('leave after 1:07')
    expect(leaveWords({ ...line!, rule: { ...rule, started: 0 }, unhurried: false })).toContain('at once')
    expect(leaveWords({ ...line!, rule, unhurried: true })).toContain('until it is done')
  })
  it('the second half of an exam sat in another order has the clock of that order', () => {
    const { exam } = asSat(
      { ...timber, sections: timber.sections.map((own) => ({ ...own, anyOrder: true })) },
      {
        timeFactor: 1,
      },
    )
    const pacing = parts.pacing.parse({ order: ['measuring', 'survey'] })
    const cards = paceCards({ ...record(exam, 0.6), pacing }, now, 'Somebody').cards
    expect(cards.map(({ section }) => section)).toEqual(['measuring', 'survey', 'judgement'])
    expect(cards[1]!.start! > cards[0]!.start!).toBe(true)
  })
})
