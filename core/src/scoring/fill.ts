import type { AttemptCounts, Counts, ExamFormat, ItemGroup, Section } from '@climber/contract'
import { exp } from '../exact/functions'
import { groupsMet, groupsOf, stageTaken, waysThrough } from './raw'

/** Counts that need not be whole: a share of a total. */
type Split = Required<Counts>
/** How much better than the rest a group of items went, as a factor on its rate of right answers. */
export type Lean = (group: string) => number
export const even: Lean = () => 1

const nothing: Split = { right: 0, wrong: 0, blank: 0, notReached: 0, marks: 0 }
const combine = (a: Split, b: Counts, sign: 1 | -1): Split => ({
  right: Math.max(0, a.right + sign * b.right),
  wrong: Math.max(0, a.wrong + sign * b.wrong),
  blank: Math.max(0, a.blank + sign * b.blank),
  notReached: Math.max(0, a.notReached + sign * b.notReached),
  marks: Math.max(0, a.marks + sign * (b.marks ?? 0)),
})
const sumOf = ({ right, wrong, blank }: Counts): number => right + wrong + blank
const together = (all: Counts[]): Split => all.reduce<Split>((sum, one) => combine(sum, one, 1), nothing)

/** `amount` shared out by weight, none above its room; what has no room stays out. */
function shareOut(amount: number, places: { room: number; weight: number }[]): number[] {
  const shares = places.map(() => 0)
  let left = amount
  let open = places.map((_, at) => at).filter((at) => places[at]!.room > 0 && places[at]!.weight > 0)
  while (left > 1e-9 && open.length) {
    const whole = open.reduce((sum, at) => sum + places[at]!.weight, 0)
    const round = left
    for (const at of open) {
      const part = Math.min(places[at]!.room - shares[at]!, (round * places[at]!.weight) / whole)
      shares[at]! += part
      left -= part
    }
    open = open.filter((at) => places[at]!.room - shares[at]! > 1e-9)
  }
  return shares
}

/** Something that part of a total falls to: marked items, and marks that written ones can have. */
interface Place {
  items: number
  marks: number
  lean: number
}
const placeOf = (groups: ItemGroup[], lean: Lean): Place => {
  const marked = groups.filter(({ kind }) => kind !== 'written')
  const items = marked.reduce((sum, group) => sum + group.items, 0)
  return {
    items,
    marks: groups.reduce(
      (sum, group) => sum + (group.kind === 'written' ? group.items * group.perRight : 0),
      0,
    ),
    lean: items
      ? marked.reduce((sum, group) => sum + group.items * lean(group.id), 0) / items
      : groups.reduce((sum, { id }) => sum + lean(id), 0) / Math.max(1, groups.length),
  }
}

/** A total over several places: right answers and marks by size and lean, the rest by the items left over. */
function split(total: Split, places: Place[]): Split[] {
  const right = shareOut(
    total.right,
    places.map(({ items, lean }) => ({ room: items, weight: items * lean })),
  )
  const marks = shareOut(
    total.marks,
    places.map(({ marks: most, lean }) => ({ room: most, weight: most * lean })),
  )
  const counted = sumOf(total)
  const items = places.reduce((sum, place) => sum + place.items, 0)
  const missed = total.wrong + total.blank
  const rest = places.map((place, at) =>
    Math.max(0, (items ? (place.items * counted) / items : 0) - right[at]!),
  )
  const all = rest.reduce((sum, one) => sum + one, 0)
  const shareOf = (amount: number, at: number) => (all && missed ? (amount * rest[at]!) / all : 0)
  return places.map((_, at) => ({
    right: right[at]!,
    wrong: shareOf(total.wrong, at),
    blank: shareOf(total.blank, at),
    notReached: shareOf(total.notReached, at),
    marks: marks[at]!,
  }))
}

function intoGroups(total: Split, groups: ItemGroup[], lean: Lean): Record<string, Counts> {
  const parts = split(
    total,
    groups.map((group) => placeOf([group], lean)),
  )
  return Object.fromEntries(
    groups.map(({ id, kind }, at) => {
      const { marks, ...counts } = parts[at]!
      return [id, kind === 'written' ? { ...nothing, marks } : counts]
    }),
  )
}

