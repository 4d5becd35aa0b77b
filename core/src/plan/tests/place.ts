import type { PlanSession, Section } from '@climber/contract'
import { isActive, isStudy, isTest, isWhole, otherPartsOf, reviewsOf } from '../../sessions/session'
import { dayNumber, type DayNumber } from '../../time/day'
import type { PlanInput } from '../input'
import type { PlacedStage } from '../phases'
import type { Block, TestRoom } from './blocks'
import { type Rhythm, testEveryOf, type Wish } from './wishes'

/** How far from its wished day a test may move, and the baseline. */
const reach = 3
const baselineReach = 6
/** The last rehearsal stands within so many days of the exam. */
export const lastRehearsalWithin = 10
/** Days of distance that other hours, and a split, weigh as much as. */
const distanceCost = 0.4
const lateCost = 3
const splitCost = 8
/** Of the places found, the cheapest so many are tried with their review. */
const mostTried = 4

export interface PlacedTest {
  rehearsalAt?: number
  wished: DayNumber
  stage: PlacedStage
  blocks: Block[]
  reviews: Block[]
  /** Minutes of review that it is worth, or that there was time for. */
  reviewMinutes: number
  /** Why it does not stand whole when the exam does. */
  hour?: 'late' | 'split'
  baseline: boolean
  /** The last rehearsal. */
  final?: boolean
  /** The sections that are sat, where it is no whole test. */
  sections?: Section[]
}

export const firstDay = ({ blocks }: PlacedTest): DayNumber => blocks[0]!.day
export const lastDay = ({ blocks }: PlacedTest): DayNumber => blocks[blocks.length - 1]!.day
export const isWholeTest = ({ sections }: PlacedTest): boolean => !sections
/** The day on which its review is done. */
export const doneBy = (test: PlacedTest): DayNumber =>
  test.reviews[test.reviews.length - 1]?.day ?? lastDay(test)

/** A test that stands already, part by part; the day on which its review is done. */
interface Standing {
  day: DayNumber
  doneBy: DayNumber
  whole: boolean
  /** What it and its review take, in minutes. */
  minutes: number
}

/** Tests that stand from a day on, in order of time. */
function standingTests(kept: PlanSession[], first: DayNumber): Standing[] {
  const active = kept.filter(isActive)
  return active
    .filter(isTest)
    .map((test): Standing => {
      const ids = [test, ...otherPartsOf(test, active)].map(({ id }) => id)
      const reviews = ids.flatMap((id) => reviewsOf(id, active))
      const own = reviewsOf(test.id, active)
      return {
        day: dayNumber(test.date),
        doneBy: Math.max(...[test, ...reviews].map(({ date }) => dayNumber(date))),
        whole: isWhole(test),
        minutes: [test, ...own].reduce((sum, { minutes }) => sum + minutes, 0),
      }
    })
    .filter(({ doneBy: over }) => over >= first)
    .sort((a, b) => a.day - b.day)
}

/** The first measure of where somebody stands is planned already. */
export const baselineStands = ({ kept }: PlanInput): boolean =>
  kept.some((session) => isTest(session) && isActive(session) && session.purpose === 'baseline')

/** Tests that were wished for and found no place, by what was lacking. */
export interface LeftOut {
  noRoom: number
  review: number
}

interface Option {
  cost: number
  blocks: Block[]
  hour?: 'late' | 'split'
}

/** Places for a wish, cheapest first: whole at the exam's hour, whole at another, split where no whole one could be. */
function optionsFor(
  room: TestRoom,
  wished: DayNumber,
  days: DayNumber[],
  until: DayNumber,
  maySplit: boolean,
  splitWithin?: number,
): Option[] {
  return days
    .flatMap((day): Option[] => {
      const whole = room.wholeOn(day)
      const cost = Math.abs(day - wished) * distanceCost
      if (whole)
        return [
          {
            cost: cost + (whole.late ? lateCost : 0),
            blocks: [{ day, from: whole.from, minutes: room.full }],
            ...(whole.late && { hour: 'late' as const }),
          },
        ]
      const blocks = maySplit ? room.splitOn(day, until, splitWithin) : undefined
      return blocks ? [{ cost: cost + splitCost + blocks.length, blocks, hour: 'split' }] : []
    })
    .sort((a, b) => a.cost - b.cost || a.blocks[0]!.day - b.blocks[0]!.day)
}

