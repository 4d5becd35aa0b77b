import type { RoomEvent } from '@climber/contract'

/** An event with the seconds since the test began; before its beginning they are negative. */
export interface Timed<E extends RoomEvent = RoomEvent> {
  event: E
  seconds: number
}

/** Events on one clock, and what that clock says. */
export interface Clocked {
  events: Timed[]
  /** Milliseconds since 1970 by the server's clock, or by what stands for it, when the test began. */
  began: number
  /** Seconds since the beginning when a page's own clock says so many milliseconds; undefined of a page that did nothing yet. */
  secondsAt(life: string, at: number): number | undefined
}

/** Milliseconds by which two clocks may go apart, beyond what was not certain in asking, before one is believed to have stood still. */
export const clockTolerance = 300

/** Milliseconds of uncertainty above which what the server told of its time says less than the device's own clock. */
const coarsest = 1000

type Of<K extends RoomEvent['kind']> = Extract<RoomEvent, { kind: K }>
const isA =
  <K extends RoomEvent['kind']>(kind: K) =>
  (event: RoomEvent): event is Of<K> =>
    event.kind === kind

/** One page from its opening on: its events in order. */
interface Life {
  events: RoomEvent[]
  device: string
}

const livesOf = (events: readonly RoomEvent[]): RoomEvent[][] => {
  const by = new Map<string, RoomEvent[]>()
  for (const event of events) {
    const own = by.get(event.life)
    if (own) own.push(event)
    else by.set(event.life, [event])
  }
  return [...by.values()].map((own) => own.sort((a, b) => a.n - b.n))
}

/** A stretch in which a page's clock did not stand still: what the server's is ahead of it, at least and at most. */
interface Stretch {
  least: number
  most: number
  /** Where something may have been slept since the one before; none where it was not noted. */
  noted: number[]
  /** Where it was found out. */
  place: number
}

/** A page's clock against the server's, in milliseconds. */
interface Measured {
  /** What it slept through by each event. */
  slept: number[]
  /** What the server's was ahead of it at first. */
  ahead: number | undefined
}

/**
 * What a page's clock slept through by each of its events, and what the server's clock was ahead of it at first; undefined where
 * it never told, or was too slow each time. Between two times that it told, the server is right: what its time had run on longer
 * was slept, and what was taken for sleep without its having run on was not. It read its clock somewhere between question and
 * answer, which bounds what it is ahead; where nothing was slept the bounds of all answers overlap (Marzullo 1984), and half-way
 * in what they have in common is taken. Bounds that lie beyond those before say that something was slept; those that lie before
 * them, or beyond by no more than `clockTolerance`, that the clocks do not run quite alike: the narrower ones then stay.
 * What was slept before the first answer is what lies between it and `guessed`, by the device's clock, where that is known, and
 * otherwise as noted.
 */
function measured(events: RoomEvent[], guessed?: number): Measured {
  const added = new Array<number>(events.length).fill(0)
  const stretches: Stretch[] = []
  let doubtful: number[] = []
  /** What is certain to have been slept. */
  let certain = 0
  events.forEach((event, place) => {
    if (event.kind === 'slept') {
      added[place] = event.milliseconds
      if (event.sure) certain += event.milliseconds
      else doubtful.push(place)
    }
    if (event.kind !== 'clock') return
    const least = event.server - event.at - certain
    const most = least + event.within
    const last = stretches[stretches.length - 1]
    if (last) for (const other of doubtful) added[other] = 0
    if (!last || least > last.most + clockTolerance) stretches.push({ least, most, noted: doubtful, place })
    else if (least <= last.most && most >= last.least)
      Object.assign(last, { least: Math.max(least, last.least), most: Math.min(most, last.most) })
    else if (most - least < last.most - last.least) Object.assign(last, { least, most })
    doubtful = []
  })
  const aheads = stretches.map(({ least, most }) => (least + most) / 2)
  /** Puts what was slept where something like it was noted. */
  const put = (milliseconds: number, { noted, place }: Stretch) => {
    const missed = (other: number) => {
      const event = events[other]
      return event?.kind === 'slept' ? Math.abs(event.milliseconds - milliseconds) : 0
    }
    for (const other of noted) added[other] = 0
    added[noted.reduce((best, other) => (missed(other) < missed(best) ? other : best), noted[0] ?? place)] =
      milliseconds
  }
  stretches.forEach((stretch, at) => at && put(aheads[at]! - aheads[at - 1]!, stretch))
  const [first] = stretches
  if (first?.noted.length && guessed !== undefined) {
    const before = aheads[0]! - guessed
    put(before > clockTolerance ? before : 0, first)
  }
  const believed = (first?.noted ?? []).reduce((all, other) => all + added[other]!, 0)
  let sum = 0
  const slept = added.map((own) => (sum += own))
  const isKnown = first && first.most - first.least <= coarsest
  return { slept, ahead: isKnown ? aheads[0]! - believed : undefined }
}

