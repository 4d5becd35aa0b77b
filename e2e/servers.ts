import { type ChildProcess, execFile, spawn } from 'node:child_process'
import { closeSync, mkdtempSync, openSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { createInterface } from 'node:readline'
import { promisify } from 'node:util'
import { request } from '@playwright/test'
import { serverEnvironment, serverFile } from '../scripts/server.mjs'
import { findProgram } from '../scripts/setup.mjs'

export const now = '2030-01-15T16:10:00Z'
export const today = now.slice(0, 10)

/** A demo server, an empty one, and a second empty one to move to. */
export type Kind = 'DEMO' | 'EMPTY' | 'OTHER'

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

/** What MariaDB's own programs want to know to reach a schema. */
function reaching(databaseUrl: string): { args: string[]; env: NodeJS.ProcessEnv } {
  const { hostname, port, username, password, pathname } = new URL(databaseUrl)
  return {
    args: [
      '--no-defaults',
      '--protocol=TCP',
      `--host=${hostname}`,
      `--port=${port}`,
      `--user=${username}`,
      pathname.slice(1),
    ],
    env: { ...process.env, MYSQL_PWD: decodeURIComponent(password) },
  }
}

/** Writes a schema down as SQL. */
async function dump(databaseUrl: string, file: string): Promise<void> {
  const { args, env } = reaching(databaseUrl)
  const options = ['--single-transaction', '--no-tablespaces', '--hex-blob', `--result-file=${file}`]
  await promisify(execFile)(findProgram('mariadb-dump')!, [...args, ...options], { env })
}

/** Fills a schema from what was written down. */
async function fill(databaseUrl: string, file: string): Promise<void> {
  const { args, env } = reaching(databaseUrl)
  const input = openSync(file, 'r')
  try {
    const child = spawn(findProgram('mariadb')!, args, { stdio: [input, 'ignore', 'inherit'], env })
    const code = await new Promise((resolve) => child.once('close', resolve))
    if (code !== 0) throw new Error(`a schema could not be filled from ${file}`)
  } finally {
    closeSync(input)
  }
}

/** New schemas, in place of any of their names, and their addresses. */
async function newSchemas(base: string, names: string[]): Promise<string[]> {
  const { default: mariadb } = await import('mariadb')
  // A busy machine takes long to open a connection.
  const admin = await mariadb.createConnection(`${base}?connectTimeout=60000`)
  for (const name of names) {
    await admin.query(`DROP DATABASE IF EXISTS climber_${name}`)
    await admin.query(`CREATE DATABASE climber_${name} CHARACTER SET utf8mb4`)
  }
  await admin.end()
  return names.map((name) => base.replace(/\/climber$/, `/climber_${name}`))
}

/** A schema as a server leaves it that was started once on nothing: with the demo, or empty. It was made and written down once. */
async function schemaOf(name: string, demo: boolean, base: string): Promise<string> {
  const [address] = await newSchemas(base, [name])
  await fill(address!, writtenDown(process.env['CLIMBER_E2E_FOLDER']!, demo))
  return address!
}
const writtenDown = (folder: string, demo: boolean): string =>
  path.join(folder, demo ? 'demo.sql' : 'empty.sql')

/**
 * The servers that a file of journeys asks for, for one worker: each on a schema of its own, so that workers side by side never
 * meet. Their addresses are in the environment.
 */
export async function startServers(worker: number, kinds: readonly Kind[]): Promise<() => void> {
  const base = process.env['CLIMBER_E2E_DATABASE']!
  const running = await Promise.all(
    kinds.map(async (kind) => {
      const demo = kind === 'DEMO'
      return startServer(await schemaOf(`${worker}_${kind.toLowerCase()}`, demo, base), demo)
    }),
  )
  running.forEach(({ url }, at) => (process.env[`CLIMBER_${kinds[at]}_URL`] = url))
  return () => {
    for (const { child } of running) child.kill('SIGKILL')
    for (const kind of kinds) delete process.env[`CLIMBER_${kind}_URL`]
  }
}

/** A demo server of one journey's own, which that may kill and start again at the same address. */
export async function ownServer(
  name: string,
  more: Record<string, string> = {},
  base = process.env['CLIMBER_E2E_DATABASE']!,
) {
  const address = await schemaOf(name, true, base)
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

/** Looks at the list of plans once, so that its figures are worked out and stored. */
async function lookAtPlans(baseURL: string): Promise<void> {
  const visitor = await request.newContext({ baseURL, timeout: 300_000 })
  const { csrf } = (await (await visitor.get('/api/session')).json()) as { csrf: string }
  const signedIn = await visitor.post('/api/demo-sign-in', {
    headers: { 'x-csrf-token': csrf },
    data: { email: 'tutor@demo.example' },
  })
  const listed = await visitor.get('/api/candidates')
  if (!signedIn.ok() || !listed.ok())
    throw new Error(`the plans of the demo are not listed: ${listed.status()}`)
  await visitor.dispose()
}

/** One MariaDB for all workers, and what a server makes of nothing, with the demo and without. */
export default async function database() {
  const { startDatabase } = await import('../scripts/database.mjs')
  const folder = mkdtempSync(path.join(os.tmpdir(), 'climber-e2e-'))
  const { url, stop } = await startDatabase(folder, { quick: true })
  const end = async () => {
    await stop()
    rmSync(folder, { recursive: true, force: true })
  }
  process.env['CLIMBER_E2E_DATABASE'] = url
  process.env['CLIMBER_E2E_FOLDER'] = folder
  try {
    await writeDown(url, folder)
  } catch (error) {
    await end()
    throw error
  }
  return end
}

/** Makes each kind of schema once, and writes it down. */
async function writeDown(url: string, folder: string): Promise<void> {
  const [demo, empty] = await newSchemas(url, ['first_demo', 'first_empty'])
  for (const address of [demo!, empty!]) {
    const { child, url: started } = await startServer(address, address === demo)
    if (address === demo) await lookAtPlans(started)
    child.kill('SIGKILL')
    await dump(address, writtenDown(folder, address === demo))
  }
}
