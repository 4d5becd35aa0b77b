import { execFileSync, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { accessSync, constants, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { dataRoot, root, writable } from './folders.mjs'

/** Where Debian puts what the project runs; PATH first, /usr/sbin being absent from an ordinary user's. */
const places = [...(process.env.PATH ?? '').split(path.delimiter), '/usr/sbin', '/usr/local/sbin', '/usr/bin']

export function findProgram(...names) {
  for (const name of names)
    for (const place of places) {
      const file = path.join(place, name)
      try {
        accessSync(file, constants.X_OK)
        return file
      } catch {
        /* not here */
      }
    }
  return undefined
}

const programs = {
  'mariadb-server': ['mariadbd'],
  haproxy: ['haproxy'],
  'chromium-headless-shell': ['chromium-headless-shell'],
}
/** What does as well, where nothing can be installed: the whole browser takes a quarter longer for its windows. */
const otherwise = { 'chromium-headless-shell': ['chromium'] }

/** Installs the Debian packages that are missing, or says which to install and stops. */
export function ensurePackages(packages) {
  let missing = packages.filter((name) => !findProgram(...programs[name]))
  if (!missing.length) return
  if (process.getuid?.() !== 0 || !findProgram('apt-get')) {
    missing = missing.filter((name) => !findProgram(...(otherwise[name] ?? [])))
    if (!missing.length) return
    console.error(
      `These packages are needed: ${missing.join(' ')}\nInstall them with: sudo apt-get install ${missing.join(' ')}`,
    )
    process.exit(1)
  }
  console.log(`Installing ${missing.join(' ')} from Debian`)
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  const run = (args) => spawnSync('apt-get', args, { stdio: ['ignore', 'ignore', 'inherit'], env }).status
  run(['update', '-qq'])
  if (run(['install', '-y', '-qq', '--no-install-recommends', ...missing]) !== 0) {
    console.error(`apt-get could not install ${missing.join(' ')}; its messages are above.`)
    process.exit(1)
  }
}

/** Ends where this checkout lacks something and belongs to an account that this one may not write for. */
function needsOwner(what, command) {
  if (writable(root)) return
  console.error(
    `${what}, and this checkout belongs to another account. Run "${command}" once as its owner, or take a checkout of your own.`,
  )
  process.exit(1)
}

/** npm packages as the lock file names them; nothing to do where they are there already. */
export function ensureModules() {
  const lock = createHash('sha256')
    .update(readFileSync(path.join(root, 'package-lock.json')))
    .digest('hex')
  const stamp = path.join(root, 'node_modules', '.climber-lock')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return
  needsOwner('npm packages are missing or out of date', 'npm run build')
  console.log('Installing npm packages')
  // Not `npm ci`: the lock file names only the binaries of the machine kind it was made on, and ci refuses that. The
  // versions are the lock file's all the same, and nothing is written back.
  const done = spawnSync('npm', ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
  })
  if (done.status !== 0) {
    console.error('npm install failed; its messages are above.')
    process.exit(1)
  }
  writeFileSync(stamp, lock)
}

/** A digest of every source file that the build reads, so that an unchanged tree is not built twice. */
export function sourceDigest() {
  const files = execFileSync(
    'git',
    [
      // Only names are asked for; whose checkout it is does not matter here.
      '-c',
      `safe.directory=${root}`,
      'ls-files',
      '-co',
      '--exclude-standard',
      '-z',
      'contract',
      'core',
      'server',
      'web',
      'demo',
      'package-lock.json',
      'scripts/build.mjs',
    ],
    {
      cwd: root,
      encoding: 'utf8',
    },
  ).split('\0')
  const hash = createHash('sha256')
  for (const file of files.sort())
    if (file && !file.endsWith('.test.ts') && !file.includes('/test/') && existsSync(path.join(root, file)))
      hash.update(file).update(readFileSync(path.join(root, file)))
  return hash.digest('hex')
}

export async function ensureBuild() {
  const digest = sourceDigest()
  const stamp = path.join(root, 'server', 'dist', '.stamp')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === digest) return
  needsOwner('The build is missing or out of date', 'npm run build')
  console.log('Building')
  const { build } = await import('./build.mjs')
  await build()
  writeFileSync(stamp, digest)
}

/** Everything that must be there before the server can run. */
export async function setUp(packages) {
  mkdirSync(dataRoot, { recursive: true, mode: 0o700 })
  ensurePackages(packages)
  ensureModules()
  await ensureBuild()
}