/** Tests placed one wish after the other, each with its review; what finds no room is left out and counted. */
export class TestPlacing {
  readonly placed: PlacedTest[] = []
  readonly left: LeftOut = { noRoom: 0, review: 0 }
  private readonly standing: Standing[]

  constructor(
    private readonly input: PlanInput,
    private readonly room: TestRoom,
    private readonly first: DayNumber,
  ) {
    this.standing = standingTests(input.kept, first)
  }

  /** Days strictly between which a test near a day may stand with its review, by the tests that stood before any was placed. */
  private between(day: DayNumber): { after: DayNumber; until: DayNumber } {
    const before = this.standing.filter((one) => one.day <= day)
    const next = this.standing.find((one) => one.day > day)
    return {
      after: Math.max(-Infinity, ...before.map((one) => one.doneBy)),
      until: next?.day ?? Infinity,
    }
  }

  /** A test at a place with its review, taken from the calendar; undefined, and nothing taken, where the review does not fit. */
  private settle(
    { blocks, hour }: Option,
    until: DayNumber,
    of: Pick<PlacedTest, 'wished' | 'stage' | 'baseline'> & Partial<PlacedTest>,
    wanted: number,
    short = false,
  ): PlacedTest | undefined {
    const { room } = this
    const end = blocks[blocks.length - 1]!
    blocks.forEach((block) => room.take(block))
    const reviews = room.reviewAfter(end, until, wanted, short)
    if (!reviews) {
      blocks.forEach((block) => room.give(block))
      return undefined
    }
    const reviewMinutes = short ? reviews.reduce((sum, { minutes }) => sum + minutes, 0) : wanted
    return { ...of, blocks, reviews, reviewMinutes, ...(hour && { hour }) }
  }

  /** Whether tests and their reviews, with one more, stay within a stage's share of the time until then. */
  private withinShare(stage: PlacedStage, day: DayNumber, end: DayNumber, until: DayNumber, cost: number) {
    const { first, placed, standing, room, input } = this
    const sum = (all: { minutes: number }[]) => all.reduce((total, { minutes }) => total + minutes, 0)
    const placedSpent = placed
      .filter((test) => firstDay(test) < day)
      .reduce((total, { blocks, reviewMinutes }) => total + reviewMinutes + sum(blocks), 0)
    const horizon = Math.min(until, end + (testEveryOf(input, stage) || 7))
    const stands = input.kept.filter((session) => {
      const on = dayNumber(session.date)
      return session.status === 'planned' && !isStudy(session) && on >= first && on < horizon
    })
    const time = room.openMinutes(first, horizon) + placedSpent + sum(stands)
    const spent = placedSpent + sum(standing.filter((one) => one.day >= first && one.day < day))
    return spent + cost <= stage.testShare * time
  }

  /** One wish, strictly between two days; undefined where test and review find no room, or too much of the time is gone. */
  private tryPlace(wish: Wish, after: DayNumber, until: DayNumber): PlacedTest | undefined {
    const { room, input, left } = this
    const within = wish.baseline ? baselineReach : reach
    const days = room.days.filter((day) => Math.abs(day - wish.day) <= within && day > after && day < until)
    // Splitting is the last resort: only where no day near the wish could hold a whole test, even an empty one.
    const maySplit = input.exam.sections.length > 1 && !room.wholeNear(wish.day, reach)
    const options = optionsFor(room, wish.day, days, until, maySplit)
    if (!options.length) {
      left[maySplit ? 'noRoom' : 'review']++
      return undefined
    }
    const asked = wish.baseline || wish.rehearsalAt !== undefined
    const { stage, baseline, rehearsalAt } = wish
    for (const option of options.slice(0, mostTried)) {
      const end = option.blocks[option.blocks.length - 1]!
      if (!asked && !this.withinShare(stage, wish.day, end.day, until, room.full + room.reviewMinutes))
        continue
      const found = this.settle(
        option,
        until,
        { wished: wish.day, stage, baseline, rehearsalAt },
        room.reviewMinutes,
      )
      if (found) return found
    }
    left.review++
    return undefined
  }

