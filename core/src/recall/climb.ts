/** Goes through the names once, each up or down its ladder for as long as that is better. */
function goOnce<T extends object>(
  from: { at: T; worth: number },
  ladders: { readonly [K in keyof T]: readonly T[K][] },
  worth: (at: T) => number,
): { at: T; worth: number } {
  let best = from
  for (const name of Object.keys(ladders) as (keyof T)[])
    for (const step of [1, -1])
      for (;;) {
        const ladder = ladders[name]
        const here = ladder.findIndex((rung) => rung >= best.at[name])
        const rung = ladder[(here < 0 ? ladder.length : here) + step]
        if (rung === undefined) break
        const at = { ...best.at, [name]: rung }
        const found = worth(at)
        if (found <= best.worth) break
        best = { at, worth: found }
      }
  return best
}

/** Walks values up and down their ladders, one after the other, to where no single step is worth more. What a place is worth is asked once. */
export function climb<T extends object>(
  from: T,
  ladders: { readonly [K in keyof T]: readonly T[K][] },
  worth: (at: T) => number,
): T {
  const known = new Map<string, number>()
  function worthAt(at: T): number {
    const place = JSON.stringify(at)
    const found = known.get(place) ?? worth(at)
    known.set(place, found)
    return found
  }
  let best = { at: from, worth: worthAt(from) }
  for (let round = 0; round < 6; round++) {
    const next = goOnce(best, ladders, worthAt)
    if (next.worth === best.worth) break
    best = next
  }
  return best.at
}
