import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { createInterface } from 'node:readline'

export const now = '2030-01-15T16:10:00Z'
export const today = now.slice(0, 10)

interface Running {
  url: string
  child: ChildProcess
}

async function startServer(databaseUrl: string, demo: boolean): Promise<Running> {
  const child = spawn(process.execPath, ['--enable-source-maps', 'server/dist/main.mjs'], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: {
      ...process.env,
      NODE_OPTIONS: '',
      PORT: '0',
      DATABASE_URL: databaseUrl,
      SESSION_SECRET: 'a secret for the journeys only',
      CLIMBER_DEMO: demo ? '1' : '0',
      CLIMBER_NOW: now,
      CLIMBER_LOG: 'error',
      CLIMBER_WEB: path.resolve('web/dist'),
      CLIMBER_SAMPLES: path.resolve('demo'),
    },
  })
  for await (const line of createInterface({ input: child.stdout! })) {
    const found = /http:\S+/.exec(line)
    if (found) return { url: found[0], child }
  }
  throw new Error('the server ended before it listened')
}

/** A demo server, an empty one, and a second empty one to move to; each on a database of its own. */
export default async function servers() {
  const { startDatabase } = await import('../scripts/database.mjs')
  const folder = mkdtempSync(path.join(os.tmpdir(), 'climber-e2e-'))
  const kinds = ['DEMO', 'EMPTY', 'OTHER'] as const
  const databases = await Promise.all(
    kinds.map((kind) => startDatabase(path.join(folder, kind), { quick: true })),
  )
  const running = await Promise.all(databases.map(({ url }, at) => startServer(url, kinds[at] === 'DEMO')))
  running.forEach(({ url }, at) => (process.env[`CLIMBER_${kinds[at]}_URL`] = url))
  return async () => {
    for (const { child } of running) child.kill('SIGKILL')
    await Promise.all(databases.map(({ stop }) => stop()))
    rmSync(folder, { recursive: true, force: true })
  }
}
