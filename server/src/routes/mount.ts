import express, {
  type ErrorRequestHandler,
  type Request,
  type RequestHandler,
  type Response,
  type Router,
} from 'express'
import {
  type ExamRight,
  type RecordRight,
  type Right,
  type Role,
  type RouteName,
  routes,
} from '@climber/contract'
import { bodyOf } from '../aside/body'
import type { Aside, RouteResult } from '../aside/task'
import { statusOfFailure } from '../failures'
import type { CandidateRow, ExamRow, UserRow } from '../models'
import { notFound, Refusal } from '../refusal'
import { deletedBy, openCandidate, openExam } from '../services/access'
import type { Context } from '../services/context'
import { leaveTurn, takeTurn } from '../turns'
import type { Bind } from './bind'

const mostBytes = { here: 64_000, aside: 5_000_000 }

async function userOf({ models }: Context, request: Request): Promise<UserRow | null> {
  const { userId } = request.session
  return userId ? models.users.findByPk(userId) : null
}

/** Whom and what a right lets through. Rights come from roles, and roles from services/access.ts: nowhere else. */
async function admitted(
  context: Context,
  right: Right,
  user: UserRow | null,
  ids: { candidateId: string; examId: string },
): Promise<{ candidate?: CandidateRow; role?: Role; exam?: ExamRow }> {
  if (right === 'anyone') return {}
  if (!user) throw new Refusal({ code: 'not-signed-in', message: 'Sign in first.' })
  if (right === 'signed-in') return {}
  const [kind, wanted] = right.split(':')
  if (kind === 'record') return openCandidate(context, user.id, ids.candidateId, wanted as RecordRight)
  return { exam: await openExam(context, user.id, ids.examId, wanted as ExamRight) }
}

interface Admitted {
  user: UserRow | null
  data: Record<string, string>
  candidate?: CandidateRow
  role?: Role
  exam?: ExamRow
}

/** The first step of every route: who it is, and whether they may; their body is not read before. */
const admitting =
  (context: Context, name: RouteName): RequestHandler =>
  async (request, response, next) => {
    const { method, right, params } = routes[name]
    const user = await userOf(context, request)
    if (right !== 'anyone' && !user) throw new Refusal({ code: 'not-signed-in', message: 'Sign in first.' })
    const parsed = params.safeParse(request.params)
    if (!parsed.success) throw notFound()
    const data = parsed.data as Record<string, string>
    const { candidateId = '', examId = '' } = data
    try {
      const let_ = await admitted(context, right, user, { candidateId, examId })
      response.locals['admitted'] = { user, data, ...let_ } satisfies Admitted
    } catch (error) {
      // Deleted by the one who asks again: the answer was lost.
      const id = right.startsWith('record') ? candidateId : examId
      const again = method === 'DELETE' && right.endsWith(':delete') && user
      if (!again || !(await deletedBy(context, user.id, id))) throw error
      response.json({ ok: true })
      return
    }
    next()
  }

/** The bytes of a body, of no more than `limit`; nothing is parsed yet. */
const reading = (limit: number) => express.raw({ type: () => true, limit })
const bytesOf = (request: Request): Uint8Array | undefined =>
  Buffer.isBuffer(request.body) && request.body.length ? request.body : undefined

/** One step of Express, to be waited for. */
const step = (handler: RequestHandler, request: Request, response: Response): Promise<void> =>
  new Promise((resolve, reject) => {
    void handler(request, response, (error?: unknown) =>
      error ? reject(error instanceof Error ? error : new Error(String(error))) : resolve(),
    )
  })

/** Writes what another thread answered. */
function answer(result: RouteResult, request: Request, response: Response): void {
  if ('fault' in result) throw new Fault(result.fault)
  if ('failure' in result) {
    response.status(statusOfFailure(result.failure)).json({ ...result.failure, request: String(request.id) })
    return
  }
  if (result.filename) response.attachment(result.filename)
  response.type(result.type).send(result.text)
}

/** Until an answer is read, or nobody reads it any more: unread ones stand in memory, and belong to the share of their account. */
const sent = ({ socket }: Request, response: Response): Promise<void> =>
  new Promise((resolve) => {
    if (socket.destroyed) resolve()
    response.once('finish', resolve).once('close', resolve)
  })

/** Mounts routes on Express: rights first; then, here, the body, the limits and the work; aside, the limits, the body in its turn, the work. */
export function expressBind(router: Router, context: Context, aside: Aside): Bind {
  const mount = (name: RouteName, steps: (RequestHandler | ErrorRequestHandler)[]) => {
    const { method, path } = routes[name]
    router[method.toLowerCase() as 'get' | 'put' | 'post' | 'delete'](path, ...(steps as RequestHandler[]))
  }
  return {
    here(name, handle, limits = []) {
      const read = reading(mostBytes.here)
      const parse: RequestHandler = async (request, response, next) => {
        if (request.method !== 'GET') {
          leaveTurn(response)
          await step(read, request, response)
          await takeTurn(response)
        }
        request.body = bodyOf(name, bytesOf(request))
        next()
      }
      const work: RequestHandler = async (request, response) => {
        const { data, ...found } = response.locals['admitted'] as Admitted
        const call = { params: data, body: request.body as unknown, request, response, ...found }
        response.json(await handle(call as never))
      }
      mount(name, [admitting(context, name), parse, ...limits, work])
    },
    aside(name, _handle, limits = []) {
      const read = reading(mostBytes.aside)
      const work: RequestHandler = async (request, response) => {
        const { user, data, candidate, exam } = response.locals['admitted'] as Admitted
        const gone = new AbortController()
        response.once('close', () => response.writableFinished || gone.abort())
        // Gone while their right was asked for.
        if (request.socket.destroyed) return
        const isRead = request.method === 'GET'
        const length = Number(request.get('content-length') ?? (isRead ? 0 : mostBytes.aside)) || 0
        const account = user?.id ?? request.ip ?? ''
        leaveTurn(response)
        const asked = aside.within(account, name, Math.min(length, mostBytes.aside), async () => {
          if (gone.signal.aborted) return
          if (!isRead) await step(read, request, response)
          const result = await aside.route(
            {
              route: name,
              params: data,
              body: isRead ? undefined : bytesOf(request),
              userId: user?.id ?? null,
              ...(candidate && { candidateId: candidate.id }),
              ...(exam && { examId: exam.id }),
            },
            gone.signal,
          )
          if (gone.signal.aborted) return
          answer(result, request, response)
          await sent(request, response)
        })
        await asked.catch((error: unknown) => {
          if (!gone.signal.aborted) throw error
        })
      }
      mount(name, [admitting(context, name), ...limits, work])
    },
  }
}

/** What went wrong in another thread, as it may stand in a log. */
export class Fault extends Error {
  constructor(readonly told: object) {
    super('a request failed in another thread')
  }
}
