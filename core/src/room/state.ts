import type { Confidence, Form, RoomSetup, Stage } from '@climber/contract'
import { judge } from '../attempts/responses'
import { rawOfGroup, stageFor } from '../scoring/raw'
import type { Timed } from './clock'
import { itemsOfStage, type PartOfRoom, type RoomItem } from './parts'

/** What was done with one item. */
export interface ItemState extends RoomItem {
  part: number
  /** Empty where there is none. */
  answer: string
  /** Every answer given, oldest first; the empty one where it was taken away. */
  changes: string[]
  confidence?: Confidence
  struck: Set<string>
  /** Seconds of each visit that has ended. */
  visits: number[]
  /** The how-manieth item taken up. */
  order?: number
  /** It was left to come back to. */
  left: boolean
  /** On paper: done with. */
  done: boolean
  /** What was answered after the bell of its section, and how many seconds after. */
  late?: { answer: string; seconds: number }
}

/** How one part went, or goes. */
export interface PartState {
  part: PartOfRoom
  items: ItemState[]
  /** Seconds since the test began. */
  began: number
  /** When its bell goes; Infinity where it has none. Stopping the clock moves it. */
  bell: number
  /** When it was over, by its bell or by hand. */
  ended?: number
  byBell: boolean
  /** The second stage that the first led to, once that was handed in. */
  stage?: Stage
  /** Number of items of the first stage. */
  firstStage: number
  /** On paper: items done by so many seconds since its beginning. */
  checkpoints: { item: number; seconds: number }[]
}

export type RoomPhase = 'before' | 'working' | 'break' | 'over'

/** A test room at one moment. */
export interface RoomState {
  phase: RoomPhase
  parts: PartState[]
  /** The part that is worked at, or that is next. */
  at: number
  /** During a break: when the next part begins by itself. */
  next: number
  /** The item taken up, and since when; during a stop the visit stands still. */
  current?: { item: number; since: number }
  /** The clock is stopped since then. */
  stopped?: number
  /** Stops of the clock: seconds since the beginning, and how long. */
  stops: { at: number; seconds: number }[]
  /** Left for now. */
  away: boolean
  /** Seconds since the beginning when it was over. */
  over?: number
  /** It was thrown away: nothing of it is to be kept as sat. */
  dropped: boolean
}

/** What a room is about. */
export interface Room {
  setup: RoomSetup
  parts: PartOfRoom[]
  form?: Form
}

/** An answer's key, from the form. */
export const keyOf = (
  form: Form | undefined,
  { group, at }: Pick<RoomItem, 'group' | 'at'>,
): string | undefined => form?.items?.[group.id]?.[at]?.key

/** Whether a form marks any of these items. */
export const hasKeys = (items: readonly Pick<RoomItem, 'group' | 'at'>[], form?: Form): boolean =>
  items.some((item) => keyOf(form, item) !== undefined)

/** Raw marks of items as they are answered. Written answers, which a person marks, count nothing here. */
const rawOf = (items: ItemState[], form?: Form): number =>
  items.reduce((sum, item) => {
    if (item.group.kind === 'written') return sum
    const judged = judge(item.group, { item: item.item, answer: item.answer, key: keyOf(form, item) })
    const none = { right: 0, wrong: 0, blank: 0 }
    return sum + rawOfGroup(item.group, { ...none, [judged]: 1 })
  }, 0)

/**
 * A test room as its events have made it, followed from the beginning: the same events give the same room on every device, in
 * whatever order they arrived. What time brings happens by itself: bells, ends of breaks.
 */
export class Following {
  readonly state: RoomState = {
    phase: 'before',
    parts: [],
    at: 0,
    next: 0,
    stops: [],
    away: false,
    dropped: false,
  }
  /** Items taken up so far; items that have a number; how far time has run. */
  private taken = 0
  private numbered = 0
  private now = 0

  constructor(private readonly room: Room) {}

