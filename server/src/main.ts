import pino from 'pino'
import { createServer } from 'node:http'
import { setTimeout as wait } from 'node:timers/promises'
import { fileURLToPath } from 'node:url'
import { loadDemo } from './demo'
import { createApp } from './app'
import { threads } from './aside/aside'
import { Clock } from './clock'
import { type Config, configFrom } from './config'
import { connect, migrate } from './database'
import { errnoOf, failureOf, loggable } from './failures'
import { Refusal } from './refusal'
import { inTurn } from './turns'

/** What starting again would not help against; scripts/serve.mjs knows the number. */
const refused = 78
const config = ((): Config => {
  try {
    return configFrom(process.env)
  } catch (error) {
    process.stderr.write(`climber: ${(error as Error).message}\n`)
    process.exit(refused)
  }
})()
const log = pino({
  level: config.logLevel,
  redact: ['req.headers.cookie', 'req.headers["x-csrf-token"]', 'res.headers["set-cookie"]'],
  serializers: { err: loggable },
})

/** What MariaDB says to a wrong name, password or database. */
const notLetIn = [1044, 1045, 1049]

/** Ends with a reason that a person can read; nothing of what the database was told stands in it. */
function end(error: unknown): never {
  const said =
    error instanceof Refusal
      ? error.failure.message
      : notLetIn.includes(errnoOf(error))
        ? 'DATABASE_URL: the database does not know this name, or does not let it in.'
        : undefined
  if (said) process.stderr.write(`climber: ${said}\n`)
  else log.fatal({ fault: loggable(error) }, 'the server ends')
  process.exit(said ? refused : 1)
}

// What nobody caught leaves the process in a state that nobody knows: it ends, and whoever started it starts it anew.
process.on('uncaughtException', end)
process.on('unhandledRejection', end)

const database = connect(config.databaseUrl, log)

/** What has to be ended with the server, in this order, as far as it has come. */
const endings: (() => Promise<unknown>)[] = [() => database.sequelize.close()]
const stop = (signal: string): void => {
  log.info({ signal }, 'stopping')
  const done = () => process.exit(0)
  const inTurn = async () => {
    for (const ending of endings) await ending()
  }
  void inTurn().then(done, done)
  setTimeout(done, 5000).unref()
}
process.once('SIGINT', stop)
process.once('SIGTERM', stop)
// Whoever started it is gone, however it went, perhaps before this line.
process.once('disconnect', () => stop('disconnect'))
if (process.env['CLIMBER_MINDED'] === '1' && !process.connected) process.exit(0)

/** Waits for a database that does not answer yet: it may be starting as well. */
async function whenDatabaseAnswers<T>(work: () => Promise<T>): Promise<T> {
  for (let told = false; ; told = true)
    try {
      return await work()
    } catch (error) {
      if (failureOf(error)?.code !== 'unavailable') throw error
      if (!told) process.stderr.write('climber: the database does not answer; waiting for it\n')
      await wait(1000)
    }
}

const applied = await whenDatabaseAnswers(() => migrate(database))
if (applied.length) log.info({ applied }, 'migrations applied')
if (config.demo)
  await whenDatabaseAnswers(() =>
    loadDemo({ ...database, clock: new Clock(config.frozenNow), demo: true, samples: config.samples }),
  )

const aside = threads(config, fileURLToPath(new URL('./worker.mjs', import.meta.url)))
const server = createServer(inTurn(createApp(config, database, log, aside)))
server.listen(config.port, config.host, () => {
  const address = server.address()
  const port = typeof address === 'object' && address ? address.port : config.port
  // The scripts wait for this line.
  process.stdout.write(`climber listens on http://${config.host}:${port}\n`)
})
server.on('error', (error) => {
  process.stderr.write(`climber cannot listen on ${config.host}:${config.port}: ${error.message}\n`)
  process.exit(refused)
})
// Who sends a byte now and then holds a connection no longer than this, and who does not read the answer; simulations wait for others.
server.requestTimeout = 60_000
server.timeout = 300_000
endings.unshift(
  () =>
    new Promise((resolve) => {
      server.close(resolve)
      server.closeIdleConnections()
    }),
  () => aside.close(),
)

/** Sessions of who never came back, limits that are over, deletions that nobody sends again. */
const overdue = [
  'DELETE FROM web_sessions WHERE expires < UTC_TIMESTAMP()',
  'DELETE FROM limits WHERE resets_at < UTC_TIMESTAMP(3)',
  'DELETE FROM deletions WHERE deleted_at < UTC_TIMESTAMP(3) - INTERVAL 90 DAY',
]
setInterval(() => {
  for (const sql of overdue)
    database.sequelize.query(sql).catch((error: unknown) => log.warn({ fault: loggable(error) }))
}, 15 * 60_000).unref()

/** A day has begun for some candidate: what lists show of them is worked out before their tutor looks. */
async function morning(): Promise<void> {
  for (let left = mostGoes; left > 0 && (await aside.figures()) > 0; left--);
}
/** Goes of one round; what is left waits for the next. */
const mostGoes = 100
setInterval(
  () => void morning().catch((error: unknown) => log.warn({ fault: loggable(error) })),
  10 * 60_000,
).unref()
