import { writeFileSync } from 'node:fs'
import { pathToFileURL } from 'node:url'
import os from 'node:os'
import path from 'node:path'
import { buildSync } from 'esbuild'
import { root } from './folders.mjs'

/** Writes docs/climber-file.schema.json from the Zod schemas. A test says when it is out of date. */
const script = path.join(os.tmpdir(), `climber-schema-${process.pid}.mjs`)
buildSync({
  entryPoints: [path.join(root, 'contract/src/jsonSchema.ts')],
  outfile: script,
  bundle: true,
  platform: 'node',
  format: 'esm',
})
const { climberFileJsonSchema } = await import(pathToFileURL(script).href)
writeFileSync(
  path.join(root, 'docs/climber-file.schema.json'),
  `${JSON.stringify(climberFileJsonSchema(), null, 2)}\n`,
)
