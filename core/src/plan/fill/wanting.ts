import { chosenWays } from '../../sessions/ways'
import { type DayNumber, mondayOf } from '../../time/day'
import { overlapDays, overlaps } from './overlaps'
import type { Progress } from './progress'

/** Whole weeks on one section: the one whose share of the hours is furthest behind. */
class SectionWeeks {
  private week = { monday: -1, section: '' }
  constructor(private readonly progress: Progress) {}

  on(day: DayNumber): string {
    const { progress } = this
    if (this.week.monday !== mondayOf(day)) {
      const behind = new Map<string, number>()
      progress.input.topics.forEach(({ section }, at) =>
        behind.set(section, (behind.get(section) ?? 0) + Math.max(0, progress.left[at]!)),
      )
      const [first] = [...behind].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]))
      this.week = { monday: mondayOf(day), section: first?.[0] ?? '' }
    }
    return this.week.section
  }
}

/** How much a topic is wanted in a slot: its worth now, spacing due, budget left, what overlaps it kept apart. */
export class Wanting {
  private readonly shared: Set<number>[]
  private readonly choices: ReturnType<typeof chosenWays>
  private readonly weeks: SectionWeeks

  constructor(
    private readonly progress: Progress,
    place: Map<string, number>,
  ) {
    this.shared = overlaps(progress.input, place)
    this.choices = chosenWays(progress.input.settings)
    this.weeks = new SectionWeeks(progress)
  }

  private worth(at: number): number {
    const { progress } = this
    if (this.choices.order === 'weakest') return 1 - progress.known[at]!
    if (this.choices.order === 'book')
      return (
        1 / (1 + progress.input.topics.filter((_, other) => other < at && progress.hasBudget(other)).length)
      )
    return Math.sqrt(Math.max(1e-9, progress.yieldNow(at)))
  }

  score(at: number, day: DayNumber): number {
    const { progress } = this
    const before = progress.memory[at]
    const days = before ? day - before.lastDay : Infinity
    const ideal = before ? Math.max(2, before.stability * 0.4) : 1
    const spacing = days < 1 ? 0.1 : Math.min(1.3, 0.4 + (0.6 * days) / ideal)
    const budget = progress.budget[at]!
    const behind = budget > 0 ? Math.max(0, progress.left[at]!) / budget : 0
    const elsewhere =
      this.choices.subjects === 'a section a week' &&
      progress.input.topics[at]!.section !== this.weeks.on(day)
        ? 0.02
        : 1
    const shared = this.shared[at]!
    const near =
      shared.size && [...shared].some((other) => day - progress.lastDay(other) < overlapDays) ? 0.25 : 1
    return this.worth(at) * spacing * (0.15 + behind) * elsewhere * near
  }

  /** The topic that is wanted most among those that fit; undefined where none does. */
  best(day: DayNumber, fits: (at: number) => boolean): number | undefined {
    let best: number | undefined
    let most = -1
    for (let at = 0; at < this.progress.input.topics.length; at++) {
      if (!fits(at)) continue
      const own = this.score(at, day)
      if (own > most) [best, most] = [at, own]
    }
    return best
  }
}
