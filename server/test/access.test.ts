import { randomUUID } from 'node:crypto'
import { type Candidate, type Role, type RouteName, routes } from '@climber/contract'
import { type Database } from '../src/database'
import {
  type App,
  appOn,
  Browser,
  candidateFile,
  freshDatabase,
  practiceTest,
  roomEvent,
  roomSetup,
  sample,
} from './harness'

let database: Database
let app: App
let owner: Browser
let stranger: Browser
let candidate: Candidate
let sessionId: string
const attemptId = randomUUID()
const templateId = randomUUID()
const simulationId = randomUUID()
const roomId = randomUUID()
let shared: string

beforeAll(async () => {
  database = await freshDatabase()
  app = appOn(database)
  owner = new Browser(app)
  await owner.signUp()
  candidate = await owner.importCandidate()
  const plan = await owner.send('put', `/api/candidates/${candidate.id}/plan`, { version: 0, seed: 1 })
  sessionId = plan.body.sessions[0].id
  await owner.send('put', `/api/candidates/${candidate.id}/attempts/${attemptId}`, {
    version: 0,
    attempt: practiceTest(attemptId),
  })
  await owner.send('put', `/api/templates/${templateId}`, { title: 'Evenings', settings: {} })
  await owner.send('put', `/api/candidates/${candidate.id}/rooms/${roomId}`, { setup: roomSetup(roomId) })
  const { body } = await owner.send('post', `/api/candidates/${candidate.id}/review/${attemptId}/share`, {
    mode: 'comment',
  })
  shared = body.token
  stranger = new Browser(app)
  await stranger.signUp()
})
afterAll(() => database.sequelize.close())

/** A well-formed request for every route, so that a refusal is about who asks and nothing else. */
const bodies: Partial<Record<RouteName, () => object>> = {
  signUp: () => ({ email: 'x@mail.example', password: 'long enough', name: 'X' }),
  saveLocale: () => ({ locale: 'en-US' }),
  createExam: () => ({ file: sample() }),
  saveFormat: () => ({ version: 1, newId: randomUUID(), format: sample().exam }),
  examEffect: () => ({ format: sample().exam }),
  moveToEdition: () => ({ examId: candidate.examId }),
  createCandidate: () => ({ name: 'X', examId: candidate.examId, self: false }),
  savePart: () => ({ version: 1, document: { name: 'Taken over', note: '' } }),
  makePlan: () => ({ version: 1, seed: 1 }),
  arrangePlan: () => ({ version: 1, moves: [{ id: sessionId, lifted: true }] }),
  replan: () => ({ version: 1, seed: 1, change: { kind: 'none' }, mode: 'mend' }),
  undoPlan: () => ({ version: 1, redo: false }),
  readCommitments: () => ({ address: 'https://calendar.example/private.ics' }),
  saveTemplate: () => ({ title: 'Taken over', settings: {} }),
  saveSession: () => ({ version: 1, status: 'done', minutesDone: 10 }),
  join: () => ({ code: 'guessed' }),
  readInvitation: () => ({ code: 'guessed' }),
  saveAttempt: () => ({ version: 1, attempt: practiceTest(attemptId) }),
  importFile: () => ({ file: candidateFile() }),
  noteItem: () => ({ changes: { cause: 'time' } }),
  commentItem: () => ({ text: 'Taken over' }),
  shareReview: () => ({ mode: 'read' }),
  commentShared: () => ({ text: 'Taken over' }),
  saveCards: () => ({
    cards: [{ card: { kind: 'card', id: roomId, front: 'Taken', back: 'over' }, version: 0 }],
    gone: [],
  }),
  answerCards: () => ({
    answers: [
      { id: roomId, card: roomId, on: '2031-03-01', at: '2031-03-01T08:00:00.000Z', grade: 3, seconds: 4 },
    ],
  }),
  openRoom: () => ({ setup: roomSetup(roomId) }),
  noteRoom: () => ({ life: roomId, device: 'a tablet', events: [roomEvent(roomId, 0, { kind: 'begin' })] }),
  saveSimulation: () => ({ section: 'streams', sittings: 200, seed: 1, asOf: 'today' }),
}
function addressed(name: RouteName): string {
  const ids: Record<string, string> = {
    candidateId: candidate.id,
    examId: candidate.examId,
    part: 'candidate',
    sessionId,
    attemptId,
    templateId,
    simulationId,
    roomId,
    item: '1',
    commentId: roomId,
    token: shared,
    region: 'AT',
    from: '2031-01-01',
    to: '2031-12-31',
  }
  return routes[name].path.replace(/:(\w+)/g, (_, key: string) => ids[key] ?? key)
}
const names = Object.keys(routes) as RouteName[]
const ask = (browser: Browser, name: RouteName) =>
  browser.send(routes[name].method.toLowerCase() as 'get', addressed(name), bodies[name]?.())

