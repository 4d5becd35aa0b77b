import type { ExamFormat, Form, ItemResponse } from '@climber/contract'
import { countResponses, type CountedResponses, lettersOf, type Slot } from '../attempts/responses'
import { topicFinder } from '../exam/topics'
import { asNumber, readTable, type TableProblem, writeTable } from './cells'

export const responseColumns = ['item', 'answer', 'key', 'seconds', 'confidence', 'topic', 'changed_from']
const confidences = ['sure', 'between two', 'no idea'] as const

export interface ReadResponses {
  /** Empty where there is any problem: nothing is half imported. */
  responses: ItemResponse[]
  counted?: CountedResponses
  problems: TableProblem[]
  rows: number
}

/**
 * Item responses from a table with the columns of `responseColumns` (item and answer must be there; keys may come from the
 * form instead). Every problem is listed with its row.
 */
export function readResponses(
  text: string,
  exam: ExamFormat,
  form?: Form,
  progress?: (share: number) => void,
): ReadResponses {
  const { lines, problems } = readTable(
    text,
    form?.items ? ['item', 'answer'] : ['item', 'answer', 'key'],
    progress,
  )
  const topicOf = topicFinder(exam)
  const read: { row: number; response: ItemResponse }[] = []
  const seen = new Map<number, number>()
  const say = (row: number, column: string, message: string) => problems.push({ row, column, message })
  for (const { row, cells } of lines) {
    const item = asNumber(cells.item)
    if (item === undefined || !Number.isInteger(item) || item < 1) {
      say(row, 'item', `"${cells.item ?? ''}" is not an item number`)
      continue
    }
    const before = seen.get(item)
    if (before !== undefined) say(row, 'item', `item ${item} stands in row ${before} already`)
    else seen.set(item, row)
    const response: ItemResponse = { item, answer: cells.answer ?? '', key: cells.key ?? '' }
    if (cells.seconds) {
      const seconds = asNumber(cells.seconds)
      if (seconds === undefined || seconds < 0)
        say(row, 'seconds', `"${cells.seconds}" is not a number of seconds`)
      else response.seconds = seconds
    }
    if (cells.confidence) {
      const found = confidences.find((one) => one === cells.confidence!.toLowerCase())
      if (found) response.confidence = found
      else say(row, 'confidence', `"${cells.confidence}" is none of ${confidences.join(', ')}`)
    }
    if (cells.topic) {
      const found = topicOf(cells.topic)
      if (found) response.topic = found
      else say(row, 'topic', `the exam has no topic "${cells.topic}"`)
    }
    if (cells.changed_from) response.changedFrom = cells.changed_from
    read.push({ row, response })
  }
  // Which second stage was sat depends on the answers, so places are known only now.
  const draft = read.map(({ response }) => response)
  const { slots } = countResponses(exam, draft, form)
  const places = new Map(slots.map((slot) => [slot.item, slot]))
  for (const { row, response } of read) {
    const slot = places.get(response.item)
    if (!slot) {
      say(row, 'item', `the test has ${slots.length} items; there is no item ${response.item}`)
      continue
    }
    complete(slot, response, form)
    checkAnswer(slot, response).forEach(([column, message]) => say(row, column, message))
  }
  problems.sort((a, b) => a.row - b.row)
  const good = problems.length === 0
  return {
    responses: good ? draft.sort((a, b) => a.item - b.item) : [],
    counted: good ? countResponses(exam, draft, form) : undefined,
    problems,
    rows: lines.length,
  }
}

/** Key and topic of an item, from the form where the table has none. */
function complete(slot: Slot, response: ItemResponse, form?: Form): void {
  const known = form?.items?.[slot.group.id]?.[slot.at]
  if (!response.key && known?.key) response.key = known.key
  if (!response.topic && known?.topic) response.topic = known.topic
}

function checkAnswer({ group }: Slot, response: ItemResponse): [string, string][] {
  const found: [string, string][] = []
  const { answer, key, changedFrom } = response
  if (group.kind === 'written') {
    const marks = asNumber(answer)
    if (answer && (marks === undefined || marks < 0 || marks > group.perRight))
      found.push(['answer', `"${answer}" is not a mark from 0 to ${group.perRight}`])
    return found
  }
  if (!key) found.push(['key', `item ${response.item} has no key`])
  if (group.kind === 'numeric') return found
  const letters = lettersOf(group.choices ?? 26)
  const isLetter = (text: string) => text.length === 1 && letters.includes(text.toUpperCase())
  const wrong = (text: string) => `"${text}" is none of ${letters[0]} to ${letters[letters.length - 1]}`
  if (answer && !isLetter(answer)) found.push(['answer', wrong(answer)])
  if (key && !isLetter(key)) found.push(['key', wrong(key)])
  if (changedFrom && !isLetter(changedFrom)) found.push(['changed_from', wrong(changedFrom)])
  return found
}

export const writeResponses = (responses: ItemResponse[]): string =>
  writeTable(
    responseColumns,
    responses.map(({ item, answer, key, seconds, confidence, topic, changedFrom }) => [
      item,
      answer,
      key,
      seconds,
      confidence,
      topic,
      changedFrom,
    ]),
  )

/**
 * A table filled in for every item of a paper, for somebody to take, overwrite and bring back: keys and topics where the form
 * has them, answers, times and doubts that are made up.
 */
export function sampleResponses(exam: ExamFormat, form?: Form): string {
  const made = ({ item, group, at, section }: Slot): ItemResponse => {
    const letters = lettersOf(group.choices ?? 4)
    const known = form?.items?.[group.id]?.[at]
    const topics = exam.topics.filter((topic) => topic.section === section)
    const key = known?.key || (group.kind === 'choice' ? letters[at % letters.length]! : String(at + 1))
    const wrong = group.kind === 'choice' ? letters[(letters.indexOf(key) + 1) % letters.length]! : '0'
    const written = group.kind === 'written'
    return {
      item,
      answer: written ? String(Math.floor(group.perRight / 2)) : at % 5 === 4 ? wrong : key,
      key: written ? '' : key,
      seconds: 30 + ((at * 37) % 60),
      confidence: confidences[at % 9 === 8 ? 2 : at % 4 === 3 ? 1 : 0],
      topic: known?.topic ?? topics[at % topics.length]?.id,
    }
  }
  let responses: ItemResponse[] = []
  // A second stage is known only from the answers to the first, those of each section in turn.
  for (let pass = 0; pass <= exam.sections.length; pass++)
    responses = countResponses(exam, responses, form).slots.map(made)
  return writeResponses(responses)
}
