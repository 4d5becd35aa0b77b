import { randomUUID } from 'node:crypto'
import {
  type Answer,
  type Candidate,
  type Card,
  type ClimberFile,
  nothingRecalled,
  type RecallAnswer,
  type Recalled,
} from '@climber/contract'
import { dayNumber } from '@climber/core'
import type { Database } from '../src/database'
import { up as recalledAnew } from '../src/migrations/0017-recalled'
import { type App, appOn, Browser, freshDatabase } from './harness'

let database: Database
let app: App
let owner: Browser
let candidate: Candidate
beforeAll(async () => {
  database = await freshDatabase()
  app = appOn(database)
  owner = new Browser(app)
  await owner.signUp()
})
beforeEach(async () => {
  candidate = await owner.importCandidate()
})
afterAll(() => database.sequelize.close())

const at = (rest: string, id = candidate.id) => `/api/candidates/${id}/${rest}`
const card = (changes: Partial<Card> = {}): Card =>
  ({ kind: 'card', id: randomUUID(), front: 'Neaps', back: 'the smallest range', ...changes }) as Card
const save = (cards: { card: Card; version: number }[], gone: { id: string; version: number }[] = []) =>
  owner.send('put', at('recall/cards'), { cards, gone })
const read = async (id = candidate.id) =>
  (await owner.send('get', at('recall', id))).body as Answer<'readRecall'>
let moment = 0
const answer = (of: string, changes: Partial<RecallAnswer> = {}): RecallAnswer => ({
  id: randomUUID(),
  card: of,
  on: '2031-03-01',
  at: new Date(Date.UTC(2031, 2, 1, 8, 0, moment++)).toISOString(),
  grade: 3,
  seconds: 6,
  ...changes,
})
const send = (answers: RecallAnswer[]) => owner.send('post', at('recall/answers'), { answers })

describe('cards', () => {
  it('are kept with their versions; of one that was changed meanwhile, what is stored is answered', async () => {
    const [one, two] = [card(), card({ topic: candidate.exam.topics[0]!.id })]
    const both = [
      { card: one, version: 0 },
      { card: two, version: 0 },
    ]
    expect((await save(both)).body).toMatchObject({
      saved: [
        { ...one, version: 1 },
        { ...two, version: 1 },
      ],
      gone: [],
      conflicts: [],
    })
    // Sent again it is there already.
    expect((await save(both)).body.conflicts).toEqual([])
    const mine = { ...one, back: 'the least range' } as Card
    expect((await save([{ card: mine, version: 1 }])).body.saved).toEqual([{ ...mine, version: 2 }])
    const theirs = await save([{ card: { ...one, back: 'little water' } as Card, version: 1 }])
    expect(theirs.body).toMatchObject({ saved: [], gone: [], conflicts: [{ ...mine, version: 2 }] })
    expect((await read()).cards).toHaveLength(2)
  })
  it('that are deleted come back with what was answered, and are not deleted over a change', async () => {
    const one = card()
    await save([{ card: one, version: 0 }])
    await send([answer(one.id)])
    expect((await save([], [{ id: one.id, version: 3 }])).body.conflicts).toHaveLength(1)
    expect((await save([], [{ id: one.id, version: 1 }])).body.gone).toEqual([one.id])
    expect((await save([], [{ id: one.id, version: 1 }])).body.gone).toEqual([one.id])
    expect((await read()).cards).toEqual([])
    await save([{ card: one, version: 1 }])
    const { cards, histories } = await read()
    expect(cards).toEqual([{ ...one, version: 1 }])
    expect(histories[0]!.answers).toHaveLength(1)
  })
  it('of every kind are read as they were written, pictures and formulas and keys of other programs too', async () => {
    const all = [
      card({ front: 'Hauteur, $h = \\sqrt{d}$ "…"', picture: 'data:image/png;base64,iVBORw0KGgo=' }),
      {
        kind: 'place',
        id: randomUUID(),
        front: 'Buoyage',
        section: 'Chapter 4',
        exact: 'Table 4.2',
        seconds: 40,
        mine: { a: [1] },
      },
      {
        kind: 'numbers',
        id: randomUUID(),
        question: {
          text: '{p} W for {h} h',
          numbers: [
            { name: 'p', low: 40, high: 100, step: 5 },
            { name: 'h', low: 6, high: 14, step: 1 },
          ],
          formula: 'p*h',
          tolerance: { kind: 'figures', figures: 3 },
        },
      },
    ] as Card[]
    await save(all.map((one) => ({ card: one, version: 0 })))
    const found = new Map((await read()).cards.map(({ version: _, ...one }) => [one.id, one]))
    for (const one of all) expect(found.get(one.id)).toEqual(one)
  })
  it('with something wrong are refused at their field, all of them', async () => {
    const unknown = await save([
      { card: card(), version: 0 },
      { card: card({ topic: 'no-such-topic' }), version: 0 },
    ])
    expect(unknown.status).toBe(422)
    expect(unknown.body.issues[0].field).toBe('cards.1.card.topic')
    const empty = await save([{ card: card({ front: ' ' } as Partial<Card>), version: 0 }])
    expect(empty.body.issues[0]).toMatchObject({ field: 'cards.0.card.front', message: 'write the front' })
    const script = await save([
      { card: card({ picture: 'data:image/svg+xml;base64,AAAA' } as Partial<Card>), version: 0 },
    ])
    expect(script.status).toBe(422)
    expect((await read()).cards).toEqual([])
  })
})