describe('every route, as the wrong person', () => {
  it.each(names.filter((name) => routes[name].right !== 'anyone'))(
    '%s wants a signed-in user',
    async (name) => {
      const nobody = new Browser(app)
      await nobody.arrive()
      expect((await ask(nobody, name)).status).toBe(401)
    },
  )
  it.each(names.filter((name) => routes[name].right.includes(':')))(
    '%s tells a stranger the same as for what does not exist',
    async (name) => {
      const answer = await ask(stranger, name)
      expect(answer.status).toBe(404)
      const missing = await stranger.send(
        routes[name].method.toLowerCase() as 'get',
        addressed(name).replace(candidate.id, randomUUID()).replace(candidate.examId, randomUUID()),
        bodies[name]?.(),
      )
      const { request: _a, ...said } = answer.body
      const { request: _b, ...saidOfNothing } = missing.body
      expect(said).toEqual(saidOfNothing)
    },
  )
  it.each([
    'createCandidate',
    'importFile',
    'createExam',
    'saveTemplate',
    'deleteTemplate',
    'readShared',
    'commentShared',
  ] as const)('%s does not reach into another workspace by its id', async (name) => {
    const answer = await ask(stranger, name)
    expect([404, 409]).toContain(answer.status)
    expect(JSON.stringify(answer.body)).not.toContain('Orla')
  })
  it('lists show nothing of others', async () => {
    for (const name of ['listCandidates', 'listExams', 'listTemplates'] as const)
      expect((await ask(stranger, name)).body).toEqual([])
  })
  it('nothing was changed by any of it', async () => {
    const again = (await owner.send('get', `/api/candidates/${candidate.id}`)).body as Candidate
    expect(again.parts.candidate!.document).toEqual(candidate.parts.candidate!.document)
    expect(again.attempts).toHaveLength(2)
    expect(again.plan!.version).toBe(1)
    const templates = (await owner.send('get', '/api/templates')).body as { title: string }[]
    expect(templates.map(({ title }) => title)).toEqual(['Evenings'])
  })
})

describe('an invitation', () => {
  const invite = async () =>
    (await owner.send('post', `/api/candidates/${candidate.id}/invitation`)).body as { code: string }
  it('makes the one who enters its code the candidate, once', async () => {
    const { code } = await invite()
    const [invited, late] = [new Browser(app), new Browser(app)]
    await invited.signUp()
    await late.signUp()
    expect((await invited.send('get', `/api/candidates/${candidate.id}`)).status).toBe(404)
    expect((await invited.send('post', '/api/join', { code })).body).toEqual({ candidateId: candidate.id })
    expect((await invited.send('get', `/api/candidates/${candidate.id}`)).body.mine).toBe(true)
    expect((await late.send('post', '/api/join', { code })).status).toBe(404)
    expect((await owner.send('post', `/api/candidates/${candidate.id}/invitation`)).status).toBe(422)
    await database.models.candidates.update({ userId: null }, { where: { id: candidate.id } })
  })
  it('says who invites, whom and to what, to whoever holds it, and is not used up by that', async () => {
    const { code } = await invite()
    const nobody = new Browser(app)
    await nobody.arrive()
    for (let times = 0; times < 2; times++) {
      const { body } = await nobody.send('post', '/api/invitation', { code })
      expect(body).toMatchObject({
        to: (candidate.parts.candidate as { document: { name: string } }).document.name,
        exam: candidate.exam.title,
      })
      expect(body.from).toBeTruthy()
      expect(Object.keys(body).sort()).toEqual(['exam', 'examDate', 'expires', 'from', 'to'])
    }
    expect((await nobody.send('post', '/api/invitation', { code: `${code}x` })).status).toBe(404)
    const [row] = await database.models.invitations.findAll()
    await row!.update({ expires: new Date('2030-01-01') })
    expect((await nobody.send('post', '/api/invitation', { code })).status).toBe(404)
  })
  it('replaces the one before it, is kept as a hash only, and runs out', async () => {
    const first = await invite()
    const second = await invite()
    expect((await stranger.send('post', '/api/join', first)).status).toBe(404)
    const [row] = await database.models.invitations.findAll()
    expect(row!.codeHash).not.toContain(second.code)
    await row!.update({ expires: new Date('2030-01-01') })
    expect((await stranger.send('post', '/api/join', second)).status).toBe(404)
  })
})

