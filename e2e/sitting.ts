import { readFileSync } from 'node:fs'
import type { ClimberFile } from '@climber/contract'
import { expect, type Page } from './test'

/** A sitting by machine, and what it must come to, worked out from the exam's file alone: nothing of the core is used here. */

export type ExamFile = ClimberFile & { exam: NonNullable<ClimberFile['exam']> }
export const examFile = (name: string): ExamFile =>
  JSON.parse(readFileSync(`demo/${name}.exam.climber.json`, 'utf8')) as ExamFile

/** A diagnostic of the pilot's exam, half right. */
export const pilotDiagnostic = {
  id: '00000000-0000-4000-8000-00000000d1a9',
  kind: 'diagnostic',
  date: '2030-01-02',
  counts: {
    groups: {
      'streams-items': { right: 22, wrong: 12, blank: 6 },
      'passage-items': { right: 16, wrong: 9, blank: 5 },
      'signals-items': { right: 28, wrong: 11, blank: 6 },
    },
  },
}

/** Numbers from 0 to 1 that are the same for the same seed. */
export function dice(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    return state / 4_294_967_296
  }
}

/** What is done with one item. */
export interface Doing {
  answer: string
  /** Answered so before it was changed. */
  first?: string
  doubt?: 'between two' | 'no idea'
}

type Group = ExamFile['exam']['sections'][number]['groups'][number]
const letters = (group: Group) => 'ABCDEFGH'.slice(0, group.choices)

/** Answers for items with these keys: mostly right, some wrong, some left, some changed, some in doubt. */
export function doings(group: Group, keys: string[], random: () => number, skill = 0.65): Doing[] {
  return keys.map((key) => {
    const wrong =
      group.kind === 'numeric' ? `${Number(key) + 1}` : [...letters(group)].find((one) => one !== key)!
    const roll = random()
    if (roll < 0.06) return { answer: '' }
    const answer = random() < skill ? key : wrong
    const doubt = roll < 0.16 ? ('between two' as const) : roll < 0.22 ? ('no idea' as const) : undefined
    const first = roll > 0.9 ? (answer === key ? wrong : key) : undefined
    return { answer, ...(first && { first }), ...(doubt && { doubt }) }
  })
}

/** Marks of answers, in the plain way of a person with the key in hand. */
export const rawOf = (group: Group, keys: string[], done: Doing[]): number =>
  done.reduce((sum, { answer }, at) => {
    if (answer === '') return sum + (group.perBlank ?? 0)
    return sum + (answer === keys[at] ? group.perRight : -(group.perWrong ?? 0))
  }, 0)

type Table = { points: [number, number][]; step: number }
/** A raw score by a table of points, straight lines between them, rounded half up to its step. */
export function scaledBy({ points, step }: Table, raw: number): number {
  let [low] = points as [[number, number]]
  for (const next of points) {
    if (raw <= next[0]) {
      const share = next[0] === low[0] ? 0 : Math.max(0, (raw - low[0]) / (next[0] - low[0]))
      const exact = low[1] + share * (next[1] - low[1])
      return Math.floor(exact / step + 0.5 + 1e-9) * step
    }
    low = next
  }
  return Math.floor(low[1] / step + 0.5 + 1e-9) * step
}
export function compositeBy(exam: ExamFile['exam'], scaled: number[]): number {
  const sum = scaled.reduce((a, b) => a + b, 0)
  const { kind, step, table } = exam.composite
  const exact = kind === 'mean' ? sum / scaled.length : kind === 'table' ? scaledBy(table as Table, sum) : sum
  return Math.floor(exact / (step ?? 1) + 0.5 + 1e-9) * (step ?? 1)
}

/** One way to press what is to be done: keys, or a thumb. */
export interface Hand {
  answer(page: Page, letter: string): Promise<void>
  doubt(page: Page, doubt: NonNullable<Doing['doubt']>, inField: boolean): Promise<void>
  leave(page: Page): Promise<void>
  back(page: Page, inField: boolean): Promise<void>
}
export const byKeys: Hand = {
  answer: (page, letter) => page.keyboard.press(letter.toLowerCase()),
  doubt: async (page, doubt, inField) => {
    // In a field a figure is a figure: a second press of the same key says more.
    const keys = doubt === 'between two' ? ['?'] : inField ? ['?', '?'] : ['0']
    for (const key of keys) await page.keyboard.press(key)
  },
  leave: (page) => page.keyboard.press(' '),
  back: (page, inField) => page.keyboard.press(inField ? 'ArrowUp' : 'ArrowLeft'),
}
export const byThumb: Hand = {
  answer: (page, letter) => page.locator(`[data-letter="${letter}"]`).tap(),
  doubt: (page, doubt) => page.getByRole('button', { name: doubt }).tap(),
  leave: (page) => page.getByRole('button', { name: 'Leave it' }).tap(),
  back: (page) => page.getByRole('button', { name: 'Back one item' }).tap(),
}

const place = (page: Page) => page.getByTestId('place')
/** Does what is to be done with items, from a number on; at the end of the part the list of all items opens. */
export async function work(
  page: Page,
  hand: Hand,
  from: number,
  items: Doing[],
  toTheEnd = true,
): Promise<void> {
  for (const [at, { answer, first, doubt }] of items.entries()) {
    await expect(place(page)).toContainText(new RegExp(`^item\\s+${from + at}\\b`))
    const field = page.getByRole('textbox', { name: 'Answer', exact: true })
    const isNumber = (await field.count()) > 0
    if (doubt) await hand.doubt(page, doubt, isNumber)
    const give = async (text: string) => {
      if (isNumber) {
        await field.fill(text)
        await field.press('Enter')
      } else await hand.answer(page, text)
    }
    if (first) {
      await give(first)
      if (toTheEnd && at === items.length - 1)
        await page.getByRole('button', { name: 'Back to the item' }).click()
      else await hand.back(page, isNumber)
    }
    if (answer) await give(answer)
    else await hand.leave(page)
  }
  if (toTheEnd) await expect(page.getByRole('dialog', { name: 'All items' })).toBeVisible()
}
export async function handIn(page: Page): Promise<void> {
  await page.getByRole('button', { name: /^Hand in (?!now)/ }).click()
  await page.getByRole('button', { name: 'Hand in now' }).click()
}
