import { jest } from '@jest/globals'
import { ref } from 'vue'
import { ApiFailure } from '../src/api'
import { actionOf } from '../src/outbox/entry'
import { inMemory } from '../src/outbox/keeper'
import { Autosave } from '../src/stores/autosave'
import { EditHistory } from '../src/stores/history'
import { makeBox } from './box'

interface Note {
  text: string
  hours?: number
}
const params = { candidateId: '5f0c9a00-0000-4000-8000-000000000009', part: 'candidate' as const }

/** Two documents of one candidate, and what the server has of each. */
async function open() {
  const history = new EditHistory()
  const stored: Record<string, { version: number; document: Note }> = {}
  const outbox = await makeBox({
    keeper: inMemory(),
    offline: ref(false),
    renew: async () => undefined,
    send: async (entry) => {
      const { version, document } = actionOf(entry, 'savePart')!.body
      const now = stored[entry.lane]
      if (now && now.version !== version)
        throw new ApiFailure('conflict', 'changed', { current: now } as never)
      return (stored[entry.lane] = { version: version + 1, document: document as unknown as Note })
    },
  })
  const make = (lane: string) =>
    new Autosave<Note>({ text: '' }, 0, {
      outbox,
      lane,
      about: `The ${lane}`,
      history,
      check: ({ text }) => (text === 'bad' ? [{ field: 'text', message: 'no' }] : []),
      action: (version, document) => ({
        route: 'savePart',
        params,
        body: { version, document: { ...document } },
      }),
      sent: (entry) => actionOf(entry, 'savePart')!.body.document as unknown as Note,
      answered: (answer) => answer as { version: number; document: Note },
    })
  return { history, stored, note: make('note'), target: make('target') }
}
const pass = (ms = 1000) => jest.advanceTimersByTimeAsync(ms)

beforeEach(() => void jest.useFakeTimers())
afterEach(() => void jest.useRealTimers())

describe('what was changed', () => {
  it('is undone in its order, whatever document it was in, saved so, and done again', async () => {
    const { history, stored, note, target } = await open()
    note.edit((one) => (one.text = 'a'))
    await pass()
    target.edit((one) => (one.hours = 4))
    await pass()
    note.edit((one) => (one.text = 'b'))
    await pass()
    expect(history.last.value).toBe('The note')
    history.undo()
    expect(note.state.document).toEqual({ text: 'a' })
    expect(history.last.value).toBe('The target')
    history.undo()
    expect(target.state.document).toEqual({ text: '' })
    history.redo()
    history.redo()
    expect([note.state.document.text, target.state.document.hours]).toEqual(['b', 4])
    history.undo()
    await pass()
    expect(stored['note']!.document).toEqual({ text: 'a' })
    expect(history.next.value).toBe('The note')
  })
  it('is one step while it is being typed, and is gone on from once something else was typed', async () => {
    const { history, note } = await open()
    for (const text of ['t', 'ti', 'tid', 'tide']) {
      note.edit((one) => (one.text = text))
      await pass(100)
    }
    await pass()
    note.edit((one) => (one.text = 'tides'))
    history.undo()
    expect(note.state.document.text).toBe('tide')
    history.undo()
    expect([note.state.document.text, history.last.value]).toEqual(['', undefined])
    note.edit((one) => (one.text = 'ebb'))
    expect(history.next.value).toBeUndefined()
  })
  it('is a step of its own in each field, however fast a hand goes from one to the next', async () => {
    const { history, note } = await open()
    const page: { activeElement: unknown } = { activeElement: 'first' }
    Object.assign(globalThis, { document: page })
    note.edit((one) => (one.text = 'a'))
    page.activeElement = 'second'
    note.edit((one) => (one.hours = 4))
    note.edit((one) => (one.hours = 5))
    history.undo()
    expect(note.state.document).toEqual({ text: 'a' })
    history.undo()
    expect(note.state.document).toEqual({ text: '' })
    Reflect.deleteProperty(globalThis, 'document')
  })
  it('goes back over few of what is large', async () => {
    const history = new EditHistory()
    const save = { replace: jest.fn() }
    const large = (at: number) => `${at}`.padEnd(15_000_000, ' ')
    for (let at = 0; at < 5; at++) {
      history.note({ save, about: 'A form', before: large(at), after: large(at + 1) })
      await pass()
    }
    for (let at = 0; at < 5; at++) history.undo()
    expect(save.replace.mock.calls.map(([text]) => String(text).trim())).toEqual(['4', '3'])
  })
  it('takes nothing of another’s away: what they changed is not gone back over, the rest is', async () => {
    const { history, note, target } = await open()
    note.edit((one) => (one.text = 'a'))
    await pass()
    target.edit((one) => (one.text = 'b'))
    await pass()
    note.adopt(7, { text: 'theirs' })
    history.undo()
    history.undo()
    expect([note.state.document.text, target.state.document.text]).toEqual(['theirs', ''])
  })
  it('is what fields wrote into the document themselves, too, and never what was taken from elsewhere', async () => {
    const { history, stored, note } = await open()
    note.state.document.text = 'a'
    note.noticed()
    await pass()
    expect([history.last.value, stored['note']!.document.text]).toEqual(['The note', 'a'])
    history.undo()
    note.noticed()
    expect([note.state.document.text, history.last.value]).toEqual(['', undefined])
    history.redo()
    await pass()
    const { version } = note.state
    note.adopt(version + 1, { text: 'theirs' })
    note.noticed()
    await pass()
    expect([history.last.value, note.state.status, note.state.version]).toEqual([
      undefined,
      'saved',
      version + 1,
    ])
    note.state.document.hours = 2
    note.noticed()
    history.undo()
    expect(note.state.document).toEqual({ text: 'theirs' })
  })
  it('is nothing where nothing changed, and comes back out of what cannot be saved', async () => {
    const { history, note } = await open()
    note.edit(() => undefined)
    expect(history.last.value).toBeUndefined()
    note.edit((one) => (one.text = 'bad'))
    expect(note.state.status).toBe('refused')
    history.undo()
    await pass()
    expect([note.state.document.text, note.state.problems]).toEqual(['', []])
  })
})
