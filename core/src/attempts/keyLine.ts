import type { ItemGroup } from '@climber/contract'
import { lettersOf } from './responses'

/** What a key is for: an item that is marked from a key, with its number on the paper. */
export interface KeyPlace {
  number: number
  group: Pick<ItemGroup, 'kind' | 'choices'>
}
export interface ReadKeys {
  /** A key for each place, undefined where none is said; absent where there is a problem. */
  keys?: (string | undefined)[]
  problem?: string
}

const numbered = /^(\d+)[.):=-]?([A-Za-z])$/

/**
 * An answer key in a line: letters in a row ("ABDC"), answers divided by spaces, commas or semicolons, or letters with the
 * numbers of their items ("41A 42C"). A dash or a point stands for an item without a key.
 */
export function readKeyLine(text: string, places: readonly KeyPlace[]): ReadKeys {
  const line = text.trim()
  if (!line) return { keys: places.map(() => undefined) }
  const onlyLetters = places.every(({ group }) => group.kind === 'choice')
  const glued = line.replace(/(\d+)\s*[.):=-]\s*(?=[A-Za-z])/g, '$1')
  const parts = glued.split(/[\s,;]+/).filter(Boolean)
  if (onlyLetters && parts.every((part) => numbered.test(part))) return byNumber(parts, places)
  const keys = /[\s,;]/.test(line) || !onlyLetters ? line.split(/[\s,;]+/).filter(Boolean) : [...line]
  if (keys.length !== places.length)
    return {
      problem: `${keys.length} ${keys.length === 1 ? 'answer' : 'answers'} in the key; ${places.length} items are to mark`,
    }
  const found = keys.map((key, at) => (/^[-.–]$/.test(key) ? undefined : inItsCase(key, places[at]!)))
  const wrong = found.findIndex((key, at) => key !== undefined && !offered(key, places[at]!))
  return wrong >= 0 ? { problem: notOffered(keys[wrong]!, places[wrong]!) } : { keys: found }
}

function byNumber(parts: string[], places: readonly KeyPlace[]): ReadKeys {
  const keys = new Map<number, string>()
  const byNumber = new Map(places.map((place) => [place.number, place]))
  for (const part of parts) {
    const [, digits, key] = numbered.exec(part)!
    const number = Number(digits)
    const place = byNumber.get(number)
    if (!place) return { problem: `there is no item ${number} here to mark` }
    if (keys.has(number)) return { problem: `two keys for item ${number}: ${keys.get(number)} and ${key}` }
    if (!offered(key!.toUpperCase(), place)) return { problem: notOffered(key!, place) }
    keys.set(number, key!.toUpperCase())
  }
  return { keys: places.map(({ number }) => keys.get(number)) }
}

const inItsCase = (key: string, { group }: KeyPlace): string =>
  group.kind === 'choice' ? key.toUpperCase() : key
const offered = (key: string, { group }: KeyPlace): boolean =>
  group.kind !== 'choice' || (key.length === 1 && lettersOf(group.choices ?? 26).includes(key))
function notOffered(key: string, { number, group }: KeyPlace): string {
  const letters = lettersOf(group.choices ?? 26)
  return `item ${number}: "${key}" is none of A to ${letters[letters.length - 1]}`
}
