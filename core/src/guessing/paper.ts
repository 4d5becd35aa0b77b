/** Answers that are alike: how many, the chance that each is right, and what they earn. */
export interface Answers {
  items: number
  chance: number
  perRight: number
  /** What a wrong one costs. */
  perWrong: number
  /** What it earns when it is left blank instead; nothing when absent. */
  perBlank?: number
}

/** The worth of a raw score: 1 where it reaches the target and 0 where not, or the chance of the target given it. */
export type Worth = (raw: number) => number

/** Worth 1 from the least raw score that reaches the target. */
export const reaching =
  (needed: number): Worth =>
  (raw) =>
    raw >= needed - 1e-9 ? 1 : 0

/** A distribution of raw scores: `[raw, chance]`, equal scores (to a millionth of a mark) once. */
export type Raws = [raw: number, chance: number][]

const key = (raw: number): number => Math.round(raw * 1e6)

/** The distribution of a sum of independent parts. */
export function sumOf(a: Raws, b: Raws): Raws {
  const sums = new Map<number, [number, number]>()
  for (const [x, p] of a)
    for (const [y, q] of b) {
      const found = sums.get(key(x + y))
      if (found) found[1] += p * q
      else sums.set(key(x + y), [x + y, p * q])
    }
  return [...sums.values()]
}

/** Number right of independent answers, one more of them: the row grows by one (Poisson binomial). */
export function oneMore(row: Float64Array, chance: number): Float64Array {
  const next = new Float64Array(row.length + 1)
  for (let right = 0; right < row.length; right++) {
    next[right]! += row[right]! * (1 - chance)
    next[right + 1]! += row[right]! * chance
  }
  return next
}

type Marking = Pick<Answers, 'perRight' | 'perWrong'>

/** Raw scores of answers marked alike, from the distribution of how many are right. */
const rawsOf = (row: Float64Array, { perRight, perWrong }: Marking): Raws =>
  Array.from(row, (chance, right) => [right * perRight - (row.length - 1 - right) * perWrong, chance])

/** Raw scores of answers of any kinds. */
export function rawsOfAnswers(answers: Answers[]): Raws {
  let raws: Raws = [[0, 1]]
  for (const own of answers) {
    let row: Float64Array = Float64Array.of(1)
    for (let item = 0; item < own.items; item++) row = oneMore(row, own.chance)
    raws = sumOf(raws, rawsOf(row, own))
  }
  return raws
}

/** The worth of a score when `rest` is still added to it, each score asked once. */
export function worthWith(rest: Raws, worth: Worth): Worth {
  const known = new Map<number, number>()
  return (raw) => {
    const at = key(raw)
    let found = known.get(at)
    if (found === undefined) {
      found = rest.reduce((sum, [more, chance]) => sum + chance * worth(raw + more), 0)
      known.set(at, found)
    }
    return found
  }
}

/** What answering one adds to leaving it blank, on average. */
export const gainOf = ({ chance, perRight, perWrong, perBlank = 0 }: Answers): number =>
  chance * perRight - (1 - chance) * perWrong - perBlank

export interface MixOdds {
  /** Kind of each unsure item in the order in which they are worth answering. */
  order: number[]
  /** Chance of the target for answering the first 0, 1, ... all of them: length items + 1. */
  odds: Float64Array
  /** How many of each kind to answer at best. */
  best: { counts: number[]; odds: number }
  /** Everything that earns on average, as a rule of thumb has it. */
  earning: { counts: number[]; odds: number }
}

/** More ways of sharing out than this are not tried one by one. */
const mostWays = 100_000

/** Unsure items that are marked alike: those more likely right first, and what answering the first 0, 1, ... gives. */
interface Track {
  /** Kind of each item, in order. */
  items: number[]
  raws: Raws[]
}

