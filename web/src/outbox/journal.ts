/**
 * What is on its way to the disk. The browser's database takes some milliseconds, and a tab that is closed in them would lose the
 * last keystroke: until it is there a copy stands in the storage that is written at once.
 */
export interface Journal {
  note(request: string, text: string): void
  clear(request: string): void
  has(request: string): boolean
  /** What was not cleared, oldest first. */
  left(): { request: string; text: string }[]
}

const prefix = 'climber.outbox.'

export const journal: Journal = {
  note(request, text) {
    try {
      localStorage.setItem(prefix + request, `${String(Date.now())} ${text}`)
    } catch {
      // Full or forbidden: the database has it in a moment.
    }
  },
  clear(request) {
    localStorage.removeItem(prefix + request)
  },
  has: (request) => localStorage.getItem(prefix + request) !== null,
  left() {
    return Object.keys(localStorage)
      .filter((key) => key.startsWith(prefix))
      .map((key) => {
        const value = localStorage.getItem(key) ?? ''
        const space = value.indexOf(' ')
        return {
          request: key.slice(prefix.length),
          at: Number(value.slice(0, space)),
          text: value.slice(space + 1),
        }
      })
      .sort((a, b) => a.at - b.at)
  },
}
