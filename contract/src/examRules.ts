import { allGroups, type ExamShape, FormItem, type ItemGroup, mostPicturesBytes } from './examShape'

/** Says what stands against a format, at the path of the field. */
type Tell = (path: (string | number)[], message: string) => void
type Rule = (exam: ExamShape, tell: Tell) => void

/** Where the first id stands that stood before, or -1. */
function duplicate(ids: string[]): number {
  const seen = new Set<string>()
  return ids.findIndex((id) => seen.size === seen.add(id).size)
}

/** A prerequisite chain that comes back to where it began, or nothing. */
export function prerequisiteCycle(topics: { id: string; prerequisites: string[] }[]): string[] | undefined {
  const byId = new Map(topics.map((topic) => [topic.id, topic]))
  const cleared = new Set<string>()
  const trail: string[] = []
  const under = new Set<string>()
  const walk = (id: string): string[] | undefined => {
    if (cleared.has(id)) return undefined
    if (under.has(id)) return [...trail.slice(trail.indexOf(id)), id]
    under.add(id)
    trail.push(id)
    for (const next of byId.get(id)?.prerequisites ?? []) {
      const found = walk(next)
      if (found) return found
    }
    trail.pop()
    under.delete(id)
    cleared.add(id)
    return undefined
  }
  for (const { id } of topics) {
    const found = walk(id)
    if (found) return found
  }
  return undefined
}

const idsOnce: Rule = (exam, tell) => {
  for (const key of [
    'sections',
    'topics',
    'forms',
    'sittings',
    'bring',
    'accommodations',
    'books',
  ] as const) {
    const ids = (exam[key] ?? []).map(({ id }) => id)
    const twice = duplicate(ids)
    if (twice >= 0) tell([key, twice, 'id'], `the id ${ids[twice]} is used twice`)
  }
  const groups = exam.sections.flatMap((section) => allGroups(section).map(({ id }) => id))
  const groupTwice = duplicate(groups)
  if (groupTwice >= 0) tell(['sections'], `the item group id ${groups[groupTwice]} is used twice`)
  const tables = tablesOf(exam)
  const tableTwice = duplicate(tables)
  if (tableTwice >= 0) tell(['sections'], `the id ${tables[tableTwice]} is used for two sections or stages`)
}
/** What a conversion table can belong to: sections and second stages. */
const tablesOf = (exam: ExamShape): string[] =>
  exam.sections.flatMap(({ id, stages }) => [id, ...(stages ?? []).map((stage) => stage.id)])

const stagesRise: Rule = (exam, tell) =>
  exam.sections.forEach(({ stages = [] }, row) =>
    stages.forEach(({ from }, at) => {
      const before = stages[at - 1]
      if (before && from <= before.from)
        tell(
          ['sections', row, 'stages', at, 'from'],
          `routing scores must rise: ${from} comes after ${before.from}`,
        )
    }),
  )

const topicsStand: Rule = (exam, tell) => {
  const sections = new Set(exam.sections.map(({ id }) => id))
  const topics = new Set(exam.topics.map(({ id }) => id))
  const shorts = new Map<string, string>()
  exam.topics.forEach((topic, row) => {
    const short = topic.short?.toLowerCase()
    const other = short === undefined ? undefined : shorts.get(short)
    if (other !== undefined) tell(['topics', row, 'short'], `${other} is called ${topic.short} as well`)
    else if (short !== undefined) shorts.set(short, topic.title)
    if (!sections.has(topic.section))
      tell(['topics', row, 'section'], `no section has the id ${topic.section}`)
    topic.prerequisites.forEach((id, at) => {
      if (!topics.has(id)) tell(['topics', row, 'prerequisites', at], `no topic has the id ${id}`)
    })
  })
  const cycle = prerequisiteCycle(exam.topics)
  if (cycle) tell(['topics'], `prerequisites go in a circle: ${cycle.join(' -> ')}`)
}

const sharesAddUp: Rule = (exam, tell) => {
  const shares = new Map<string, number>()
  for (const { section, share } of exam.topics) shares.set(section, (shares.get(section) ?? 0) + share)
  exam.sections.forEach((section, row) => {
    const sum = shares.get(section.id)
    if (sum === undefined) tell(['sections', row], `no topic belongs to ${section.title}`)
    else if (Math.abs(sum - 1) > 0.005)
      tell(
        ['sections', row],
        `the shares of the topics of ${section.title} add up to ${Math.round(sum * 1000) / 10}%, not 100%`,
      )
  })
}