  /** Lets time run on to `seconds` since the beginning. */
  until(seconds: number): void {
    const { state } = this
    for (;;) {
      const due = this.due()
      if (due === undefined || due > seconds) break
      this.now = due
      if (state.phase === 'working') this.end(due, true)
      else this.beginPart(due)
    }
    this.now = Math.max(this.now, seconds)
  }

  /** When something happens by itself next. */
  due(): number | undefined {
    const { state } = this
    if (state.stopped !== undefined) return undefined
    if (state.phase === 'working') return state.parts[state.at]!.bell
    return state.phase === 'break' ? state.next : undefined
  }

  take({ event, seconds: wanted }: Timed): void {
    const { state } = this
    const seconds = Math.max(wanted, state.phase === 'before' ? 0 : this.now)
    if (state.phase !== 'before') this.until(seconds)
    switch (event.kind) {
      case 'begin':
        if (state.phase === 'before' || state.phase === 'break') this.beginPart(seconds)
        return
      case 'go':
        return this.go(event.item, seconds)
      case 'answer':
        return this.answer(event.item, event.answer, seconds)
      case 'doubt':
        return this.mark(event.item, event.confidence)
      case 'strike':
        return this.strike(event.item, event.option, event.struck)
      case 'leave':
      case 'done':
        return this.done(event.kind, event.item)
      case 'checkpoint':
        return this.checkpoint(event.item, seconds)
      case 'stage':
        return this.handInStage(event.to, seconds)
      case 'close':
        if (state.phase === 'working') this.end(seconds, false)
        return
      case 'pause':
      case 'away':
        return this.stop(event.kind, seconds)
      case 'resume':
      case 'enter':
        return this.goOn(event.kind, seconds)
      case 'drop':
        state.dropped = true
        return this.finish(seconds)
      case 'finish':
        return this.finish(seconds)
      case 'clock':
      case 'slept':
    }
  }

  private get part(): PartState | undefined {
    return this.state.phase === 'working' ? this.state.parts[this.state.at] : undefined
  }
  private find(item: number): ItemState | undefined {
    for (const { items } of this.state.parts) {
      const first = items[0]?.item ?? 0
      if (item >= first && item < first + items.length) return items[item - first]
    }
    return undefined
  }
  /** An item that may be worked at now: of the part under way, and not of a stage that was handed in. */
  private open(item: number): ItemState | undefined {
    const { part } = this
    const found = this.find(item)
    if (!part || !found || found.part !== this.state.at) return undefined
    const place = item - part.items[0]!.item
    return part.stage && place < part.firstStage ? undefined : found
  }

  private beginPart(seconds: number): void {
    const { state, room } = this
    const at = state.parts.length
    const part = room.parts[at]
    if (!part) return this.finish(seconds)
    const items = part.items(this.numbered + 1).map((item) => this.fresh(item, at))
    this.numbered += items.length
    state.parts.push({
      part,
      items,
      began: seconds,
      bell: part.timed ? seconds + part.seconds : Infinity,
      byBell: false,
      firstStage: items.length,
      checkpoints: [],
    })
    state.at = at
    state.phase = 'working'
    state.current = undefined
  }
  private fresh(item: RoomItem, part: number): ItemState {
    return { ...item, part, answer: '', changes: [], struck: new Set(), visits: [], left: false, done: false }
  }

