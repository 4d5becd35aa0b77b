import { type ChildProcess, spawn } from 'node:child_process'
import path from 'node:path'
import { createInterface } from 'node:readline'

interface Started {
  url: string
  child: ChildProcess
}

async function start(args: string[], environment: NodeJS.ProcessEnv): Promise<Started> {
  const child = spawn(process.execPath, args, {
    stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
    env: environment,
  })
  const url = await new Promise<string>((resolve, reject) => {
    child.once('exit', (code) => reject(new Error(`${args[0]} ended with ${code}`)))
    createInterface({ input: child.stdout! }).on('line', (line) => {
      const found = /http:\S+/.exec(line)
      if (found) resolve(found[0])
    })
  })
  return { url, child }
}

/** The built server on a database, as a process of its own. */
export async function startClimber(databaseUrl: string, environment: NodeJS.ProcessEnv): Promise<Started> {
  const { serverEnvironment, serverFile } = await import(path.join(process.cwd(), 'scripts/server.mjs'))
  return start(
    [serverFile],
    serverEnvironment({
      ...process.env,
      PORT: '0',
      DATABASE_URL: databaseUrl,
      SESSION_SECRET: 'a secret for the bench only',
      CLIMBER_LOG: 'error',
      ...environment,
    }),
  )
}

/** The bare routes beside it, on the same database (bare.mjs). */
export const startBare = (databaseUrl: string): Promise<Started> =>
  start(['bench/shared/bare.mjs'], { ...process.env, DATABASE_URL: databaseUrl })
