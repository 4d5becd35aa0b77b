import { defineStore } from 'pinia'
import { computed, shallowRef, watch } from 'vue'
import {
  type Body,
  type Card,
  cardsAtOnce,
  type CardHistory,
  type RecallAnswer,
  recordRights,
  type StoredCard,
} from '@climber/contract'
import type { RecallChange, RecallStock } from '@climber/core'
import { offline } from '../outbox/connection'
import { type Entry, isAbout, isOfCards, lanes } from '../outbox/entry'
import { outbox } from '../outbox/here'
import { askKept } from '../outbox/kept'
import type { Settled } from '../outbox/outbox'
import { confirmedDeck, type StoredDeck, withWaitingCards } from '../outbox/recall'
import type { CardAnswer, CardQuestions } from '../workers/answering'
import { core, plain } from '../workers/core'
import { askCards } from '../workers/held'
import { steady } from './opened'
import { useSession } from './session'
import { useWorkspace } from './workspace'

/** Milliseconds that an answer waits for the next, so that many go at once. */
const pause = 2500
/** Milliseconds after which an open deck is read again. */
const old = 60_000
/** Letters of cards in one request: pictures are in them. */
const mostLetters = 800_000

/** What of a list is another object than before, and what is gone of it. */
function changedIn<T>(
  before: ReadonlyMap<string, T>,
  now: ReadonlyMap<string, T>,
): { changed: T[]; gone: string[] } {
  if (before === now) return { changed: [], gone: [] }
  return {
    changed: [...now].filter(([id, one]) => before.get(id) !== one).map(([, one]) => one),
    gone: [...before.keys()].filter((id) => !now.has(id)),
  }
}
const byId = (cards: readonly StoredCard[]): Map<string, StoredCard> =>
  new Map(cards.map((card) => [card.id, card]))
const byCard = (histories: readonly CardHistory[]): Map<string, CardHistory> =>
  new Map(histories.map((history) => [history.card, history]))

/** Cards in parts that fit into a request. */
function inRequests(cards: readonly Card[]): Card[][] {
  const parts: Card[][] = []
  let letters = Infinity
  for (const card of cards) {
    const { length } = JSON.stringify(card)
    if (letters + length > mostLetters || parts.at(-1)!.length >= cardsAtOnce) {
      parts.push([])
      letters = 0
    }
    parts.at(-1)!.push(card)
    letters += length
  }
  return parts
}

/** A deck as it is stored, and with what waits on top of it. */
function openedDeck(candidateId: () => string) {
  const of = shallowRef('')
  const stored = shallowRef<StoredDeck>()
  const keptAt = shallowRef<string>()
  const failed = shallowRef('')

  const waiting = computed<readonly Entry[]>((before) =>
    steady(
      before,
      outbox().entries.value.filter((entry) => isOfCards(entry) && isAbout(entry, of.value)),
    ),
  )
  const deck = computed(() => stored.value && withWaitingCards(stored.value, waiting.value))
  // The same lists while they are the same: a large deck is not put in order anew for one answer.
  const list = computed(() => deck.value?.cards)
  const answered = computed(() => deck.value?.histories)
  const cards = computed(() => byId(list.value ?? []))
  const histories = computed(() => byCard(answered.value ?? []))

  let stop: (() => void) | undefined
  let readAt = 0
  /** Reads a deck, with what was confirmed while the answer was on its way. */
  async function read(candidateId: string): Promise<void> {
    const meanwhile: Settled[] = []
    stop?.()
    const end = outbox().onSettled((settled) => {
      if (!('candidateId' in settled.params) || settled.params.candidateId !== candidateId) return
      if (stored.value && of.value === candidateId) stored.value = confirmedDeck(stored.value, settled)
      meanwhile.push(settled)
    })
    stop = end
    const { answer, keptAt: at } = await askKept(outbox(), 'readRecall', { candidateId })
    if (of.value !== candidateId || stop !== end) return
    stored.value = meanwhile.reduce(confirmedDeck, answer)
    readAt = Date.now()
    meanwhile.length = 0
    keptAt.value = at
  }
  /** Opens the deck of the open candidate; one that is open is read again where another device may have answered meanwhile. */
  async function load(): Promise<void> {
    const id = candidateId()
    if (of.value === id && !failed.value) {
      if (stored.value && Date.now() - readAt > old) await read(id).catch(() => undefined)
      return
    }
    of.value = id
    stored.value = undefined
    failed.value = ''
    try {
      await read(id)
    } catch (error) {
      failed.value = (error as Error).message
    }
  }
  const reload = async (): Promise<void> => (of.value ? read(of.value) : undefined)
  watch(offline, (now) => {
    if (!now && keptAt.value) void reload().catch(() => undefined)
  })

  return { of, stored, keptAt, failed, deck, cards, histories, load, reload }
}
type OpenedDeck = ReturnType<typeof openedDeck>

