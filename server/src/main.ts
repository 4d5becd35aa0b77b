import pino from 'pino'
import { loadDemo } from './demo'
import { createApp } from './app'
import { Clock } from './clock'
import { configFrom } from './config'
import { connect, migrate } from './database'

const config = configFrom(process.env)
const log = pino({
  level: config.logLevel,
  redact: ['req.headers.cookie', 'req.headers["x-csrf-token"]', 'res.headers["set-cookie"]'],
})
const database = connect(config.databaseUrl, log)
const applied = await migrate(database)
if (applied.length) log.info({ applied }, 'migrations applied')
if (config.demo)
  await loadDemo({ ...database, clock: new Clock(config.frozenNow), demo: true, samples: config.samples })

const server = createApp(config, database, log).listen(config.port, config.host, () => {
  const address = server.address()
  const port = typeof address === 'object' && address ? address.port : config.port
  // The scripts wait for this line.
  process.stdout.write(`climber listens on http://${config.host}:${port}\n`)
})
server.on('error', (error) => {
  process.stderr.write(`climber cannot listen on ${config.host}:${config.port}: ${error.message}\n`)
  process.exit(1)
})

// Sessions of visitors who never came back.
setInterval(
  () =>
    void database.sequelize
      .query('DELETE FROM web_sessions WHERE expires < UTC_TIMESTAMP()')
      .catch((error: unknown) => log.warn({ err: error })),
  15 * 60_000,
).unref()

const stop = (signal: string): void => {
  log.info({ signal }, 'stopping')
  server.close(() => void database.sequelize.close().then(() => process.exit(0)))
  server.closeIdleConnections()
  setTimeout(() => process.exit(0), 5000).unref()
}
process.once('SIGINT', stop)
process.once('SIGTERM', stop)
if (process.channel) process.once('disconnect', () => stop('disconnect'))
