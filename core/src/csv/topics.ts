import type { ExamFormat, Topic } from '@climber/contract'
import { slugOf } from '../exam/slug'
import { asNumber, readTable, type TableProblem, writeTable } from './cells'

export const topicColumns = ['id', 'section', 'under', 'topic', 'share', 'hours', 'prerequisites']
const between = ' > '

/** Moves the decimal point, which dividing by 100 does not always do. */
export function fromPercent(text: string): number {
  const [digits = '', power = '0'] = text.toLowerCase().split('e')
  return Number(`${digits}e${Number(power) - 2}`)
}

/** A share in per cent with the fewest digits that read back as the same share. */
export function percentText(share: number): string {
  for (let digits = 3; digits <= 17; digits++) {
    const text = String(Number((share * 100).toPrecision(digits)))
    if (fromPercent(text) === share) return text
  }
  return String(share * 100)
}

/** The blueprint as a table; shares in per cent of the section, headings from the outermost in. */
export const writeTopics = ({ topics }: Pick<ExamFormat, 'topics'>): string =>
  writeTable(
    topicColumns,
    topics.map((topic) => [
      topic.id,
      topic.section,
      topic.under?.join(between),
      topic.title,
      percentText(topic.share),
      topic.hours,
      topic.prerequisites.join(' '),
    ]),
  )

/**
 * A blueprint from a table. Sections by id or title; `id` may be missing, then it is made of the title; prerequisites are
 * ids, or titles divided by semicolons.
 */
export function readTopics(
  text: string,
  exam: Pick<ExamFormat, 'sections'>,
): { topics: Topic[]; problems: TableProblem[] } {
  const { lines, problems } = readTable(text, ['section', 'topic', 'share'])
  const sections = new Map(
    exam.sections.flatMap(({ id, title }) => [
      [id, id],
      [title.toLowerCase(), id],
    ]),
  )
  const topics: Topic[] = []
  const wishes: { row: number; wish: string }[] = []
  const ids = new Map<string, number>()
  for (const { row, cells } of lines) {
    const say = (column: string, message: string) => problems.push({ row, column, message })
    const section = sections.get(cells.section ?? '') ?? sections.get((cells.section ?? '').toLowerCase())
    if (!section) say('section', `the exam has no section "${cells.section ?? ''}"`)
    if (!cells.topic) say('topic', 'write the topic')
    const percent = (cells.share ?? '').replace(/\s*%$/, '')
    const share = asNumber(percent)
    if (share === undefined || share <= 0 || share > 100)
      say('share', `"${cells.share ?? ''}" is not a per cent above 0 and up to 100`)
    const hours = cells.hours ? asNumber(cells.hours) : undefined
    if (cells.hours && (hours === undefined || hours <= 0 || hours > 500))
      say('hours', `"${cells.hours}" is not a number of hours above 0 and up to 500`)
    const id = cells.id || slugOf(cells.topic ?? '', ids.keys())
    if (ids.has(id)) say('id', `the id ${id} stands in row ${ids.get(id)} already`)
    if (!/^[a-z0-9][a-z0-9-]{0,59}$/.test(id)) say('id', `"${id}": use small letters, digits and hyphens`)
    ids.set(id, row)
    wishes.push({ row, wish: cells.prerequisites ?? '' })
    const under = (cells.under ?? '')
      .split('>')
      .map((heading) => heading.trim())
      .filter(Boolean)
    topics.push({
      id,
      title: cells.topic ?? '',
      section: section ?? '',
      ...(under.length ? { under } : {}),
      share: share === undefined ? 0 : fromPercent(String(share)),
      ...(hours ? { hours } : {}),
      prerequisites: [],
    })
  }
  const byTitle = new Map(topics.map(({ id, title }) => [title.toLowerCase(), id]))
  wishes.forEach(({ row, wish }, at) => {
    const named = wish.includes(';') || !wish.split(/\s+/).every((part) => !part || ids.has(part))
    for (const part of wish
      .split(named ? ';' : /\s+/)
      .map((text) => text.trim())
      .filter(Boolean)) {
      const found = ids.has(part) ? part : byTitle.get(part.toLowerCase())
      if (found) topics[at]!.prerequisites.push(found)
      else problems.push({ row, column: 'prerequisites', message: `there is no topic "${part}"` })
    }
  })
  problems.sort((a, b) => a.row - b.row)
  return { topics: problems.length ? [] : topics, problems }
}

/**
 * Topics as people type them: one a line with its share at the end ("Spring tides 25", "Spring tides 25%"), or all without
 * one, which shares out evenly; headings on lines that end in a colon. Without a % sign, numbers that do not come to 100 may be items or shares: `asked` says so, and they are read
 * as what `as` says, items where it says nothing.
 */
export function readTopicLines(
  text: string,
  section: string,
  taken: string[],
  as?: 'per cent' | 'items',
): { topics: Topic[]; problems: TableProblem[]; asked?: boolean } {
  const problems: TableProblem[] = []
  const found: { topic: Topic; amount: number }[] = []
  const bare: { row: number; line: string }[] = []
  const ids = [...taken]
  let under: string[] = []
  text.split(/\r?\n/).forEach((line, at) => {
    const trimmed = line.trim()
    if (!trimmed) return
    if (trimmed.endsWith(':')) {
      under = trimmed
        .slice(0, -1)
        .split('>')
        .map((heading) => heading.trim())
        .filter(Boolean)
      return
    }
    const match = /^(.*?)(?:[\s,;\t]+|\s*\()(\d+(?:[.,]\d+)?)\s*%?\)?$/.exec(trimmed)
    const amount = Number(match?.[2]?.replace(',', '.'))
    if (!match?.[1] || !(amount > 0)) bare.push({ row: at + 1, line: trimmed })
    const title = (match?.[1] && amount > 0 ? match[1] : trimmed).trim()
    const id = slugOf(title, ids)
    ids.push(id)
    found.push({
      topic: { id, title, section, ...(under.length ? { under } : {}), share: 0, prerequisites: [] },
      amount: amount > 0 ? amount : 1,
    })
  })
  // Shares are known of all, or of none; then each counts as much as another.
  const even = bare.length === found.length
  if (!even)
    for (const { row, line } of bare)
      problems.push({ row, message: `"${line}" has no share at its end, and others have one` })
  const sum = found.reduce((total, { amount }) => total + amount, 0)
  const certain = even || text.includes('%') || Math.abs(sum - 100) <= 0.5
  const whole = !even && (certain || as === 'per cent') ? 100 : sum
  for (const one of found) one.topic.share = Number((one.amount / whole).toPrecision(12))
  const topics = problems.length ? [] : found.map(({ topic }) => topic)
  return { topics, problems, ...(!certain && topics.length && as === undefined && { asked: true }) }
}
