import * as Comlink from 'comlink'
import type { CoreWorker } from './core.worker'

let worker: Comlink.Remote<CoreWorker> | undefined

/** The core in a web worker, started when first asked for. */
export function core(): Comlink.Remote<CoreWorker> {
  worker ??= Comlink.wrap<CoreWorker>(
    new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module' }),
  )
  return worker
}

/** Reads a file in a worker of its own, so that what the screens ask is not kept waiting. */
export async function readInWorker<T>(work: (worker: Comlink.Remote<CoreWorker>) => Promise<T>): Promise<T> {
  const own = new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module' })
  try {
    return await work(Comlink.wrap<CoreWorker>(own))
  } finally {
    own.terminate()
  }
}

/** Vue's proxies cannot be cloned to a worker; this gives what is behind them. */
export const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T
