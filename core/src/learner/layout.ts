import type { Answers } from './cells'
import type { Exposure } from './work'

/**
 * The places of a possible candidate's parts in one vector, each in standard deviations of its prior: level in all, speed,
 * forgetting, blanks, pace; then levels of sections, paces of sections, makers, topics, and how topics that were worked on are learned.
 */
export interface Layout {
  size: number
  general: 0
  speed: 1
  forgetting: 2
  blanks: 3
  pace: 4
  sections: number
  paces: number
  makers: number
  topics: number
  /** Of each topic the place of its own speed; -1 where no work on it was done, so that nothing is learned of that. */
  speeds: Int32Array
  /** Names of the parts, which draws are made by. */
  names: string[]
}

/** What the draws of a topic's own speed are made by. */
export const speedName = (topic: string): string => `speed ${topic}`

export function layoutOf(sections: string[], makers: string[], topics: string[], worked: boolean[]): Layout {
  const learned = topics.filter((_, at) => worked[at])
  const first = 5 + 2 * sections.length + makers.length + topics.length
  const names = [
    'general',
    'speed',
    'forgetting',
    'blanks',
    'pace',
    ...sections.map((id) => `section ${id}`),
    ...sections.map((id) => `pace ${id}`),
    ...makers.map((id) => `maker ${id}`),
    ...topics.map((id) => `topic ${id}`),
    ...learned.map(speedName),
  ]
  return {
    size: names.length,
    general: 0,
    speed: 1,
    forgetting: 2,
    blanks: 3,
    pace: 4,
    sections: 5,
    paces: 5 + sections.length,
    makers: 5 + 2 * sections.length,
    topics: 5 + 2 * sections.length + makers.length,
    speeds: Int32Array.from(topics, (id, at) => (worked[at] ? first + learned.indexOf(id) : -1)),
    names,
  }
}

/** What the answers are explained by. */
export interface Problem {
  layout: Layout
  makers: string[]
  topics: string[]
  /** Section of each topic, hours that close 63% of it, and where its level lies by what was said of it. */
  sectionOf: Int32Array
  taus: Float64Array
  shifts: Float64Array
  /** Logarithm of the odds of leaving blank what is not known, before anything is known of it. */
  blanks: number
  answers: Answers[]
  /** Work until each of the answers. */
  exposures: Exposure[]
}
