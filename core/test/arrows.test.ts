import { execFile } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { promisify } from 'node:util'

const run = promisify(execFile)
const root = process.cwd()

/** One forbidden import each: the file that it stands in, what it names, and the rule that must refuse it. */
const probes: [file: string, imports: string, rule: string][] = [
  ['core/src/time/up.ts', '../plan/there', 'core-time-knows-only-below'],
  ['core/src/scoring/up.ts', '../sessions/there', 'core-scoring-knows-only-below'],
  ['core/src/attempts/up.ts', '../learner/there', 'core-attempts-knows-only-below'],
  ['core/src/hours/up.ts', '../candidate/there', 'core-hours-knows-only-below'],
  ['core/src/pacing/up.ts', '../candidate/there', 'core-pacing-knows-only-below'],
  ['core/src/guessing/up.ts', '../pacing/there', 'core-guessing-knows-only-below'],
  ['core/src/plan/check/leans.ts', '../there', 'the-checker-stands-alone'],
  ['core/src/plan/node.ts', 'node:fs', 'core-knows-no-host'],
  ['core/src/plan/screen.ts', 'vue', 'core-knows-no-framework'],
  ['core/src/plan/server.ts', '@climber/server', 'core-is-pure'],
  ['core/src/plan/path.ts', '../../../server/src/index', 'core-is-pure'],
  ['core/src/plan/detour.ts', '../../../contract/src/index', 'packages-by-name'],
  ['contract/src/leans.ts', '@climber/core', 'contract-leans-on-nothing'],
  ['contract/src/path.ts', '../../core/src/plan/there', 'contract-leans-on-nothing'],
  ['server/src/routes/sql.ts', 'sequelize', 'a-route-calls-a-service'],
  ['server/src/services/http.ts', 'express', 'a-service-knows-no-http'],
  ['server/src/models/rule.ts', '../services/there', 'a-model-knows-no-service'],
  ['server/src/services/screen.ts', '../../../web/src/stores/there', 'server-knows-no-screen'],
  ['web/src/stores/server.ts', '../../../server/src/services/there', 'web-talks-through-the-contract'],
  ['web/src/stores/up.ts', '../screens/there', 'a-store-knows-no-screen'],
  ['web/src/kit/up.ts', '../stores/there', 'the-kit-stands-alone'],
  ['web/src/outbox/up.ts', '../stores/there', 'the-outbox-knows-no-store'],
  ['web/src/screens/node.ts', 'node:fs', 'web-runs-in-a-browser'],
]
const circle = ['core/src/plan/one.ts', 'core/src/plan/two.ts'] as const

it('each forbidden arrow is refused, by name and by path; what is allowed is not', async () => {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'climber-arrows-'))
  const put = (file: string, text: string) => {
    mkdirSync(path.join(folder, path.dirname(file)), { recursive: true })
    writeFileSync(path.join(folder, file), text)
  }
  try {
    for (const place of ['plan', 'sessions', 'learner', 'candidate', 'pacing'])
      put(`core/src/${place}/there.ts`, 'export const there = 1\n')
    for (const place of ['server/src/services', 'web/src/stores', 'web/src/screens'])
      put(`${place}/there.ts`, 'export const there = 1\n')
    for (const name of ['contract', 'core', 'server', 'web']) {
      put(`${name}/src/index.ts`, 'export const index = 1\n')
      put(
        `${name}/package.json`,
        JSON.stringify({ name: `@climber/${name}`, exports: { '.': './src/index.ts' } }),
      )
      mkdirSync(path.join(folder, 'node_modules/@climber'), { recursive: true })
      symlinkSync(path.join(folder, name), path.join(folder, 'node_modules/@climber', name))
    }
    for (const name of ['vue', 'express', 'sequelize'])
      symlinkSync(path.join(root, 'node_modules', name), path.join(folder, 'node_modules', name))
    put(
      'tsconfig.json',
      JSON.stringify({ compilerOptions: { moduleResolution: 'bundler', module: 'ESNext' } }),
    )
    for (const [file, imports] of probes) put(file, `import '${imports}'\n`)
    put(circle[0], "import './two'\n")
    put(circle[1], "import './one'\n")
    const allowed = [
      'core/src/plan/types.ts',
      'server/src/services/core.ts',
      'web/src/screens/store.ts',
    ] as const
    put(allowed[0], "import type { index } from '@climber/contract'\nexport type I = typeof index\n")
    put(allowed[1], "import '@climber/core'\n")
    put(allowed[2], "import '../stores/there'\nimport '@climber/core'\n")

    const { stdout } = await run(
      process.execPath,
      [
        path.join(root, 'node_modules/dependency-cruiser/bin/dependency-cruise.mjs'),
        ...['contract', 'core', 'server', 'web'],
        '--config',
        path.join(root, '.dependency-cruiser.mjs'),
        '--output-type',
        'json',
      ],
      { cwd: folder, env: { ...process.env, NODE_OPTIONS: '' }, maxBuffer: 50_000_000 },
    ).catch((error: { stdout: string }) => error)
    const { summary } = JSON.parse(stdout) as {
      summary: { violations: { from: string; rule: { name: string } }[] }
    }
    const broken = (file: string) =>
      summary.violations.filter(({ from }) => from === file).map(({ rule }) => rule.name)
    for (const [file, , rule] of probes)
      expect([file, broken(file)]).toEqual([file, expect.arrayContaining([rule])])
    expect(circle.flatMap(broken)).toEqual(['no-circle'])
    for (const file of allowed) expect([file, broken(file)]).toEqual([file, []])
  } finally {
    rmSync(folder, { recursive: true })
  }
}, 120_000)
