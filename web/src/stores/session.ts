import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { SessionAnswer } from '@climber/contract'
import { wallClock } from '@climber/core'
import { call, setToken } from '../api'

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
    demoAccounts.value = answer.demoAccounts
    serverNow.value = answer.now
    frozen.value = answer.frozen
    heardAt = performance.now()
    setToken(answer.csrf)
    ready.value = true
  }
  async function load(): Promise<void> {
    if (!ready.value) take(await call('session', {}))
  }
  /** A new CSRF token after the server forgot the old one. */
  const refresh = async (): Promise<void> => take(await call('session', {}))

  /** The instant now, by the server's clock. */
  const now = (): string =>
    frozen.value
      ? serverNow.value
      : new Date(Date.parse(serverNow.value) + performance.now() - heardAt).toISOString()
  /** Date and minute in `zone`. */
  const moment = (zone: string) => wallClock(now(), zone)

  return {
    user,
    demoAccounts,
    ready,
    signedIn: computed(() => user.value !== null),
    load,
    refresh,
    now,
    moment,
    signIn: async (email: string, password: string) => take(await call('signIn', {}, { email, password })),
    signUp: async (input: { email: string; password: string; name: string }) =>
      take(await call('signUp', {}, input)),
    demoSignIn: async (email: string) => take(await call('demoSignIn', {}, { email })),
    signOut: async () => take(await call('signOut', {})),
    signOutEverywhere: async () => take(await call('signOutEverywhere', {})),
  }
})
