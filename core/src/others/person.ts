import type { ExamFormat } from '@climber/contract'
import { exp, ln } from '../exact/functions'

/**
 * A person who learns, sits tests and forgets, in ways that are this kind's own, none of them the model's. Levels of a day are logarithms of
 * odds.
 */
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
  /** Share known of each topic at first, where it is believed to be so; drawn where nothing is. */
  start?: number[]
  /** Numbers between 0 and 1. */
  random: () => number
  today: number
}

export type Kind = (setting: Setting) => Person

/** A positive number to any power. */
export const power = (base: number, exponent: number): number => exp(exponent * ln(base))

/** What is known at first: as it is believed, or as a kind of learner draws it. */
export const knownAtFirst = (drawn: number[], { start }: Setting): number[] =>
  drawn.map((own, at) => Math.min(0.99, Math.max(0.01, start?.[at] ?? own)))