describe('the candidate themself', () => {
  it('opens their own record, and the exam, though they are no member of the workspace', async () => {
    const self = new Browser(app)
    const { user } = await self.signUp()
    await database.models.candidates.update({ userId: user!.id }, { where: { id: candidate.id } })
    const answer = await self.send('get', `/api/candidates/${candidate.id}`)
    expect(answer.body.mine).toBe(true)
    expect((await self.send('get', `/api/exams/${candidate.examId}`)).status).toBe(200)
    for (const name of ['saveFormat', 'deleteExam', 'examEffect', 'deleteCandidate'] as const)
      expect((await ask(self, name)).status).toBe(403)
    expect((await self.send('get', '/api/candidates')).body).toHaveLength(1)
    await database.models.candidates.update({ userId: null }, { where: { id: candidate.id } })
    expect((await self.send('get', `/api/candidates/${candidate.id}`)).status).toBe(404)
  })
})

describe('roles', () => {
  const grant = async (role: Role) => {
    const browser = new Browser(app)
    const { user } = await browser.signUp()
    await database.models.grants.create({ candidateId: candidate.id, userId: user!.id, role })
    return browser
  }
  /** What a role may do to a record, by the first refusal of each of its routes that is about rights. */
  const refused = async (browser: Browser): Promise<Set<RouteName>> => {
    const found = new Set<RouteName>()
    for (const name of names.filter((one) => routes[one].right.startsWith('record:'))) {
      // Last of all, since it ends the rest.
      if (name === 'deleteCandidate') continue
      const { status } = await ask(browser, name)
      expect(status).not.toBe(404)
      if (status === 403) found.add(name)
    }
    if ((await ask(browser, 'deleteCandidate')).status === 403) found.add('deleteCandidate')
    return found
  }
  it('a reader reads and does nothing else', async () => {
    const all = names.filter((one) => routes[one].right.startsWith('record:'))
    const reads = all.filter((one) => routes[one].right === 'record:read')
    expect([...(await refused(await grant('reader')))].sort()).toEqual(
      all.filter((one) => !reads.includes(one)).sort(),
    )
  })
  it('a tutor and the candidate do all but delete', async () => {
    expect([...(await refused(await grant('tutor')))]).toEqual(['deleteCandidate'])
    expect([...(await refused(await grant('candidate')))]).toEqual(['deleteCandidate'])
  })
  it('a granted record is in the list of who it was granted to, with no other', async () => {
    await tutorOfAnother()
    const reader = await grant('reader')
    const rows = (await reader.send('get', '/api/candidates')).body as { id: string }[]
    expect(rows.map(({ id }) => id)).toEqual([candidate.id])
    expect((await reader.send('get', `/api/candidates/${candidate.id}`)).body.role).toBe('reader')
  })
  const tutorOfAnother = async () => {
    const browser = new Browser(app)
    await browser.signUp()
    return browser.importCandidate()
  }
})
