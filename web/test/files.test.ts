import { jest } from '@jest/globals'
import { mostBytes, textOf } from '../src/manners/file'
import { readResponseFile } from '../src/manners/responseFile'
import { readTableFile } from '../src/manners/tableFile'
import { readClimberFile } from '../src/stores/files'
import { inOwnWorker, TookTooLong } from '../src/workers/core'

/** A file that says it is so large; nobody reads it to see. */
const large = (name: string, bytes: number): File =>
  new Proxy(new File(['x'], name), {
    get: (_file, key) =>
      key === 'size' ? bytes : key === 'name' ? name : () => Promise.reject(new Error('it was read')),
  })

describe('a file that is larger than any honest one', () => {
  it('is refused without being read, and said so: text, plan, table, answers', async () => {
    await expect(textOf(large('a.csv', 3_000_000), mostBytes.table)).rejects.toThrow(/larger than 2 MB/)
    expect((await readClimberFile(large('a.json', 6_000_000))).problems[0]?.message).toMatch(
      /larger than 5 MB/,
    )
    const table = await readTableFile(large('a.csv', 3_000_000), () => ({ problems: [] }))
    expect(table.problems[0]?.message).toMatch(/larger than 2 MB/)
    const answers = await readResponseFile(
      large('a.csv', 30_000_000),
      {} as never,
      undefined,
      () => undefined,
    )
    expect([answers.found.used, answers.problems[0]?.message]).toEqual([
      false,
      'a.csv is larger than 20 MB, the most that is read here.',
    ])
  })
  it('one that is not is read', async () => {
    expect(await textOf(new File(['one,two'], 'a.csv'), mostBytes.table)).toBe('one,two')
  })
})

describe('a worker that reads a file', () => {
  afterEach(() => jest.useRealTimers())
  it('is ended when it takes too long', async () => {
    const terminate = jest.fn()
    Object.assign(globalThis, {
      Worker: class {
        terminate = terminate
        postMessage() {}
        addEventListener() {}
        removeEventListener() {}
      },
    })
    jest.useFakeTimers()
    const never = inOwnWorker(() => new Promise<void>(() => undefined), undefined, 8)
    const ended = expect(never).rejects.toBeInstanceOf(TookTooLong)
    await jest.advanceTimersByTimeAsync(8000)
    await ended
    expect(terminate).toHaveBeenCalledTimes(1)
  })
})