const formsFit: Rule = (exam, tell) => {
  const tables = new Set(tablesOf(exam))
  exam.forms.forEach((form, row) =>
    Object.keys(form.conversions).forEach((id) => {
      if (!tables.has(id)) tell(['forms', row, 'conversions', id], `no section has the id ${id}`)
    }),
  )
  const topics = new Set(exam.topics.map(({ id }) => id))
  const groups = new Map(exam.sections.flatMap(allGroups).map((group) => [group.id, group]))
  exam.forms.forEach((form, row) =>
    Object.entries(form.items ?? {}).forEach(([id, items]) => {
      const path = ['forms', row, 'items', id]
      const group = groups.get(id)
      if (!group) tell(path, `no item group has the id ${id}`)
      else if (items.length !== group.items)
        tell(path, `${items.length} keys for the ${group.items} items of ${id}`)
      const lost = items.find(({ topic }) => topic && !topics.has(topic))
      if (lost) tell(path, `no topic has the id ${lost.topic}`)
    }),
  )
}

/** The letters that answer a choice item of so many options. */
const offered = (choices: number): string => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ'.slice(0, choices)

/** What stands against one item of a form, by field. */
export function formItemIssues(
  group: Pick<ItemGroup, 'kind' | 'choices' | 'perRight'>,
  { key, options, criteria }: FormItem,
): { field: string; message: string }[] {
  const found: { field: string; message: string }[] = []
  const choices = group.choices ?? 26
  if (group.kind === 'choice') {
    const letters = offered(choices)
    if (key && !(key.length === 1 && letters.includes(key.toUpperCase())))
      found.push({ field: 'key', message: `"${key}" is none of A to ${letters[letters.length - 1]}` })
    if (options && options.length !== choices)
      found.push({ field: 'options', message: `${options.length} options; an item here has ${choices}` })
  } else if (options?.length) found.push({ field: 'options', message: 'only a choice item has options' })
  if (criteria) {
    const sum = criteria.reduce((total, { marks }) => total + marks, 0)
    if (group.kind !== 'written')
      found.push({ field: 'criteria', message: 'only a written answer is marked by criteria' })
    else if (Math.abs(sum - group.perRight) > 1e-6)
      found.push({ field: 'criteria', message: `they come to ${sum} marks; the item has ${group.perRight}` })
  }
  return found
}

/** An item by itself: its shape, and what stands against it in its group, by field. */
export function checkFormItem(
  group: Pick<ItemGroup, 'kind' | 'choices' | 'perRight'>,
  item: FormItem,
): { field: string; message: string }[] {
  const shaped = FormItem.safeParse(item)
  return shaped.success
    ? formItemIssues(group, item)
    : shaped.error.issues.map(({ path, message }) => ({ field: path.join('.'), message }))
}

const formsCanBeSat: Rule = (exam, tell) => {
  const groups = new Map(exam.sections.flatMap(allGroups).map((group) => [group.id, group]))
  exam.forms.forEach((form, row) => {
    for (const list of ['stimuli', 'pictures'] as const) {
      const twice = duplicate((form[list] ?? []).map(({ id }) => id))
      if (twice >= 0) tell(['forms', row, list, twice, 'id'], 'this id is used twice')
    }
    const bytes = (form.pictures ?? []).reduce((sum, { data }) => sum + (data.length * 3) / 4, 0)
    if (bytes > mostPicturesBytes)
      tell(
        ['forms', row, 'pictures'],
        `the pictures of a form may have ${mostPicturesBytes / 1_000_000} MB together; these have ${(bytes / 1_000_000).toFixed(1)}`,
      )
    const stimuli = new Set((form.stimuli ?? []).map(({ id }) => id))
    Object.entries(form.items ?? {}).forEach(([id, items]) =>
      items.forEach((item, at) => {
        const path = ['forms', row, 'items', id, at]
        const group = groups.get(id)
        if (group)
          for (const { field, message } of formItemIssues(group, item)) tell([...path, field], message)
        if (item.stimulus && !stimuli.has(item.stimulus))
          tell([...path, 'stimulus'], `the form has no stimulus ${item.stimulus}`)
      }),
    )
  })
}

