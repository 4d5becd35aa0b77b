import * as Comlink from 'comlink'
import type { CoreWorker } from './answering'

let worker: Comlink.Remote<CoreWorker> | undefined

/** The core in a web worker, started when first asked for. */
export function core(): Comlink.Remote<CoreWorker> {
  worker ??= Comlink.wrap<CoreWorker>(
    new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module' }),
  )
  return worker
}

/** What was stopped before it was done. */
export class Stopped extends Error {}

/**
 * Runs something long in a worker of its own, so that what the screens ask is not kept waiting: a file to read, sittings to
 * simulate. `signal` ends it at once; it then throws `Stopped`.
 */
export async function inOwnWorker<T>(
  work: (worker: Comlink.Remote<CoreWorker>) => Promise<T>,
  signal?: AbortSignal,
): Promise<T> {
  const own = new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module' })
  try {
    const stopped = new Promise<never>((_, reject) =>
      signal?.addEventListener('abort', () => reject(new Stopped()), { once: true }),
    )
    return await Promise.race([work(Comlink.wrap<CoreWorker>(own)), stopped])
  } finally {
    own.terminate()
  }
}

/** Vue's proxies cannot be cloned to a worker; this gives what is behind them. */
export const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T
