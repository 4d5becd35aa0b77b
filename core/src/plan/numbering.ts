/** Numbers ids on from the sessions that stay, so that a session keeps its id when the plan is made again. */
export function numbering(kept: { id: string }[], taken: string[] = []): (key: string) => string {
  const used = new Set([...kept.map(({ id }) => id), ...taken])
  const next = new Map<string, number>()
  return (key) => {
    let ordinal = (next.get(key) ?? 0) + 1
    while (used.has(`${key}.${ordinal}`)) ordinal++
    next.set(key, ordinal)
    return `${key}.${ordinal}`
  }
}
