import { jest } from '@jest/globals'
import type { ChangedPlan, StoredPlan } from '@climber/contract'
import { heard } from '../src/outbox/connection'
import { planChanges } from '../src/stores/planChanges'

type Sent = { address: string; body: { request: string; version: number } }
let sent: Sent[]
let answers: (() => Response)[]
const stored = (version: number) => ({ plan: { version }, availability: null }) as unknown as ChangedPlan
const says = (status: number, body: object) => () =>
  new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } })
const lost = () => {
  throw new TypeError('Failed to fetch')
}

beforeEach(() => {
  sent = []
  answers = []
  jest.spyOn(globalThis, 'fetch').mockImplementation((address, init) => {
    sent.push({ address: String(address), body: JSON.parse(String(init?.body)) as Sent['body'] })
    return Promise.resolve().then(() => answers.shift()!())
  })
})
afterEach(() => {
  jest.restoreAllMocks()
  heard(true)
})

function onPlan(version: number) {
  let plan = { version } as StoredPlan
  const changes = planChanges({
    candidateId: () => '5f0c9a00-0000-4000-8000-000000000001',
    plan: () => plan,
    take: (changed) => {
      plan = changed.plan
      return Promise.resolve()
    },
  })
  return { changes, version: () => plan.version }
}

describe('a change of the plan', () => {
  it('whose answer was lost goes under the same id when it is asked for again', async () => {
    const { changes, version } = onPlan(4)
    answers = [lost, says(200, stored(5))]
    await expect(changes.undoPlan(false)).rejects.toThrow()
    await changes.undoPlan(false)
    expect(sent[1]!.body).toEqual(sent[0]!.body)
    expect(version()).toBe(5)
  })

  it('goes under a new id where it was answered, was refused, or is another', async () => {
    const { changes } = onPlan(4)
    const refused = says(409, { code: 'conflict', message: 'changed in the meantime' })
    answers = [says(200, stored(5)), refused, lost, lost, lost]
    await changes.undoPlan(false)
    for (let time = 0; time < 3; time++) await expect(changes.undoPlan(false)).rejects.toThrow()
    await expect(changes.undoPlan(true)).rejects.toThrow()
    const ids = sent.map(({ body }) => body.request)
    expect(ids[2]).toBe(ids[3])
    expect(new Set(ids).size).toBe(4)
    expect(sent.map(({ body }) => body.version)).toEqual([4, 5, 5, 5, 5])
  })
})
