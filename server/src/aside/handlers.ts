import { type RouteName, routes } from '@climber/contract'
import { failureOf, loggable } from '../failures'
import { notFound } from '../refusal'
import { roleOn } from '../services/access'
import type { Context } from '../services/context'
import type { AsideCall, Bind } from '../routes/bind'
import { candidateRoutes } from '../routes/candidate'
import { examRoutes } from '../routes/exam'
import { attemptRoutes } from '../routes/attempt'
import { fileRoutes } from '../routes/file'
import { pacingRoutes } from '../routes/pacing'
import { planRoutes } from '../routes/plan'
import { recallRoutes } from '../routes/recall'
import { reviewRoutes } from '../routes/review'
import { roomRoutes } from '../routes/room'
import { bodyOf } from './body'
import { type RouteResult, type RouteTask, Text } from './task'

type Handler = (call: AsideCall<RouteName>) => Promise<unknown>

/** What each route does that is done aside, by name. */
export function handlersOf(context: Context): Map<RouteName, Handler> {
  const handlers = new Map<RouteName, Handler>()
  const bind: Bind = {
    here: () => undefined,
    aside: (name, handle) => void handlers.set(name, handle as unknown as Handler),
  }
  for (const add of [
    candidateRoutes,
    examRoutes,
    planRoutes,
    attemptRoutes,
    reviewRoutes,
    recallRoutes,
    roomRoutes,
    pacingRoutes,
    fileRoutes,
  ])
    add(bind, context)
  return handlers
}

/** Does one request aside: what was found by its right is looked up again, for it may be gone by now. */
export async function answerAside(
  context: Context,
  handlers: Map<RouteName, Handler>,
  task: RouteTask,
): Promise<RouteResult> {
  const { models } = context
  try {
    const handle = handlers.get(task.route)
    if (!handle) throw new Error(`nobody answers ${task.route}`)
    const candidate = task.candidateId ? await models.candidates.findByPk(task.candidateId) : undefined
    const exam = task.examId ? await models.exams.findByPk(task.examId) : undefined
    const role = candidate && task.userId ? await roleOn(context, task.userId, candidate) : undefined
    if (candidate === null || exam === null || (candidate && !role)) throw notFound()
    const call = {
      params: routes[task.route].params.parse(task.params),
      body: bodyOf(task.route, task.body),
      user: { id: task.userId },
      candidate,
      role,
      exam,
    }
    const answer = await handle(call as unknown as AsideCall<RouteName>)
    return answer instanceof Text
      ? { ...answer }
      : { text: JSON.stringify(answer), type: 'application/json; charset=utf-8' }
  } catch (error) {
    const failure = failureOf(error)
    return failure ? { failure } : { fault: loggable(error) }
  }
}
