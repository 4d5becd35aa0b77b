import swc from '@swc/jest'

/**
 * Jest runs each test file in a context of its own, in which every look-up of a global asks the host: arithmetic is many
 * times slower than in the program. Names of the module stand in for the commonest. On the first line, so that line numbers
 * stay.
 */
const globals =
  'const { Array, Float64Array, Infinity, Int32Array, Map, Math, NaN, Number, Object, Set } = globalThis;'

export default {
  createTransformer(options) {
    const own = swc.createTransformer(options)
    const nearer = (result) => ({ ...result, code: globals + result.code })
    return {
      ...own,
      process: (...source) => nearer(own.process(...source)),
      processAsync: async (...source) => nearer(await own.processAsync(...source)),
    }
  },
}
