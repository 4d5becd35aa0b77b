import { spawn } from 'node:child_process'
import { mkdirSync, readFileSync, rmSync } from 'node:fs'
import path from 'node:path'
import { root } from './folders.mjs'
import { setUp } from './setup.mjs'

await setUp(['mariadb-server', 'chromium'])
const bin = (name) => path.join(root, 'node_modules', '.bin', name)
const results = path.join(root, 'test-results')
rmSync(results, { recursive: true, force: true })
mkdirSync(results, { recursive: true })

function run(command, args, env = {}) {
  console.log(`\n> ${path.basename(command)} ${args.join(' ')}`)
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ...env },
    })
    child.once('exit', (code, signal) => resolve(signal ? 1 : code))
    child.once('error', () => resolve(1))
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
/** A check without cases of its own counts as one. */
const check = async (command, args) => (counts[(await run(command, args)) === 0 ? 'passed' : 'failed'] += 1)
await check(bin('eslint'), ['.'])
await check(bin('prettier'), ['--check', '--log-level', 'warn', '.'])
await check(bin('tsc'), ['-p', 'tsconfig.json', '--noEmit'])
await check(bin('vue-tsc'), ['-p', 'web/tsconfig.json', '--noEmit'])

const jestCode = await run(bin('jest'), ['--json', '--outputFile', path.join(results, 'jest.json')], {
  NODE_OPTIONS: '--experimental-vm-modules --disable-warning=ExperimentalWarning',
})
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

console.log(`\n${counts.passed} passed, ${counts.failed} failed`)
process.exit(counts.failed ? 1 : 0)
