/**
 * What may come in at all, whatever it claims to be: JSON that every program after this one can keep. Asked of every request's
 * body and of every Climber file before its schema is; what is stored already is not asked again.
 */
export const mostDepth = 24
/** Values of all kinds together, keys included. */
export const mostValues = 1_000_000
export const mostKeyLength = 200
/** No count, score or instant in milliseconds is greater. */
export const greatestNumber = 1e15

/** A lone half of a letter pair; with the flag a whole pair is one letter and does not match. */
const halfLetter = /\p{Surrogate}/u
const control = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f]/

const unfitText = (text: string): string | undefined =>
  halfLetter.test(text)
    ? 'half a letter stands here, as when a text is cut in the middle of one; write it again'
    : control.test(text)
      ? 'a control character stands here, which nobody can see; write it again'
      : undefined

type Path = (string | number)[]
interface Unfit {
  path: Path
  message: string
}

/** The first thing in `value` that cannot be taken, or nothing. Linear in its size. */
export function unfitIn(value: unknown): Unfit | undefined {
  const path: Path = []
  let values = 0
  const at = (message: string): Unfit => ({ path: [...path], message })
  const walk = (found: unknown): Unfit | undefined => {
    if (++values > mostValues) return { path: [], message: `more than ${mostValues} values` }
    if (typeof found === 'string') {
      const message = unfitText(found)
      return message === undefined ? undefined : at(message)
    }
    if (typeof found === 'number')
      return Math.abs(found) <= greatestNumber ? undefined : at(`the number ${found} is out of all bounds`)
    if (typeof found !== 'object' || found === null) return undefined
    if (path.length >= mostDepth) return at(`this is nested more than ${mostDepth} deep`)
    for (const [key, inner] of Object.entries(found)) {
      if (++values > mostValues) return { path: [], message: `more than ${mostValues} values` }
      if (!Array.isArray(found) && (key.length > mostKeyLength || key === '__proto__' || unfitText(key)))
        return at(`a key that cannot be taken: ${key.slice(0, 40)}`)
      path.push(Array.isArray(found) ? Number(key) : key)
      const problem = walk(inner)
      if (problem) return problem
      path.pop()
    }
    return undefined
  }
  return walk(value)
}
