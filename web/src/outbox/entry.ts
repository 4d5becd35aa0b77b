import {
  type Answer,
  type Body,
  cardsAtOnce,
  type Failure,
  type Params,
  type PartName,
} from '@climber/contract'

/** What can wait for the server. Each of these is done once, however often it is sent. */
export type Sendable =
  | 'savePart'
  | 'saveSession'
  | 'saveAttempt'
  | 'deleteAttempt'
  | 'noteItem'
  | 'commentItem'
  | 'saveFormat'
  | 'openRoom'
  | 'noteRoom'
  | 'saveCards'
  | 'answerCards'

/** One request, typed by its route. */
export type Action = {
  [N in Sendable]: { route: N; params: Params<N>; body: Body<N> }
}[Sendable]

/** One thing that is kept in the browser until the server has confirmed it. */
export type Entry = Action & {
  /** Its place in the queue; given when it is kept. */
  order: number
  /** Under this id the server does it once. */
  request: string
  /** Whose it is: it is sent while they are signed in. */
  user: string
  /** The document that it writes. Entries of one lane are sent one after the other, each on the version that the one before made. */
  lane: string
  /** What it is, for the person who waits. */
  about: string
  /** Kept and not to be sent yet: typed and not valid, or not handed in. */
  held: boolean
  /** How often it was sent. What was sent may have arrived, and is not written over. */
  tries: number
  /** Milliseconds since 1970 before which it is not sent. */
  ready: number
  /** Why the server did not take it; it waits for a person. */
  failure?: Failure
}

export const lanes = {
  part: (candidateId: string, part: PartName) => `part ${candidateId} ${part}`,
  session: (candidateId: string, id: string) => `session ${candidateId} ${id}`,
  attempt: (candidateId: string, id: string) => `attempt ${candidateId} ${id}`,
  note: (candidateId: string, attemptId: string, item: number) => `note ${candidateId} ${attemptId} ${item}`,
  exam: (examId: string) => `exam ${examId}`,
  room: (candidateId: string, id: string) => `room ${candidateId} ${id}`,
  card: (candidateId: string, id: string) => `card ${candidateId} ${id}`,
  cards: (candidateId: string, batch: string) => `cards ${candidateId} ${batch}`,
  recall: (candidateId: string) => `recall ${candidateId}`,
}

const isOf = <N extends Sendable>(entry: Entry, route: N): entry is Extract<Entry, { route: N }> =>
  entry.route === route

/** An entry of one route; undefined where it is of another. */
export const actionOf = <N extends Sendable>(
  entry: Entry | undefined,
  route: N,
): Extract<Entry, { route: N }> | undefined => (entry && isOf(entry, route) ? entry : undefined)

/** Whether a request is about cards, which are read by themselves. */
export const isOfCards = ({ route }: Pick<Action, 'route'>): boolean =>
  route === 'saveCards' || route === 'answerCards'

/** Whether a request is about one candidate. */
export const isAbout = ({ params }: Pick<Action, 'params'>, candidateId: string): boolean =>
  'candidateId' in params && params.candidateId === candidateId

/** Where the entries behind one go that was answered: the lane and the version that it left. */
export function leaves(action: Action, answer: unknown): { lane?: string; version?: number } {
  switch (action.route) {
    case 'savePart':
      return { version: (answer as Answer<'savePart'>).version }
    case 'saveSession':
      return { version: (answer as Answer<'saveSession'>).version }
    case 'saveAttempt':
      return { version: (answer as Answer<'saveAttempt'>).attempt.version }
    case 'deleteAttempt':
      return { version: 0 }
    case 'openRoom':
    case 'noteRoom':
    case 'noteItem':
    case 'commentItem':
    case 'answerCards':
      return {}
    case 'saveCards': {
      const { saved } = answer as Answer<'saveCards'>
      return { version: saved.length === 1 ? saved[0]!.version : 0 }
    }
    case 'saveFormat': {
      // Of a format in use another edition was made, and what was typed since belongs to that.
      const { id, version } = answer as Answer<'saveFormat'>
      return { lane: lanes.exam(id), version }
    }
  }
}

/** Events of a room in one request. */
const mostEvents = 200

/**
 * What is put behind an entry of its lane that was not sent yet: events join those that wait, as long as they are of one page and
 * fit; what is written into a note joins what is to be written there; everything else takes the place of what it says anew. Undefined where it has to stand by itself.
 */
export function over(last: Action, fresh: Action): Action | undefined {
  if (last.route !== fresh.route || last.route === 'openRoom' || last.route === 'commentItem')
    return undefined
  if (last.route === 'noteItem' && fresh.route === 'noteItem') {
    const changes = { ...last.body.changes, ...fresh.body.changes }
    return { ...fresh, body: { ...fresh.body, changes } }
  }
  if (last.route === 'answerCards' && fresh.route === 'answerCards') {
    const answers = [
      ...new Map([...last.body.answers, ...fresh.body.answers].map((one) => [one.id, one])).values(),
    ]
    return answers.length > cardsAtOnce ? undefined : { ...fresh, body: { answers } }
  }
  if (last.route !== 'noteRoom' || fresh.route !== 'noteRoom') return fresh
  const { events, life, take } = last.body
  const joined = [...events, ...fresh.body.events.filter((own) => events.every(({ n }) => n !== own.n))]
  if (life !== fresh.body.life || joined.length > mostEvents) return undefined
  return { ...fresh, body: { ...fresh.body, take: take || fresh.body.take, events: joined } }
}

/** Whether an entry says something besides what stands before it in its lane, and nothing anew: none of them may be left out. */
export const adds = ({ route }: Action): boolean =>
  ['openRoom', 'noteRoom', 'noteItem', 'commentItem', 'answerCards'].includes(route)

const versioned = (entry: Action): boolean => entry.route !== 'deleteAttempt' && !adds(entry)

/** The one card that an entry writes or deletes, on another version; several are new, and have none. */
function cardOnVersion(entry: Extract<Entry, { route: 'saveCards' }>, version: number): Entry {
  const { cards, gone } = entry.body
  if (cards.length + gone.length !== 1) return entry
  const on = <T extends object>(one: T): T => ({ ...one, version })
  return { ...entry, body: { cards: cards.map(on), gone: gone.map(on) } }
}

/** The same entry on another version. */
export function onVersion(entry: Entry, version: number | undefined): Entry {
  if (version === undefined || !versioned(entry)) return entry
  if (entry.route === 'saveCards') return cardOnVersion(entry, version)
  return { ...entry, body: { ...entry.body, version } } as Entry
}

/** The version that an entry was written on; undefined where it has none. */
export function versionIn({ route, body }: Action): number | undefined {
  if (route === 'saveCards') return [...body.cards, ...body.gone][0]?.version
  return 'version' in body ? body.version : undefined
}

/** What the server changed besides, whose waiting changes go on from there: sessions, and cards of a table. */
export function alsoChanged(action: Action, answer: unknown): { lane: string; version: number }[] {
  if (action.route === 'saveCards') {
    const { saved } = answer as Answer<'saveCards'>
    return saved.map(({ id, version }) => ({ lane: lanes.card(action.params.candidateId, id), version }))
  }
  if (action.route !== 'saveAttempt' && action.route !== 'deleteAttempt') return []
  const { sessions } = answer as Answer<'deleteAttempt'>
  return sessions.map(({ id, version }) => ({ lane: lanes.session(action.params.candidateId, id), version }))
}
