import { jest } from '@jest/globals'
import { ref } from 'vue'
import { ApiFailure } from '../src/api'
import { actionOf, type Entry } from '../src/outbox/entry'
import { inMemory, type Keeper } from '../src/outbox/keeper'
import { Autosave } from '../src/stores/autosave'
import { makeBox } from './box'

interface Note {
  text: string
}
type Answer = { version: number; document: Note }
type Save = (version: number, document: Note) => Promise<Answer>
const params = { candidateId: '5f0c9a00-0000-4000-8000-000000000009', part: 'candidate' as const }
const stored = async (version: number, document: Note) => ({ version: version + 1, document })
const sentOf = (entry: Entry) => actionOf(entry, 'savePart')!.body

let keeper: Keeper
let offline = ref(false)
/** A tab that is open on the note; `renew` fetches a new token. */
async function open(save: Save, renew = async () => undefined as void) {
  const outbox = await makeBox({
    keeper,
    offline,
    renew,
    send: (entry) => save(sentOf(entry).version, sentOf(entry).document as unknown as Note),
  })
  const saver = new Autosave<Note>({ text: '' }, 0, {
    outbox,
    lane: 'note',
    about: 'The note',
    check: ({ text }) => (text === 'bad' ? [{ field: 'text', message: 'no' }] : []),
    action: (version, document) => ({
      route: 'savePart',
      params,
      body: { version, document: { ...document } },
    }),
    sent: (entry) => sentOf(entry).document as unknown as Note,
    answered: (answer) => answer as Answer,
  })
  return Object.assign(saver, {
    box: outbox,
    type: (text: string) => saver.edit((note) => (note.text = text)),
  })
}
const settle = (ms = 500) => jest.advanceTimersByTimeAsync(ms)

beforeEach(() => {
  keeper = inMemory()
  offline = ref(false)
  jest.useFakeTimers()
})
afterEach(() => jest.useRealTimers())

describe('autosave', () => {
  it('saves a moment after the last change, once', async () => {
    const save = jest.fn(stored)
    const saver = await open(save)
    saver.type('a')
    saver.type('ab')
    expect(saver.state.status).toBe('editing')
    await settle()
    expect(save.mock.calls).toEqual([[0, { text: 'ab' }]])
    expect(saver.state).toMatchObject({ status: 'saved', version: 1 })
    expect(await keeper.all()).toEqual([])
  })
  it('keeps what is typed in the browser until the server has confirmed it', async () => {
    const saver = await open(() => Promise.reject(new ApiFailure('offline', 'gone')))
    saver.type('precious')
    await settle()
    expect(saver.state.status).toBe('offline')
    saver.stop()
    saver.box.close()
    // The tab is closed and opened again, the server is back.
    offline = ref(false)
    const again = await open(stored)
    expect(again.state.document.text).toBe('precious')
    await settle()
    expect(again.state.status).toBe('saved')
  })
  it('sends by itself when the server is back', async () => {
    let away = true
    const saver = await open((version, document) =>
      away ? Promise.reject(new ApiFailure('unavailable', 'down')) : stored(version, document),
    )
    saver.type('x')
    await settle()
    expect(saver.state.status).toBe('offline')
    away = false
    offline.value = false
    await settle()
    expect(saver.state.status).toBe('saved')
  })
  it('sends what was typed while a save was under way', async () => {
    const sent: [number, string][] = []
    const saver = await open(async (version, document) => {
      sent.push([version, document.text])
      await new Promise((resolve) => setTimeout(resolve, 300))
      return stored(version, document)
    })
    saver.type('one')
    await settle(450)
    expect(saver.state.status).toBe('saving')
    saver.type('two')
    await settle(2000)
    expect(sent).toEqual([
      [0, 'one'],
      [1, 'two'],
    ])
    expect(saver.state).toMatchObject({ status: 'saved', version: 2 })
  })
  it('does not send what is not valid, and keeps it', async () => {
    const save = jest.fn(stored)
    const saver = await open(save)
    saver.type('bad')
    await settle(5000)
    expect(save).not.toHaveBeenCalled()
    expect(saver.state).toMatchObject({ status: 'refused', problems: [{ field: 'text', message: 'no' }] })
    expect(await keeper.all()).toMatchObject([{ held: true, body: { document: { text: 'bad' } } }])
    saver.type('good')
    await settle()
    expect(save.mock.calls).toEqual([[0, { text: 'good' }]])
  })
  it('after a lost answer sends the same again before what was typed since', async () => {
    const sent: [number, string][] = []
    let lost = true
    const saver = await open((version, document) => {
      sent.push([version, document.text])
      if (!lost) return stored(version, document)
      lost = false
      return Promise.reject(new ApiFailure('offline', 'cut'))
    })
    saver.type('one')
    await settle()
    saver.type('two')
    await settle()
    offline.value = false
    await settle()
    expect(sent).toEqual([
      [0, 'one'],
      [0, 'one'],
      [1, 'two'],
    ])
    expect(saver.state).toMatchObject({ status: 'saved', version: 2, document: { text: 'two' } })
  })
  it.each([
    [true, 'mine', 6],
    [false, 'theirs', 5],
  ])('after a conflict, keeping mine %s leaves %s', async (mine, text, version) => {
    let first = true
    const saver = await open((sent, document) => {
      if (!first) return stored(sent, document)
      first = false
      const current = { version: 5, document: { text: 'theirs' } }
      const failure = { code: 'conflict' as const, message: 'x', current, changedBy: 'Corvane' }
      return Promise.reject(new ApiFailure('conflict', 'x', failure))
    })
    saver.type('mine')
    await settle()
    expect(saver.state).toMatchObject({ status: 'conflict', conflict: { changedBy: 'Corvane' } })
    await saver.settle(mine)
    await settle()
    expect(saver.state).toMatchObject({ status: 'saved', version, document: { text } })
  })
  it('goes on being typed in while a conflict stands, and sends nothing over it', async () => {
    const save = jest.fn((): Promise<Answer> => {
      const current = { version: 5, document: { text: 'theirs' } }
      return Promise.reject(new ApiFailure('conflict', 'x', { code: 'conflict', message: 'x', current }))
    })
    const saver = await open(save)
    saver.type('mine')
    await settle()
    saver.type('mine and more')
    await settle()
    expect(save).toHaveBeenCalledTimes(1)
    expect(saver.state).toMatchObject({ status: 'conflict', document: { text: 'mine and more' } })
  })
  it('fetches a new token when the server forgot the old one', async () => {
    let renewed = false
    const saver = await open(
      (version, document) =>
        renewed ? stored(version, document) : Promise.reject(new ApiFailure('forged', 'old')),
      async () => void (renewed = true),
    )
    saver.type('x')
    await settle(2000)
    expect(saver.state.status).toBe('saved')
  })
  it('takes what is stored where nothing of its own waits', async () => {
    const saver = await open(stored)
    saver.adopt(4, { text: 'of a colleague' })
    expect(saver.state).toMatchObject({ version: 4, document: { text: 'of a colleague' } })
    saver.type('mine')
    saver.adopt(9, { text: 'later' })
    expect(saver.state.document.text).toBe('mine')
  })
})