const chaptersTeach: Rule = (exam, tell) => {
  const topics = new Set(exam.topics.map(({ id }) => id))
  exam.books?.forEach((book, row) => {
    const twice = duplicate(book.chapters.map(({ id }) => id))
    if (twice >= 0) tell(['books', row, 'chapters', twice, 'id'], 'this id is used twice')
    book.chapters.forEach((chapter, at) =>
      chapter.topics.forEach((id) => {
        if (!topics.has(id)) tell(['books', row, 'chapters', at, 'topics'], `no topic has the id ${id}`)
      }),
    )
  })
}

const accommodationsFit: Rule = (exam, tell) => {
  const sections = new Set(exam.sections.map(({ id }) => id))
  exam.accommodations?.forEach(({ sections: own = {} }, row) =>
    Object.keys(own).forEach((id) => {
      if (!sections.has(id)) tell(['accommodations', row, 'sections', id], `no section has the id ${id}`)
    }),
  )
}

const scalesRise: Rule = ({ bands = [], percentiles = [] }, tell) => {
  bands.forEach(({ from }, row) => {
    const before = bands[row - 1]
    if (before && from <= before.from)
      tell(['bands', row, 'from'], `bands must rise: ${from} comes after ${before.from}`)
  })
  percentiles.forEach(([scaled, below], row) => {
    const before = percentiles[row - 1]
    if (before && (scaled <= before[0] || below <= before[1]))
      tell(['percentiles', row], `scores and percentiles must rise: row ${row + 1} does not`)
  })
}

const compositeComplete: Rule = ({ composite, sections }, tell) => {
  if (composite.kind === 'table' && !composite.table)
    tell(['composite', 'table'], 'the composite has no table')
  if (composite.kind === 'weighted')
    sections.forEach(({ id, title }) => {
      if (composite.weights?.[id] === undefined) tell(['composite', 'weights', id], `${title} has no weight`)
    })
}

export type Range = [low: number, high: number]
const rangeOf = ({ points }: { points: [number, number][] }): Range => [
  points[0]?.[1] ?? 0,
  points[points.length - 1]?.[1] ?? 0,
]
/** The lowest and the highest scaled score of a section, by the tables of all its second stages where it has some. */
function sectionScale({ conversion, stages }: ExamShape['sections'][number]): Range {
  const ends = [conversion, ...(stages ?? []).map((stage) => stage.conversion)].map(rangeOf)
  return [Math.min(...ends.map(([low]) => low)), Math.max(...ends.map(([, high]) => high))]
}

/** The lowest and the highest composite that the sections' tables can come to. */
export function scaleOf({ composite, sections }: ExamShape): Range | undefined {
  const { kind, weights } = composite
  if (kind === 'table') return composite.table && rangeOf(composite.table)
  const weigh = (id: string) =>
    (kind === 'weighted' ? (weights?.[id] ?? 0) : 1) / (kind === 'mean' ? sections.length : 1)
  return sections.reduce<Range>(
    ([low, high], section) => {
      const [least, most] = sectionScale(section)
      const { id } = section
      return [low + least * weigh(id), high + most * weigh(id)]
    },
    [0, 0],
  )
}

/** A cut that nobody can reach, or that everybody has reached before sitting down, is a slip of the pen. */
const cutsOnTheScale: Rule = (exam, tell) => {
  const check = (path: (string | number)[], cut: number | undefined, range: Range | undefined) => {
    if (cut === undefined || !range) return
    const [low, high] = range
    if (cut > high + 1e-9) tell(path, `the scores end at ${high}; nobody could reach ${cut}`)
    else if (cut < low - 1e-9) tell(path, `the scores begin at ${low}; ${cut} is below every score`)
  }
  exam.sections.forEach((section, row) => check(['sections', row, 'cut'], section.cut, sectionScale(section)))
  check(['composite', 'cut'], exam.composite.cut, scaleOf(exam))
}

/** What the parts of an exam format must keep among each other, in the order in which it is told. */
export const examRules: Rule[] = [
  idsOnce,
  stagesRise,
  topicsStand,
  sharesAddUp,
  formsFit,
  formsCanBeSat,
  chaptersTeach,
  accommodationsFit,
  scalesRise,
  compositeComplete,
  cutsOnTheScale,
]
