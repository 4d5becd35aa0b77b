import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { SessionAnswer, User } from '@climber/contract'
import { clockIn } from '../manners/wallClock'
import { locale } from '../manners/words'
import { call, isPassing, setToken } from '../api'
import { probeWith } from '../outbox/connection'
import { openOutbox } from '../outbox/here'

/** What is kept of a session, to open with the network off. */
interface KeptSession {
  answer: SessionAnswer
  /** Milliseconds by which the server's clock is ahead of the browser's. */
  ahead: number
}
const key = '/api/session'

/** Who is signed in, and what time it is on the server. */
export const useSession = defineStore('session', () => {
  const user = ref<SessionAnswer['user']>(null)
  const demoAccounts = ref<SessionAnswer['demoAccounts']>([])
  const ready = ref(false)
  const serverNow = ref(new Date().toISOString())
  const frozen = ref(false)
  let heardAt = performance.now()

  function take(answer: SessionAnswer): void {
    user.value = answer.user
    // A session kept by an older version says nothing of it.
    locale.value = answer.user?.locale ?? 'en-GB'
    demoAccounts.value = answer.demoAccounts
    serverNow.value = answer.now
    frozen.value = answer.frozen
    heardAt = performance.now()
    setToken(answer.csrf)
    ready.value = true
  }
  /** Asks the server: after it forgot the CSRF token, and to see whether it is back. */
  async function refresh(): Promise<void> {
    await enter(await call('session', {}))
  }
  async function load(): Promise<void> {
    if (ready.value) return
    const { keeper } = await openOutbox(refresh)
    probeWith(refresh)
    try {
      await refresh()
    } catch (error) {
      const kept = (await keeper.answer(key))?.answer as KeptSession | undefined
      if (!kept || !isPassing(error)) throw error
      const now = new Date(Date.now() + kept.ahead).toISOString()
      await open({ ...kept.answer, now: kept.answer.frozen ? kept.answer.now : now })
    }
  }
  /** Takes an answer, and what waits of whoever it says is signed in. */
  async function open(answer: SessionAnswer): Promise<void> {
    const outbox = await openOutbox(refresh)
    take(answer)
    await outbox.belongsTo(answer.user?.id)
  }
  /** The server's own answer: kept for when it does not answer. Whoever is not signed in leaves nothing to read. */
  async function enter(answer: SessionAnswer): Promise<void> {
    const { keeper } = await openOutbox(refresh)
    const at = new Date().toISOString()
    const before = user.value?.id
    await open(answer)
    if (!answer.user || (before && before !== answer.user.id)) await keeper.forgetAnswers()
    const kept: KeptSession = { answer, ahead: Date.parse(answer.now) - Date.now() }
    if (answer.user) await keeper.keepAnswer(key, { user: answer.user.id, at, answer: kept })
  }

  /** The instant now, by the server's clock. */
  const now = (): string =>
    frozen.value
      ? serverNow.value
      : new Date(Date.parse(serverNow.value) + performance.now() - heardAt).toISOString()
  /** Date and minute in `zone`. */
  const moment = (zone: string) => clockIn(now(), zone)

  return {
    user,
    demoAccounts,
    ready,
    signedIn: computed(() => user.value !== null),
    load,
    refresh,
    now,
    moment,
    signIn: async (email: string, password: string) => enter(await call('signIn', {}, { email, password })),
    signUp: async (input: { email: string; password: string; name: string }) =>
      enter(await call('signUp', {}, input)),
    demoSignIn: async (email: string) => enter(await call('demoSignIn', {}, { email })),
    saveLocale: async (chosen: User['locale']) => enter(await call('saveLocale', {}, { locale: chosen })),
    signOut: async () => enter(await call('signOut', {})),
    signOutEverywhere: async () => enter(await call('signOutEverywhere', {})),
  }
})
