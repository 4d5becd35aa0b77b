import { ref, shallowRef, watch } from 'vue'
import {
  type Body,
  isDropped,
  type Params,
  type RoomDeed,
  type RoomEvent,
  type RoomHeard,
  type RoomSetup,
} from '@climber/contract'
import { type Clocked, clockTolerance, Following, type Room, type RoomState, timed } from '@climber/core'
import { call } from '../api'
import { offline } from '../outbox/connection'
import { actionOf, lanes } from '../outbox/entry'
import { outbox } from '../outbox/here'
import { presses } from '../outbox/presses'

/** Milliseconds between looks at the clock, at the server, and at a room that another device carries on. */
const every = { tick: 200, hear: 20_000, watch: 4000 }
/** Milliseconds that a device's own clock may jump before the server is asked, and, where that is away, the person. */
const jumpFrom = 500
const askFrom = 5000
/** Milliseconds for which a server is waited for where the device knows the room. */
const patience = 4000
/** Milliseconds within which the server's time is known well enough, and how often it is asked again for that. */
const fine = 250
const mostAsked = 8
/** Events in one request. */
const mostAtOnce = 200

/** A name for this device, in words that tell it from the others. */
const freshDevice = (): string =>
  `${/Android|iPhone|Mobile/.test(navigator.userAgent) ? 'a phone' : 'a computer'} (${crypto.randomUUID().slice(0, 4)})`

/** Milliseconds after which whoever presses hears that the disk does not take it. */
const stuckFrom = 3000

const keyOf = ({ life, n }: RoomEvent): string => `${life} ${n}`
/** Events of several lists, each once. */
function together(...lists: readonly (readonly RoomEvent[])[]): RoomEvent[] {
  const found = new Map<string, RoomEvent>()
  for (const event of lists.flat()) if (!found.has(keyOf(event))) found.set(keyOf(event), event)
  return [...found.values()]
}

/** Hands events of a room to the outbox. */
const putEvents = (params: Params<'noteRoom'>, body: Body<'noteRoom'>, about: string) =>
  outbox().put({
    route: 'noteRoom',
    params,
    body,
    lane: lanes.room(params.candidateId, params.roomId),
    about,
  })

/** What the server's clock is ahead of a page's own, and how sure that is. Milliseconds. */
interface Told {
  ahead: number
  within: number
}

/**
 * A test room as this page attends it. What is pressed is on the device before it is sent; what time it is follows from the page's
 * own clock and what the server told of its; the room is what its events have made it.
 */
export class Attending {
  readonly setup = shallowRef<RoomSetup>()
  readonly state = shallowRef<RoomState>()
  /** Seconds since the test began. */
  readonly now = ref(0)
  readonly failed = ref('')
  /** This page carries the test on. */
  readonly holds = ref(false)
  /** Where it goes on, when not here. */
  readonly elsewhere = ref<string>()
  /** What was pressed and is not on the disk yet: shown at once, it would go with the page in these milliseconds. */
  readonly unkept = ref(0)
  /** The disk has not taken it for long: the page had better not be closed. */
  readonly stuck = ref(false)
  /** The clock of the device ran on by so many milliseconds more than the page's, and the server could not be asked. */
  readonly jumped = ref<number>()

  private readonly life = crypto.randomUUID()
  private device = ''
  private readonly opened = performance.now()
  private readonly params: { candidateId: string; roomId: string }
  private readonly lane: string
  private events: RoomEvent[] = []
  private clocked: Clocked = timed([])
  private following: Following | undefined
  private count = 0
  private told: Told | undefined
  /** What of that was written down last. */
  private noted: Told | undefined
  /** Since when, on this page's clock, the server is known to know that this page carries it on. */
  private known: number | undefined
  private ended = false
  private wallAhead = Date.now() - performance.now()
  private asked = 0
  private later: ReturnType<typeof setTimeout> | undefined
  private readonly ends: (() => void)[]