/** A test that was thrown away and kept after all is as if nothing had happened but time. */
const withoutTakenBack = (events: readonly RoomEvent[]): readonly RoomEvent[] => {
  if (!events.some(({ kind }) => kind === 'keep')) return events
  let kept = events.filter(({ kind }) => kind === 'keep').length
  return events.filter(({ kind }) => kind !== 'keep' && !(kind === 'drop' && kept-- > 0))
}

/**
 * When each event happened, in seconds since the test began, in order. Within a page its own clock counts, which nobody sets;
 * pages are laid beside each other by what the server told them of its time, and where it told nothing by the device's clock, as
 * far off as it was last found to be; a page never begins before what the same device did earlier. Events of one moment keep
 * the order of their page. `began` is the time of the server (or what stands for it) at the beginning, in milliseconds.
 */
export function timed(events: readonly RoomEvent[]): Clocked {
  const lives = livesOf(withoutTakenBack(events))
    .map((own): Life => {
      const enter = own.find(isA('enter'))
      return { events: own, device: enter?.device ?? '' }
    })
    .sort((a, b) => a.events[0]!.wall - b.events[0]!.wall)
  /** By device: what its clock is behind the server's, and the last that happened there. */
  const known = new Map<string, { behind: number; last: number }>()
  for (const life of lives) {
    const { ahead } = measured(life.events)
    const first = life.events[0]!
    if (ahead !== undefined && !known.has(life.device))
      known.set(life.device, { behind: ahead - (first.wall - first.at), last: -Infinity })
  }
  const anyBehind = [...known.values()][0]?.behind ?? 0
  const all: (Timed & { when: number })[] = []
  /** What is added to the clock of a page to have the server's. */
  const zeros = new Map<string, number>()
  for (const life of lives) {
    const first = life.events[0]!
    const device = known.get(life.device) ?? { behind: anyBehind, last: -Infinity }
    const byDevice = first.wall - first.at + device.behind
    // What was done there before tells what its clock is worth.
    const { slept, ahead: told } = measured(life.events, device.last > -Infinity ? byDevice : undefined)
    const guessed = Math.max(byDevice, device.last - first.at)
    const zero = told ?? guessed
    life.events.forEach((event, place) =>
      all.push({ event, seconds: 0, when: zero + event.at + slept[place]! }),
    )
    const altogether = slept[slept.length - 1]!
    zeros.set(first.life, zero + altogether)
    const last = zero + life.events[life.events.length - 1]!.at + altogether
    const behind = told === undefined ? device.behind : told - (first.wall - first.at)
    known.set(life.device, { behind, last: Math.max(device.last, last) })
  }
  all.sort((a, b) => a.when - b.when || a.event.life.localeCompare(b.event.life) || a.event.n - b.event.n)
  const began = all.find(({ event }) => event.kind === 'begin')?.when ?? all[0]?.when ?? 0
  return {
    events: all.map(({ event, when }) => ({ event, seconds: (when - began) / 1000 })),
    began,
    secondsAt: (life, at) => {
      const zero = zeros.get(life)
      return zero === undefined ? undefined : (zero + at - began) / 1000
    },
  }
}
