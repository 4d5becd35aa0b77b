import { createHash } from 'node:crypto'
import { compileScript, compileTemplate, parse } from 'vue/compiler-sfc'
import transform from './transform.mjs'

/** Vue's single-file components for Jest: the compiler's own output, its TypeScript stripped like any other. Styles are left out. */
function compiled(source, filename) {
  const { descriptor, errors } = parse(source, { filename })
  if (errors.length) throw errors[0]
  const id = createHash('sha256').update(filename).digest('hex').slice(0, 8)
  if (descriptor.scriptSetup) return compileScript(descriptor, { id, inlineTemplate: true }).content
  const { code } = compileTemplate({ source: descriptor.template.content, filename, id })
  return `${code}\nexport default { render }`
}

export default {
  createTransformer(options) {
    const typescript = transform.createTransformer(options)
    const renamed = (filename) => `${filename}.ts`
    return {
      ...typescript,
      process: (source, filename, ...rest) =>
        typescript.process(compiled(source, filename), renamed(filename), ...rest),
      processAsync: (source, filename, ...rest) =>
        typescript.processAsync(compiled(source, filename), renamed(filename), ...rest),
    }
  },
}
