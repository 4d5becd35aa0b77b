import { createHash } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import { root } from './folders.mjs'

/** Packages from the registry are not bundled; the project's own workspaces are. */
export const packagesStayOutside = {
  name: 'packages-stay-outside',
  setup(builder) {
    builder.onResolve({ filter: /^[^./]/ }, ({ path: name, kind }) =>
      kind === 'entry-point' || name.startsWith('@climber/') || path.isAbsolute(name)
        ? undefined
        : { path: name, external: true },
    )
  },
}

/** The server, under a name, and the threads beside it: a file each. */
export const serverEntries = (name) => [
  { in: path.join(root, 'server/src/main.ts'), out: name },
  { in: path.join(root, 'server/src/aside/worker.ts'), out: 'worker' },
]

/** The server as files beside node_modules, and the web app into web/dist. */
export async function build({ web = true } = {}) {
  const esbuild = await import('esbuild')
  await esbuild.build({
    entryPoints: serverEntries('main'),
    outdir: path.join(root, 'server/dist'),
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    logLevel: 'warning',
    plugins: [packagesStayOutside],
  })
  if (!web) return
  const { build: viteBuild } = await import('vite')
  await viteBuild({
    root: path.join(root, 'web'),
    configFile: path.join(root, 'web/vite.config.ts'),
    logLevel: 'warn',
  })
  await esbuild.build({
    entryPoints: [path.join(root, 'web/src/service-worker.ts')],
    outfile: path.join(root, 'web/dist/service-worker.js'),
    bundle: true,
    minify: true,
    format: 'iife',
    target: 'es2022',
    logLevel: 'warning',
    define: { builtFiles: JSON.stringify(builtFiles()), 'process.env.NODE_ENV': '"production"' },
  })
}

/** What the service worker keeps: files with a digest in their name as they are, the page with a digest of its own. */
function builtFiles() {
  const dist = path.join(root, 'web/dist')
  const digest = (name) =>
    createHash('sha256')
      .update(readFileSync(path.join(dist, name)))
      .digest('hex')
      .slice(0, 16)
  return [
    ...['index.html', 'climber.svg'].map((name) => ({ url: `/${name}`, revision: digest(name) })),
    ...readdirSync(path.join(dist, 'assets')).map((name) => ({ url: `/assets/${name}`, revision: null })),
  ]
}