/** A section's total over its groups; the second stage of an adaptive one follows from the first stage's part. */
function intoSection(
  section: Section,
  total: Split,
  known: Record<string, Counts>,
  lean: Lean,
): Record<string, Counts> {
  const left = combine(total, together(Object.values(known)), -1)
  const open = (groups: ItemGroup[]) => groups.filter(({ id }) => !known[id])
  if (!section.stages) return { ...known, ...intoGroups(left, open(section.groups), lean) }
  const counted = sumOf(left)
  const first = placeOf(open(section.groups), lean)
  const ways = waysThrough(section).map((way) => placeOf(way.slice(section.groups.length), lean))
  // Stages may differ in length: the one that the total leaves room for, as nearly as one does.
  const second = ways.reduce((best, way) =>
    Math.abs(first.items + way.items - counted) < Math.abs(first.items + best.items - counted) ? way : best,
  )
  const [part] = split(left, [first, second])
  const met = { ...known, ...intoGroups(part!, open(section.groups), lean) }
  const stage = stageTaken(section, met)
  return stage ? { ...met, ...intoGroups(combine(left, part!, -1), open(stage.groups), lean) } : met
}

/** What topics' counts come to for a section; nothing is said of its items that have no topic. */
function fromTopics(exam: ExamFormat, section: Section, topics: Record<string, Counts>): Split | undefined {
  const own = exam.topics
    .filter((topic) => topic.section === section.id)
    .flatMap(({ id }) => topics[id] ?? [])
  const sum = together(own)
  return sumOf(sum) > 0 ? sum : undefined
}

/** A total that tells of some of a section's items, as of all of them: the others go as well, times their lean. */
function asWhole(total: Split, { items, marks, lean }: Place): Split {
  const counted = sumOf(total)
  const rate = Math.min(1, (total.right / counted) * lean)
  const others = items - counted
  // Counts of more topics' items than there are items say only how they went.
  const right = others >= 0 ? total.right + others * rate : (total.right * items) / counted
  const missed = total.wrong + total.blank
  const factor = missed ? (items - right) / missed : 0
  return {
    right,
    wrong: missed ? total.wrong * factor : items - right,
    blank: total.blank * factor,
    notReached: total.notReached * factor,
    marks: marks * rate,
  }
}

/** Counts by item group at whatever grain they are known: how far they had to be shared out. */
export interface Filled {
  groups: Record<string, Counts>
  /** Sections of which nothing finer than a total over several is known, or only their topics. */
  shared: Set<string>
}

/**
 * Counts by item group from whatever is known of a paper: by group; else by section, else by topic; else what is left of the
 * total. What is not known is shared out by the number of items, times `lean`, and may be a fraction. Sections of which
 * nothing at all is known stay out. Source: docs/models.md, 5.
 */
export function filledGroups(exam: ExamFormat, counts: AttemptCounts, lean: Lean = even): Filled {
  const found: Filled = { groups: {}, shared: new Set() }
  const open: { section: Section; known: Record<string, Counts> }[] = []
  const longest = (section: Section) =>
    waysThrough(section)
      .map((way) => placeOf(way, lean))
      .reduce((best, way) => (way.items > best.items ? way : best))
  for (const section of exam.sections) {
    const met = groupsMet(section, counts.groups)
    const known = Object.fromEntries(
      met.flatMap(({ id }) => (counts.groups[id] ? [[id, counts.groups[id]]] : [])),
    )
    const all = met.length === Object.keys(known).length && (!section.stages || stageTaken(section, known))
    const own = counts.sections?.[section.id]
    const topics = fromTopics(exam, section, counts.topics)
    if (all) Object.assign(found.groups, known)
    else if (own) Object.assign(found.groups, intoSection(section, together([own]), known, lean))
    else if (topics) {
      const whole = longest(section)
      if (whole.marks || sumOf(topics) !== whole.items) found.shared.add(section.id)
      Object.assign(found.groups, intoSection(section, asWhole(topics, whole), known, lean))
    } else open.push({ section, known })
  }
  if (!counts.total) {
    for (const { known } of open) Object.assign(found.groups, known)
    return found
  }
  if (!open.length) return found
  const left = combine(together([counts.total]), together(Object.values(found.groups)), -1)
  const parts = split(
    left,
    open.map(({ section }) => longest(section)),
  )
  open.forEach(({ section, known }, at) => {
    if (open.length > 1 || found.shared.size) found.shared.add(section.id)
    Object.assign(found.groups, intoSection(section, parts[at]!, known, lean))
  })
  return found
}

/** A lean for each group, by a random step of its own: sections differ, and so does luck on few items. */
export function drawnLean(exam: ExamFormat, rate: number, normal: () => number): Lean {
  const p = Math.min(0.95, Math.max(0.05, rate))
  const leans = new Map<string, number>()
  for (const section of exam.sections) {
    const ability = normal() * sectionSpread
    for (const group of groupsOf(section))
      leans.set(group.id, exp((1 - p) * (ability + normal() / Math.sqrt(group.items * p * (1 - p)))))
  }
  return (group) => leans.get(group) ?? 1
}
/** How far sections of one candidate lie apart, in logits, one sd. */
const sectionSpread = 0.5
