import { shallowRef } from 'vue'
import { call } from '../api'
import { offline } from './connection'
import type { Entry } from './entry'
import { journal } from './journal'
import { openKeeper } from './keeper'
import { keepConfirmed } from './kept'
import { Outbox } from './outbox'

/** This browser's outbox; there is one for all screens of a tab, and one disk for all tabs. */
const opened = shallowRef<Outbox>()

/** Milliseconds between looks for what a closed tab left. */
const between = 15_000

/** One tab at a time, where the browser can tell; the server does nothing twice anyway. */
const alone = async (work: () => Promise<void>): Promise<void> => {
  if (navigator.locks) await navigator.locks.request('climber.outbox', work)
  else await work()
}

/** Sends one entry under its id; a format has an id of its own for that. */
const send = ({ route, params, body, request }: Entry): Promise<unknown> =>
  call(route, params as never, (route === 'saveFormat' ? body : { ...body, request }) as never)

/** Opens the outbox, once; `renew` fetches a new token. */
export async function openOutbox(renew: () => Promise<void>): Promise<Outbox> {
  if (opened.value) return opened.value
  const keeper = await openKeeper()
  const made = new Outbox(keeper, {
    send,
    renew,
    offline,
    alone,
    journal,
    remember: (user, settled) => keepConfirmed(keeper, user, settled),
    channel: 'BroadcastChannel' in globalThis ? new BroadcastChannel('climber.outbox') : undefined,
  })
  opened.value = made
  const look = () => void made.look().catch(() => undefined)
  setInterval(look, between)
  addEventListener('visibilitychange', look)
  return made
}

/** The outbox, which is opened before the first screen. */
export function outbox(): Outbox {
  if (!opened.value) throw new Error('the outbox is opened with the session')
  return opened.value
}