  /** Ends the visit under way. */
  private leaveItem(seconds: number): void {
    const { state } = this
    if (!state.current) return
    const until = state.stopped ?? seconds
    this.find(state.current.item)?.visits.push(Math.max(0, until - state.current.since))
    state.current = undefined
  }
  private go(item: number, seconds: number): void {
    const found = this.open(item)
    if (!found || this.state.stopped !== undefined) return
    this.leaveItem(seconds)
    if (found.order === undefined) found.order = ++this.taken
    this.state.current = { item, since: seconds }
  }
  private answer(item: number, answer: string, seconds: number): void {
    const found = this.find(item)
    if (!found) return
    const open = this.open(item)
    const part = this.state.parts[found.part]!
    if (!open) {
      // After the bell, or after the first stage was handed in: kept apart.
      const over = part.ended
      if (over !== undefined) found.late = { answer, seconds: seconds - over }
      return
    }
    if (found.answer === answer) return
    found.answer = answer
    found.changes.push(answer)
    if (answer) found.left = false
  }
  private mark(item: number, confidence: Confidence | null): void {
    const found = this.open(item)
    if (found) found.confidence = confidence ?? undefined
  }
  private strike(item: number, option: string, struck: boolean): void {
    const found = this.open(item)
    if (!found) return
    if (struck) found.struck.add(option)
    else found.struck.delete(option)
  }
  private done(kind: 'leave' | 'done', item: number): void {
    const found = this.open(item)
    if (!found) return
    found.left = kind === 'leave'
    found.done = kind === 'done'
  }
  private checkpoint(item: number, seconds: number): void {
    const { part } = this
    if (!part || !this.open(item)) return
    const stopped = this.stoppedSince(part.began)
    part.checkpoints = [
      ...part.checkpoints.filter((one) => one.item < item),
      { item, seconds: seconds - part.began - stopped },
    ]
  }
  private stoppedSince(began: number): number {
    return this.state.stops.reduce((sum, { at, seconds }) => (at >= began ? sum + seconds : sum), 0)
  }

  private handInStage(to: string | undefined, seconds: number): void {
    const { part } = this
    const section = part?.part.section
    if (!part || !section?.stages || part.stage) return
    this.leaveItem(seconds)
    this.addStage(part, to)
  }
  /** The second stage that the first leads to, with its items. */
  private addStage(part: PartState, to?: string): void {
    const { section } = part.part
    if (!section?.stages || part.stage) return
    const { form } = this.room
    const chosen = hasKeys(part.items, form) ? undefined : section.stages.find(({ id }) => id === to)
    part.stage = chosen ?? stageFor(section, rawOf(part.items, form))
    if (!part.stage) return
    const items = itemsOfStage(part.stage, this.numbered + 1, form)
    this.numbered += items.length
    part.items.push(...items.map((item) => this.fresh(item, this.state.at)))
  }

  /** The part under way is over, and what follows it comes. */
  private end(seconds: number, byBell: boolean): void {
    const { state, room } = this
    this.closePart(seconds, byBell)
    if (state.parts.length >= room.parts.length) this.finish(seconds)
    else {
      state.phase = 'break'
      state.next = seconds + (state.parts[state.at]?.part.breakSeconds ?? 0)
    }
  }
  private closePart(seconds: number, byBell: boolean): void {
    const { part } = this
    if (!part) return
    this.goOn('resume', seconds)
    this.leaveItem(seconds)
    // A first stage that was never handed in leads somewhere all the same: its items were not reached, and have numbers.
    this.addStage(part)
    part.ended = seconds
    part.byBell = byBell
  }

  /** The clock stops; where the conditions are strict it does not. */
  private stop(kind: 'pause' | 'away', seconds: number): void {
    const { state } = this
    if (state.phase !== 'working' && state.phase !== 'break') return
    state.away = kind === 'away' || state.away
    if (this.room.setup.strict || state.stopped !== undefined) return
    state.stopped = seconds
  }
  private goOn(kind: 'resume' | 'enter', seconds: number): void {
    const { state } = this
    const wasAway = state.away
    state.away = false
    if (state.stopped === undefined || (kind === 'enter' && !wasAway)) return
    const stopped = seconds - state.stopped
    state.stops.push({ at: state.stopped, seconds: stopped })
    const part = this.part
    if (part) part.bell += stopped
    else state.next += stopped
    if (state.current) state.current.since += stopped
    state.stopped = undefined
  }
  private finish(seconds: number): void {
    const { state } = this
    if (state.phase === 'over') return
    this.closePart(seconds, false)
    state.phase = 'over'
    state.over = seconds
  }
}

/** The room at `seconds` since its beginning, as the events up to then have made it. */
export function roomAt(room: Room, events: readonly Timed[], seconds: number): RoomState {
  const following = new Following(room)
  for (const timed of events) if (timed.seconds <= seconds || timed.seconds <= 0) following.take(timed)
  if (following.state.phase !== 'before') following.until(seconds)
  return following.state
}