describe('answers', () => {
  it('of two devices that were offline are joined: 200 each, 50 of them to the same cards, nothing lost', async () => {
    const ids = Array.from({ length: 350 }, () => randomUUID())
    const early = ids.slice(0, 200).map((id) => answer(id, { grade: 1 }))
    const late = ids.slice(150).map((id) => answer(id, { grade: 4, on: '2031-03-02' }))
    // The later device is heard first, both at once in part, and one of them twice.
    expect((await send(late)).status).toBe(200)
    await Promise.all([send(early.slice(0, 120)), send(early.slice(100)), send(late.slice(0, 60))])
    const { histories, recent } = await read()
    expect(histories).toHaveLength(350)
    const days = ['2031-03-01', '2031-03-02'].map(dayNumber)
    const of = new Map(histories.map((one) => [one.card, one.answers]))
    for (const [at, id] of ids.entries()) {
      const first = [days[0], 1, 6]
      const second = [days[1], 4, 6]
      expect(of.get(id)).toEqual(at < 150 ? [first] : at < 200 ? [first, second] : [second])
    }
    expect(new Set(recent)).toEqual(new Set([...early, ...late].map(({ id }) => id)))
  })
  it('that are taken back stay so, whichever word comes first', async () => {
    const of = randomUUID()
    const [one, two] = [answer(of), answer(of, { grade: 1 })]
    await send([one, { ...two, undone: true }])
    await send([two])
    expect((await read()).histories[0]!.answers).toHaveLength(1)
    expect((await send([{ ...one, undone: true }])).body.histories).toEqual([{ card: of, answers: [] }])
    await send([one])
    expect((await read()).histories[0]!.answers).toEqual([])
  })
  it('to an item that was missed are kept like those to a card, and others are refused', async () => {
    const of = `item:${randomUUID()}:12`
    await send([answer(of)])
    expect((await read()).histories[0]).toMatchObject({ card: of })
    for (const wrong of ['item:12', `card:${randomUUID()}`, '"],"x":["', ''])
      expect((await send([answer(wrong)])).status).toBe(422)
    expect((await send([answer(of, { grade: 5 as 4 })])).body.issues[0].field).toBe('answers.0.grade')
  })
})

