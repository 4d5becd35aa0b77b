import type { Request, RequestHandler, Response, Router } from 'express'
import {
  type Answer,
  type ExamRight,
  issuesOf,
  type ParsedBody,
  type ParsedParams,
  type RecordRight,
  type Right,
  type Role,
  type RouteName,
  routes,
} from '@climber/contract'
import type { CandidateRow, ExamRow, UserRow } from '../models'
import { invalid, notFound, Refusal } from '../refusal'
import { openCandidate, openExam } from '../services/access'
import type { Context } from '../services/context'

type RightOf<N extends RouteName> = (typeof routes)[N]['right']

/** What a handler works with: parsed input, and whoever and whatever its right let through. */
export type Call<N extends RouteName> = {
  params: ParsedParams<N>
  body: ParsedBody<N>
  request: Request
  response: Response
  user: RightOf<N> extends 'anyone' ? UserRow | null : UserRow
  candidate: RightOf<N> extends `record:${string}` ? CandidateRow : undefined
  role: RightOf<N> extends `record:${string}` ? Role : undefined
  exam: RightOf<N> extends `exam:${string}` ? ExamRow : undefined
}

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

/**
 * Mounts one route of the contract: parses parameters and body with its schemas, lets through who has the right, and writes
 * the answer. A handler that returns undefined has written its own.
 */
export function bind<N extends RouteName>(
  router: Router,
  context: Context,
  name: N,
  handle: (call: Call<N>) => Promise<Answer<N> | undefined>,
): void {
  const { method, path, right, params, body } = routes[name]
  const handler: RequestHandler = async (request, response) => {
    const user = await userOf(context, request)
    if (right !== 'anyone' && !user) throw new Refusal({ code: 'not-signed-in', message: 'Sign in first.' })
    const parsedParams = params.safeParse(request.params)
    if (!parsedParams.success) throw notFound()
    const { data } = parsedParams
    const { candidate, role, exam } = await admitted(context, right, user, {
      candidateId: 'candidateId' in data ? data.candidateId : '',
      examId: 'examId' in data ? data.examId : '',
    })
    const parsedBody = body.safeParse(request.body)
    if (!parsedBody.success) throw invalid(issuesOf(parsedBody.error))
    const call = {
      params: data,
      body: parsedBody.data,
      request,
      response,
      user,
      candidate,
      role,
      exam,
    }
    const answer = await handle(call as unknown as Call<N>)
    if (answer !== undefined) response.json(answer)
  }
  router[method.toLowerCase() as 'get' | 'put' | 'post' | 'delete'](path, handler)
}
