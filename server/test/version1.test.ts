import { randomUUID } from 'node:crypto'
import {
  type Candidate,
  type ClimberFile,
  diagnosticId,
  type PlanSession,
  type TestSession,
} from '@climber/contract'
import { ofKind, reviewsOf, wordsOf } from '@climber/core'
import { Clock } from '../src/clock'
import { type Database, migrate } from '../src/database'
import { load, recordOf } from '../src/services/record'
import { file, type Json, storeAsVersion1 } from './version1'
import { type App, appOn, Browser, dropEverything, freshDatabase, now } from './harness'

let database: Database
let app: App
let browser: Browser
let candidate: Candidate
let out: { body: ClimberFile; text: string }
beforeAll(async () => {
  database = await freshDatabase()
  app = appOn(database)
  browser = new Browser(app)
  await browser.signUp()
  candidate = (await browser.send('put', `/api/candidates/${randomUUID()}/file`, { file: file() }))
    .body as Candidate
  out = await browser.send('get', `/api/candidates/${candidate.id}/file`)
})
afterAll(() => database.sequelize.close())

/** Every string and number of a document, with how often it stands there. */
function leaves(value: unknown, found = new Map<string, number>()): Map<string, number> {
  if (Array.isArray(value)) value.forEach((item) => leaves(item, found))
  else if (value && typeof value === 'object') Object.values(value).forEach((item) => leaves(item, found))
  else if (typeof value === 'string' || typeof value === 'number') {
    const key = JSON.stringify(value)
    found.set(key, (found.get(key) ?? 0) + 1)
  }
  return found
}
const wordsNow = async () => {
  const row = (await database.models.candidates.findByPk(candidate.id))!
  const record = recordOf(await load({ ...database, clock: new Clock(now), demo: false }, row))
  return { words: wordsOf(record, now.slice(0, 10)), record }
}

describe('a rich file of version 1', () => {
  it('becomes version 2, all that was sat an attempt', () => {
    expect(out.body.climber).toBe(2)
    const [earlier, drill, diagnostic] = ['earlier', 'drill', 'diagnostic'].map((kind) =>
      out.body.attempts!.find((attempt) => attempt.kind === kind)!,
    )
    expect(diagnostic).toMatchObject({
      id: diagnosticId,
      form: 'board-1',
      counts: { topics: { 'tide-heights': { right: 3, wrong: 2, blank: 1 } } },
      items: [
        { item: 1, answer: 'A', key: 'B', seconds: 41, confidence: 'sure', changedFrom: 'C' },
        { item: 2, answer: '', key: 'D' },
      ],
    })
    expect(earlier).toMatchObject({ title: 'Last spring', date: '2029-06-02', items: [{ item: 3 }] })
    expect(drill).toMatchObject({
      scope: { sections: ['signals'], groups: ['signals-items'] },
      budgetSeconds: 40,
      items: [
        { item: 1, seconds: 31, right: true, topic: 'lights' },
        { item: 2, seconds: 55, right: null },
      ],
    })
    const practice = out.body.attempts!.filter(({ kind }) => kind === 'practice')
    expect(practice.map(({ id }) => id)).toEqual(file().tests.map(({ id }) => id))
    expect(practice[0]!.items).toHaveLength((file().tests[0]!['responses'] as unknown[]).length)
    expect(out.body.ratings).toMatchObject({ halfWeightDays: 45, topics: { 'tide-heights': 'weak' } })
  })

  it('loses nothing: every word and number of it is there, sentences made anew of their facts', async () => {
    const before = file()
    const { words } = await wordsNow()
    const sentences = out.body.plan!.sessions.map((session) => words.why(session))
    // Figures beside a sentence of version 1 that were its own place and date over again.
    for (const session of before.plan.sessions)
      if (!['learn', 'drill', 'mixed'].includes(String(session['kind'])))
        Object.assign(session.why, { figures: {} })
    const there = leaves({ ...out.body, sentences })
    for (const [leaf, times] of leaves({ ...before, climber: 2 }))
      expect([leaf, there.get(leaf) ?? 0, (there.get(leaf) ?? 0) >= times]).toEqual([
        leaf,
        expect.any(Number),
        true,
      ])
  })

  it('keeps keys that nobody knows, at every depth', () => {
    const { exam, availability } = out.body as unknown as {
      exam: { sittings: Json[]; sections: Json[]; topics: Json[]; forms: Json[] }
      availability: { windows: Json[] }
    }
    expect(exam.sittings[0]!['quay']).toBe('north')
    expect(exam.sections[0]!['lamp']).toBe('green')
    expect(exam.topics[0]!['colour']).toBe('slate')
    expect(exam.forms[0]!['printed']).toBe(2029)
    expect(availability.windows.some((window) => window['ledge'] === 'narrow')).toBe(true)
    expect((out.body as unknown as Json)['moods']).toEqual([{ day: 1, mood: 'calm' }])
    expect((out.body.ratings as unknown as Json)['mood']).toBe('calm')
  })

  it('goes out and in again the same to the byte', async () => {
    const again = (await browser.send('put', `/api/candidates/${randomUUID()}/file`, { file: out.body }))
      .body as Candidate
    expect((await browser.send('get', `/api/candidates/${again.id}/file`)).text).toBe(out.text)
  })

  it('has sessions with the facts of their kind, and says what it said', async () => {
    const { words, record } = await wordsNow()
    const sessions = record.plan!.sessions
    const before = new Map(file().plan.sessions.map((session) => [session.id, session]))
    for (const session of sessions) {
      expect(words.title(session)).toBe(before.get(session.id)!.title)
      expect(words.why(session).length).toBeGreaterThan(10)
    }
    const tests = ofKind(sessions, 'test')
    const split = tests.filter((test) => test.split)
    expect(split.length).toBeGreaterThan(1)
    const other = (test: TestSession) => tests.find(({ id }) => id === test.split!.other)!
    for (const test of split) {
      expect(other(test).split!.other).toBe(test.id)
      expect(test.hour).toBe('split')
    }
    expect(
      ofKind(sessions, 'errand')
        .map(({ purpose }) => purpose)
        .sort(),
    ).toEqual(['journey', 'kit', 'register'])
    expect(ofKind(sessions, 'light').some(({ purpose }) => purpose === 'cards')).toBe(true)
    expect(ofKind(sessions, 'learn').every(({ reason }) => reason!.yield! > 0)).toBe(true)
    expect(record.plan!.phases.filter(({ rehearsal }) => rehearsal).map(({ name }) => name)).toEqual([
      'Rehearse',
    ])
    expect(tests.some(({ id }) => reviewsOf(id, sessions).length > 0)).toBe(true)
  })

  it('with faults says them where they stand in it', async () => {
    const broken = file() as unknown as {
      diagnosis: { sections: Record<string, Json>; earlier: { sections: Record<string, Json> }[] }
      tests: { counts: Record<string, Json>; date: unknown }[]
      drills: { rounds: { items: Json[] }[] }
    }
    broken.diagnosis.sections['streams-items']!['right'] = 900
    broken.diagnosis.earlier[0]!.sections['nowhere'] = { right: 1, wrong: 0, blank: 0 }
    broken.tests[1]!.counts['passage-items']!['wrong'] = -1
    broken.drills.rounds[0]!.items[1]!['seconds'] = 'long'
    const fields = async (sent: unknown) => {
      const answer = await browser.send('put', `/api/candidates/${randomUUID()}/file`, { file: sent })
      expect(answer.status).toBe(422)
      return (answer.body.issues as { field: string }[]).map(({ field }) => field)
    }
    expect((await fields(broken)).sort()).toEqual([
      'file.drills.rounds.0.items.1.seconds',
      'file.tests.1.counts.passage-items.wrong',
    ])
    broken.tests[1]!.counts['passage-items']!['wrong'] = 30
    broken.drills.rounds[0]!.items[1]!['seconds'] = 50
    expect(await fields(broken)).toEqual(
      expect.arrayContaining([
        'file.diagnosis.sections.streams-items',
        'file.diagnosis.earlier.0.sections.nowhere',
        'file.tests.1.counts.passage-items',
      ]),
    )
  })
})