  constructor(
    candidateId: string,
    roomId: string,
    private readonly roomOf: (setup: RoomSetup) => Room,
    /** Whoever may only read looks on. */
    private readonly mayPress = true,
  ) {
    this.params = { candidateId, roomId }
    this.lane = lanes.room(candidateId, roomId)
    const tick = () => this.tick()
    const timers = [
      setInterval(tick, every.tick),
      setInterval(() => this.holds.value && void this.hear(), every.hear),
      // Only looked on at: what is pressed elsewhere shows here.
      setInterval(() => {
        if (!this.holds.value && this.setup.value && !offline.value) void this.read().catch(() => undefined)
      }, every.watch),
    ]
    addEventListener('visibilitychange', tick)
    this.ends = [
      () => timers.forEach(clearInterval),
      () => clearTimeout(this.later),
      () => removeEventListener('visibilitychange', tick),
      // Back after an absence, the server's time is worth knowing at once.
      watch(offline, (now) => !now && this.holds.value && void this.hear()),
      outbox().onSettled(({ lane, answer, route }) => {
        if (lane === this.lane && route === 'noteRoom') this.heardOf(answer as RoomHeard)
      }),
    ]
  }
  close(): void {
    for (const end of this.ends) end()
  }

  /** Opens the room from this device, and from the server where that answers. */
  async load(): Promise<void> {
    this.failed.value = ''
    const { roomId } = this.params
    const kept = await presses()
    this.device = await kept.device(freshDevice())
    const room = await kept.room(roomId)
    if (room && room.user === outbox().user) this.setup.value = room.setup
    this.events = together(await kept.events(roomId), this.waiting())
    let heard: RoomHeard | undefined
    // Where it was opened here, the server is told of it first.
    const opening = outbox()
      .of(this.lane)
      .find((entry) => entry.route === 'openRoom')
    if (opening) await outbox().outcome(opening)
    try {
      heard = await this.read()
    } catch (error) {
      if (!this.setup.value) {
        this.failed.value = (error as Error).message
        return
      }
      this.rebuild()
    }
    await this.keep()
    if (this.state.value?.phase === 'over') return
    if (!heard || heard.holder === null || heard.device === this.device) await this.carryOn(false)
  }

  /** Makes this page the one that carries the test on, whoever did before where it `takes` it. */
  async carryOn(takes = true): Promise<void> {
    // What was pressed elsewhere until now comes first, where the server answers.
    if (!this.mayPress) return
    if (takes) await this.read().catch(() => undefined)
    if (this.holds.value) return
    this.holds.value = true
    this.known = undefined
    this.elsewhere.value = undefined
    this.noted = undefined
    this.press({ kind: 'enter', device: this.device }, takes)
    void this.hear()
  }

  press(deed: RoomDeed, takes = false): void {
    if (!this.holds.value) return
    const { life, device, params } = this
    const event = { ...deed, n: this.count++, life, at: this.at(), wall: Date.now() } as RoomEvent
    this.events = [...this.events, event]
    this.rebuild()
    void this.note(params.roomId, event)
    void this.send({ life, device, take: takes, events: [event] })
  }
  private async note(roomId: string, event: RoomEvent): Promise<void> {
    this.unkept.value++
    const long = setTimeout(() => (this.stuck.value = true), stuckFrom)
    try {
      await (await presses()).note(roomId, [event])
      if (!--this.unkept.value) this.stuck.value = false
    } catch {
      // A full disk: it stays said. What is pressed goes to the server all the same.
      this.stuck.value = true
    } finally {
      clearTimeout(long)
    }
  }
  /** Hands events to the outbox. Whoever is signed out meanwhile has them on the device, and they go when the room is opened again. */
  private async send(body: Body<'noteRoom'>): Promise<void> {
    if (outbox().user) await putEvents(this.params, body, 'A test that is being sat')
  }
  /** Sends what this device knows and the server does not, and what is not on its way either. */
  private async sendMissing(there: readonly RoomEvent[]): Promise<void> {
    const known = new Set([...there, ...this.waiting()].map(keyOf))
    const lives = new Map<string, RoomEvent[]>()
    for (const event of this.events)
      if (!known.has(keyOf(event))) lives.set(event.life, [...(lives.get(event.life) ?? []), event])
    for (const [life, events] of lives)
      for (let from = 0; from < events.length; from += mostAtOnce) {
        const own = events.slice(from, from + mostAtOnce)
        await this.send({ life, device: this.device, take: false, events: own })
      }
  }

  /** Whether the device slept, or its clock was set, as a person says; the server's word counts more once it is heard. */
  settleJump(slept: boolean): void {
    const milliseconds = Math.round(this.jumped.value ?? 0)
    this.jumped.value = undefined
    if (slept) this.press({ kind: 'slept', milliseconds, sure: false })
  }

