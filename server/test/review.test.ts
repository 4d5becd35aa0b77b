import { randomUUID } from 'node:crypto'
import {
  type Basis,
  type Candidate,
  type ClimberFile,
  type ReviewNote,
  type SharedReview,
  versionsOf,
} from '@climber/contract'
import { type Database } from '../src/database'
import { type App, appOn, Browser, freshDatabase, practiceTest } from './harness'

let database: Database
let app: App
let owner: Browser
let candidate: Candidate
const attempt = randomUUID()
beforeAll(async () => {
  database = await freshDatabase()
  app = appOn(database)
  owner = new Browser(app)
  await owner.signUp()
  candidate = await owner.importCandidate()
  await owner.send('put', at(`attempts/${attempt}`), { version: 0, attempt: practiceTest(attempt) })
})
afterAll(() => database.sequelize.close())

const at = (rest = '') => `/api/candidates/${candidate.id}${rest && `/${rest}`}`
const note = (item: number, changes: object, more: object = {}) =>
  owner.send('put', at(`review/${attempt}/${item}`), { changes, ...more })
const read = async (): Promise<Candidate> => (await owner.send('get', at())).body as Candidate
const noteOf = async (item: number) => (await read()).review.find((one) => one.item === item)
/** Somebody else: of the workspace as that role, or a stranger. */
async function somebody(role?: 'tutor' | 'reader' | 'candidate'): Promise<Browser> {
  const browser = new Browser(app)
  const { user } = await browser.signUp()
  const row = await database.models.candidates.findByPk(candidate.id)
  if (role === 'candidate') {
    const other = await owner.importCandidate()
    await database.models.candidates.update({ userId: user!.id }, { where: { id: other.id } })
  } else if (role)
    await database.models.memberships.create({ workspaceId: row!.workspaceId, userId: user!.id, role })
  return browser
}

describe('a note', () => {
  it('keeps what is not named, takes away what is null, and counts its versions', async () => {
    expect((await note(3, { cause: 'misread', next: 'read the units' })).body).toMatchObject({ version: 1 })
    const rework = { answer: 'B', struck: ['A'], confidence: 'between two' }
    expect((await note(3, { rework, seconds: 40 })).body).toMatchObject({
      version: 2,
      cause: 'misread',
      rework,
    })
    expect((await note(3, { next: null })).body).toEqual({
      attempt,
      item: 3,
      cause: 'misread',
      rework,
      seconds: 40,
      version: 3,
    })
  })
  it('of two who write in it at once, each keeps what they wrote', async () => {
    const tutor = await somebody('tutor')
    const answers = await Promise.all([
      note(4, { rework: { answer: 'C' } }),
      tutor.send('put', at(`review/${attempt}/4`), { changes: { cause: 'careless' } }),
      note(4, { next: 'write it down' }),
    ])
    expect(answers.map(({ status }) => status)).toEqual([200, 200, 200])
    expect(await noteOf(4)).toMatchObject({
      rework: { answer: 'C' },
      cause: 'careless',
      next: 'write it down',
    })
  })
  it('sent twice is written once: what was written since stays', async () => {
    const request = randomUUID()
    await note(5, { cause: 'content' }, { request })
    await note(5, { cause: 'time' })
    const again = await note(5, { cause: 'content' }, { request })
    expect(again.body).toMatchObject({ cause: 'time', version: 2 })
  })
  it('says which field is wrong, and what would be right', async () => {
    expect((await note(6, { cause: 'bad luck' })).body.issues[0].field).toBe('changes.cause')
    expect((await note(6, { topic: 'no-such-topic' })).body.issues[0]).toMatchObject({ field: 'topic' })
    expect((await note(0, { cause: 'time' })).status).toBe(404)
    expect(await noteOf(6)).toBeUndefined()
  })
  it('a reader reads it and writes nothing', async () => {
    const reader = await somebody('reader')
    const answer = await reader.send('put', at(`review/${attempt}/3`), { changes: { cause: 'time' } })
    expect(answer.status).toBe(403)
    expect(((await reader.send('get', at())).body as Candidate).review.length).toBeGreaterThan(0)
  })
  it('goes with the Climber file, and comes back with it', async () => {
    const file = (await owner.send('get', at('file'))).body as ClimberFile
    expect(file.review!.find(({ item }) => item === 3)).toMatchObject({ cause: 'misread' })
    const copy = await owner.send('put', `/api/candidates/${randomUUID()}/file`, { file })
    expect(copy.status).toBe(200)
    const stripped = ((copy.body as Candidate).review as (ReviewNote & { version?: number })[]).map(
      ({ version: _, ...rest }) => rest,
    )
    expect(stripped).toEqual(file.review)
    const twice = { ...file, review: [...file.review!, file.review![0]!] }
    const refused = await owner.send('put', `/api/candidates/${randomUUID()}/file`, { file: twice })
    expect(refused.status).toBe(422)
    expect(refused.body.issues[0]).toMatchObject({ field: `file.review.${file.review!.length}.item` })
  })
  it('outlives what was sat, so that Undo brings both back', async () => {
    const own = randomUUID()
    await owner.send('put', at(`attempts/${own}`), { version: 0, attempt: practiceTest(own) })
    await owner.send('put', at(`review/${own}/1`), { changes: { cause: 'guess' } })
    await owner.send('delete', at(`attempts/${own}`), {})
    expect((await read()).review.some((one) => one.attempt === own)).toBe(true)
  })
  it('written after a preview makes that preview stale', async () => {
    await owner.send('put', at('plan'), { version: 0, seed: 1 })
    const before = await read()
    const preview = (await owner.send('get', '/api/session')).body as { now: string }
    const [date, time] = [preview.now.slice(0, 10), preview.now.slice(11, 16)]
    const [hours = 0, minutes = 0] = time.split(':').map(Number)
    const basis: Basis = { date, minute: hours * 60 + minutes, versions: versionsOf(before as never) }
    await note(9, { cause: 'time' })
    const body = { version: before.plan!.version, seed: 1, change: { kind: 'none' }, mode: 'mend', basis }
    const answer = await owner.send('put', at('plan/replan'), body)
    expect(answer.status).toBe(409)
    expect(answer.body.message).toContain('review')
  })
})