describe('a database of version 1', () => {
  it('is migrated to the same that its file becomes, versions and undo kept', async () => {
    await dropEverything(database)
    await migrate(database, '0007-simulations')
    const id = await storeAsVersion1(database)
    await migrate(database)
    const row = (await database.models.candidates.findByPk(id))!
    const context = { ...database, clock: new Clock(now), demo: false }
    const { exportFile } = await import('../src/services/file')
    const { undoPlan } = await import('../src/services/plan')
    const exported = JSON.parse(JSON.stringify(await exportFile(context, row))) as ClimberFile
    const sorted = (all: ClimberFile) => ({
      ...all,
      attempts: [...all.attempts!].sort((a, b) => a.id.localeCompare(b.id)),
      plan: { ...all.plan!, sessions: [...all.plan!.sessions].sort((a, b) => a.id.localeCompare(b.id)) },
    })
    expect(sorted(exported)).toEqual(sorted(out.body))
    const loaded = await load(context, row)
    expect(loaded.plan!.version).toBe(4)
    expect(new Set(loaded.sessions.map(({ version }) => version))).toEqual(new Set([2]))
    expect(loaded.parts.get('ratings')!.version).toBe(3)
    expect([...loaded.parts.keys()]).not.toContain('diagnosis')
    expect(loaded.attempts.find(({ kind }) => kind === 'practice')!.version).toBe(2)
    // The step of undo is one of version 2, and takes its session back as a fact and not as a sentence.
    const [session] = file().plan.sessions
    const moved = loaded.sessions.find((one) => one.id === session!.id)!
    await moved.update({ document: { ...moved.document, start: '18:30' } as PlanSession, start: '18:30' })
    const back = await undoPlan(context, 'nobody', row, { version: 4, redo: false })
    expect(back.plan.sessions.find((one) => one.id === session!.id)).toMatchObject({
      start: session!['start'],
      label: session!.title,
    })
  })
  it('can be migrated again from where it was cut short', async () => {
    await dropEverything(database)
    await migrate(database, '0007-simulations')
    await storeAsVersion1(database)
    await migrate(database, '0008-attempts')
    await database.sequelize.query("DELETE FROM migrations WHERE name LIKE '0008%'")
    await migrate(database, '0010-sessions-by-kind')
    await database.sequelize.query(
      "DELETE FROM migrations WHERE name LIKE '0008%' OR name LIKE '0009%' OR name LIKE '0010%'",
    )
    await migrate(database)
    expect(await database.models.attempts.count()).toBe(5)
    expect(await database.models.sessions.count()).toBe(file().plan.sessions.length)
  })
})