  /** Milliseconds since this page was opened. */
  private at(): number {
    return Math.max(0, Math.round(performance.now() - this.opened))
  }
  /** Now, by the page's clock and by the device's. */
  private moment(): { at: number; wall: number } {
    return { at: this.at(), wall: Date.now() }
  }
  private seconds(): number {
    if (!this.events.length) return 0
    const own = this.clocked.secondsAt(this.life, this.at())
    if (own !== undefined) return own
    const when = this.told ? this.told.ahead + this.at() : Date.now()
    return (when - this.clocked.began) / 1000
  }
  /** Puts the room together from its events. */
  private rebuild(): void {
    const { setup } = this
    if (!setup.value) return
    this.clocked = timed(this.events)
    const following = new Following(this.roomOf(setup.value))
    for (const event of this.clocked.events) following.take(event)
    this.following = following
    this.now.value = this.seconds()
    if (following.state.phase !== 'before') following.until(this.now.value)
    this.state.value = following.state
    if (following.state.phase === 'over') this.end()
  }
  private tick(): void {
    this.mindTheClock()
    if (!this.following || !this.state.value) return
    this.now.value = this.seconds()
    const due = this.state.value.phase === 'before' ? undefined : this.following.due()
    if (due !== undefined && due <= this.now.value) this.rebuild()
  }
  /** A page's clock may stand still while the device sleeps; the device's own may be set. The server knows which. */
  private mindTheClock(): void {
    const jump = Date.now() - performance.now() - this.wallAhead
    if (Math.abs(jump) < jumpFrom) return
    this.wallAhead += jump
    const { phase } = this.state.value ?? {}
    if (!this.holds.value || phase === 'before' || phase === 'over') return
    // Where it was: how long is for the server to say, however much later it answers; until then a short one is believed.
    const milliseconds = jump > 0 && jump <= askFrom ? Math.round(jump) : 0
    this.press({ kind: 'slept', milliseconds, sure: false })
    this.noted = undefined
    this.asked = 0
    void this.hear().then((heard) => {
      if (!heard && jump > askFrom) this.jumped.value = (this.jumped.value ?? 0) + jump
    })
  }

  /** Asks the server who carries the test on, and for its time. False where it does not answer. */
  private async hear(): Promise<boolean> {
    const asked = this.moment()
    try {
      const heard = await call('hearRoom', this.params, undefined, patience)
      this.take(heard, asked)
      // Another device had something on its way still.
      if (heard.events > this.events.length) await this.read()
      return true
    } catch {
      return false
    }
  }
  private take(heard: RoomHeard, asked: { at: number; wall: number }): void {
    const within = this.at() - asked.at
    // Asked before the device slept and heard after it, it may be older by all that.
    if (Math.abs(Date.now() - asked.wall - within) >= jumpFrom) return this.heardOf(heard, asked.at)
    // A server that took long knows its time and not when we asked: it is asked again.
    if (within > fine && this.asked++ < mostAsked) {
      clearTimeout(this.later)
      this.later = setTimeout(() => void this.hear(), every.watch)
    }
    this.told = { ahead: heard.server - this.at() + within / 2, within }
    this.heardOf(heard, asked.at)
    const { noted, told } = this
    // Said again only where it is news: the first time, where it is known better now, or where the clocks certainly went apart.
    const isNews =
      !noted ||
      within * 2 < noted.within ||
      Math.abs(noted.ahead - told.ahead) > (noted.within + within) / 2 + clockTolerance
    if (!this.holds.value || !isNews) return
    this.noted = told
    this.press({ kind: 'clock', server: heard.server, within })
  }
  /** Another page may carry it on: as is heard after this one was known to, or in answer to what this one sent. */
  private heardOf({ holder, device }: RoomHeard, asked?: number): void {
    if (holder === this.life) {
      this.known ??= this.at()
      this.holds.value = true
      this.elsewhere.value = undefined
      return
    }
    // What an earlier page of this device left is answered before this page is known.
    const isNews =
      asked === undefined
        ? device !== this.device || this.known !== undefined
        : this.known !== undefined && asked > this.known
    if (holder === null) this.elsewhere.value = undefined
    else if (!this.holds.value || isNews) {
      this.elsewhere.value = device
      this.holds.value = false
    }
  }
  /** What the server knows of the room, with who carries it on. Throws `ApiFailure`. */
  private async read(): Promise<RoomHeard> {
    const asked = this.moment()
    const record = await call('readRoom', this.params, undefined, this.setup.value && patience)
    this.setup.value ??= record.setup
    this.events = together(record.events, this.events)
    await (await presses()).note(this.params.roomId, record.events)
    if (!this.state.value) await this.sendMissing(record.events)
    this.rebuild()
    this.take(record, asked)
    return record
  }
  /** What of the room waits to be sent. */
  private waiting(): RoomEvent[] {
    return outbox()
      .of(this.lane)
      .flatMap((entry) => (actionOf(entry, 'noteRoom')?.body.events ?? []) as RoomEvent[])
  }

