import type { AttemptCounts, Counts } from '@climber/contract'
import { gardenExam } from '../../test/fixture'
import { exams } from '../../test/shipped'
import { countsAt, countsInAll, countsOfSection, readResponses, sampleResponses } from '../index'

const counts = (right: number, wrong: number, blank: number): Counts => ({
  right,
  wrong,
  blank,
  notReached: 0,
})
const names = counts(40, 12, 8)
const ledgers = counts(15, 9, 6)
const total = counts(55, 21, 14)
const known = (more: Partial<AttemptCounts>): AttemptCounts => ({ groups: {}, topics: {}, ...more })

describe('counts of a test at the level at which they were typed', () => {
  it('come to the coarser ones', () => {
    const fine = known({ groups: { 'names-items': names, 'ledgers-items': ledgers } })
    expect(countsOfSection(gardenExam, 'names', fine)).toEqual(names)
    expect(countsInAll(gardenExam, fine)).toEqual(total)
    expect(countsInAll(gardenExam, known({ sections: { names, ledgers } }))).toEqual(total)
    expect(countsInAll(gardenExam, known({ sections: { names } }))).toBeUndefined()
  })
  it('take the place of finer ones, and leave coarser ones that still tell something', () => {
    const typed = known({
      total,
      sections: { names, ledgers },
      groups: { 'names-items': names },
      topics: { 'names-1': counts(1, 0, 0) },
    })
    expect(countsAt(gardenExam, typed, 'total')).toEqual({ total, groups: {}, topics: typed.topics })
    expect(countsAt(gardenExam, typed, 'sections')).toEqual({
      sections: { names, ledgers },
      groups: {},
      topics: typed.topics,
    })
    expect(countsAt(gardenExam, typed, 'groups')).toEqual({
      sections: { ledgers },
      groups: typed.groups,
      topics: typed.topics,
    })
    expect(countsAt(gardenExam, known({ total, sections: { names } }), 'sections').total).toEqual(total)
    expect(countsAt(gardenExam, typed, 'topics')).toBe(typed)
  })
})

describe('the sample of a CSV of answers', () => {
  it.each(exams)('of %s is read again without a problem, every item of it', (_, exam) => {
    for (const form of [undefined, ...exam.forms.slice(0, 3)]) {
      const read = readResponses(sampleResponses(exam, form), exam, form)
      expect(read.problems).toEqual([])
      expect(read.counted).toBeDefined()
      const slots = read.responses.length
      expect(read.rows).toBe(slots)
      expect(read.responses.map(({ item }) => item)).toEqual(
        Array.from({ length: slots }, (__, at) => at + 1),
      )
      expect(Object.keys(read.counted!.sections).length).toBeGreaterThanOrEqual(exam.sections.length)
    }
  })
})
