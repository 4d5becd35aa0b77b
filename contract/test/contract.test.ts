import { readFileSync } from 'node:fs'
import path from 'node:path'
import { climberFileJsonSchema } from '../src/jsonSchema'
import {
  Availability,
  ClimberFile,
  Conversion,
  ExamFormat,
  issuesOf,
  PlainDate,
  prerequisiteCycle,
  routes,
} from '../src/index'

const file = () =>
  JSON.parse(readFileSync(path.join(process.cwd(), 'demo/tidal-pilotage.exam.climber.json'), 'utf8'))
const problems = (exam: unknown) => {
  const parsed = ExamFormat.safeParse(exam)
  return parsed.success ? [] : issuesOf(parsed.error).map(({ field, message }) => `${field}: ${message}`)
}

describe('the exam that ships', () => {
  const { exam } = ClimberFile.parse(file())
  it('has what the first path needs', () => {
    expect(exam.sections).toHaveLength(3)
    expect(new Set(exam.sections.map(({ minutes }) => minutes)).size).toBe(3)
    expect(exam.topics.length).toBeGreaterThanOrEqual(14)
    expect(exam.sittings).toHaveLength(3)
    expect(
      exam.sections.every(
        ({ cut, groups }) => cut !== undefined && groups[0]!.perWrong > 0 && groups[0]!.choices === 4,
      ),
    ).toBe(true)
    expect(exam.retake?.waitDays).toBeGreaterThan(0)
    expect(exam.bring.length).toBeGreaterThan(3)
  })
})

describe('an exam format', () => {
  const exam = () => file().exam
  it('keeps keys it does not know', () =>
    expect(ExamFormat.parse({ ...exam(), motto: 'Mind the ebb' })).toHaveProperty('motto'))
  it('names a topic of no section', () => {
    const changed = exam()
    changed.topics[3].section = 'nowhere'
    expect(problems(changed).join()).toContain('topics.3.section: no section has the id nowhere')
  })
  it('says what shares add up to', () => {
    const changed = exam()
    changed.topics[0].share = 0.5
    expect(problems(changed)).toContain(
      'sections.0: the shares of the topics of streams add up to 125%, not 100%',
    )
  })
  it('names the circle of prerequisites', () => {
    const changed = exam()
    changed.topics[0].prerequisites = ['surge']
    expect(problems(changed).join()).toMatch(/go in a circle: tide-heights -> surge -> tide-heights/)
  })
  it('names the row of a table that falls', () => {
    const parsed = Conversion.safeParse({
      points: [
        [0, 10],
        [5, 30],
        [9, 20],
      ],
    })
    expect(issuesOf(parsed.error!)[0]).toEqual({
      field: 'points.2.1',
      message: 'scaled scores must not fall: 20 comes after 30',
    })
  })
  it('refuses an id used twice and a penalty above the mark', () => {
    const changed = exam()
    changed.topics[1].id = changed.topics[0].id
    changed.sections[0].groups[0].perWrong = 2
    const found = problems(changed).join()
    expect(found).toContain('a wrong answer cannot cost more than a right one earns')
  })
})

describe('the published JSON Schema', () => {
  it('is the one that the Zod schemas give (npm run schema writes it anew)', () => {
    const published = JSON.parse(
      readFileSync(path.join(process.cwd(), 'docs/climber-file.schema.json'), 'utf8'),
    )
    expect(published).toEqual(JSON.parse(JSON.stringify(climberFileJsonSchema())))
  })
})

describe('small shapes', () => {
  it('dates that are none', () => {
    for (const text of ['2027-02-30', '2027-13-01', '27-01-01', '2027-1-1', ''])
      expect(PlainDate.safeParse(text).success).toBe(false)
    expect(PlainDate.safeParse('2028-02-29').success).toBe(true)
  })
  it('windows that touch do not overlap', () => {
    const windows = [
      { weekday: 1, from: '10:00', to: '11:00' },
      { weekday: 1, from: '11:00', to: '24:00' },
    ]
    expect(Availability.safeParse({ windows }).success).toBe(true)
  })
  it('a long chain of prerequisites is no circle', () => {
    const topics = Array.from({ length: 300 }, (_, at) => ({
      id: `t${at}`,
      prerequisites: at ? [`t${at - 1}`] : [],
    }))
    expect(prerequisiteCycle(topics)).toBeUndefined()
  })
  it('every route of a candidate or exam carries its id', () => {
    for (const { who, path: address } of Object.values(routes)) {
      if (who === 'candidate') expect(address).toContain(':candidateId')
      if (who === 'exam') expect(address).toContain(':examId')
    }
  })
})
