import PQueue from 'p-queue'
import { Refusal } from '../refusal'

const busy = (): Refusal =>
  new Refusal({
    code: 'busy',
    message:
      'The server is still busy with what you asked before. What you typed is kept; try again in a moment.',
  })

/**
 * What each account may have under way: `atOnce` at the same time, `waiting` more behind them, of all accounts together no
 * more than `bytes` held in memory. More is refused at once, so that one account never fills the queue of the others.
 */
export class Shares {
  private readonly queues = new Map<string, PQueue>()
  private held = 0

  constructor(private readonly most: { atOnce: number; waiting: number; bytes: number }) {}

  async run<T>(account: string, bytes: number, work: () => Promise<T>): Promise<T> {
    const queue = this.queues.get(account) ?? new PQueue({ concurrency: this.most.atOnce })
    if (queue.size >= this.most.waiting) throw busy()
    this.queues.set(account, queue)
    try {
      return await queue.add(async () => {
        if (this.held + bytes > this.most.bytes) throw busy()
        this.held += bytes
        try {
          return await work()
        } finally {
          this.held -= bytes
        }
      })
    } finally {
      if (queue.size === 0 && queue.pending === 0) this.queues.delete(account)
    }
  }
}
