import { availableParallelism } from 'node:os'
import { Piscina } from 'piscina'
import type { RouteName } from '@climber/contract'
import { brokenOff, readCommitments, readingSeconds } from '@climber/core'
import type { Config } from '../config'
import { invalid, Refusal } from '../refusal'
import type { Context } from '../services/context'
import { refreshFigures } from '../services/figures'
import { answerAside, handlersOf } from './handlers'
import { Shares } from './shares'
import type { Aside, CalendarResult } from './task'

/** Seconds after which a thread is ended. */
const longest = { records: 30, large: 30, computing: 60, calendar: readingSeconds }
/** Bytes of a body from which a thread is used that does not stay: what it needed is given back soon. */
const largeBody = 300_000
/** Old generation of a thread, in MB; what needs more is ended. */
const memory = 512
/** Milliseconds after which a thread without work is ended, and its memory given back. */
const idle = 5000

/** The bytes of a body are handed over and not copied, where they are all of their buffer. */
const handedOver = ({ body }: { body?: Uint8Array }): ArrayBuffer[] =>
  body && body.buffer instanceof ArrayBuffer && body.byteLength === body.buffer.byteLength
    ? [body.buffer]
    : []

/** Routes that may take seconds by nature; they never stand in the way of the others. */
const computing = new Set<RouteName>(['saveSimulation'])

const tooLong = (seconds: number) =>
  invalid([{ field: '', message: `This took more than ${seconds} seconds and was stopped.` }])
const tooLarge = () =>
  invalid([
    { field: '', message: 'This takes more memory than there is for one request. Nothing was changed.' },
  ])

/**
 * Threads beside the server's own, which only ever waits: bodies are parsed, records worked out and answers written there. One
 * set for what is short, one for what computes long. A thread that takes too long or too much is ended, whatever it does.
 */
export function threads(config: Config, filename: string): Aside {
  const parallel = availableParallelism()
  const pool = (minThreads: number, maxThreads: number) =>
    new Piscina({
      filename,
      minThreads,
      maxThreads,
      idleTimeout: idle,
      maxQueue: 400,
      workerData: config,
      resourceLimits: { maxOldGenerationSizeMb: memory },
    })
  const most = Math.max(2, parallel)
  const pools = { records: pool(1, most), large: pool(0, most), computing: pool(0, most) }
  const shares = {
    records: new Shares({ atOnce: 2, waiting: 40, bytes: 64_000_000 }),
    computing: new Shares({ atOnce: 1, waiting: 3, bytes: 64_000_000 }),
  }
  const kindOf = (route: RouteName) => (computing.has(route) ? 'computing' : 'records')

  async function run<T>(
    kind: keyof typeof pools,
    name: 'route' | 'calendar' | 'figures',
    task: object,
    seconds: number,
    signal?: AbortSignal,
  ): Promise<T> {
    const late = AbortSignal.timeout(seconds * 1000)
    try {
      return (await pools[kind].run(task, {
        name,
        transferList: handedOver(task),
        signal: signal ? AbortSignal.any([late, signal]) : late,
      })) as T
    } catch (error) {
      if (late.aborted) throw tooLong(seconds)
      if ((error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY') throw tooLarge()
      throw error
    }
  }
  return {
    within: (account, route, bytes, work) => shares[kindOf(route)].run(account, bytes, work),
    route(task, signal) {
      const large = (task.body?.length ?? 0) >= largeBody
      const kind = kindOf(task.route) === 'computing' ? 'computing' : large ? 'large' : 'records'
      // What was begun is stored, whoever waits for it; only what stores nothing until its end is broken off.
      return run(kind, 'route', task, longest[kind], kind === 'computing' ? signal : undefined)
    },
    calendar(account, task) {
      const line = new Int32Array(new SharedArrayBuffer(4))
      return shares.computing.run(account, task.text.length, async () => {
        try {
          return await run<CalendarResult>('computing', 'calendar', { ...task, line }, longest.calendar)
        } catch (error) {
          if (!(error instanceof Refusal)) throw error
          return brokenOff(line[0] ?? 1)
        }
      })
    },
    figures: () => run('computing', 'figures', {}, longest.computing),
    close: async () => {
      await Promise.all(Object.values(pools).map((one) => one.destroy()))
    },
  }
}

/** The same without threads, for tests of what is done and not of where. */
export function inline(context: Context): Aside {
  const handlers = handlersOf(context)
  return {
    within: (_account, _route, _bytes, work) => work(),
    route: (task) => answerAside(context, handlers, task),
    calendar: (_account, { text, zone, firstDate, lastDate }) =>
      Promise.resolve(readCommitments(text, zone, firstDate, lastDate)),
    figures: () => refreshFigures(context),
    close: () => Promise.resolve(),
  }
}
