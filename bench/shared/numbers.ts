/** Seeded numbers between 0 and 1 (Lehmer's generator), the same on every machine. */
export function numbers(seed: number): () => number {
  let state = seed
  return () => {
    state = (state * 48271) % 2147483647
    return state / 2147483647
  }
}
