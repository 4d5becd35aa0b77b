/**
 * Makes a function that runs `work` for the newest state only: while one run is under way, any number of calls ask for
 * one more.
 */
export function newestOnly(work: () => Promise<void>): () => Promise<void> {
  let running = false
  let waiting = false
  return async () => {
    if (running) {
      waiting = true
      return
    }
    running = true
    try {
      do {
        waiting = false
        await work()
      } while (waiting)
    } finally {
      running = false
    }
  }
}