  /**
   * The last rehearsal: whole where any of the last ten days before the taper holds it, else its sections on several days; with all of its
   * review, or with as much as there is time for. Nobody sits an exam without one who has the time for it.
   */
  private lastRehearsal(wish: Wish, taper: DayNumber, exam: DayNumber): PlacedTest | undefined {
    const { room, input, first } = this
    const from = Math.max(first, exam - lastRehearsalWithin)
    const free = Math.max(first - 1, ...this.standing.map((one) => one.doneBy))
    const days = room.days.filter((day) => day >= from && day < taper && day > free)
    const apart = input.exam.sections.length > 1 && !days.some((day) => room.wholeOn(day))
    // Sat over several days, it may begin a week before, so that those with one long day a week have one too.
    const begins = apart ? room.days.filter((day) => day > free && day >= from - 7 && day < taper) : days
    const options = optionsFor(room, wish.day, begins, taper, apart, apart ? 7 : undefined).filter(
      ({ blocks }) => blocks[blocks.length - 1]!.day >= from,
    )
    const { stage, rehearsalAt } = wish
    const of = { wished: wish.day, stage, baseline: false, rehearsalAt, final: true }
    for (const short of [false, true])
      for (const option of options) {
        const found = this.settle(option, taper, of, room.reviewMinutes, short)
        if (found) return found
      }
    if (options.length || !days.length) this.left.review++
    else this.left.noRoom++
    return undefined
  }

  /** The last rehearsal first, so that nothing before it takes its room; then the rest in order of time. */
  all({ wishes, last }: Rhythm, taper: DayNumber, exam: DayNumber): void {
    const { input, first } = this
    const standing = this.standing.filter(({ whole, day }) => whole && day >= first)
    const stands = standing.some(({ day }) => day >= exam - lastRehearsalWithin)
    const finalTest = last && !stands ? this.lastRehearsal(last, taper, exam) : undefined
    const finalDay = finalTest ? firstDay(finalTest) : taper
    let busyUntil = first - 1
    for (const wish of wishes) {
      const apart = Math.max(2, testEveryOf(input, wish.stage) / 2)
      if (wish.baseline && baselineStands(input)) continue
      if (wish.day < first || standing.some(({ day }) => Math.abs(day - wish.day) < apart)) continue
      const { after, until } = this.between(wish.day)
      const test = this.tryPlace(wish, Math.max(busyUntil, after), Math.min(finalDay, until))
      if (!test) continue
      this.placed.push(test)
      busyUntil = doneBy(test)
    }
    if (finalTest) this.placed.push(finalTest)
  }

  /** Takes a test out again; its time is free. */
  takeOut(test: PlacedTest): void {
    for (const block of [...test.blocks, ...test.reviews]) this.room.give(block)
    this.placed.splice(this.placed.indexOf(test), 1)
  }

  /**
   * A section at its exam length in the days from `from` to `to`, with its review before whatever test comes next; the first of `units`
   * that finds room within the stage's share.
   */
  section(units: Section[][], stage: PlacedStage, from: DayNumber, to: DayNumber, taper: DayNumber) {
    const { room, placed } = this
    const { after, until } = this.between(from)
    const earlier = Math.max(after, ...placed.filter((test) => firstDay(test) < from).map(doneBy))
    const next = Math.min(taper, until, ...placed.map(firstDay).filter((day) => day > from))
    const days = room.days.filter((day) => day >= from && day <= to && day > earlier && day < next)
    for (const sections of units) {
      const options = days
        .flatMap((day): Option[] => {
          const block = room.sectionsOn(day, sections)
          return block ? [{ cost: Math.abs(day - to + 1), blocks: [block] }] : []
        })
        .sort((a, b) => a.cost - b.cost)
      for (const option of options) {
        const [{ day, minutes }] = option.blocks as [Block]
        const wanted = room.reviewOf(minutes)
        if (!this.withinShare(stage, day, day, next, minutes + wanted)) continue
        const found = this.settle(option, next, { wished: day, stage, baseline: false, sections }, wanted)
        if (!found) continue
        placed.push(found)
        placed.sort((a, b) => firstDay(a) - firstDay(b))
        return found
      }
    }
    return undefined
  }
}
