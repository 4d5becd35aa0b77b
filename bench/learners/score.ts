import { examShares } from '@climber/core'
import type { Deed } from './alternatives'
import type { Anyone } from './anyone'
import type { Person } from './kind'

/** Section reaches are of so many days, so that one day's luck says nothing. */
const days = 8

/** What a person has done so far. */
export function after({ person }: Pick<Anyone, 'person'>, deeds: Deed[]): Person {
  const one: Person = person()
  for (const { day: on, kind, minutes, topics, timed } of deeds) {
    one.works(on, kind === 'study' ? 'learn' : kind, minutes, topics)
    if (timed) one.times(timed)
  }
  return one
}

/** The share of the exam's marks on a day, of a hundred, after deeds. */
export function scoreOf(some: Pick<Anyone, 'exam' | 'person'>, deeds: Deed[], day: number): number {
  const { exam } = some
  const one = after(some, deeds)
  const place = new Map(exam.sections.map(({ id }, at) => [id, at]))
  const reach = exam.sections.map((_, at) => {
    let sum = 0
    for (let turn = 0; turn < days; turn++) sum += one.reaches(at)
    return sum / days
  })
  return (
    100 *
    examShares(exam).reduce(
      (sum, share, at) => sum + share * one.knows(at, day) * reach[place.get(exam.topics[at]!.section)!]!,
      0,
    )
  )
}
