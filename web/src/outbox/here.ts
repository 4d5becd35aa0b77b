import { shallowRef } from 'vue'
import type { Answer } from '@climber/contract'
import { ApiFailure, call } from '../api'
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

/** What identifies itself goes without the id of its request. */
const hasOwnId = new Set<Entry['route']>(['saveFormat', 'saveCards', 'answerCards'])

/** Sends one entry under its id. A card that somebody changed meanwhile is a conflict like any other. */
async function send({ route, params, body, request }: Entry): Promise<unknown> {
  const answer: unknown = await call(
    route,
    params as never,
    (hasOwnId.has(route) ? body : { ...body, request }) as never,
  )
  const [current] = route === 'saveCards' ? (answer as Answer<'saveCards'>).conflicts : []
  if (!current) return answer
  const message = 'Somebody changed this card meanwhile.'
  throw new ApiFailure('conflict', message, { code: 'conflict', message, current })
}

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
