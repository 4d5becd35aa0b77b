import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { root } from './folders.mjs'
import { ensureModules } from './setup.mjs'

/** Bundles and runs every measurement of bench/; each prints a table. */
ensureModules()
const { buildSync } = await import('esbuild')
const folder = mkdtempSync(path.join(os.tmpdir(), 'climber-bench-'))
const only = process.argv.slice(2)
for (const name of readdirSync(path.join(root, 'bench')).sort()) {
  if (
    name === 'table.ts' ||
    !name.endsWith('.ts') ||
    (only.length && !only.includes(name.replace('.ts', '')))
  )
    continue
  const script = path.join(folder, name.replace('.ts', '.mjs'))
  buildSync({
    entryPoints: [path.join(root, 'bench', name)],
    outfile: script,
    bundle: true,
    platform: 'node',
    format: 'esm',
    logLevel: 'warning',
  })
  spawnSync(process.execPath, [script], { stdio: 'inherit', cwd: root })
}
rmSync(folder, { recursive: true })
