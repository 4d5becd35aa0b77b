import { randomUUID } from 'node:crypto'
import { type Candidate, type ExamEffect, type ExamFormat, type StoredExam } from '@climber/contract'
import type { Database } from '../src/database'
import { type App, appOn, Browser, candidateFile, freshDatabase, sample } from './harness'

let database: Database
let app: App
let tutor: Browser
beforeAll(async () => {
  database = await freshDatabase()
  app = appOn(database)
})
afterAll(() => database.sequelize.close())
beforeEach(async () => {
  tutor = new Browser(app)
  await tutor.signUp()
})

const changed = (format: ExamFormat, change: (format: ExamFormat) => void): ExamFormat => {
  const copy = JSON.parse(JSON.stringify(format)) as ExamFormat
  change(copy)
  return copy
}
const newExam = async (): Promise<StoredExam> =>
  (await tutor.send('put', `/api/exams/${randomUUID()}`, { file: sample() })).body as StoredExam
const save = (
  exam: Pick<StoredExam, 'id' | 'version'>,
  format: ExamFormat,
  newId: string = randomUUID(),
  browser = tutor,
) => browser.send('put', `/api/exams/${exam.id}/format`, { version: exam.version, newId, format })

describe('a format that nobody uses', () => {
  it('is changed in place, and the same save sent again is answered the same', async () => {
    const exam = await newExam()
    const format = changed(exam.format, (copy) => (copy.title = 'Another title'))
    const first = await save(exam, format)
    expect(first.body).toMatchObject({ id: exam.id, version: 2, edition: 1, candidates: 0 })
    expect((await save(exam, format)).body).toEqual(first.body)
    expect((await tutor.send('get', '/api/exams')).body).toMatchObject([
      { title: 'Another title', edition: 1 },
    ])
  })
  it('is not changed over a change made elsewhere; who and what is said', async () => {
    const exam = await newExam()
    await save(
      exam,
      changed(exam.format, (copy) => (copy.title = 'Theirs')),
    )
    const mine = changed(exam.format, (copy) => (copy.title = 'Mine'))
    const refused = await save(exam, mine)
    expect(refused.status).toBe(409)
    expect(refused.body).toMatchObject({
      code: 'conflict',
      changedBy: 'You yourself',
      current: { version: 2, document: { title: 'Theirs' } },
    })
    expect((await save({ ...exam, version: 2 }, mine)).body).toMatchObject({
      version: 3,
      format: { title: 'Mine' },
    })
  })
  it('with faults is refused with every field at fault, and stays as it was', async () => {
    const exam = await newExam()
    const refused = await save(
      exam,
      changed(exam.format, (copy) => {
        copy.sections[0]!.minutes = 0
        copy.topics[0]!.share = 0.9
      }),
    )
    expect(refused.status).toBe(422)
    const fields = (refused.body as { issues: { field: string }[] }).issues.map(({ field }) => field)
    expect(fields).toContain('format.sections.0.minutes')
    expect((await tutor.send('get', `/api/exams/${exam.id}`)).body.format).toEqual(exam.format)
  })
  it('can be removed; one in use cannot', async () => {
    const exam = await newExam()
    expect((await tutor.send('delete', `/api/exams/${exam.id}`)).status).toBe(200)
    expect((await tutor.send('get', `/api/exams/${exam.id}`)).status).toBe(404)
    const candidate = await tutor.importCandidate()
    expect((await tutor.send('delete', `/api/exams/${candidate.examId}`)).status).toBe(422)
  })
})

