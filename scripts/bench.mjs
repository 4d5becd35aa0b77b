import { spawnSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, readdirSync, rmSync } from 'node:fs'
import path from 'node:path'
import { dataRoot, root } from './folders.mjs'
import { ensureModules } from './setup.mjs'

/** Bundles and runs every measurement of bench/; each prints a table. */
ensureModules()
const { build } = await import('esbuild')
const { packagesStayOutside } = await import('./build.mjs')
mkdirSync(dataRoot, { recursive: true })
// Inside the project, so that packages are found.
const folder = mkdtempSync(path.join(dataRoot, 'bench-'))
const only = process.argv.slice(2)
for (const name of readdirSync(path.join(root, 'bench')).sort()) {
  if (
    name === 'table.ts' ||
    !name.endsWith('.ts') ||
    (only.length && !only.includes(name.replace('.ts', '')))
  )
    continue
  const script = path.join(folder, name.replace('.ts', '.mjs'))
  await build({
    entryPoints: [path.join(root, 'bench', name)],
    outfile: script,
    bundle: true,
    platform: 'node',
    format: 'esm',
    logLevel: 'warning',
    plugins: [packagesStayOutside],
  })
  spawnSync(process.execPath, [script], { stdio: 'inherit', cwd: root })
}
if (!only.length || only.includes('browser')) {
  const { setUp } = await import('./setup.mjs')
  await setUp(['mariadb-server', 'chromium-headless-shell'])
  const config = path.join('bench', 'browser', 'playwright.config.ts')
  spawnSync(path.join(root, 'node_modules/.bin/playwright'), ['test', '--config', config], {
    stdio: 'inherit',
    cwd: root,
  })
}
rmSync(folder, { recursive: true })