describe('comments', () => {
  const say = (browser: Browser, id: string, text: string | null, item = 3) =>
    browser.send('put', at(`review/${attempt}/${item}/comments/${id}`), { text })
  it('carry who said them and when; a tutor says one, and it is taken away', async () => {
    const tutor = await somebody('tutor')
    const id = randomUUID()
    expect((await say(tutor, id, 'Look at the datum first.')).status).toBe(200)
    const [comment] = (await noteOf(3))!.comments!
    expect(comment).toMatchObject({ id, text: 'Look at the datum first.' })
    expect(comment!.by).not.toBe('')
    expect(Date.parse(comment!.at!)).not.toBeNaN()
    // What else is written in the note leaves it there.
    await note(3, { cause: 'content' })
    expect((await noteOf(3))!.comments).toHaveLength(1)
    await say(owner, id, null)
    expect((await noteOf(3))!.comments).toBeUndefined()
    expect((await say(tutor, randomUUID(), '  ')).status).toBe(422)
  })
})

describe('a shared review', () => {
  const share = async (mode: 'read' | 'comment'): Promise<string> =>
    (await owner.send('post', at(`review/${attempt}/share`), { mode })).body.token as string
  it('is read by people of the workspace, the other candidate included, and by nobody else', async () => {
    const token = await share('read')
    const [tutor, other, stranger] = [await somebody('tutor'), await somebody('candidate'), await somebody()]
    for (const browser of [tutor, other, owner]) {
      const { status, body } = await browser.send('get', `/api/shared/${token}`)
      expect(status).toBe(200)
      const shared = body as SharedReview
      expect(shared).toMatchObject({ mode: 'read' })
      expect(shared.items.find(({ item }) => item === 3)!.note).toMatchObject({ cause: 'content' })
    }
    expect((await stranger.send('get', `/api/shared/${token}`)).status).toBe(404)
    // The address opens this one review and nothing else of the record.
    expect((await other.send('get', at())).status).toBe(404)
  })
  it('to be read only, nobody comments; with comments each takes back their own', async () => {
    const [one, two] = [await somebody('candidate'), await somebody('candidate')]
    const comment = (browser: Browser, token: string, id: string, text: string | null) =>
      browser.send('put', `/api/shared/${token}/items/3/comments/${id}`, { text })
    const id = randomUUID()
    expect((await comment(one, await share('read'), id, 'Same here.')).status).toBe(403)
    const token = await share('comment')
    const said = (await comment(one, token, id, 'Same here.')).body as SharedReview
    expect(said.items.find(({ item }) => item === 3)!.note!.comments).toMatchObject([{ text: 'Same here.' }])
    expect((await comment(two, token, id, 'Not mine.')).status).toBe(403)
    expect((await comment(two, token, id, null)).status).toBe(403)
    expect((await comment(one, token, id, null)).status).toBe(200)
    expect((await noteOf(3))!.comments).toBeUndefined()
  })
  it('ends where it is ended or made anew; only a hash of it is kept; of what was never sat there is none', async () => {
    const first = await share('read')
    const second = await share('comment')
    expect((await owner.send('get', `/api/shared/${first}`)).status).toBe(404)
    expect((await owner.send('get', at(`review/${attempt}/share`))).body).toMatchObject({ mode: 'comment' })
    const rows = await database.models.shares.findAll()
    expect(JSON.stringify(rows)).not.toContain(second)
    await owner.send('delete', at(`review/${attempt}/share`))
    expect((await owner.send('get', `/api/shared/${second}`)).status).toBe(404)
    expect((await owner.send('get', at(`review/${attempt}/share`))).body).toEqual({ mode: null, since: null })
    expect((await owner.send('post', at(`review/${randomUUID()}/share`), { mode: 'read' })).status).toBe(404)
  })
})
