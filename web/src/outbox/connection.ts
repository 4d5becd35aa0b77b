import { ref } from 'vue'

/** Milliseconds between looks whether the server is back: doubled up to the longest. */
const firstWait = 1000
const longestWait = 20_000

/** The server does not answer, or its database does not: what is done meanwhile waits. */
export const offline = ref(false)

let probe: (() => Promise<void>) | undefined
let timer: ReturnType<typeof setTimeout> | undefined
let wait = firstWait

function again(): void {
  clearTimeout(timer)
  timer = setTimeout(() => void look(), wait)
  wait = Math.min(longestWait, wait * 2)
}
async function look(): Promise<void> {
  if (!offline.value) return
  await probe?.().catch(() => undefined)
  if (offline.value) again()
}

/** What is asked of the server to see whether it is back. */
export function probeWith(work: () => Promise<void>): void {
  probe = work
  globalThis.addEventListener?.('online', () => {
    wait = firstWait
    void look()
  })
}

/** Every request says how it went. */
export function heard(answered: boolean): void {
  if (answered) {
    offline.value = false
    wait = firstWait
    clearTimeout(timer)
  } else if (!offline.value) {
    offline.value = true
    again()
  }
}
