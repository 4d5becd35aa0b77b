import { fork } from 'node:child_process'
import path from 'node:path'
import type { Server } from './world'

interface Look {
  at: number
  health: number
  status: number
  control: number
  /** Milliseconds of it for which the server's own thread worked, and for which it had no processor. */
  worked: number
  unserved: number
}

/** Milliseconds by which a server's own work may make it slower to say how it is than a bare one beside it is at that time. */
export const mostBeyond = 200
/**
 * The same where its thread did not work: for a connection that others hold, or for a collector of memory that had no processor, as
 * happens now and then where others take all of them.
 */
export const mostWaited = 2500

/**
 * Watches a server's health from another process, and a bare server's there beside it on the same database: what both wait for is
 * the machine's own noise, and so is a processor that others have. Call what it returns to end, and to hear by how much the
 * server was slower at its worst: by its own work, and by whatever it waited for.
 */
export function watchStalls(
  { url, child: { pid } }: Server,
  database: string,
): () => { looks: number; typical: number; worst: number; waited: number; noise: number; down: number } {
  const looks: Look[] = []
  const child = fork(
    path.join(process.cwd(), 'server/test/hostile/watch.mjs'),
    [`${url}/api/health`, database, String(pid)],
    {
      execArgv: [],
      env: { ...process.env, NODE_OPTIONS: '' },
    },
  )
  child.on('message', (look: Look) => looks.push(look))
  return () => {
    child.kill('SIGKILL')
    // The noise at a time is the worst that the bare one saw within a second of it.
    const noiseAt = (at: number) =>
      Math.max(0, ...looks.filter((one) => Math.abs(one.at - at) < 1000).map(({ control }) => control))
    const beyond = looks.map((look) => look.health - noiseAt(look.at) - look.unserved)
    return {
      looks: looks.length,
      typical: looks.map(({ health }) => health).sort((a, b) => a - b)[looks.length >> 1] ?? 0,
      worst: Math.max(0, ...looks.map(({ worked }, at) => Math.min(worked, beyond[at]!))),
      waited: Math.max(0, ...beyond),
      noise: Math.max(0, ...looks.map(({ control }) => control)),
      down: looks.filter(({ status }) => status !== 200).length,
    }
  }
}
