import fc from 'fast-check'
import { Attempt, ExamFormat, isDropped, RoomEvent, RoomSetup } from '@climber/contract'
import { gardenExam } from '../../test/fixture'
import { randomFrom } from '../exact/random'
import { timed } from './clock'
import { shareOfSet } from '../exam/set'
import { partsGranted, partsOf } from './parts'
import { attemptOf, responsesOf } from './outcome'
import { roomAt, type Room } from './state'

const id = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`
const wallAt = 1_900_000_000_000

/** A page that stamps what happens on it, by clocks that the test sets. */
class Page {
  private n = 0
  constructor(
    readonly life: string,
    readonly device: string,
    /** True milliseconds at which it was opened; what its wall clock is wrong by. */
    readonly opened: number,
    public wrong = 0,
    public asleep = 0,
  ) {}
  event(trueTime: number, deed: object): RoomEvent {
    return RoomEvent.parse({
      n: this.n++,
      life: this.life,
      at: Math.round(trueTime - this.opened - this.asleep),
      wall: Math.round(wallAt + trueTime + this.wrong),
      ...deed,
    })
  }
  enter = (at: number) => this.event(at, { kind: 'enter', device: this.device })
  clock = (at: number, within = 20) =>
    this.event(at + within / 2, { kind: 'clock', server: Math.round(wallAt + at), within })
}
const secondsOf = (events: RoomEvent[], kind: RoomEvent['kind']) =>
  timed(events)
    .events.filter(({ event }) => event.kind === kind)
    .map(({ seconds }) => seconds)

describe('the clock of a room', () => {
  it('is the page’s own where nothing happens to it', () => {
    const page = new Page(id(1), 'a', 0)
    const events = [page.enter(0), page.event(1000, { kind: 'begin' }), page.event(61_500, { kind: 'close' })]
    expect(secondsOf(events, 'close')).toEqual([60.5])
  })
  it('does not heed a device whose clock is set', () => {
    const page = new Page(id(1), 'a', 0)
    const before = [page.enter(0), page.clock(500), page.event(1000, { kind: 'begin' })]
    page.wrong = 3_600_000
    const after = [page.event(61_000, { kind: 'close' })]
    expect(secondsOf([...before, ...after], 'close')).toEqual([60])
  })
  it('goes on while a page is closed, and while a device sleeps', () => {
    const page = new Page(id(1), 'a', 0)
    const first = [page.enter(0), page.event(1000, { kind: 'begin' })]
    const again = new Page(id(2), 'a', 301_000)
    expect(
      secondsOf([...first, again.enter(301_000), again.event(302_000, { kind: 'close' })], 'close'),
    ).toEqual([301])
    const asleep = [page.clock(2000)]
    page.asleep = 120_000
    asleep.push(page.clock(130_000), page.event(131_000, { kind: 'close' }))
    expect(secondsOf([...first, ...asleep], 'close')[0]).toBeCloseTo(130, 1)
  })
  it('is as near as the bounds of all answers say, however long some took', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 10, max: 1000 }), fc.double({ min: 0, max: 1, noNaN: true })), {
          minLength: 1,
          maxLength: 12,
        }),
        (answers) => {
          const page = new Page(id(1), 'phone', 0, 5000)
          const events = [page.enter(0), page.event(100, { kind: 'begin' })]
          let [least, most] = [-Infinity, Infinity]
          answers.forEach(([within, share], at) => {
            const asked = 1000 + at * 2000
            const server = Math.round(wallAt + asked + share * within)
            events.push(page.event(asked + within, { kind: 'clock', server, within }))
            least = Math.max(least, server - wallAt - asked - within)
            most = Math.min(most, server - wallAt - asked)
          })
          const off = timed(events).began - wallAt - 100
          expect(off).toBeGreaterThanOrEqual(least - 1)
          expect(off).toBeLessThanOrEqual(most + 1)
          expect(Math.abs(off - (least + most) / 2)).toBeLessThanOrEqual(1)
        },
      ),
    )
  })
  it('is not drawn along by answers that come while it stands still a little at a time', () => {
    const page = new Page(id(1), 'phone', 0)
    const events = [
      page.enter(0),
      page.event(0, { kind: 'begin' }),
      page.event(1000, { kind: 'go', item: 1 }),
      page.clock(2000, 700),
    ]
    // The page's clock says 2350 all the while.
    for (const [at, within] of [
      [2600, 480],
      [3000, 200],
      [3300, 0],
      [3700, 0],
    ] as const) {
      page.asleep = at + within / 2 - 2350
      events.push(page.clock(at, within))
    }
    expect(secondsOf(events, 'go')[0]).toBeCloseTo(1, 1)
    expect(Math.abs(timed(events).began - wallAt)).toBeLessThan(400)
  })
  it('hears of a sleep from a server that takes seconds to answer, and better from the next', () => {
    const page = new Page(id(1), 'phone', 0)
    const events = [page.enter(0), page.event(0, { kind: 'begin' }), page.clock(1000, 100)]
    page.asleep = 60_000
    // Asked at 62, answered at 65.5, of which the first half second went there.
    events.push(page.event(65_500, { kind: 'clock', server: wallAt + 62_500, within: 3500 }))
    const close = page.event(70_000, { kind: 'close' })
    const [coarse] = secondsOf([...events, close], 'close')
    expect(Math.abs(coarse! - 70)).toBeLessThan(3.5 / 2)
    expect(secondsOf([...events, close, page.clock(72_000, 100)], 'close')[0]).toBeCloseTo(70, 1)
  })
  it('puts a sleep where it was noticed, however much later the server tells of it', () => {
    const page = new Page(id(1), 'phone', 0)
    const events = [page.enter(0), page.event(0, { kind: 'begin' }), page.clock(1000, 100)]
    page.asleep = 4000
    events.push(page.event(9000, { kind: 'slept', milliseconds: 0, sure: false }))
    events.push(page.event(12_000, { kind: 'go', item: 1 }), page.clock(30_000, 100))
    expect(secondsOf(events, 'go')[0]).toBeCloseTo(12, 1)
  })
  it('believes of a sleep before the server’s first answer what was noted', () => {
    const page = new Page(id(1), 'phone', 0)
    const events = [
      page.enter(0),
      page.event(0, { kind: 'begin' }),
      page.event(2000, { kind: 'go', item: 1 }),
    ]
    page.asleep = 4000
    events.push(page.event(9000, { kind: 'slept', milliseconds: 4000, sure: false }))
    events.push(page.clock(10_000, 100), page.event(12_000, { kind: 'close' }))
    expect(secondsOf(events, 'go')[0]).toBeCloseTo(2, 1)
    expect(secondsOf(events, 'close')[0]).toBeCloseTo(12, 1)
    expect(Math.abs(timed(events).began - wallAt)).toBeLessThan(100)
  })
  it('finds a sleep before the server’s first answer by what the device’s clock was worth on an earlier page', () => {
    const earlier = new Page(id(1), 'phone', 0, 90_000)
    const events = [earlier.enter(0), earlier.event(0, { kind: 'begin' }), earlier.clock(1000, 100)]
    const page = new Page(id(2), 'phone', 5000, 90_000)
    events.push(page.enter(5000), page.event(6000, { kind: 'go', item: 1 }))
    // It sleeps, and its clock is set, before anything is heard.
    page.wrong = 1_700_000
    events.push(page.event(7000, { kind: 'slept', milliseconds: 0, sure: false }))
    const between = page.event(7500, { kind: 'leave', item: 1 })
    page.asleep = 4000
    events.push(between, page.event(12_000, { kind: 'slept', milliseconds: 4100, sure: false }))
    events.push(page.clock(13_000, 100))
    events.push(page.event(15_000, { kind: 'close' }))
    expect(secondsOf(events, 'go')[0]).toBeCloseTo(6, 1)
    expect(secondsOf(events, 'leave')[0]).toBeCloseTo(7.5, 1)
    expect(secondsOf(events, 'close')[0]).toBeCloseTo(15, 1)
  })
  it('is not moved by slow answers while nothing is slept', () => {
    const page = new Page(id(1), 'phone', 0)
    const events = [page.enter(0), page.event(0, { kind: 'begin' }), page.clock(1000, 100)]
    for (const [asked, within, share] of [
      [3000, 3900, 0.02],
      [9000, 2500, 0.97],
    ] as const)
      events.push(
        page.event(asked + within, {
          kind: 'clock',
          server: Math.round(wallAt + asked + share * within),
          within,
        }),
      )
    expect(secondsOf([...events, page.event(20_000, { kind: 'close' })], 'close')[0]).toBeCloseTo(20, 1)
  })
  it('is as if nothing had happened but time where it was thrown away and kept after all', () => {
    const page = new Page(id(1), 'a', 0)
    const events = [page.enter(0), page.clock(500), page.event(1000, { kind: 'begin' })]
    const other = (n: number, kind: string, at: number) => new Page(id(n), 'a', at).event(at, { kind })
    const thrown = [...events, other(2, 'drop', 31_000)]
    const kept = [...thrown, other(3, 'keep', 61_000)]
    const later = page.event(91_000, { kind: 'close' })
    expect(isDropped(thrown)).toBe(true)
    expect(isDropped(kept)).toBe(false)
    expect(timed([...kept, later]).events.map(({ event }) => event.kind)).toEqual(
      timed([...events, later]).events.map(({ event }) => event.kind),
    )
    expect(secondsOf([...kept, later], 'close')).toEqual([90])
    expect(isDropped([...kept, other(4, 'drop', 99_000)])).toBe(true)
  })
  it('is right in the end about what was taken for sleep and was none', () => {
    const page = new Page(id(1), 'a', 0)
    const events = [page.enter(0), page.clock(100), page.event(1000, { kind: 'begin' })]
    events.push(page.event(5000, { kind: 'slept', milliseconds: 3_600_000, sure: false }))
    const wrong = page.event(6000, { kind: 'close' })
    expect(secondsOf([...events, wrong], 'close')).toEqual([3605])
    expect(secondsOf([...events, wrong, page.clock(9000)], 'close')[0]).toBeCloseTo(5, 1)
  })
  it('lays two devices beside each other by the server’s time, however wrong their own is', () => {
    const laptop = new Page(id(1), 'laptop', 0, -7_200_000)
    const phone = new Page(id(2), 'phone', 100_000, 500_000)
    const events = [
      laptop.enter(0),
      laptop.clock(200),
      laptop.event(1000, { kind: 'begin' }),
      phone.enter(100_000),
      phone.clock(100_300),
      phone.event(101_000, { kind: 'close' }),
    ]
    expect(secondsOf(events, 'close')[0]).toBeCloseTo(100, 1)
  })
  it('is within a second whatever pages, sleeps and clocks do, while the server tells the time now and then', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e9 }), (seed) => {
        const random = randomFrom(seed)
        const events: RoomEvent[] = []
        const truth = new Map<RoomEvent, number>()
        let now = 0
        let page = new Page(id(1), 'a', 0, (random() - 0.5) * 1e7)
        const put = (event: RoomEvent) => {
          truth.set(event, now)
          events.push(event)
        }
        put(page.enter(0))
        events.push(page.clock(now, Math.round(random() * 200)))
        put(page.event((now += 1000), { kind: 'begin' }))
        const began = now
        for (let step = 0; step < 40; step++) {
          now += 1000 + random() * 30_000
          const dice = random()
          if (dice < 0.15) {
            page = new Page(id(step + 2), random() < 0.5 ? 'a' : 'b', now, (random() - 0.5) * 1e7)
            put(page.enter(now))
            events.push(page.clock(now, Math.round(random() * 200)))
          } else if (dice < 0.3) {
            const slept = random() * 600_000
            page.asleep += slept
            now += slept
            events.push(page.clock(now, Math.round(random() * 200)))
          } else if (dice < 0.4) page.wrong += (random() - 0.5) * 1e7
          put(page.event(now, { kind: 'go', item: 1 }))
        }
        for (const { event, seconds } of timed(events).events) {
          const is = truth.get(event)
          if (is !== undefined) expect(Math.abs(seconds - (is - began) / 1000)).toBeLessThan(1)
        }
      }),
      { numRuns: 200 },
    )
  })
})

const setup = (more: object = {}): RoomSetup =>
  RoomSetup.parse({
    id: id(9),
    date: '2030-02-03',
    start: '09:30',
    whole: true,
    parts: partsGranted(gardenExam, 1, { sections: gardenExam.sections.map((one) => one.id) }),
    medium: 'screen',
    ...more,
  })
const roomOf = (more: object = {}, exam: ExamFormat = gardenExam): Room => {
  const own = setup(more)
  return { setup: own, parts: partsOf(exam, own) }
}
/** Deeds at seconds since the beginning. */
const follow = (room: Room, deeds: [seconds: number, deed: object][], until: number) => {
  const page = new Page(id(1), 'a', 0)
  const events = [page.enter(0), page.event(0, { kind: 'begin' })]
  for (const [seconds, deed] of deeds) events.push(page.event(seconds * 1000, deed))
  return roomAt(room, timed(events).events, until)
}
const answer = (item: number, text: string) => ({ kind: 'answer', item, answer: text })
const go = (item: number) => ({ kind: 'go', item })

describe('a room', () => {
  const room = roomOf()
  const first = room.parts[0]!

  it('closes a section at its bell, breaks, and begins the next by itself', () => {
    expect(follow(room, [], first.seconds - 1).phase).toBe('working')
    expect(follow(room, [], first.seconds).phase).toBe('break')
    const second = follow(room, [], first.seconds + first.breakSeconds)
    expect(second).toMatchObject({ phase: 'working', at: 1 })
    expect(second.parts[1]!.items[0]!.item).toBe(61)
    expect(follow(room, [], first.seconds + first.breakSeconds + room.parts[1]!.seconds)).toMatchObject({
      phase: 'over',
      over: first.seconds + first.breakSeconds + room.parts[1]!.seconds,
    })
  })
  it('counts the seconds of an item over its visits, and what was answered first', () => {
    const state = follow(
      room,
      [
        [0, go(1)],
        [30, answer(1, 'A')],
        [30, go(2)],
        [50, go(1)],
        [60, answer(1, 'B')],
        [65, go(3)],
      ],
      70,
    )
    const [one, two] = responsesOf(room, state)
    expect(one).toMatchObject({
      answer: 'B',
      changedFrom: 'A',
      changes: ['A', 'B'],
      seconds: 45,
      visits: [30, 15],
      order: 1,
    })
    expect(two).toMatchObject({ answer: '', seconds: 20, order: 2 })
  })
  it('keeps apart what is answered after the bell', () => {
    const state = follow(
      room,
      [
        [5, go(7)],
        [first.seconds + 12, answer(7, 'C')],
      ],
      first.seconds + 20,
    )
    expect(responsesOf(room, state)[6]).toMatchObject({
      answer: '',
      late: { answer: 'C', seconds: 12 },
      seconds: first.seconds - 5,
    })
  })
  it('stops its clock only where it may', () => {
    const stop: [number, object][] = [
      [100, { kind: 'pause' }],
      [400, { kind: 'resume' }],
    ]
    expect(follow(roomOf({ strict: true }), stop, 500).parts[0]!.bell).toBe(first.seconds)
    const state = follow(roomOf({ strict: false }), [[90, go(1)], ...stop, [410, go(2)]], 500)
    expect(state.parts[0]!.bell).toBe(first.seconds + 300)
    expect(state.stops).toEqual([{ at: 100, seconds: 300 }])
    expect(state.parts[0]!.items[0]!.visits).toEqual([20])
  })
  it('that was left goes on when somebody comes back', () => {
    const page = new Page(id(1), 'a', 0)
    const again = new Page(id(2), 'a', 1_000_000)
    const events = [
      page.enter(0),
      page.event(0, { kind: 'begin' }),
      page.event(100_000, { kind: 'away' }),
      again.enter(1_000_000),
    ]
    expect(roomAt(roomOf({ strict: false }), timed(events).events, 1100).parts[0]!.bell).toBe(
      first.seconds + 900,
    )
    expect(roomAt(roomOf({ strict: true }), timed(events).events, 1100).parts[0]!.bell).toBe(first.seconds)
  })
  it('takes no answer for an item of another part, or of none', () => {
    const state = follow(
      room,
      [
        [1, answer(61, 'A')],
        [2, answer(9999, 'A')],
        [3, go(61)],
      ],
      10,
    )
    expect(state.current).toBeUndefined()
    expect(responsesOf(room, state).every(({ answer }) => answer === '')).toBe(true)
  })
  it('is the same whatever order its events arrive in', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 90 }), fc.constantFrom('A', 'B', '')), { maxLength: 40 }),
        fc.integer(),
        (presses, seed) => {
          const page = new Page(id(1), 'a', 0)
          const events = [page.enter(0), page.event(0, { kind: 'begin' })]
          presses.forEach(([item, letter], at) =>
            events.push(
              page.event(1000 * at + 500, go(item)),
              page.event(1000 * at + 900, answer(item, letter)),
            ),
          )
          const random = randomFrom(seed)
          const mixed = [...events].sort(() => random() - 0.5)
          const at = (list: RoomEvent[]) => responsesOf(room, roomAt(room, timed(list).events, 100_000))
          expect(at(mixed)).toEqual(at(events))
        },
      ),
      { numRuns: 50 },
    )
  })
})

describe('an adaptive section', () => {
  const base = gardenExam.sections[0]!
  const exam = ExamFormat.parse({
    ...gardenExam,
    sections: [
      {
        ...base,
        groups: [{ ...base.groups[0]!, items: 4 }],
        stages: ['low', 'high'].map((stage, at) => ({
          id: stage,
          title: stage,
          from: at * 3,
          groups: [{ ...base.groups[0]!, id: `${stage}-items`, items: 3 + at }],
          conversion: base.conversion,
        })),
      },
      gardenExam.sections[1]!,
    ],
    forms: [
      {
        id: 'keyed',
        title: 'Keyed',
        source: 'other',
        items: { [base.groups[0]!.id]: Array.from({ length: 4 }, () => ({ key: 'A' })) },
      },
    ],
  })
  const room: Room = { ...roomOf({}, exam), form: exam.forms[0]! }
  const right = [1, 2, 3, 4].map((item): [number, object] => [item, answer(item, 'A')])

  it('marks its first stage on the spot, and goes on with what it leads to', () => {
    const high = follow(room, [...right, [10, { kind: 'stage' }]], 20)
    expect(high.parts[0]!.stage?.id).toBe('high')
    expect(high.parts[0]!.items).toHaveLength(8)
    expect(follow(room, [[10, { kind: 'stage' }]], 20).parts[0]!.stage?.id).toBe('low')
  })
  it('does not open a stage again that was handed in', () => {
    const state = follow(
      room,
      [...right, [10, { kind: 'stage' }], [11, answer(1, 'B')], [12, answer(5, 'B')]],
      20,
    )
    expect(state.parts[0]!.items[0]!.answer).toBe('A')
    expect(state.parts[0]!.items[4]!.answer).toBe('B')
  })
  it('has numbers for a stage that was never reached, so that the next section’s are right', () => {
    const { seconds, breakSeconds } = room.parts[0]!
    const state = follow(room, right, seconds + breakSeconds)
    expect(state.parts[1]!.items[0]!.item).toBe(9)
  })
})

describe('a set', () => {
  it('has every topic, as often as the exam asks for it', () => {
    const topics = gardenExam.topics.map((topic) => topic.id)
    const shares = shareOfSet(gardenExam, { items: 20, topics })
    expect(shares.map((one) => one.topic)).toEqual(topics)
    expect(shares.reduce((sum, { items }) => sum + items, 0)).toBe(20)
    expect(Math.min(...shares.map(({ items }) => items))).toBeGreaterThan(0)
  })
  it('with fewer items than topics takes those that come up most', () => {
    const topics = gardenExam.topics.map((topic) => topic.id)
    expect(shareOfSet(gardenExam, { items: 5, topics })).toHaveLength(5)
  })
  it('has the pace of the exam', () => {
    const [part] = partsGranted(gardenExam, 1.25, { set: { items: 10, topics: ['names-1', 'names-2'] } })
    expect(part!.seconds).toBe(Math.round((10 * 75 * 60 * 1.25) / 60))
  })
})

describe('what a room becomes', () => {
  const seconds = (room: Room) => room.parts[0]!.seconds + room.parts[0]!.breakSeconds
  it('is a paper where every section was begun, those without an answer left blank to the end', () => {
    const room = roomOf({ form: 'board-1', session: 's1' })
    const state = follow(
      room,
      [
        [5, go(1)],
        [9, answer(1, 'A')],
      ],
      seconds(room) + 60 * 60,
    )
    const made = attemptOf(gardenExam, room, state, responsesOf(room, state))
    expect(Attempt.parse(made)).toMatchObject({ kind: 'practice', date: '2030-02-03', session: 's1' })
    expect(made.scope).toBeUndefined()
    expect(made.counts.groups['names-items']).toMatchObject({ right: 0, wrong: 1, blank: 59, notReached: 59 })
    expect(made.counts.groups['ledgers-items']).toMatchObject({ blank: 30, notReached: 30 })
  })
  it('is the sections that were begun, where it was ended before the last', () => {
    const room = roomOf()
    const state = follow(
      room,
      [
        [9, answer(1, 'A')],
        [20, { kind: 'finish' }],
      ],
      30,
    )
    const made = attemptOf(gardenExam, room, state, responsesOf(room, state))
    expect(made).toMatchObject({ kind: 'section', scope: { sections: ['names'] }, minutes: 0 })
    expect(made.items).toHaveLength(60)
  })
  it('is a set with counts by topic only, and says how often its clock was stopped', () => {
    const topics = ['names-1', 'names-2']
    const room = roomOf({
      whole: false,
      strict: false,
      set: { items: 6, topics },
      parts: partsGranted(gardenExam, 1, { set: { items: 6, topics } }),
    })
    const state = follow(
      room,
      [
        [1, answer(1, 'A')],
        [2, answer(6, 'B')],
        [10, { kind: 'pause' }],
        [130, { kind: 'resume' }],
        [140, { kind: 'finish' }],
      ],
      150,
    )
    const items = responsesOf(room, state).map((one) => ({ ...one, key: 'A' }))
    const made = attemptOf(gardenExam, room, state, items)
    expect(made).toMatchObject({ kind: 'set', scope: { topics }, note: 'Stopped once, 2 min in all.' })
    expect(made.counts.groups).toEqual({})
    const counted = Object.values(made.counts.topics)
    expect(counted.reduce((sum, { right, wrong, blank }) => sum + right + wrong + blank, 0)).toBe(6)
    expect([counted[0]!.right, counted[1]!.wrong]).toEqual([1, 1])
  })
})
