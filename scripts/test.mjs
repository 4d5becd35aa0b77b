import { spawn } from 'node:child_process'
import { mkdirSync, readFileSync, rmSync } from 'node:fs'
import path from 'node:path'
import { root } from './folders.mjs'
import { setUp } from './setup.mjs'

/**
 * Everything: set-up, checks without cases of their own (each counts as one), unit, component and server tests, journeys in
 * Chromium. Two things run at once, as there are two processors; the last line counts all suites together.
 */
await setUp(['mariadb-server', 'chromium-headless-shell', 'haproxy'])
const bin = (name) => path.join(root, 'node_modules', '.bin', name)
const results = path.join(root, 'test-results')
rmSync(results, { recursive: true, force: true })
mkdirSync(results, { recursive: true })
const begun = Date.now()
const minutes = (since) => `${((Date.now() - since) / 60_000).toFixed(1)} min`

/** Runs a command; what it says is shown in one piece when it ends, or at once where it runs alone. */
function run(command, args, { env = {}, aside = false } = {}) {
  const since = Date.now()
  if (!aside) console.log(`\n> ${path.basename(command)} ${args.join(' ')}`)
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: root,
      stdio: ['ignore', aside ? 'pipe' : 'inherit', aside ? 'pipe' : 'inherit'],
      env: { ...process.env, ...env },
    })
    let said = ''
    for (const stream of [child.stdout, child.stderr]) stream?.on('data', (text) => (said += text))
    const end = (code) => {
      if (aside) console.log(`\n> ${path.basename(command)} ${args.join(' ')}\n${said.trimEnd()}`)
      console.log(`${path.basename(command)}: ${minutes(since)}`)
      resolve(code)
    }
    child.once('close', (code, signal) => end(signal ? 1 : code))
    child.once('error', () => end(1))
  })
}
const read = (file) => {
  try {
    return JSON.parse(readFileSync(path.join(results, file), 'utf8'))
  } catch {
    return undefined
  }
}

const counts = { passed: 0, failed: 0 }
const check = async (command, args) =>
  (counts[(await run(command, args, { aside: true })) === 0 ? 'passed' : 'failed'] += 1)
const inTurn = async (checks) => {
  for (const [command, ...args] of checks) await check(bin(command), args)
}
await Promise.all([
  inTurn([
    ['eslint', '.', '--cache', '--cache-location', path.join('node_modules', '.cache', 'eslint')],
    ['prettier', '--check', '--log-level', 'warn', '.'],
    ['knip', '--no-progress'],
  ]),
  inTurn([
    ['tsc', '-p', 'tsconfig.json', '--noEmit'],
    ['vue-tsc', '-p', 'web/tsconfig.json', '--noEmit'],
    ['depcruise', 'contract', 'core', 'server', 'web', 'demo', '--config', '.dependency-cruiser.mjs'],
  ]),
])

/** Random plans are other ones each day; the seed says which, to have them again. */
const seed = process.env.CLIMBER_PLAN_SEED ?? String(Math.floor(Date.now() / 86_400_000))
const hostile = process.env.CLIMBER_HOSTILE_SEED ?? seed
console.log(
  `\nRandom plans are drawn with seed ${seed} (CLIMBER_PLAN_SEED), hostile requests with ${hostile} (CLIMBER_HOSTILE_SEED).`,
)
const jestCode = await run(
  bin('jest'),
  ['--maxWorkers', '2', '--json', '--outputFile', path.join(results, 'jest.json')],
  {
    env: {
      CLIMBER_PLAN_SEED: seed,
      CLIMBER_HOSTILE_SEED: hostile,
      NODE_OPTIONS: '--experimental-vm-modules --disable-warning=ExperimentalWarning',
    },
  },
)
const jest = read('jest.json')
counts.passed += jest?.numPassedTests ?? 0
counts.failed += (jest?.numFailedTests ?? 0) + (jest?.numRuntimeErrorTestSuites ?? 1)
if (jestCode !== 0 && counts.failed === 0) counts.failed += 1

const e2eCode = await run(bin('playwright'), ['test'])
const e2e = read('e2e.json')
const before = counts.failed
counts.passed += e2e?.stats?.expected ?? 0
counts.failed += (e2e?.stats?.unexpected ?? 1) + (e2e?.stats?.flaky ?? 0)
if (e2eCode !== 0 && counts.failed === before) counts.failed += 1

console.log(`\nAll of it: ${minutes(begun)}`)
console.log(`${counts.passed} passed, ${counts.failed} failed`)
process.exit(counts.failed ? 1 : 0)
