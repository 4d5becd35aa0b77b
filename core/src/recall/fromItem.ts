import type { Card, DrawnNumber, FormItem, Stimulus } from '@climber/contract'
import { lettersOf } from '../attempts/responses'

/** What a card can be made of: an item that was missed, with its text where that is known. */
export interface CardSource {
  attempt: string
  item: number
  topic?: string
  kind: 'choice' | 'numeric' | 'written'
  key: string
  text?: FormItem
  stimulus?: Stimulus
  /** What the item is called where its text is not known, such as `Item 12 of Test 2`. */
  title: string
  /** Where its topic is treated, and what one will do the next time. */
  place?: string
  next?: string
}

const mostLetters = 4000
const cut = (text: string): string =>
  text.length > mostLetters ? `${text.slice(0, mostLetters - 1)}…` : text
const paragraphs = (...parts: (string | undefined)[]): string => parts.filter(Boolean).join('\n\n')

const optionsOf = ({ options = [] }: FormItem): string =>
  [...lettersOf(options.length)].map((letter, at) => `- ${letter}: ${options[at] ?? ''}`).join('\n')

/** The key with its words: the option that it is, or what earns the marks. */
function keyOf({ key, text, place }: CardSource): string {
  const option = text?.options?.[[...lettersOf(text.options.length)].indexOf(key.toUpperCase())]
  const criteria = text?.criteria?.map((one) => `- ${one.marks}: ${one.text}`).join('\n')
  const said = option ? `${key}: ${option}` : key || criteria
  return said || (place ? `Look it up: ${place}` : 'Look it up.')
}

/** An item as a card: its text with the options before, the key with its words behind. */
export function cardFromItem(source: CardSource): Omit<Extract<Card, { kind: 'card' }>, 'id'> {
  const { attempt, item, topic, text, stimulus, title, place, next } = source
  return {
    kind: 'card',
    ...(topic !== undefined && { topic }),
    of: { attempt, item },
    front: cut(
      text?.text ? paragraphs(stimulus?.text, text.text, optionsOf(text)) : paragraphs(title, place),
    ),
    back: cut(paragraphs(keyOf(source), next && `Next time I ${next}`)),
  }
}

/** A number by itself: none of a time, a date, a name or a formula. */
const own = /(?<![\w.,:$^{])\d+(?:\.\d+)?(?![\w:^}]|[.,]\d)/g
/** How far a number of an item is loosened to both sides. */
const loose = 0.3
const mostNumbers = 8

function loosened(name: string, written: string): DrawnNumber {
  const value = Number(written)
  const decimals = written.split('.')[1]?.length ?? 0
  const unit = Number(`1e-${decimals}`)
  // A round number stays round.
  const step = [10, 5].find((many) => value >= 4 * many * unit && Math.round(value / unit) % many === 0) ?? 1
  const steps = Math.max(1, Math.round((loose * value) / (step * unit)))
  const at = (away: number) => Number((value + away * step * unit).toFixed(decimals))
  return {
    name,
    low: Math.max(0, at(-steps)),
    high: at(steps),
    step: Number((step * unit).toFixed(decimals)),
  }
}

/** The numbers of an item's text, named and loosened: a question that wants its formula. Undefined where there are none. */
export function loosenedItem(text: string | undefined): { text: string; numbers: DrawnNumber[] } | undefined {
  const numbers: DrawnNumber[] = []
  const named = text?.replace(own, (written) => {
    if (numbers.length >= mostNumbers) return written
    // Neither e nor i, which mean something else.
    const name = 'abcdfghjk'[numbers.length]!
    numbers.push(loosened(name, written))
    return `{${name}}`
  })
  return numbers.length ? { text: named!, numbers } : undefined
}
