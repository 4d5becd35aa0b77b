import type { ExamFormat } from '@climber/contract'

/** A person who learns, sits tests and forgets, in ways that are this kind's own. Levels of a day are logarithms of odds. */
export interface Person {
  /** Whether a planned session is kept. */
  keeps(): boolean
  /** Work on some topics (places in the exam's order; all of them, by their shares, where none is named). */
  works(day: number, kind: string, minutes: number, topics: number[]): void
  /** Minutes at the pace of the exam within other work. */
  times(minutes: number): void
  /** Share of a topic's questions that the person can answer on a day. */
  knows(topic: number, day: number): number
  /** Share of a section that is got to in the time. */
  reaches(section: number): number
  /** Chance that what is not known is left blank. */
  blanks: number
  /** What the odds of a day's questions are multiplied by, in logarithms: the day in all, and of a section. */
  day(): number
  ofSection(): number
  /** By how much a maker's questions are easier than the publisher's. */
  maker: number
}

export interface Setting {
  exam: ExamFormat
  /** Hours that are thought to close 63% of each topic. */
  taus: number[]
  /** Numbers between 0 and 1. */
  random: () => number
  today: number
}

export type Kind = (setting: Setting) => Person

export const normalOf = (random: () => number): number =>
  Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random())
export const shareOf = (logOdds: number): number => 1 / (1 + Math.exp(-logOdds))