function tracksOf(unsure: Answers[]): Track[] {
  const markings: (Marking & { perBlank: number; kinds: number[] })[] = []
  unsure.forEach(({ perRight, perWrong, perBlank = 0 }, kind) => {
    const found = markings.find(
      (own) => own.perRight === perRight && own.perWrong === perWrong && own.perBlank === perBlank,
    )
    if (found) found.kinds.push(kind)
    else markings.push({ perRight, perWrong, perBlank, kinds: [kind] })
  })
  return markings.map((marking) => {
    const kinds = [...marking.kinds].sort((a, b) => unsure[b]!.chance - unsure[a]!.chance || a - b)
    const items = kinds.flatMap((kind) => Array.from({ length: unsure[kind]!.items }, () => kind))
    const rows = [Float64Array.of(1) as Float64Array]
    for (const kind of items) rows.push(oneMore(rows[rows.length - 1]!, unsure[kind]!.chance))
    return {
      items,
      raws: rows.map((row, answered) =>
        rawsOf(row, marking).map(([raw, chance]): [number, number] => [
          raw + (items.length - answered) * marking.perBlank,
          chance,
        ]),
      ),
    }
  })
}

/** Chance of the target by how many are answered of each track; worked out once for each. */
function oddsByAnswered(tracks: Track[], rest: (raw: number) => number): (answered: number[]) => number {
  const known = new Map<string, number>()
  return (answered) => {
    const at = answered.join()
    let found = known.get(at)
    if (found === undefined) {
      const raws = tracks.reduce<Raws>(
        (sum, { raws: own }, track) => (track ? sumOf(sum, own[answered[track]!]!) : own[answered[0]!]!),
        [[0, 1]],
      )
      found = Math.min(
        1,
        raws.reduce((sum, [raw, chance]) => sum + chance * rest(raw), 0),
      )
      known.set(at, found)
    }
    return found
  }
}

/** The best way of sharing out: of all, or, where they are too many, the end of improving one track after the other. */
function bestOf(tracks: Track[], oddsOf: (answered: number[]) => number): number[] {
  let best = tracks.map(() => 0)
  const better = (wanted: number[]) => oddsOf(wanted) > oddsOf(best) + 1e-12
  const ways = tracks.reduce((product, { items }) => product * (items.length + 1), 1)
  if (ways <= mostWays) {
    const next = tracks.map(() => 0)
    for (let way = 0; way < ways; way++) {
      if (better(next)) best = [...next]
      for (let track = 0; track < tracks.length; track++) {
        if (next[track]! < tracks[track]!.items.length) {
          next[track]! += 1
          break
        }
        next[track] = 0
      }
    }
    return best
  }
  for (let changed = true; changed;) {
    changed = false
    tracks.forEach(({ items }, track) => {
      for (let count = 0; count <= items.length; count++) {
        const next = best.map((own, at) => (at === track ? count : own))
        if (better(next)) [best, changed] = [next, true]
      }
    })
  }
  return best
}

/**
 * Chance of the target for answering some of the unsure items of several kinds: exact. Of items marked alike, those more
 * likely right come first, which is always at least as good (more of the score everywhere). Where the unsure items are
 * marked in several ways, every way of sharing out is tried; beyond 100,000, one marking after the other until none
 * improves. `base` is answered in any case.
 */
export function mixOdds(base: Answers[], unsure: Answers[], worth: Worth): MixOdds {
  const tracks = tracksOf(unsure)
  const oddsOf = oddsByAnswered(tracks, worthWith(rawsOfAnswers(base), worth))
  const countsOf = (answered: number[]): number[] => {
    const counts = unsure.map(() => 0)
    tracks.forEach(({ items }, track) =>
      items.slice(0, answered[track]).forEach((kind) => (counts[kind]! += 1)),
    )
    return counts
  }

  // One order through all of them for the curve: what earns most first.
  const byGain = tracks
    .flatMap(({ items }, track) => items.map((kind) => ({ kind, track, gain: gainOf(unsure[kind]!) })))
    .sort((a, b) => b.gain - a.gain || a.track - b.track)
  const answered = tracks.map(() => 0)
  const odds = new Float64Array(byGain.length + 1)
  odds[0] = oddsOf(answered)
  byGain.forEach(({ track }, at) => {
    answered[track]! += 1
    odds[at + 1] = oddsOf(answered)
  })

  const best = bestOf(tracks, oddsOf)
  const earning = tracks.map(({ items }) => items.filter((kind) => gainOf(unsure[kind]!) > 1e-12).length)
  return {
    order: byGain.map(({ kind }) => kind),
    odds,
    best: { counts: countsOf(best), odds: oddsOf(best) },
    earning: { counts: countsOf(earning), odds: oddsOf(earning) },
  }
}
