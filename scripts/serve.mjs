import { spawn } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { alive, portIsFree, secretIn, startDatabase } from './database.mjs'
import { root } from './folders.mjs'

const usual = 4400

/** PORT when given; else 4400, or the next that is free; `from` another one on. */
export async function choosePort(from) {
  if (process.env.PORT && from === undefined) {
    const port = Number(process.env.PORT)
    if (!(await portIsFree(port))) {
      console.error(`Port ${port} is in use. Choose another: PORT=4410 npm run demo`)
      process.exit(1)
    }
    return port
  }
  const first = from ?? usual
  for (let port = first; port < first + 50; port++) if (await portIsFree(port)) return port
  console.error(`No port from ${first} to ${first + 49} is free. Choose one with PORT.`)
  process.exit(1)
}

/** Refuses to run twice on one data folder; a lock left by a process that is gone is taken over. */
function lock(folder) {
  const file = path.join(folder, 'running.json')
  if (existsSync(file)) {
    const { pid, url } = JSON.parse(readFileSync(file, 'utf8'))
    if (alive(pid)) {
      console.error(`Climber is already running on this data: ${url}`)
      process.exit(1)
    }
  }
  return {
    hold: (url) => writeFileSync(file, JSON.stringify({ pid: process.pid, url })),
    free: () => rmSync(file, { force: true }),
  }
}

/** Starts the server (and, without DATABASE_URL, a database of its own) and stays until Ctrl-C, which stops both. */
export async function serve({ folder, port, demo }) {
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  const url = `http://127.0.0.1:${port}`
  const held = lock(folder)
  held.hold(url)
  const database = process.env.DATABASE_URL ? undefined : await startDatabase(folder)
  const child = spawn(process.execPath, ['--enable-source-maps', path.join(root, 'server/dist/main.mjs')], {
    cwd: root,
    // The channel tells the server when this process is gone, however it went.
    stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
    detached: true,
    env: {
      ...process.env,
      NODE_ENV: 'production',
      PORT: String(port),
      DATABASE_URL: process.env.DATABASE_URL ?? database.url,
      SESSION_SECRET: process.env.SESSION_SECRET ?? secretIn(folder, 'session-secret'),
      CLIMBER_DEMO: demo ? '1' : '0',
      CLIMBER_LOG: process.env.CLIMBER_LOG ?? 'warn',
      CLIMBER_WEB: path.join(root, 'web/dist'),
      CLIMBER_SAMPLES: path.join(root, 'demo'),
    },
  })
  child.stdout.on('data', (text) => {
    if (String(text).includes('climber listens'))
      console.log(`Climber${demo ? ' with demo data' : ''}: ${url}   (Ctrl-C stops it)`)
    else process.stdout.write(text)
  })
  let stopping = false
  const stop = async (code) => {
    if (stopping) return
    stopping = true
    if (child.exitCode === null && child.signalCode === null) {
      const gone = new Promise((resolve) => child.once('exit', resolve))
      child.kill('SIGTERM')
      await gone
    }
    await database?.stop()
    held.free()
    process.exit(code)
  }
  child.once('exit', (code) => void stop(code ?? 1))
  process.once('SIGINT', () => void stop(0))
  process.once('SIGTERM', () => void stop(0))
  process.once('SIGHUP', () => void stop(0))
}
