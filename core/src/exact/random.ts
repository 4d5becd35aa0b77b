interface Row<T> {
  readonly length: number
  [at: number]: T
}
/** Puts a row in another order, each order as likely (Fisher and Yates; Durstenfeld 1964). */
export function shuffle<T>(row: Row<T>, random: () => number): void {
  for (let at = row.length - 1; at > 0; at--) {
    const other = Math.floor(random() * (at + 1))
    const own = row[at]!
    row[at] = row[other]!
    row[other] = own
  }
}

/** Seeded uniform numbers in [0, 1): mulberry32, 32 bits of state, the same everywhere. */
export function randomFrom(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296
  }
}
