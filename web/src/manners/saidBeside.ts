/** What is said beside options, by letter: the key, an answer given; several of one letter stand together. */
export function saidBeside(
  ...said: [letter: string | undefined, words: string][]
): ReadonlyMap<string, string> {
  const found = new Map<string, string>()
  for (const [letter, words] of said) {
    const own = letter?.toUpperCase()
    if (own) found.set(own, found.has(own) ? `${found.get(own)}, ${words}` : words)
  }
  return found
}
