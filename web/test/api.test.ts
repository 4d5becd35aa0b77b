import { jest } from '@jest/globals'
import { heard, offline } from '../src/outbox/connection'
import { addressOf, ApiFailure, call, isPassing, setToken } from '../src/api'
import { importCandidate, isCandidate, readClimberFile } from '../src/stores/files'
import { kindWords, statusWords } from '../src/manners/kinds'

const sent: { address: string; init: RequestInit }[] = []
let answer: () => Promise<Response>
beforeEach(() => {
  sent.length = 0
  globalThis.fetch = jest.fn(async (address: unknown, init?: RequestInit) => {
    sent.push({ address: String(address), init: init! })
    return answer()
  }) as unknown as typeof fetch
})
const says = (status: number, body: unknown) =>
  (answer = async () => new Response(JSON.stringify(body), { status }))

describe('calls of the contract', () => {
  it('fill in the address, and send method, body and token', async () => {
    says(200, { version: 2 })
    setToken('token-1')
    await call('savePart', { candidateId: 'a b', part: 'target' }, { version: 1, document: { scaled: 300 } })
    expect(sent[0]!.address).toBe('/api/candidates/a%20b/parts/target')
    expect(sent[0]!.init.method).toBe('PUT')
    expect((sent[0]!.init.headers as Record<string, string>)['x-csrf-token']).toBe('token-1')
    expect(JSON.parse(sent[0]!.init.body as string)).toEqual({ version: 1, document: { scaled: 300 } })
  })
  it('send nothing with a GET', async () => {
    says(200, [])
    await call('listCandidates', {})
    expect(sent[0]!.init).toMatchObject({ method: 'GET', headers: {} })
    expect(addressOf('exportCalendar', { candidateId: 'x' })).toBe('/api/candidates/x/plan.ics')
  })
  it('bring the server’s refusal with its issues', async () => {
    says(422, { code: 'invalid', message: 'no', issues: [{ field: 'zone', message: 'name a zone' }] })
    const failure = await call('listCandidates', {}).catch((error: unknown) => error as ApiFailure)
    expect(failure).toBeInstanceOf(ApiFailure)
    expect(failure).toMatchObject({ code: 'invalid', failure: { issues: [{ field: 'zone' }] } })
    expect(isPassing(failure)).toBe(false)
  })
  it('tell silence and an overloaded server from a refusal', async () => {
    answer = async () => Promise.reject(new TypeError('failed to fetch'))
    const silent = await call('listCandidates', {}).catch((error: unknown) => error)
    expect(silent).toMatchObject({ code: 'offline' })
    expect(offline.value).toBe(true)
    heard(true)
    answer = async () => new Response('<html>bad gateway</html>', { status: 502 })
    const broken = await call('listCandidates', {}).catch((error: unknown) => error)
    expect(broken).toMatchObject({ code: 'unavailable' })
    expect([silent, broken].map(isPassing)).toEqual([true, true])
  })
})

describe('Climber files in the browser', () => {
  const file = (text: string) => new File([text], 'plan.climber.json')
  it('name the file when it is not JSON', async () => {
    const { problems } = await readClimberFile(file('{"climber": 1,'))
    expect(problems[0]).toMatchObject({ field: 'plan.climber.json' })
  })
  it('list every problem with its path', async () => {
    const { problems, file: none } = await readClimberFile(
      file(
        '{"climber": 1, "exam": {"title": "X", "sections": [], "topics": [], "composite": {"kind": "sum"}}}',
      ),
    )
    expect(none).toBeUndefined()
    expect(problems.map(({ field }) => field)).toEqual(
      expect.arrayContaining(['exam.sections', 'exam.topics']),
    )
  })
  it('are an exam alone, or a candidate, and a candidate goes in under a new id', async () => {
    const exam = { climber: 1, exam: {} } as never
    expect(isCandidate(exam)).toBe(false)
    expect(isCandidate({ ...(exam as object), candidate: { name: 'A', note: '' } } as never)).toBe(true)
    says(200, { id: 'new' })
    await importCandidate(exam, true)
    expect(sent[0]!.address).toMatch(/^\/api\/candidates\/[0-9a-f-]{36}\/file$/)
  })
})

describe('kinds and states of sessions', () => {
  it('each has a word', () => {
    for (const words of [kindWords, statusWords])
      expect(new Set(Object.values(words)).size).toBe(Object.keys(words).length)
  })
})
