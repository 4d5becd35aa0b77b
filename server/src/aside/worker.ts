import { workerData } from 'node:worker_threads'
import pino from 'pino'
import { readCommitments } from '@climber/core'
import { Clock } from '../clock'
import type { Config } from '../config'
import { connect } from '../database'
import type { Context } from '../services/context'
import { refreshFigures } from '../services/figures'
import { answerAside, handlersOf } from './handlers'
import type { CalendarResult, CalendarTask, RouteResult, RouteTask } from './task'

/** A thread beside the server, with its own connections: what takes long, or is as large as a stranger likes, is done here. */
const config = workerData as Config
const log = pino({ level: 'silent' })
const context: Context = {
  ...connect(config.databaseUrl, log, 2),
  clock: new Clock(config.frozenNow),
  demo: config.demo,
  readsInside: config.readsInside,
  samples: config.samples,
}
const handlers = handlersOf(context)

export const route = (task: RouteTask): Promise<RouteResult> => answerAside(context, handlers, task)

/** Some of the figures of lists that are of another day. */
export const figures = (): Promise<number> => refreshFigures(context)

export const calendar = ({ text, zone, firstDate, lastDate, line }: CalendarTask): CalendarResult =>
  readCommitments(text, zone, firstDate, lastDate, (at) => {
    if (line) line[0] = at
  })
