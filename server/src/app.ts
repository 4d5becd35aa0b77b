import compression from 'compression'
import makeStore from 'connect-session-sequelize'
import express, { type ErrorRequestHandler, type Express, Router } from 'express'
import { ipKeyGenerator, rateLimit } from 'express-rate-limit'
import session from 'express-session'
import helmet from 'helmet'
import { createHash, randomBytes, randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import path from 'node:path'
import type { Logger } from 'pino'
import { pinoHttp } from 'pino-http'
import { BaseError, DataTypes } from 'sequelize'
import { routes, type Failure } from '@climber/contract'
import { Clock } from './clock'
import type { Config } from './config'
import { forged, makeCsrf } from './csrf'
import type { Database } from './database'
import { serveReference } from './reference'
import { Refusal } from './refusal'
import { accountRoutes } from './routes/account'
import { candidateRoutes } from './routes/candidate'
import { examRoutes } from './routes/exam'
import { fileRoutes } from './routes/file'
import { pacingRoutes } from './routes/pacing'
import { planRoutes } from './routes/plan'
import { attemptRoutes } from './routes/attempt'
import type { Context } from './services/context'

declare module 'express-session' {
  interface SessionData {
    userId: string
  }
}

const sessionDays = 30
const largestBody = '5mb'

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
    expiration: sessionDays * 86_400_000,
    checkExpirationInterval: 0,
    extendDefaultFields: (defaults: object, data: { userId?: string }) => ({
      ...defaults,
      userId: data.userId ?? null,
    }),
  } as ConstructorParameters<typeof Store>[0])
  return session({
    name: 'climber',
    secret: config.sessionSecret,
    store,
    resave: false,
    saveUninitialized: false,
    cookie: { httpOnly: true, sameSite: 'lax', secure: config.secure, maxAge: sessionDays * 86_400_000 },
  })
}

/** Refuses to guess passwords: ten tries in a quarter of an hour for one address from one place. */
const guessing = rateLimit({
  windowMs: 15 * 60_000,
  limit: 10,
  skipSuccessfulRequests: true,
  keyGenerator: (request) =>
    createHash('sha256')
      .update(
        `${ipKeyGenerator(request.ip ?? '')} ${String((request.body as { email?: unknown })?.email).toLowerCase()}`,
      )
      .digest('hex'),
  handler: () => {
    throw new Refusal({
      code: 'too-many',
      message: 'Too many tries with this address. Wait a quarter of an hour.',
      field: 'email',
    })
  },
})

const isDatabaseDown = (error: unknown): boolean =>
  error instanceof BaseError && /Connection|Acquire|ECONN|socket/i.test(`${error.name} ${error.message}`)

const writeFailure =
  (log: Logger): ErrorRequestHandler =>
  (error: unknown, request, response, _next) => {
    const id = String(request.id)
    const known = error as { status?: number; type?: string; code?: string }
    const refusal =
      error instanceof Refusal
        ? error
        : known.code === 'EBADCSRFTOKEN'
          ? forged()
          : known.type === 'entity.parse.failed'
            ? new Refusal({ code: 'invalid', message: 'The request is not JSON.' })
            : known.type === 'entity.too.large'
              ? new Refusal({
                  code: 'invalid',
                  message: `That is more than ${largestBody}, the most that is taken at once.`,
                })
              : isDatabaseDown(error)
                ? new Refusal({
                    code: 'unavailable',
                    message:
                      'The database does not answer. What you typed is kept; it is sent again in a moment.',
                  })
                : undefined
    if (!refusal) log.error({ err: error, request: id }, 'a request failed')
    const failure: Failure = refusal?.failure ?? {
      code: 'internal',
      message: 'Something went wrong on the server. What you typed is kept.',
    }
    response.status(refusal?.status ?? 500).json({ ...failure, request: id })
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
  app.get(['/', '/index.html'], send)
  app.use('/assets', express.static(path.join(folder, 'assets'), { immutable: true, maxAge: '365d' }))
  app.use(express.static(folder, { index: false }))
  app.get(/^\/(?!api\/).*/, send)
}

/** The whole HTTP application, on a database that has been migrated. */
export function createApp(config: Config, database: Database, log: Logger): Express {
  const context: Context = {
    ...database,
    clock: new Clock(config.frozenNow),
    demo: config.demo,
    readsInside: config.readsInside,
    samples: config.samples,
  }
  const app = express()
  app.disable('x-powered-by')
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
  const csrf = makeCsrf()
  const api = Router()
  api.use((_request, response, next) => {
    response.set('cache-control', 'no-store')
    next()
  })
  api.use(express.json({ limit: largestBody }))
  api.use(sessions(config, database))
  api.use((request, response, next) => csrf.csrfSynchronisedProtection(request, response, next))
  api.post([routes.signIn.path, routes.signUp.path, routes.join.path], guessing)
  accountRoutes(api, context, csrf)
  examRoutes(api, context)
  candidateRoutes(api, context)
  planRoutes(api, context)
  attemptRoutes(api, context)
  pacingRoutes(api, context)
  fileRoutes(api, context)
  api.use('/api', () => {
    throw new Refusal({ code: 'not-found', message: 'There is no such address.' })
  })
  app.use(api)
  app.use(writeFailure(log))
  return app
}
