import type { Card } from '@climber/contract'

export const kindTitles: Record<Card['kind'], string> = {
  card: 'Card',
  place: 'Where is it',
  numbers: 'Changed numbers',
}
/** What a card is known by in a list: its first line. */
export function frontOf(card: Card): string {
  const [line = ''] = (card.kind === 'numbers' ? card.question.text : card.front).split('\n')
  return line.length > 90 ? `${line.slice(0, 88)}…` : line
}
/** What stands on its other side, in a line. */
export function backOf(card: Card): string {
  if (card.kind === 'place') return [card.section, card.exact].filter(Boolean).join(', ')
  const [line = ''] = (card.kind === 'numbers' ? card.question.formula : card.back).split('\n')
  // A formula that is cut is none.
  return line.length > 60 && !line.includes('$') ? `${line.slice(0, 58)}…` : line
}
