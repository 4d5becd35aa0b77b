import { dateOf, dayNumber } from '@climber/core'
import { gardenExam, gardenRecord } from '../../core/test/fixture'
import { median } from '../table'

export const today = '2031-03-03'

/** The garden exam grown to `count` topics, and a sitting `weeks` away. */
export function candidate(weeks: number, count: number) {
  const topics = Array.from({ length: count }, (_, at) => {
    const like = gardenExam.topics[at % gardenExam.topics.length]!
    const section = at % 2 ? 'ledgers' : 'names'
    return {
      ...like,
      id: `${section}-${at}`,
      section,
      share: 1 / Math.ceil((count - (at % 2)) / 2),
      prerequisites: [],
      hours: 4 + (at % 7),
    }
  })
  const exam = {
    ...gardenExam,
    topics,
    sittings: [{ ...gardenExam.sittings[0]!, date: dateOf(dayNumber(today) + weeks * 7) }],
  }
  return gardenRecord({ exam, ratings: {} })
}

/** Median milliseconds of some runs, the first one left out. */
export function time(work: () => unknown, runs = 9): number {
  work()
  return median(
    Array.from({ length: runs }, () => {
      const begun = performance.now()
      work()
      return performance.now() - begun
    }),
  )
}
