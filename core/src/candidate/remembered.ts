/**
 * A function that remembers its last answers by what they rest on: arguments that are the same objects, or equal values. An open
 * record keeps the parts that did not change, so that what rests on those alone is not worked out again.
 */
export function remembered<A extends unknown[], R>(work: (...rests: A) => R, kept = 3): (...rests: A) => R {
  const last: { rests: A; answer: R }[] = []
  return (...rests) => {
    const at = last.findIndex((one) => one.rests.every((value, place) => Object.is(value, rests[place])))
    const [known] = at < 0 ? [] : last.splice(at, 1)
    const found = known ?? { rests, answer: work(...rests) }
    last.unshift(found)
    if (last.length > kept) last.pop()
    return found.answer
  }
}

/** The same, resting on all arguments but the first, which only carries them. */
export function rememberedButFirst<F, A extends unknown[], R>(
  work: (first: F, ...rests: A) => R,
  kept = 3,
): (first: F, ...rests: A) => R {
  let carrier: F
  const inner = remembered((...rests: A) => work(carrier, ...rests), kept)
  return (first, ...rests) => {
    carrier = first
    return inner(...rests)
  }
}

/** A function that remembers what it worked out for an object under a name, for as long as there is the object. */
export function rememberedFor<O extends object, R>(): (of: O, name: string, work: () => R) => R {
  const found = new WeakMap<O, Map<string, R>>()
  return (of, name, work) => {
    const all = found.get(of) ?? new Map<string, R>()
    found.set(of, all)
    if (!all.has(name)) all.set(name, work())
    return all.get(name)!
  }
}
