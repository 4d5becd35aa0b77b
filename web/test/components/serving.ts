import { readFile } from 'node:fs/promises'
import path from 'node:path'
import {
  type Answer,
  type Body,
  Candidate,
  ClimberFile,
  type Failure,
  nothingRecalled,
  type Params,
  partNames,
  type RouteName,
  routes,
  StoredAttempt,
  withReport,
} from '@climber/contract'
import { scenario } from '../../../demo/scenario'

/** The moment at which the demo stands still, and its date. */
export const now = '2030-01-15T16:10:00.000Z'
export const today = now.slice(0, 10)
const tutor = {
  id: '5f0c9a00-0000-4000-8000-00000000a001',
  name: 'Corvane Tessel',
  email: 'corvane@demo.example',
  locale: 'en-GB' as const,
}
const examId = '5f0c9a00-0000-4000-8000-00000000e001'
const idOf = (place: number) => `5f0c9a00-0000-4000-8000-00000000c00${place}`

/** The demo's candidates as the server answers them, by name. */
export async function demoCandidates(): Promise<Map<string, Candidate>> {
  const files = await scenario(today, async (name) =>
    ClimberFile.parse(JSON.parse(await readFile(path.join(process.cwd(), 'demo', name), 'utf8'))),
  )
  return new Map(
    files.map(({ file }, place) => {
      const { exam, plan, attempts = [], review = [] } = file
      const stored = (document: unknown) => ({ document, version: 1, changedBy: null, changedAt: null })
      const candidate = Candidate.parse({
        id: idOf(place),
        examId,
        exam,
        parts: Object.fromEntries(
          partNames.flatMap((part) => (part in file ? [[part, stored(file[part as never])]] : [])),
        ),
        plan: plan
          ? { ...plan, version: 1, sessions: plan.sessions.map((one) => ({ ...one, version: 1 })) }
          : null,
        attempts: attempts.map((attempt) => ({ ...attempt, version: 1 })),
        review: review.map((note) => ({ ...note, version: 1 })),
        before: [],
        recalled: nothingRecalled,
        taken: [],
        mine: false,
        role: 'tutor',
      })
      return [file.candidate?.name ?? '', candidate]
    }),
  )
}

/** What a route answers; a `Refusal` that is thrown is the server's. */
type Answering = { [N in RouteName]?: (params: Params<N>, body: Body<N>) => Answer<N> | Promise<Answer<N>> }
export class Refusal extends Error {
  constructor(readonly failure: Failure) {
    super(failure.message)
  }
}

/** Routes with the parts of their path, the fixed ones before those with parameters. */
const paths = Object.entries(routes).map(([name, { method, path: pattern }]) => ({
  name: name as RouteName,
  method,
  parts: pattern.split('/'),
}))
function routeOf(method: string, address: string): { name: RouteName; params: Record<string, string> } {
  const parts = address.split('/')
  for (const route of paths) {
    if (route.method !== method || route.parts.length !== parts.length) continue
    if (!route.parts.every((part, at) => part.startsWith(':') || part === parts[at])) continue
    const named = route.parts.flatMap((part, at) =>
      part.startsWith(':') ? [[part.slice(1), decodeURIComponent(parts[at] ?? '')]] : [],
    )
    return { name: route.name, params: Object.fromEntries(named) as Record<string, string> }
  }
  throw new Error(`no route for ${method} ${address}`)
}

/** What api.ts reads of a response; jsdom has none. */
const answered = (body: unknown, status = 200): Response => {
  const text = JSON.stringify(body)
  return { ok: status < 400, status, json: async () => JSON.parse(text) as unknown } as Response
}

/** The server's manners in small: versions that rise, refusals, silence. `answers` takes the place of what it would say. */
export class Served {
  /** What was asked, in order. */
  readonly asked: { name: RouteName; params: Record<string, string>; body: Record<string, unknown> }[] = []
  away = false

  constructor(
    readonly candidates: Candidate[],
    public answers: Answering = {},
  ) {}

  /** Takes the place of `fetch`. */
  readonly fetch = async (address: unknown, init?: RequestInit): Promise<Response> => {
    const { name, params } = routeOf(init?.method ?? 'GET', String(address))
    const body = init?.body ? (JSON.parse(String(init.body)) as Record<string, unknown>) : {}
    if (this.away) throw new TypeError('failed to fetch')
    this.asked.push({ name, params, body })
    const answers = { ...this.own, ...this.answers } as Record<
      string,
      ((params: unknown, body: unknown) => unknown) | undefined
    >
    const answer = answers[name]
    if (!answer) throw new Error(`the test does not say what ${name} answers`)
    try {
      return answered(await answer(params, body))
    } catch (error) {
      if (!(error instanceof Refusal)) throw error
      const status = error.failure.code === 'conflict' ? 409 : 422
      return answered(error.failure, status)
    }
  }
  of(name: RouteName) {
    return this.asked.filter((one) => one.name === name)
  }

  private find(id: string): Candidate {
    const found = this.candidates.find((candidate) => candidate.id === id)
    if (!found) throw new Refusal({ code: 'not-found', message: 'There is nothing here that you may see.' })
    return found
  }
  /** What it says where the test says nothing else. */
  readonly own = {
    session: () => ({ user: tutor, csrf: 'token', now, frozen: true, demoAccounts: [] }),
    listCandidates: () => [],
    readCandidate: ({ candidateId }) => this.find(candidateId),
    readRecall: () => ({ cards: [], histories: [], recent: [] }),
    savePart: ({ candidateId, part }, { version, document }) => {
      const { parts } = this.find(candidateId)
      const next = { document, version: version + 1, changedBy: null, changedAt: now }
      parts[part] = next
      return next
    },
    saveSession: ({ candidateId, sessionId }, { version, request: _, ...report }) => {
      const session = this.find(candidateId).plan?.sessions.find(({ id }) => id === sessionId)
      if (!session) throw new Refusal({ code: 'not-found', message: 'There is no such session.' })
      const after = withReport(session, report)
      for (const key of Object.keys(session)) if (!(key in after)) Reflect.deleteProperty(session, key)
      return Object.assign(session, after, { version: version + 1 })
    },
    saveAttempt: ({ candidateId }, { version, attempt }) => {
      const stored = StoredAttempt.parse({ ...attempt, version: version + 1 })
      const candidate = this.find(candidateId)
      candidate.attempts = [...candidate.attempts.filter(({ id }) => id !== attempt.id), stored]
      return { attempt: stored, sessions: [] }
    },
    deleteAttempt: ({ candidateId, attemptId }) => {
      const candidate = this.find(candidateId)
      candidate.attempts = candidate.attempts.filter(({ id }) => id !== attemptId)
      return { sessions: [] }
    },
  } satisfies Answering
}
