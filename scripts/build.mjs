import path from 'node:path'
import { pathToFileURL } from 'node:url'
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

/** The server as one file beside node_modules, and the web app into web/dist. */
export async function build({ web = true } = {}) {
  const esbuild = await import('esbuild')
  await esbuild.build({
    entryPoints: [path.join(root, 'server/src/main.ts')],
    outfile: path.join(root, 'server/dist/main.mjs'),
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
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) await build()