describe('what answers say of the candidate', () => {
  const recalledOf = async (id = candidate.id): Promise<Recalled> =>
    ((await owner.send('get', `/api/candidates/${id}`)).body as Candidate).recalled
  /** What a copy of the candidate has, which is worked out from nothing. */
  async function ofCopy(): Promise<Recalled> {
    const { body: file } = await owner.send('get', at('file'))
    const id = randomUUID()
    expect((await owner.send('put', at('file', id), { file })).status).toBe(200)
    return recalledOf(id)
  }
  const rough = ({ days, items, load }: Recalled) => ({
    days,
    items,
    load: [load.daily, load.begun, load.unbegun].map((seconds) => Math.round(seconds * 1e6)),
  })

  it('is in the record, and in step with cards and answers whatever is done to them', async () => {
    const [one, two, three] = [
      card({ topic: candidate.exam.topics[0]!.id }),
      card({ topic: candidate.exam.topics[1]!.id }),
      card(),
    ]
    const [tides, lights] = candidate.exam.topics.map(({ id }) => id)
    const item = `item:${randomUUID()}:3`
    expect(await recalledOf()).toEqual(nothingRecalled)
    const first = await save([one, two, three].map((own) => ({ card: own, version: 0 })))
    expect(first.body.recalled).toMatchObject({ version: 1, days: [], load: { unbegun: 24 } })
    const taken = answer(one.id, { grade: 1 })
    const sent = await send([
      taken,
      answer(one.id, { on: '2031-03-04', seconds: 9 }),
      answer(two.id),
      answer(three.id),
      answer(item, { topic: lights, on: '2031-03-04' }),
    ])
    const day = (topic: string, on: string) => ({ topic, day: dayNumber(on) })
    expect(sent.body.recalled.days).toEqual(
      expect.arrayContaining([
        expect.objectContaining({ ...day(tides!, '2031-03-01'), answers: 1, cards: [0, 1] }),
        expect.objectContaining({ ...day(tides!, '2031-03-04'), seconds: 9, cards: [1, 0] }),
        expect.objectContaining({ ...day(lights!, '2031-03-04'), items: [1, 1] }),
      ]),
    )
    expect(rough(await recalledOf())).toEqual(rough(await ofCopy()))
    const deeds = [
      () => send([{ ...taken, undone: true }]),
      () =>
        send([
          answer(item, { topic: lights, on: '2031-03-09', grade: 1 }),
          answer(two.id, { on: '2031-02-20' }),
        ]),
      () => save([{ card: { ...one, topic: lights } as Card, version: 1 }]),
      () => save([{ card: { ...two, suspended: true } as Card, version: 1 }]),
      () => save([], [{ id: one.id, version: 2 }]),
      () => save([{ card: one, version: 0 }], [{ id: three.id, version: 1 }]),
    ]
    for (const deed of deeds) {
      expect((await deed()).status).toBe(200)
      expect(rough(await recalledOf())).toEqual(rough(await ofCopy()))
    }
    expect((await recalledOf()).version).toBe(2 + deeds.length)
    // An item whose only answers are taken back is gone from it.
    const alone = answer(`item:${randomUUID()}:4`)
    await send([alone])
    expect((await recalledOf()).items).toHaveLength(2)
    await send([{ ...alone, undone: true }])
    expect((await recalledOf()).items).toHaveLength(1)
  })
  it('is worked out for decks from before it was kept', async () => {
    const [one, two] = [card({ topic: candidate.exam.topics[0]!.id }), card({ suspended: true })]
    await save([one, two].map((own) => ({ card: own, version: 0 })))
    await send([answer(one.id, { grade: 1 }), answer(one.id, { on: '2031-03-05' }), answer(two.id)])
    const before = await recalledOf()
    expect(before.days).toHaveLength(2)
    await database.models.recalled.destroy({ where: { candidateId: candidate.id } })
    expect(await recalledOf()).toEqual(nothingRecalled)
    await recalledAnew(database.sequelize)
    expect(rough(await recalledOf())).toEqual(rough(before))
  })
  it('two devices at once do not lose any of it', async () => {
    const cards = Array.from({ length: 40 }, () => card({ topic: candidate.exam.topics[0]!.id }))
    await save(cards.map((own) => ({ card: own, version: 0 })))
    await Promise.all(
      [0, 1, 2, 3].map((part) => send(cards.slice(part * 10, part * 10 + 10).map(({ id }) => answer(id)))),
    )
    expect((await recalledOf()).days).toMatchObject([{ answers: 40, cards: [40, 40], seconds: 240 }])
  })
})

describe('who may', () => {
  it('a reader sees the deck and changes nothing', async () => {
    const reader = new Browser(app)
    const { user } = await reader.signUp()
    await database.models.grants.create({ candidateId: candidate.id, userId: user!.id, role: 'reader' })
    expect((await reader.send('get', at('recall'))).status).toBe(200)
    expect((await reader.send('put', at('recall/cards'), { cards: [], gone: [] })).status).toBe(403)
    expect(
      (await reader.send('post', at('recall/answers'), { answers: [answer(randomUUID())] })).status,
    ).toBe(403)
  })
  it('the same id in another record is another card', async () => {
    const one = card()
    await save([{ card: one, version: 0 }])
    const other = await owner.importCandidate()
    await owner.send('put', at('recall/cards', other.id), {
      cards: [{ card: { ...one, front: 'Springs' }, version: 0 }],
      gone: [],
    })
    expect((await read()).cards[0]).toMatchObject({ front: 'Neaps' })
    expect((await read(other.id)).cards[0]).toMatchObject({ front: 'Springs' })
  })
})

it('a deck goes out in a file and comes in again, the same to the byte', async () => {
  const one = card({ topic: candidate.exam.topics[0]!.id })
  await save([{ card: one, version: 0 }])
  const taken = answer(one.id)
  await send([
    answer(one.id, { seed: 7, given: '18', slip: 'thousands forgotten' }),
    { ...taken, undone: true },
  ])
  const out = (await owner.send('get', at('file'))).body as ClimberFile
  expect(out.recall!.cards).toEqual([one])
  expect(out.recall!.answers).toEqual(
    expect.arrayContaining([
      expect.objectContaining({ seed: 7, slip: 'thousands forgotten' }),
      expect.objectContaining({ id: taken.id, undone: true }),
    ]),
  )
  const id = randomUUID()
  expect((await owner.send('put', at('file', id), { file: out })).status).toBe(200)
  expect(JSON.stringify((await owner.send('get', at('file', id))).body)).toBe(JSON.stringify(out))
  expect((await read(id)).histories).toEqual((await read()).histories)
  const twice = { ...out, recall: { cards: [one, one] } }
  expect((await owner.send('put', at('file', randomUUID()), { file: twice })).body.issues[0].field).toContain(
    'recall.cards.1',
  )
})
