import { jest } from '@jest/globals'

const store = new Map<string, string>()
Object.assign(globalThis, {
  localStorage: {
    getItem: (key: string) => store.get(key) ?? null,
    setItem: (key: string, value: string) => void store.set(key, value),
    removeItem: (key: string) => void store.delete(key),
  },
})
const { autosave } = await import('../src/stores/autosave')
const { ApiFailure } = await import('../src/api')

interface Note {
  text: string
}
type Answer = { version: number; document: Note }
const make = (
  save: (version: number, document: Note) => Promise<Answer>,
  renew = async () => undefined as void,
) =>
  autosave<Note>({ text: '' }, 0, {
    key: 'draft',
    check: ({ text }) => (text === 'bad' ? [{ field: 'text', message: 'no' }] : []),
    save,
    renew,
  })
const type = (saver: ReturnType<typeof make>, text: string) => saver.edit((note) => (note.text = text))
const settle = (ms = 500) => jest.advanceTimersByTimeAsync(ms)

beforeEach(() => {
  store.clear()
  jest.useFakeTimers()
})
afterEach(() => jest.useRealTimers())

describe('autosave', () => {
  it('saves a moment after the last change, once', async () => {
    const save = jest.fn(async (version: number, document: Note) => ({ version: version + 1, document }))
    const saver = make(save)
    type(saver, 'a')
    type(saver, 'ab')
    expect(saver.state.status).toBe('editing')
    await settle()
    expect(save.mock.calls).toEqual([[0, { text: 'ab' }]])
    expect(saver.state).toMatchObject({ status: 'saved', version: 1 })
    expect(store.size).toBe(0)
  })
  it('keeps what is typed in the browser until the server has confirmed it', async () => {
    const saver = make(async () => Promise.reject(new ApiFailure('offline', 'gone')))
    type(saver, 'precious')
    await settle()
    expect(saver.state.status).toBe('offline')
    saver.stop()
    // The tab is closed and opened again.
    const again = make(async (version, document) => ({ version: version + 1, document }))
    expect(again.state.document.text).toBe('precious')
    await settle(0)
    expect(again.state.status).toBe('saved')
  })
  it('tries again by itself, ever more slowly', async () => {
    let tries = 0
    const saver = make(async (version, document) => {
      if (++tries < 4) throw new ApiFailure('unavailable', 'down')
      return { version: version + 1, document }
    })
    type(saver, 'x')
    await settle()
    await settle(1000)
    expect(tries).toBe(2)
    await settle(2000 + 4000)
    expect(saver.state.status).toBe('saved')
  })
  it('sends what was typed while a save was under way', async () => {
    const sent: string[] = []
    const saver = make(async (version, document) => {
      sent.push(document.text)
      await new Promise((resolve) => setTimeout(resolve, 300))
      return { version: version + 1, document }
    })
    type(saver, 'one')
    await settle(450)
    type(saver, 'two')
    await settle(2000)
    expect(sent).toEqual(['one', 'two'])
    expect(saver.state).toMatchObject({ status: 'saved', version: 2 })
  })
  it('does not send what is not valid, and keeps it', async () => {
    const save = jest.fn(async (version: number, document: Note) => ({ version: version + 1, document }))
    const saver = make(save)
    type(saver, 'bad')
    await settle(5000)
    expect(save).not.toHaveBeenCalled()
    expect(saver.state).toMatchObject({ status: 'refused', problems: [{ field: 'text', message: 'no' }] })
    expect(store.get('draft')).toContain('bad')
  })
  it.each([
    [true, 'mine', 6],
    [false, 'theirs', 5],
  ])('after a conflict, keeping mine %s leaves %s', async (mine, text, version) => {
    let first = true
    const saver = make(async (sent, document) => {
      if (first) {
        first = false
        throw new ApiFailure('conflict', 'x', {
          code: 'conflict',
          message: 'x',
          current: { version: 5, document: { text: 'theirs' } },
          changedBy: 'Corvane',
        })
      }
      return { version: sent + 1, document }
    })
    type(saver, 'mine')
    await settle()
    expect(saver.state).toMatchObject({ status: 'conflict', conflict: { changedBy: 'Corvane' } })
    saver.settle(mine)
    await settle()
    expect(saver.state).toMatchObject({ status: 'saved', version, document: { text } })
  })
  it('fetches a new token when the server forgot the old one', async () => {
    let renewed = false
    const saver = make(
      async (version, document) => {
        if (!renewed) throw new ApiFailure('forged', 'old')
        return { version: version + 1, document }
      },
      async () => void (renewed = true),
    )
    type(saver, 'x')
    await settle(2000)
    expect(saver.state.status).toBe('saved')
  })
})
