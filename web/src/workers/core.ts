import * as Comlink from 'comlink'
import type { CoreWorker } from './answering'

/** The core in a web worker of its own, started when first asked for. */
function started(): () => Comlink.Remote<CoreWorker> {
  let worker: Comlink.Remote<CoreWorker> | undefined
  return () =>
    (worker ??= Comlink.wrap<CoreWorker>(
      new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module' }),
    ))
}

/** Where what the screens show is worked out. */
export const core = started()
/** Where plans are tried out, so that what is typed meanwhile need not wait for them. */
export const beside = started()

/** What was stopped before it was done. */
export class Stopped extends Error {}
/** What took longer than anything honest does. */
export class TookTooLong extends Error {}

/**
 * Runs something long in a worker of its own, so that what the screens ask is not kept waiting: a file to read, sittings to
 * simulate. `signal` ends it at once; it then throws `Stopped`. After `seconds`, where given, it is ended as well and throws
 * `TookTooLong`: a file from a stranger may hold what never ends.
 */
export async function inOwnWorker<T>(
  work: (worker: Comlink.Remote<CoreWorker>) => Promise<T>,
  signal?: AbortSignal,
  seconds?: number,
): Promise<T> {
  const own = new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module' })
  let late: ReturnType<typeof setTimeout> | undefined
  try {
    const stopped = new Promise<never>((_, reject) => {
      signal?.addEventListener('abort', () => reject(new Stopped()), { once: true })
      if (seconds)
        late = setTimeout(
          () => reject(new TookTooLong(`This could not be read in ${seconds} seconds; nothing was changed.`)),
          seconds * 1000,
        )
    })
    return await Promise.race([work(Comlink.wrap<CoreWorker>(own)), stopped])
  } finally {
    clearTimeout(late)
    own.terminate()
  }
}

/** Vue's proxies cannot be cloned to a worker; this gives what is behind them. */
export const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T
