import type { Kind, Person, Setting } from '@climber/core'
import { normalOf, shareOf } from './normal'

/** Lives as docs/models.md has it: exponential learning at a speed of one's own, forgetting by stabilities that grow with touches. */
export const own =
  (
    more: Partial<{ pace: (random: () => number) => number; maker: (random: () => number) => number }> = {},
  ): Kind =>
  ({ exam, taus, random, today }: Setting): Person => {
    const normal = () => normalOf(random)
    const general = -0.2 + 0.9 * normal()
    const sections = new Map(exam.sections.map(({ id }) => [id, 0.45 * normal()]))
    const start = exam.topics.map(({ section }) =>
      shareOf(general + sections.get(section)! + 0.75 * normal()),
    )
    const speed = Math.exp(0.4 * normal())
    const fades = Math.exp(0.4 * normal())
    const keeps = Math.min(1, 0.85 + 0.1 * normal())
    const pace = more.pace?.(random) ?? 0.04 + 0.11 * normal()
    const paces = exam.sections.map(() => pace + 0.05 * normal())
    const hours = start.map(() => 0)
    const steady = start.map(() => 0)
    const last = start.map(() => today)
    let tests = 0
    const whole = exam.sections.reduce((sum, { minutes }) => sum + minutes, 0)
    const worth: Record<string, number> = { review: 0.7, retest: 0.7, test: 0.25, light: 0.5 }
    return {
      keeps: () => random() < keeps,
      blanks: shareOf(-1 + 1.2 * normal()),
      day: () => 0.13 * normal(),
      ofSection: () => 0.15 * normal(),
      maker: more.maker?.(random) ?? 0.3 * normal(),
      times: (minutes) => {
        tests += minutes / whole
      },
      works(day, kind, minutes, topics) {
        if (kind === 'test') tests += Math.min(1, minutes / whole)
        const all = topics.length ? topics : start.map((_, at) => at)
        for (const at of all) {
          const part = topics.length ? 1 / topics.length : exam.topics[at]!.share / exam.sections.length
          const spent = ((worth[kind] ?? 1) * minutes * part) / 60
          hours[at]! += spent
          if (spent * 60 < 8) continue
          const gap = day - last[at]!
          if (!steady[at]) steady[at] = 4
          else if (gap >= Math.max(1, steady[at]! / 4)) steady[at]! *= 1.8
          last[at] = day
        }
      },
      knows(at, day) {
        const gap = Math.max(0, day - last[at]!)
        const kept = (share: number) => 0.3 + 0.7 * share
        const learned = (1 - start[at]!) * (1 - Math.exp((-speed * hours[at]!) / taus[at]!))
        return (
          start[at]! * kept(Math.exp((-fades * gap) / 300)) +
          learned * (steady[at] ? kept(Math.exp((-fades * gap) / steady[at]!)) : 1)
        )
      },
      reaches: (section) => {
        const own = paces[section]!
        return Math.min(1, Math.exp((own < 0 ? own * Math.exp(-tests / 2) : own) + 0.05 * normal()))
      },
    }
  }
