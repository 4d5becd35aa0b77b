import type { ReadItem } from '../src/attempts/says/item'
import { driftIn, drifts } from '../src/attempts/says/drift'
import { randomFrom } from '../src/exact/random'

/** One section as somebody sat it whose chance of each item is known: of other topics, better or worse on the day, and drifting. */
export interface Planted {
  items: number
  /** Points by which accuracy falls from `from` on; 0 is none. */
  fall: number
  /** Share of the section after which it falls. */
  from: number
  /** How far the topics' chances are from what is believed of them, one standard deviation. */
  error: number
}

const within = (p: number): number => Math.min(0.97, Math.max(0.03, p))

/** A section of so many topics, the items of each in a block or scattered over it. */
export function plantedSection({ items, fall, from, error }: Planted, seed: number): ReadItem[] {
  const random = randomFrom(seed)
  const normal = () => random() + random() + random() + random() - 2
  const topics = Array.from({ length: 5 }, (_, at) => {
    const believed = within(0.35 + 0.6 * random())
    return { id: `topic-${at}`, believed, is: within(believed + error * 1.7 * normal()) }
  })
  const day = 0.06 * normal()
  const inBlocks = random() < 0.5
  return Array.from({ length: items }, (_, at): ReadItem => {
    const topic = inBlocks
      ? topics[Math.floor((at * topics.length) / items)]!
      : topics[Math.floor(random() * topics.length)]!
    const p = within(topic.is + day - (at >= Math.floor(from * items) ? fall : 0))
    return {
      item: at + 1,
      section: 'one',
      topic: topic.id,
      outcome: random() < p ? 'right' : 'wrong',
      reached: true,
      order: at + 1,
      seconds: 60 + 30 * random(),
      budget: 75,
      expected: topic.believed,
      unsure: error,
      marks: 1,
      perWrong: 0,
      answer: 'A',
      key: 'A',
      changes: [],
    }
  })
}

/** Of so many candidates with so many tests each: how often the alarm goes, and how far off it places the beginning, at the median. */
export function alarms(
  planted: Planted,
  tests: number,
  candidates: number,
  seed: number,
): { share: number; off: number } {
  const off: number[] = []
  for (let one = 0; one < candidates; one++) {
    const runs = Array.from({ length: tests }, (_, at) => plantedSection(planted, seed + one * 101 + at))
    const found = driftIn('one', runs, 1)
    if (found && drifts(found, 1))
      off.push(Math.abs(found.from.place - Math.floor(planted.from * planted.items)))
  }
  off.sort((a, b) => a - b)
  return { share: off.length / candidates, off: off[Math.floor(off.length / 2)] ?? NaN }
}
