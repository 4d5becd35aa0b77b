import { isActive } from '../../sessions/session'
import { dayNumber, type DayNumber } from '../../time/day'
import type { PlanInput } from '../input'
import type { PlacedStage } from '../phases'
import type { Block, TestRoom } from './blocks'
import { testEveryOf, type Wish } from './wishes'

/** How far from its wished day a test may move, and the baseline. */
const reach = 3
const baselineReach = 6
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
  /** Why it does not stand whole when the exam does. */
  hour?: 'late' | 'split'
  baseline: boolean
}

export const firstDay = ({ blocks }: PlacedTest): DayNumber => blocks[0]!.day
export const lastDay = ({ blocks }: PlacedTest): DayNumber => blocks[blocks.length - 1]!.day

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
  wish: Wish,
  days: DayNumber[],
  until: DayNumber,
  maySplit: boolean,
): Option[] {
  return days
    .flatMap((day): Option[] => {
      const whole = room.wholeOn(day)
      const cost = Math.abs(day - wish.day) * distanceCost
      if (whole)
        return [
          {
            cost: cost + (whole.late ? lateCost : 0),
            blocks: [{ day, from: whole.from, minutes: room.full }],
            ...(whole.late && { hour: 'late' as const }),
          },
        ]
      const blocks = maySplit ? room.splitOn(day, until) : undefined
      return blocks ? [{ cost: cost + splitCost, blocks, hour: 'split' }] : []
    })
    .sort((a, b) => a.cost - b.cost || a.blocks[0]!.day - b.blocks[0]!.day)
}

/** Tests placed one wish after the other, each with its review; what finds no room is left out and counted. */
export class TestPlacing {
  readonly placed: PlacedTest[] = []
  readonly left: LeftOut = { noRoom: 0, review: 0 }

  constructor(
    private readonly input: PlanInput,
    private readonly room: TestRoom,
    private readonly first: DayNumber,
  ) {}

  /** One wish, strictly between two days; undefined where test and review find no room, or too much of the time is gone. */
  private tryPlace(wish: Wish, after: DayNumber, until: DayNumber): PlacedTest | undefined {
    const { room, input, left } = this
    const within = wish.baseline ? baselineReach : reach
    const days = room.days.filter((day) => Math.abs(day - wish.day) <= within && day > after && day < until)
    // Splitting is the last resort: only where no day near the wish could hold a whole test, even an empty one.
    const maySplit = input.exam.sections.length > 1 && !room.wholeNear(wish.day, reach)
    const options = optionsFor(room, wish, days, until, maySplit)
    if (!options.length) {
      left[maySplit ? 'noRoom' : 'review']++
      return undefined
    }
    const cost = room.full + room.reviewMinutes
    const spent = this.placed.filter((test) => firstDay(test) < wish.day).length * cost
    for (const { blocks, hour } of options.slice(0, mostTried)) {
      const end = blocks[blocks.length - 1]!
      const horizon = Math.min(until, end.day + (testEveryOf(input, wish.stage) || 7))
      const time = room.openMinutes(this.first, horizon) + spent
      const withinShare =
        wish.baseline || wish.rehearsalAt !== undefined || spent + cost <= wish.stage.testShare * time
      if (!withinShare) continue
      blocks.forEach((block) => room.take(block))
      const reviews = room.reviewAfter(end, until)
      const { stage, baseline, rehearsalAt } = wish
      if (reviews) return { wished: wish.day, stage, blocks, reviews, hour, baseline, rehearsalAt }
      blocks.forEach((block) => room.give(block))
    }
    left.review++
    return undefined
  }

  /** The last rehearsal first, so that nothing before it takes its room; then the rest in order of time. */
  all(wishes: Wish[], taper: DayNumber): void {
    const { input, first } = this
    const standing = input.kept
      .filter((session) => session.kind === 'test' && isActive(session) && dayNumber(session.date) >= first)
      .map(({ date }) => dayNumber(date))
    const final = wishes.length > 1 || !wishes[0]?.baseline ? wishes[wishes.length - 1] : undefined
    const finalTest = final && this.tryPlace(final, first - 1, taper)
    const finalDay = finalTest ? firstDay(finalTest) : taper
    let busyUntil = first - 1
    for (const wish of wishes) {
      if (wish === final) continue
      const apart = Math.max(2, testEveryOf(input, wish.stage) / 2)
      if (standing.some((day) => Math.abs(day - wish.day) < apart)) continue
      const test = this.tryPlace(wish, busyUntil, finalDay)
      if (!test) continue
      this.placed.push(test)
      busyUntil = test.reviews[test.reviews.length - 1]?.day ?? lastDay(test)
    }
    if (finalTest) this.placed.push(finalTest)
  }
}
