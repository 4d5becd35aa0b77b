/** How a topic is called where there is little room. */
export interface ShortName {
  /** At most `longestShort` characters. */
  short: string
  /** The first word that tells it from the others, uncut; the short name where none does. */
  word: string
  /** At most `longestCode` characters. */
  code: string
}

export const longestShort = 14
export const longestCode = 4

/** Words that tell no topic from another. */
const little = new Set(
  'a an and as at by for from in into of on or the their to under with without after before its'.split(' '),
)
const letters = (text: string): string[] => Array.from(text)
const lengthOf = (text: string): number => letters(text).length
const cut = (text: string, length: number): string => letters(text).slice(0, length).join('')
/** A word with a point where it was cut. */
const shortened = (word: string, length: number): string =>
  lengthOf(word) <= length ? word : `${cut(word, length - 1).replace(/[-’']$/, '')}.`

function wordsOf(title: string): string[] {
  const all = title.normalize('NFC').trim().split(/\s+/)
  const telling = all.filter((word) => !little.has(word.toLowerCase()))
  return telling.length ? telling : all
}

/** As many words from the first on as have room. */
function fromTheFirst(words: string[], room: number): string {
  let text = shortened(words[0]!, room)
  for (const word of words.slice(1)) {
    if (lengthOf(text) + 1 + lengthOf(word) > room) break
    text += ` ${word}`
  }
  return text
}
const capital = (word: string): string => cut(word, 1).toUpperCase() + letters(word).slice(1).join('')

/** Names to try for a title, the best first: what its own words give, then what the words behind the first add. */
const shortsOf = (title: string, words: string[]): string[] => [
  ...(lengthOf(title) <= longestShort ? [title] : []),
  fromTheFirst(words, longestShort),
  ...words.slice(1).map((word) => {
    const first = shortened(words[0]!, Math.max(5, longestShort - 1 - lengthOf(word)))
    return `${first} ${shortened(word, longestShort - 1 - lengthOf(first))}`
  }),
  ...words.slice(1).map((word) => shortened(capital(word), longestShort)),
]
const codesOf = (words: string[]): string[] => [
  cut(words[0]!, longestCode),
  ...words.slice(1).map((word) => cut(words[0]!, 2) + cut(capital(word), 2)),
  ...words.slice(1).map((word) => cut(capital(word), longestCode)),
]

/** The first of these that nobody has; where all are taken, the first with a number. */
function free(tries: string[], taken: Set<string>, length: number): string {
  const isFree = (text: string) => !taken.has(text.toLowerCase())
  let found = tries.find(isFree)
  for (let n = 2; found === undefined; n++) {
    const numbered = `${cut(tries[0]!, length - String(n).length)}${n}`
    if (isFree(numbered)) found = numbered
  }
  taken.add(found.toLowerCase())
  return found
}

/**
 * Short names and codes of topics, in their order: made of the words of their titles, or of the `short` that somebody gave; no two
 * alike. The same topics always have the same ones.
 */
export function shortNames(topics: readonly { title: string; short?: string | undefined }[]): ShortName[] {
  // What somebody chose is nobody else's.
  const shorts = new Set(topics.flatMap(({ short }) => (short ? [short.toLowerCase()] : [])))
  const codes = new Set<string>()
  const words = topics.map(({ title, short }) => wordsOf(short ?? title))
  const firsts = new Map<string, number>()
  for (const [first] of words) firsts.set(first!, (firsts.get(first!) ?? 0) + 1)
  const named = topics.map(({ title, short }, at) => {
    const own = words[at]!
    // A word with which several begin tells none of them, if it can be helped.
    const tellsNothing = (text: string) => text === own[0] && firsts.get(text)! > 1
    const tries = shortsOf(title.normalize('NFC').trim(), own)
    return {
      short:
        short ??
        free(
          [...tries.filter((text) => !tellsNothing(text)), ...tries.filter(tellsNothing)],
          shorts,
          longestShort,
        ),
      code: free(codesOf(own), codes, longestCode),
    }
  })
  // A word by which a single topic goes, whether as its name, its code or the first word of them.
  const goesBy = new Map<string, number>()
  const all = named.map((name) => ({ ...name, first: wordsOf(name.short)[0]! }))
  for (const { first, short, code } of all)
    for (const text of new Set([first, short, code].map((one) => one.toLowerCase())))
      goesBy.set(text, (goesBy.get(text) ?? 0) + 1)
  return all.map(({ first, ...name }) => {
    const tells = !first.endsWith('.') && goesBy.get(first.toLowerCase()) === 1
    return { ...name, word: tells ? first : name.short }
  })
}
