import type { ExamFormat, ItemGroup, Section } from '@climber/contract'
import { exp, ln } from '../exact/functions'
import { normalFrom } from '../exact/normal'
import { composite } from '../scoring/composite'
import { convert } from '../scoring/conversion'
import { guessIn, stageFor } from '../scoring/raw'
import { rise } from './paperCells'
import { uniforms } from './draws'
import { shifted } from './knowing'

/** Above this many expected, a number of successes is drawn from the normal distribution. */
const mostSteps = 400

/** How many of `n` come out, each with chance p, for a number between 0 and 1: the binomial's quantile by summing up. */
export function successes(uniform: number, n: number, p: number): number {
  if (n <= 0 || p <= 0) return 0
  if (p >= 1) return n
  if (p > 0.5) return n - successes(1 - uniform, n, 1 - p)
  if (n * p > mostSteps) {
    const drawn = n * p + Math.sqrt(n * p * (1 - p)) * normalFrom(uniform)
    return Math.min(n, Math.max(0, Math.round(drawn)))
  }
  let chance = exp(n * ln(1 - p))
  let below = chance
  let found = 0
  const odds = p / (1 - p)
  while (below < uniform && found < n) {
    chance *= (odds * (n - found)) / (found + 1)
    below += chance
    found += 1
  }
  return found
}

/** What each possible candidate brings to a paper. */
export interface Sitting {
  size: number
  /** Share known of every topic, in the exam's order; one number a candidate. */
  known: Float64Array[]
  /** Share of each section that is got to. */
  reach: Float64Array[]
  /** Chance that what is not known is left blank. */
  blanks: Float64Array
  /** What the odds of every question of a section are multiplied by on the day. */
  factors: Float64Array[]
}

/** Scaled scores of every possible candidate: sections in the exam's order, and the composite. Reported ones, rounded. */
export interface Scores {
  sections: Float64Array[]
  composite: Float64Array
}

/** Numbers that the luck of a group's items comes from. */
const luckOf = (group: ItemGroup, size: number) => ({
  right: uniforms(`right ${group.id}`, size),
  wrong: uniforms(`wrong ${group.id}`, size),
})

/** Marks of some items of a group for one possible candidate. */
function marksOf(
  group: ItemGroup,
  items: number,
  easier: number,
  known: number,
  blanks: number,
  luck: { right: number; wrong: number },
): number {
  const own = easier ? shifted(known, exp(easier)) : known
  const { kind, perRight, perWrong, perBlank = 0 } = group
  if (kind === 'written') {
    const sd = Math.sqrt(items * own * (1 - own)) * 0.7
    return perRight * Math.min(items, Math.max(0, items * own + (sd > 0 ? sd * normalFrom(luck.right) : 0)))
  }
  const guess = guessIn(group)
  const pRight = own + (1 - own) * (1 - blanks) * guess
  const right = successes(luck.right, items, pRight)
  if (!perWrong && !perBlank) return right * perRight
  const pWrong = ((1 - own) * (1 - blanks) * (1 - guess)) / Math.max(1e-12, 1 - pRight)
  const wrong = successes(luck.wrong, items - right, pWrong)
  return right * perRight - wrong * perWrong + (items - right - wrong + (group.items - items)) * perBlank
}

/** Scaled scores of one section. */
function sitSection(
  section: Section,
  own: number[],
  shares: number[],
  at: number,
  sitting: Sitting,
): Float64Array {
  const { size, known, reach, blanks, factors } = sitting
  const stages = section.stages ?? []
  const luck = new Map(
    [section, ...stages].flatMap(({ groups }) => groups.map((group) => [group.id, luckOf(group, size)])),
  )
  const scaled = new Float64Array(size)
  for (let one = 0; one < size; one++) {
    const factor = factors[at]![one]!
    let all = 0
    own.forEach((topic, place) => (all += shares[place]! * shifted(known[topic]![one]!, factor)))
    const sit = (groups: ItemGroup[]): number => {
      const items = groups.reduce((sum, group) => sum + group.items, 0)
      const share = reach[at]![one]!
      let left = share >= 1 ? items : Math.round(items * share)
      let raw = 0
      for (const group of groups) {
        const met = Math.min(left, group.items)
        left -= met
        const easier = group.difficulty === 'rising' ? (rise * (group.items - met)) / group.items : 0
        const { right, wrong } = luck.get(group.id)!
        raw += marksOf(group, met, easier, all, blanks[one]!, { right: right[one]!, wrong: wrong[one]! })
      }
      return raw
    }
    const first = sit(section.groups)
    const stage = stageFor(section, first)
    scaled[one] = stage
      ? convert(stage.conversion, first + sit(stage.groups))
      : convert(section.conversion, first)
  }
  return scaled
}

/** Every possible candidate sits the exam once. */
export function sit(exam: ExamFormat, sitting: Sitting): Scores {
  const sections = exam.sections.map((section, at) => {
    const own = exam.topics.flatMap((topic, place) => (topic.section === section.id ? [place] : []))
    return sitSection(
      section,
      own,
      own.map((topic) => exam.topics[topic]!.share),
      at,
      sitting,
    )
  })
  const scores = sections.map(() => 0)
  return {
    sections,
    composite: Float64Array.from({ length: sitting.size }, (_, one) => {
      sections.forEach((own, at) => (scores[at] = own[one]!))
      return composite(exam, scores)
    }),
  }
}
