import type { RequestHandler, Router } from 'express'
import {
  type Answer,
  issuesOf,
  type ParsedBody,
  type ParsedParams,
  type RouteName,
  routes,
} from '@climber/contract'
import type { CandidateRow, ExamRow, UserRow } from '../models'
import { invalid, Refusal } from '../refusal'
import { openCandidate, openExam, openOwnExam } from '../services/access'
import type { Context } from '../services/context'
import type { Request, Response } from 'express'

type Who<N extends RouteName> = (typeof routes)[N]['who']

/** What a handler works with: parsed input, and whoever and whatever its `who` let through. */
export type Call<N extends RouteName> = {
  params: ParsedParams<N>
  body: ParsedBody<N>
  request: Request
  response: Response
  user: Who<N> extends 'anyone' ? UserRow | null : UserRow
  candidate: Who<N> extends 'candidate' ? CandidateRow : undefined
  exam: Who<N> extends 'exam' | 'own-exam' ? ExamRow : undefined
}

async function userOf({ models }: Context, request: Request): Promise<UserRow | null> {
  const { userId } = request.session
  return userId ? models.users.findByPk(userId) : null
}

/**
 * Mounts one route of the contract: parses parameters and body with its schemas, lets through who may, and writes the
 * answer. A handler that returns undefined has written its own.
 */
export function bind<N extends RouteName>(
  router: Router,
  context: Context,
  name: N,
  handle: (call: Call<N>) => Promise<Answer<N> | undefined>,
): void {
  const { method, path, who, params, body } = routes[name]
  const handler: RequestHandler = async (request, response) => {
    const user = await userOf(context, request)
    if (who !== 'anyone' && !user) throw new Refusal({ code: 'not-signed-in', message: 'Sign in first.' })
    const parsedParams = params.safeParse(request.params)
    if (!parsedParams.success)
      throw new Refusal({ code: 'not-found', message: 'There is nothing here that you may see.' })
    const ids = parsedParams.data as { candidateId?: string; examId?: string }
    const candidate =
      who === 'candidate' ? await openCandidate(context, user!.id, ids.candidateId!) : undefined
    const exam =
      who === 'exam'
        ? await openExam(context, user!.id, ids.examId!)
        : who === 'own-exam'
          ? await openOwnExam(context, user!.id, ids.examId!)
          : undefined
    const parsedBody = body.safeParse(request.body)
    if (!parsedBody.success) throw invalid(issuesOf(parsedBody.error))
    const call = {
      params: parsedParams.data,
      body: parsedBody.data,
      request,
      response,
      user,
      candidate,
      exam,
    }
    const answer = await handle(call as unknown as Call<N>)
    if (answer !== undefined) response.json(answer)
  }
  router[method.toLowerCase() as 'get' | 'put' | 'post' | 'delete'](path, handler)
}