  /** Says once that it is over, where nobody did. */
  private end(): void {
    if (this.ended) return
    this.ended = true
    void this.keep()
    if (this.holds.value && !this.has('finish') && !isDropped(this.events)) this.press({ kind: 'finish' })
  }
  private has(wanted: RoomEvent['kind']): boolean {
    return this.events.some(({ kind }) => kind === wanted)
  }
  /** Remembers on this device how the room stands. */
  private async keep(): Promise<void> {
    const { user } = outbox()
    const { value: setup } = this.setup
    if (!user || !setup) return
    const over = this.state.value?.phase === 'over'
    const stands = isDropped(this.events) ? 'dropped' : over ? 'over' : 'open'
    await (
      await presses()
    ).keep({ user, candidateId: this.params.candidateId, setup, stands, at: Date.now() })
  }
}

/** Opens a room on this device; it is sent when the server answers. */
export async function openRoom(candidateId: string, setup: RoomSetup): Promise<void> {
  const { user } = outbox()
  if (!user) throw new Error('Sign in first.')
  await (await presses()).keep({ user, candidateId, setup, stands: 'open', at: Date.now() })
  await outbox().put({
    route: 'openRoom',
    params: { candidateId, roomId: setup.id },
    body: { setup },
    lane: lanes.room(candidateId, setup.id),
    about: 'A test that is opened',
  })
}

/** What was thrown away last on this page, to be taken back. */
export const thrownAway = shallowRef<{ candidateId: string; setup: RoomSetup }>()

/** Says of a test, whoever carries it on, that it is thrown away, or kept after all. */
async function decide(candidateId: string, setup: RoomSetup, kind: 'drop' | 'keep'): Promise<void> {
  const { user } = outbox()
  if (!user) throw new Error('Sign in first.')
  const life = crypto.randomUUID()
  const kept = await presses()
  const device = await kept.device(freshDevice())
  const stands = kind === 'drop' ? 'dropped' : 'open'
  const event: RoomEvent = { kind, n: 0, life, at: 0, wall: Date.now() }
  await kept.keep({ user, candidateId, setup, stands, at: Date.now() })
  await kept.note(setup.id, [event])
  const about = kind === 'drop' ? 'A test that is thrown away' : 'A test that is kept after all'
  await putEvents({ candidateId, roomId: setup.id }, { life, device, take: false, events: [event] }, about)
}

/** Throws a test away; pressed twice it is thrown away once. */
export async function dropRoom(candidateId: string, setup: RoomSetup): Promise<void> {
  if (thrownAway.value?.setup.id === setup.id) return
  thrownAway.value = { candidateId, setup }
  try {
    await decide(candidateId, setup, 'drop')
  } catch (error) {
    thrownAway.value = undefined
    throw error
  }
}
/** Takes the last throwing away back; the test's clock went on meanwhile. */
export async function keepRoom(): Promise<void> {
  const { value: last } = thrownAway
  if (!last) return
  thrownAway.value = undefined
  await decide(last.candidateId, last.setup, 'keep')
}

/** The room in which something was sat, as this device or else the server knows it. */
async function roomSatIn(candidateId: string, attemptId: string): Promise<RoomSetup | undefined> {
  const kept = await (await presses()).room(attemptId)
  if (kept) return kept.candidateId === candidateId ? kept.setup : undefined
  const rooms = await call('listRooms', { candidateId }, undefined, patience).catch(() => [])
  return rooms.find(({ setup }) => setup.id === attemptId)?.setup
}
/** What was sat is deleted: its room does not wait to be marked again. Answers that room, for `keepSat`. */
export async function dropSat(candidateId: string, attemptId: string): Promise<RoomSetup | undefined> {
  const room = await roomSatIn(candidateId, attemptId)
  if (room) await decide(candidateId, room, 'drop')
  return room
}
/** What was sat is put back, and its room with it. */
export const keepSat = (candidateId: string, room: RoomSetup): Promise<void> =>
  decide(candidateId, room, 'keep')
