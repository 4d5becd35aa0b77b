import compression from 'compression'
import makeStore from 'connect-session-sequelize'
import express, { type ErrorRequestHandler, type Express, Router } from 'express'
import session from 'express-session'
import helmet from 'helmet'
import cookieParser from 'cookie-parser'
import { randomBytes, randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import path from 'node:path'
import type { Logger } from 'pino'
import { pinoHttp } from 'pino-http'
import { DataTypes } from 'sequelize'
import { inline } from './aside/aside'
import type { Aside } from './aside/task'
import { Clock } from './clock'
import type { Config } from './config'
import { makeCsrf } from './csrf'
import type { Database } from './database'
import { failureOf, internal, loggable, statusOfFailure } from './failures'
import { limits as makeLimits } from './limits'
import { serveReference } from './reference'
import { Refusal } from './refusal'
import { accountRoutes } from './routes/account'
import { expressBind, Fault } from './routes/mount'
import { candidateRoutes } from './routes/candidate'
import { examRoutes } from './routes/exam'
import { fileRoutes } from './routes/file'
import { pacingRoutes } from './routes/pacing'
import { planRoutes } from './routes/plan'
import { attemptRoutes } from './routes/attempt'
import { recallRoutes } from './routes/recall'
import { reviewRoutes } from './routes/review'
import { roomRoutes } from './routes/room'
import type { Context } from './services/context'
import { leaveTurn } from './turns'

declare module 'express-session' {
  interface SessionData {
    userId: string
  }
}

function security(config: Config) {
  return helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'"],
        workerSrc: ["'self'"],
        styleSrc: [
          "'self'",
          (_request, response) =>
            `'nonce-${(response as unknown as { locals: { nonce: string } }).locals.nonce}'`,
        ],
        fontSrc: ["'self'"],
        imgSrc: ["'self'", 'data:'],
        connectSrc: ["'self'"],
        manifestSrc: ["'self'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    strictTransportSecurity: config.secure,
  })
}

/** Milliseconds between two sayings that a session lives on, and sessions that are remembered for that. */
const touches = { every: 600_000, most: 20_000 }
/** A session lives for weeks, and each saying that it lives on is a write: one in ten minutes is enough. */
function touchSeldom(store: session.Store): void {
  const touch = store.touch?.bind(store)
  const last = new Map<string, number>()
  store.touch = (sid, data, done) => {
    const now = Date.now()
    if (!touch || now - (last.get(sid) ?? 0) < touches.every) return done?.()
    if (last.size >= touches.most) last.clear()
    last.set(sid, now)
    touch(sid, data, done)
  }
}

function sessions(config: Config, { sequelize }: Database) {
  const Store = makeStore(session.Store)
  sequelize.define(
    'webSession',
    {
      sid: { type: DataTypes.STRING(64), primaryKey: true },
      userId: { type: DataTypes.UUID, field: 'user_id' },
      expires: DataTypes.DATE,
      data: DataTypes.TEXT,
      createdAt: { type: DataTypes.DATE(3), field: 'created_at' },
      updatedAt: { type: DataTypes.DATE(3), field: 'updated_at' },
    },
    { tableName: 'web_sessions', timestamps: true },
  )
  const store = new Store({
    db: sequelize,
    table: 'webSession',
    expiration: config.sessionDays * 86_400_000,
    checkExpirationInterval: 0,
    extendDefaultFields: (defaults: object, data: { userId?: string }) => ({
      ...defaults,
      userId: data.userId ?? null,
    }),
  } as ConstructorParameters<typeof Store>[0])
  touchSeldom(store)
  return session({
    name: 'climber',
    secret: config.sessionSecret,
    store,
    resave: false,
    saveUninitialized: false,
    cookie: {
      httpOnly: true,
      sameSite: 'lax',
      secure: config.secure,
      maxAge: config.sessionDays * 86_400_000,
    },
  })
}

const writeFailure =
  (log: Logger): ErrorRequestHandler =>
  (error: unknown, request, response, _next) => {
    const id = String(request.id)
    const failure = failureOf(error)
    if (!failure)
      log.error(
        { fault: error instanceof Fault ? error.told : loggable(error), request: id },
        'a request failed',
      )
    if (response.headersSent) {
      response.destroy()
      return
    }
    const told = failure ?? internal
    response.status(statusOfFailure(told)).json({ ...told, request: id })
  }

/** Serves the built web app; every path that is not a file is the app's own, with the nonce for its styles. */
function serveWeb(app: Express, folder: string): void {
  const page = readFileSync(path.join(folder, 'index.html'), 'utf8')
  const send: express.RequestHandler = (_request, response) => {
    response
      .set('cache-control', 'no-store')
      .type('html')
      .send(page.replaceAll('__NONCE__', response.locals.nonce as string))
  }
  const files = Router()
  // They need little of the thread, and are read as slowly as a visitor likes.
  files.use((_request, response, next) => {
    leaveTurn(response)
    next()
  })
  files.use('/assets', express.static(path.join(folder, 'assets'), { immutable: true, maxAge: '365d' }))
  files.use(express.static(folder, { index: false }))
  app.get(['/', '/index.html'], send)
  app.get(/^\/(?!api\/).*/, files, send)
}

/** The whole HTTP application, on a database that has been migrated; `aside` does what the own thread must not. */
export function createApp(config: Config, database: Database, log: Logger, threads?: Aside): Express {
  const context: Context = {
    ...database,
    clock: new Clock(config.frozenNow),
    demo: config.demo,
    readsInside: config.readsInside,
    samples: config.samples,
  }
  const aside = threads ?? inline(context)
  const app = express()
  app.disable('x-powered-by')
  app.disable('etag')
  if (config.proxy !== undefined) app.set('trust proxy', config.proxy)
  app.use(
    pinoHttp({
      logger: log,
      genReqId: () => randomUUID(),
      quietReqLogger: true,
      // The address of a calendar is a secret: it stays out of the log.
      serializers: {
        req: (request: { url?: string }) => ({
          ...request,
          url: request.url?.replace(/^\/api\/feeds\/[^/]+/, '/api/feeds/-'),
        }),
        err: loggable,
      },
      customLogLevel: (_q, s, e) => (e || s.statusCode >= 500 ? 'error' : 'debug'),
    }),
  )
  app.use((request, response, next) => {
    response.set('x-request-id', String(request.id))
    response.locals.nonce = randomBytes(16).toString('base64')
    next()
  })
  app.use(security(config))
  app.use(compression())
  if (config.web) serveWeb(app, config.web)
  serveReference(app)
  const csrf = makeCsrf(config)
  const limits = makeLimits(database.sequelize)
  const api = Router()
  api.use('/api', (_request, response, next) => {
    response.set('cache-control', 'no-store')
    next()
  })
  api.use('/api', cookieParser(), sessions(config, database))
  api.use('/api', (request, response, next) => csrf.protection(request, response, next))
  const bind = expressBind(api, context, aside)
  accountRoutes(bind, context, csrf, limits)
  examRoutes(bind, context)
  candidateRoutes(bind, context, limits)
  planRoutes(bind, context, { aside, limits })
  attemptRoutes(bind, context)
  reviewRoutes(bind, context)
  recallRoutes(bind, context)
  roomRoutes(bind, context)
  pacingRoutes(bind, context)
  fileRoutes(bind, context)
  api.use('/api', () => {
    throw new Refusal({ code: 'not-found', message: 'There is no such address.' })
  })
  app.use(api)
  app.use(writeFailure(log))
  return app
}