/** Asks the worker about the deck, once it was told what it does not know yet. */
function askingOf({ of, stored, cards, histories }: OpenedDeck) {
  const workspace = useWorkspace()
  let told: { of: string; cards: Map<string, StoredCard>; histories: Map<string, CardHistory> } | undefined
  /** Tells the worker what it does not know yet. */
  function tell(): void {
    const now = { of: of.value, cards: cards.value, histories: histories.value }
    if (told?.of !== now.of) {
      const stock: RecallStock = { cards: [...now.cards.values()], histories: [...now.histories.values()] }
      void core().openCards(plain(stock))
    } else if (told.cards !== now.cards || told.histories !== now.histories) {
      const { changed, gone } = changedIn(told.cards, now.cards)
      const answered = changedIn(told.histories, now.histories)
      // The only answer to a card that was given up.
      const none = answered.gone.map((card) => ({ card, answers: [] }))
      const change: RecallChange = { cards: changed, gone, histories: [...answered.changed, ...none] }
      void core().changeCards(plain(change))
    }
    told = now
  }
  /** Asks the worker; undefined while no deck is open. */
  async function ask<N extends keyof CardQuestions>(
    name: N,
    ...asked: CardQuestions[N]
  ): Promise<CardAnswer<N> | undefined> {
    if (!workspace.record || !stored.value) return undefined
    tell()
    return askCards(workspace.record, name, workspace.now, ...asked)
  }

  return ask
}

/** What is answered and written: it waits in the outbox, and shows at once. */
function changesOf({ of, cards }: OpenedDeck) {
  const workspace = useWorkspace()
  const session = useSession()
  let lastAt = 0
  /** Now, and later than the answer before, also where the clock stands. */
  function moment(): string {
    lastAt = Math.max(lastAt + 1, Date.parse(session.now()))
    return new Date(lastAt).toISOString()
  }
  const send = (answers: RecallAnswer[]) =>
    outbox().put({
      route: 'answerCards',
      params: { candidateId: of.value },
      body: { answers },
      lane: lanes.recall(of.value),
      about: 'Answers from memory',
      pause,
    })
  /** Keeps an answer; it stands at once, so that no second press gives it again. */
  function answer(
    card: string,
    given: Pick<RecallAnswer, 'grade' | 'seconds'> & Partial<Pick<RecallAnswer, 'seed' | 'given' | 'slip'>>,
  ): RecallAnswer {
    const made = { id: crypto.randomUUID(), card, on: workspace.today, at: moment(), ...given }
    void send([made])
    return made
  }
  const takeBack = (made: RecallAnswer) => send([{ ...made, undone: true }])

  const versionOf = (id: string): number => cards.value.get(id)?.version ?? 0
  const write = (body: Body<'saveCards'>, lane: string, about: string) =>
    outbox().put({ route: 'saveCards', params: { candidateId: of.value }, body, lane, about })
  /** Keeps one card; a new one has the version 0. */
  const saveCard = (card: Card, about: string) =>
    write(
      { cards: [{ card: plain(card), version: versionOf(card.id) }], gone: [] },
      lanes.card(of.value, card.id),
      about,
    )
  const deleteCard = (id: string, about: string) =>
    write({ cards: [], gone: [{ id, version: versionOf(id) }] }, lanes.card(of.value, id), about)
  /** Keeps many new cards. */
  async function addCards(fresh: readonly Card[]): Promise<void> {
    for (const part of inRequests(fresh))
      await write(
        { cards: plain(part).map((card) => ({ card, version: 0 })), gone: [] },
        lanes.cards(of.value, crypto.randomUUID()),
        part.length === 1 ? 'A card' : `${part.length} cards`,
      )
  }

  return { answer, takeBack, saveCard, deleteCard, addCards }
}

/** The cards of the open candidate: what is stored, what waits on top of it, and what is asked of them in the worker. */
export const useRecall = defineStore('recall', () => {
  const workspace = useWorkspace()
  const opened = openedDeck(() => workspace.candidate?.id ?? '')
  const { keptAt, failed, deck, cards, histories, load, reload } = opened
  return {
    /** Whoever only reads the record is shown nothing to press. */
    mayWork: computed(() => recordRights[workspace.candidate?.role ?? 'reader'].includes('work')),
    keptAt,
    failed,
    deck,
    cards,
    histories,
    load,
    reload,
    ask: askingOf(opened),
    ...changesOf(opened),
  }
})
