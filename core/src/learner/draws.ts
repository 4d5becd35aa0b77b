import { normalQuantile } from '../exact/normal'
import { randomFrom, shuffle } from '../exact/random'

const quantiles = new Map<number, Float64Array>()
/** Standard normal numbers in the middles of `size` parts of equal probability. */
function middles(size: number): Float64Array {
  let found = quantiles.get(size)
  if (!found) {
    found = new Float64Array(size)
    for (let at = 0; at < (size + 1) >> 1; at++) {
      const z = normalQuantile((at + 0.5) / size)
      found[at] = z
      found[size - 1 - at] = -z
    }
    quantiles.set(size, found)
  }
  return found
}

/** A seed for a name: FNV-1a. */
function seedOf(name: string): number {
  let hash = 2166136261
  for (let at = 0; at < name.length; at++) hash = Math.imul(hash ^ name.charCodeAt(at), 16777619)
  return hash >>> 0
}

const orders = new Map<string, Int32Array>()
/**
 * An order of `size` possible candidates for each name (Latin hypercube; McKay, Beckman and Conover 1979): each stands in one of as many
 * parts of equal probability. The same name has the same order whatever else there is, so that what is compared differs by what differs.
 */
function orderOf(name: string, size: number): Int32Array {
  const key = `${size} ${name}`
  let found = orders.get(key)
  if (!found) {
    found = Int32Array.from({ length: size }, (_, at) => at)
    shuffle(found, randomFrom(seedOf(name)))
    orders.set(key, found)
  }
  return found
}

const inOrder = (values: (at: number) => number, name: string, size: number): Float64Array => {
  const order = orderOf(name, size)
  const found = new Float64Array(size)
  for (let one = 0; one < size; one++) found[one] = values(order[one]!)
  return found
}

/** Standard normal numbers of a name, one for each possible candidate. */
export function normals(name: string, size: number): Float64Array {
  const values = middles(size)
  return inOrder((at) => values[at]!, name, size)
}

/** Numbers between 0 and 1 of a name, one for each possible candidate. */
export const uniforms = (name: string, size: number): Float64Array =>
  inOrder((at) => (at + 0.5) / size, name, size)
