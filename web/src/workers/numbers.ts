import * as Comlink from 'comlink'
import { TookTooLong } from './core'
import type { NumbersWorker } from './numbering'

interface Running {
  worker: Worker
  remote: Comlink.Remote<NumbersWorker>
  ready: Promise<unknown>
}
let running: Running | undefined

function start(): Running {
  const worker = new Worker(new URL('./numbers.worker.ts', import.meta.url), { type: 'module' })
  const remote = Comlink.wrap<NumbersWorker>(worker)
  const broken = new Promise<never>((_, reject) => {
    worker.onerror = () => {
      running = undefined
      reject(
        new Error(
          'The part of the page that works out figures could not be loaded. Reload the page; what you typed is kept.',
        ),
      )
    }
  })
  return { worker, remote, ready: Promise.race([remote.ready(), broken]) }
}

/** Seconds that an honest question takes at the very most. */
const usual = 4

/**
 * Runs formulas in a worker that is ended after so many seconds, counted from when it is there: a formula may hold what never ends.
 * Throws what the work throws, and `TookTooLong`.
 */
export async function numbers<T>(
  work: (worker: Comlink.Remote<NumbersWorker>) => Promise<T>,
  seconds = usual,
): Promise<T> {
  const own = (running ??= start())
  await own.ready
  let late: ReturnType<typeof setTimeout> | undefined
  const over = new Promise<never>((_, reject) => {
    late = setTimeout(() => {
      own.worker.terminate()
      if (running === own) running = undefined
      reject(new TookTooLong(`This was not worked out in ${seconds} seconds; a formula in it may never end.`))
    }, seconds * 1000)
  })
  try {
    return await Promise.race([work(own.remote), over])
  } finally {
    clearTimeout(late)
  }
}
