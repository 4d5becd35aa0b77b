import type { Dice } from './world'

/** What nobody means and somebody sends. */
const nasty: (() => unknown)[] = [
  () => null,
  () => '',
  () => 0,
  () => -1,
  () => 1e308,
  () => -0.0000001,
  () => 9_007_199_254_740_993,
  () => true,
  () => [],
  () => ({}),
  () => 'constructor',
  () => '__proto__',
  () => 'toString',
  () => 'cut \ud83d',
  () => 'bell\u0007\u0000',
  () => '\u202e\u2028',
  () => '2030-02-30',
  () => '9999-12-31',
  () => '24:00',
  () => '00000000-0000-4000-8000-000000000000',
  () => 'x'.repeat(3000),
  () => "'; DROP TABLE parts; --",
  () => '<script>alert(1)</script>',
  () => '=HYPERLINK("http://x")',
  () => '%00%2e%2e/',
  () => Array.from({ length: 300 }, (_, at) => at),
  () => Object.fromEntries(Array.from({ length: 300 }, (_, at) => [`k${at}`, at])),
  () => {
    let deep: unknown = 1
    for (let at = 0; at < 40; at++) deep = { deep }
    return deep
  },
]

type Holder = Record<string, unknown> | unknown[]
function holdersOf(value: unknown, found: Holder[] = []): Holder[] {
  if (typeof value === 'object' && value !== null && found.length < 4000) {
    found.push(value as Holder)
    for (const inner of Object.values(value)) holdersOf(inner, found)
  }
  return found
}

/** A document with one to three things changed in it. */
export function mutated<T>(document: T, dice: Dice): T {
  const copy = structuredClone(document)
  for (let left = 1 + dice.below(3); left > 0; left--) {
    const holder = dice.of(holdersOf(copy)) as Record<string, unknown> | undefined
    if (!holder) continue
    const keys = Object.keys(holder)
    const key = keys.length ? dice.of(keys) : 'key'
    const kind = dice.below(6)
    if (kind === 0 && !Array.isArray(holder)) delete holder[key]
    else if (kind === 1) holder[`${key}x`] = dice.of(nasty)()
    else if (kind === 2 && Array.isArray(holder) && holder.length)
      for (let more = dice.below(300); more > 0; more--) holder.push(structuredClone(holder[0]))
    else if (kind === 3 && keys.length > 1) holder[key] = structuredClone(holder[dice.of(keys)])
    else holder[key] = dice.of(nasty)()
  }
  return copy
}

/** Text with something cut, doubled, swapped or put in between. */
export function garbled(text: string, dice: Dice, pieces: string[]): string {
  let now = text
  for (let left = 1 + dice.below(4); left > 0; left--) {
    const from = dice.below(now.length + 1)
    const to = Math.min(now.length, from + dice.below(40))
    const kind = dice.below(4)
    if (kind === 0) now = now.slice(0, from) + now.slice(to)
    else if (kind === 1) now = now.slice(0, to) + now.slice(from)
    else now = now.slice(0, from) + dice.of(pieces) + now.slice(kind === 2 ? from : to)
  }
  return now
}
