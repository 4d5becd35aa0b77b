import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { createInterface } from 'node:readline'
import { serverEnvironment, serverFile } from '../scripts/server.mjs'

export const now = '2030-01-15T16:10:00Z'
export const today = now.slice(0, 10)

const kinds = ['DEMO', 'EMPTY', 'OTHER'] as const

async function startServer(
  databaseUrl: string,
  demo: boolean,
  port = 0,
  more: Record<string, string> = {},
): Promise<{ url: string; child: ChildProcess }> {
  const child = spawn(process.execPath, ['--enable-source-maps', serverFile], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: serverEnvironment({
      ...process.env,
      NODE_OPTIONS: '',
      PORT: String(port),
      DATABASE_URL: databaseUrl,
      SESSION_SECRET: 'a secret for the journeys only',
      CLIMBER_DEMO: demo ? '1' : '0',
      CLIMBER_NOW: now,
      CLIMBER_LOG: 'error',
      CLIMBER_WEB: path.resolve('web/dist'),
      CLIMBER_SAMPLES: path.resolve('demo'),
      ...more,
    }),
  })
  for await (const line of createInterface({ input: child.stdout! })) {
    const found = /http:\S+/.exec(line)
    if (found) return { url: found[0], child }
  }
  throw new Error('the server ended before it listened')
}

/**
 * A demo server, an empty one, and a second empty one to move to, for one worker: each on a schema of its own, so that workers
 * side by side never meet. Their addresses are in the environment.
 */
export async function startServers(worker: number): Promise<() => void> {
  const { default: mariadb } = await import('mariadb')
  const base = process.env['CLIMBER_E2E_DATABASE']!
  const admin = await mariadb.createConnection(base)
  const schemas = kinds.map((kind) => `climber_${worker}_${kind.toLowerCase()}`)
  for (const schema of schemas) {
    await admin.query(`DROP DATABASE IF EXISTS ${schema}`)
    await admin.query(`CREATE DATABASE ${schema} CHARACTER SET utf8mb4`)
  }
  await admin.end()
  const running = await Promise.all(
    schemas.map((schema, at) => startServer(base.replace(/\/climber$/, `/${schema}`), kinds[at] === 'DEMO')),
  )
  running.forEach(({ url }, at) => (process.env[`CLIMBER_${kinds[at]}_URL`] = url))
  return () => running.forEach(({ child }) => child.kill('SIGKILL'))
}

/** A demo server of one journey's own, which that may kill and start again at the same address. */
export async function ownServer(
  name: string,
  more: Record<string, string> = {},
  base = process.env['CLIMBER_E2E_DATABASE']!,
) {
  const { default: mariadb } = await import('mariadb')
  const admin = await mariadb.createConnection(base)
  await admin.query(`DROP DATABASE IF EXISTS climber_${name}`)
  await admin.query(`CREATE DATABASE climber_${name} CHARACTER SET utf8mb4`)
  await admin.end()
  const address = base.replace(/\/climber$/, `/climber_${name}`)
  let { url, child } = await startServer(address, true, 0, more)
  const port = Number(new URL(url).port)
  return {
    url,
    kill: () => void child.kill('SIGKILL'),
    /** Starts it again, with other settings where they are named: on another day. */
    restart: async (later: Record<string, string> = {}) =>
      void ({ url, child } = await startServer(address, true, port, { ...more, ...later })),
  }
}

/** One MariaDB for all workers. */
export default async function database() {
  const { startDatabase } = await import('../scripts/database.mjs')
  const folder = mkdtempSync(path.join(os.tmpdir(), 'climber-e2e-'))
  const { url, stop } = await startDatabase(folder, { quick: true })
  process.env['CLIMBER_E2E_DATABASE'] = url
  return async () => {
    await stop()
    rmSync(folder, { recursive: true, force: true })
  }
}
