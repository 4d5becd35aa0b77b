import { spawn } from 'node:child_process'
import { mkdirSync } from 'node:fs'
import path from 'node:path'
import { packagesStayOutside, serverEntries } from './build.mjs'
import { secretIn, startDatabase } from './database.mjs'
import { dataRoot, root } from './folders.mjs'
import { choosePort } from './serve.mjs'
import { ensureModules, ensurePackages } from './setup.mjs'

/**
 * Server and web app with demo data, for working on them: the page follows a changed screen at once, the server starts anew
 * when something of it, of the core or of the contract changes. Ctrl-C stops all of it.
 */
ensurePackages(process.env.DATABASE_URL ? [] : ['mariadb-server'])
ensureModules()
const folder = path.join(dataRoot, 'dev')
mkdirSync(folder, { recursive: true, mode: 0o700 })
const database = process.env.DATABASE_URL ? undefined : await startDatabase(folder)
const port = await choosePort()
const apiPort = await choosePort(port + 1)
// Inside the project, so that packages are found.
const bundle = path.join(root, 'server/dist/dev.mjs')
let child
let stopping = false

/** The server as it is now, in place of the one before. */
async function restart() {
  if (child) {
    const gone = new Promise((resolve) => child.once('exit', resolve))
    child.kill('SIGTERM')
    await gone
  }
  if (stopping) return
  child = spawn(process.execPath, ['--enable-source-maps', bundle], {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    env: {
      ...process.env,
      PORT: String(apiPort),
      DATABASE_URL: process.env.DATABASE_URL ?? database.url,
      SESSION_SECRET: secretIn(folder, 'session-secret'),
      CLIMBER_DEMO: '1',
      CLIMBER_INSIDE: '1',
      CLIMBER_LOG: process.env.CLIMBER_LOG ?? 'warn',
      CLIMBER_SAMPLES: path.join(root, 'demo'),
    },
  })
}

const { context } = await import('esbuild')
const watching = await context({
  entryPoints: serverEntries('dev'),
  outdir: path.dirname(bundle),
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  sourcemap: true,
  logLevel: 'warning',
  plugins: [
    packagesStayOutside,
    {
      name: 'restart',
      setup: (builder) => builder.onEnd(({ errors }) => (errors.length ? undefined : restart())),
    },
  ],
})
await watching.watch()

const { createServer } = await import('vite')
const vite = await createServer({
  root: path.join(root, 'web'),
  configFile: path.join(root, 'web/vite.config.ts'),
  server: { host: '127.0.0.1', port, strictPort: true, proxy: { '/api': `http://127.0.0.1:${apiPort}` } },
})
await vite.listen()
console.log(`Climber, for working on it: http://127.0.0.1:${port}   (Ctrl-C stops it)`)

async function stop() {
  if (stopping) return
  stopping = true
  await Promise.all([vite.close(), watching.dispose()])
  if (child && child.exitCode === null) {
    const gone = new Promise((resolve) => child.once('exit', resolve))
    child.kill('SIGTERM')
    await gone
  }
  await database?.stop()
  process.exit(0)
}
// Vite would end the process by itself before the database has stopped.
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) {
  process.removeAllListeners(signal)
  process.once(signal, () => void stop())
}