describe('a format in use', () => {
  let candidate: Candidate
  let exam: StoredExam
  beforeEach(async () => {
    candidate = await tutor.importCandidate()
    await tutor.send('put', `/api/candidates/${candidate.id}/plan`, { version: 0, seed: 1 })
    exam = (await tutor.send('get', `/api/exams/${candidate.examId}`)).body as StoredExam
  })
  const harder = (format: ExamFormat) =>
    changed(format, (copy) => {
      for (const section of copy.sections)
        section.conversion.points = section.conversion.points.map(([raw, scaled], at, all) =>
          at === 0 || at === all.length - 1 ? [raw, scaled] : [raw, scaled - 6],
        )
    })
  const move = (examId: string) => tutor.send('put', `/api/candidates/${candidate.id}/exam`, { examId })

  it('gets a new edition; the candidate stays on theirs until moved, and both are named', async () => {
    const newId = randomUUID()
    const made = (await save(exam, harder(exam.format), newId)).body as StoredExam
    expect(made).toMatchObject({ id: newId, edition: 2, version: 1, candidates: 0 })
    expect(made.editions.map(({ edition }) => edition)).toEqual([1, 2])
    expect((await save(exam, harder(exam.format), newId)).body).toEqual(made)
    const before = (await tutor.send('get', `/api/candidates/${candidate.id}`)).body as Candidate
    expect(before.exam).toEqual(exam.format)
    const after = (await move(newId)).body as Candidate
    expect(after.examId).toBe(newId)
    expect(after.exam.sections[0]!.conversion).not.toEqual(exam.format.sections[0]!.conversion)
    expect(after.plan!.sessions.length).toBe(before.plan!.sessions.length)
  })
  it('shows what a change would mean for each candidate, and stores nothing by it', async () => {
    const [effect] = (
      await tutor.send('post', `/api/exams/${exam.id}/effect`, { format: harder(exam.format) })
    ).body as ExamEffect[]
    expect(effect).toMatchObject({ name: 'Orla Venn', edition: 1, issues: [] })
    expect(effect!.after!.forecast!).toBeLessThan(effect!.before.forecast!)
    expect(effect!.after!.odds!).toBeLessThan(effect!.before.odds!)
    const [same] = (await tutor.send('post', `/api/exams/${exam.id}/effect`, { format: exam.format }))
      .body as ExamEffect[]
    expect(same!.after).toEqual(same!.before)
    expect((await tutor.send('get', `/api/exams/${exam.id}`)).body).toEqual(exam)
  })
  it('that a record does not fit says why, and nobody is moved to it', async () => {
    const smaller = changed(exam.format, (copy) => {
      copy.sections[0]!.groups[0]!.items = 30
      for (const form of copy.forms) delete form.items
    })
    const [effect] = (await tutor.send('post', `/api/exams/${exam.id}/effect`, { format: smaller }))
      .body as ExamEffect[]
    expect(effect!.after).toBeNull()
    expect(effect!.issues).toEqual([
      {
        field: 'attempts.Diagnostic.2030-01-10.counts.groups.streams-items',
        message: 'right, wrong and blank add up to 40; the section has 30 items',
      },
    ])
    const made = (await save(exam, smaller)).body as StoredExam
    const refused = await move(made.id)
    expect(refused.status).toBe(422)
    expect((await tutor.send('get', `/api/candidates/${candidate.id}`)).body.examId).toBe(exam.id)
  })
  it('moves nobody to an exam that is not an edition of theirs', async () => {
    const other = await newExam()
    expect((await move(other.id)).status).toBe(404)
    expect((await move(randomUUID())).status).toBe(404)
  })
  it('two tutors at once: one new edition each, none lost', async () => {
    const [a, b] = await Promise.all([
      save(exam, harder(exam.format)),
      save(
        exam,
        changed(exam.format, (copy) => (copy.title = 'Other')),
      ),
    ])
    expect([a.body.edition, b.body.edition].sort()).toEqual([2, 3])
  })
})

it('a candidate file brings its exam once, also where editions were made since', async () => {
  const first = await tutor.importCandidate()
  const second = await tutor.importCandidate(candidateFile({ candidate: { name: 'Pell Oram', note: '' } }))
  expect(second.examId).toBe(first.examId)
})

it('every exam that ships can be taken', async () => {
  const samples = (await tutor.send('get', '/api/samples')).body as { title: string; file: object }[]
  expect(samples).toHaveLength(4)
  for (const { file, title } of samples) {
    const answer = await tutor.send('put', `/api/exams/${randomUUID()}`, { file })
    expect(answer.body).toMatchObject({ format: { title } })
  }
})
