import { spawn } from 'node:child_process'
import path from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import { portIsFree, secretIn, startDatabase } from './database.mjs'
import { root } from './folders.mjs'
import { Patience, take } from './running.mjs'
import { serverEnvironment, serverFile } from './server.mjs'

const usual = 4400
/** The server's word that starting it again would not help (server/src/main.ts). */
const refused = 78

function giveUp(message) {
  console.error(message)
  process.exit(1)
}

/** PORT when given; else 4400, or the next that is free; `from` another one on. */
export async function choosePort(from) {
  if (process.env.PORT && from === undefined) {
    const port = Number(process.env.PORT)
    if (!(await portIsFree(port))) giveUp(`Port ${port} is in use. Choose another: PORT=4410 npm run demo`)
    return port
  }
  const first = from ?? usual
  for (let port = first; port < first + 50; port++) if (await portIsFree(port)) return port
  return giveUp(`No port from ${first} to ${first + 49} is free. Choose one with PORT.`)
}

/**
 * Starts the server (and, without DATABASE_URL, a database of its own) on the data in `folderOf(port)`, and stays until Ctrl-C,
 * which stops both. Either is started again where it ends by itself.
 */
export async function serve({ folderOf, demo }) {
  let port = await choosePort()
  let held = take(folderOf(port), `http://127.0.0.1:${port}`)
  // Two that start at the same moment choose the same port: the later goes on to the next, if its data lies elsewhere too.
  while (held.taken && !process.env.PORT && folderOf(port) !== folderOf(port + 1)) {
    port = await choosePort(port + 1)
    held = take(folderOf(port), `http://127.0.0.1:${port}`)
  }
  if (held.taken) giveUp(`Climber is already running on this data: ${held.taken}`)
  const folder = folderOf(port)
  const url = `http://127.0.0.1:${port}`

  let stopping = false
  let database
  let child
  const stop = async (code) => {
    if (stopping) return
    stopping = true
    if (child && child.exitCode === null && child.signalCode === null) {
      const gone = new Promise((resolve) => child.once('exit', resolve))
      child.kill('SIGTERM')
      await gone
    }
    await database?.stop()
    held.free()
    process.exit(code)
  }
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.once(signal, () => void stop(0))

  const patience = new Patience()
  const begin = (environment) => {
    child = spawn(process.execPath, ['--enable-source-maps', serverFile], {
      cwd: root,
      // The channel tells the server when this process is gone, however it went.
      stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
      detached: true,
      env: serverEnvironment({ ...environment, CLIMBER_MINDED: '1' }),
    })
    child.stdout.on('data', (text) => {
      if (String(text).includes('climber listens')) {
        patience.good()
        console.log(`Climber${demo ? ' with demo data' : ''}: ${url}   (Ctrl-C stops it)`)
      } else process.stdout.write(text)
    })
  }
  try {
    database = process.env.DATABASE_URL
      ? undefined
      : await startDatabase(folder, { keep: true, say: console.error })
  } catch (error) {
    console.error(error.message)
    await stop(1)
  }
  const environment = {
    ...process.env,
    NODE_ENV: 'production',
    PORT: String(port),
    DATABASE_URL: process.env.DATABASE_URL || database.url,
    SESSION_SECRET: process.env.SESSION_SECRET || secretIn(folder, 'session-secret'),
    CLIMBER_DEMO: demo ? '1' : '0',
    CLIMBER_LOG: process.env.CLIMBER_LOG ?? 'warn',
    CLIMBER_WEB: path.join(root, 'web/dist'),
    CLIMBER_SAMPLES: path.join(root, 'demo'),
  }
  while (!stopping) {
    begin(environment)
    const [code, signal] = await new Promise((resolve) => child.once('exit', (...how) => resolve(how)))
    if (stopping) return
    if (code === refused) await stop(1)
    console.error(`The server ended (${signal ?? `code ${code}`}); it is started again.`)
    await wait(patience.next())
  }
}
