import { Card, issuesOf, type NumbersQuestion, type Tolerance } from '@climber/contract'
import type { Problem } from '../../kit/problems'

/** A card while it is written: what each kind has, so that nothing is lost where another kind is chosen. */
export interface CardDraft {
  id: string
  kind: Card['kind']
  topic: string
  front: string
  back: string
  picture?: string
  section: string
  exact: string
  seconds?: number
  numbers: { name: string; low?: number; high?: number; step?: number }[]
  formula: string
  unit: string
  tolerance: Tolerance['kind']
  /** Per cent where it is relative. */
  within?: number
  figures?: number
  slips: { formula: string; name: string }[]
  worked: string
  /** What a card carries that no field shows. */
  kept: Record<string, unknown>
}

export const blankDraft = (kind: Card['kind'] = 'card', topic = ''): CardDraft => ({
  id: crypto.randomUUID(),
  kind,
  topic,
  front: '',
  back: '',
  section: '',
  exact: '',
  numbers: [{ name: '', step: 1 }],
  formula: '',
  unit: '',
  tolerance: 'relative',
  within: 1,
  figures: 3,
  slips: [],
  worked: '',
  kept: {},
})

const draftKey = (candidateId: string): string => `climber.draft.${candidateId}.card`
/** Keeps a new card while it is written, so that it is there again after a closed tab. */
export const keepDraft = (candidateId: string, draft: Partial<CardDraft>): void =>
  localStorage.setItem(draftKey(candidateId), JSON.stringify({ ...blankDraft(), ...draft }))
export const forgetDraft = (candidateId: string): void => localStorage.removeItem(draftKey(candidateId))
/** The new card that was being written, where there is one. */
export function keptDraft(candidateId: string): CardDraft | undefined {
  try {
    const kept = JSON.parse(localStorage.getItem(draftKey(candidateId)) ?? 'null') as CardDraft | null
    return kept ? { ...blankDraft(), ...kept } : undefined
  } catch {
    // What cannot be read was no draft.
    return undefined
  }
}

/** A card as it is edited. */
export function draftOf(card: Card): CardDraft {
  const { id, kind, topic = '', ...rest } = card
  const draft: CardDraft = { ...blankDraft(kind, topic), id }
  const keep = (...shown: string[]): Record<string, unknown> =>
    Object.fromEntries(
      Object.entries(rest).filter(([key]) => ![...shown, 'question', 'version'].includes(key)),
    )
  if (card.kind === 'numbers') {
    const { text, numbers, formula, unit = '', tolerance, slips = [], worked = '' } = card.question
    return {
      ...draft,
      front: text,
      numbers: numbers.map((one) => ({ ...one })),
      formula,
      unit,
      tolerance: tolerance.kind,
      ...(tolerance.kind === 'figures'
        ? { figures: tolerance.figures }
        : {
            within:
              tolerance.kind === 'relative'
                ? Number((tolerance.within * 100).toPrecision(12))
                : tolerance.within,
          }),
      slips: slips.map((one) => ({ ...one })),
      worked,
      kept: keep(),
    }
  }
  if (card.kind === 'place') {
    const { front, section, exact = '', seconds } = card
    return { ...draft, front, section, exact, seconds, kept: keep('front', 'section', 'exact', 'seconds') }
  }
  const { front, back, picture } = card
  return { ...draft, front, back, picture, kept: keep('front', 'back', 'picture') }
}

const toleranceOf = ({ tolerance, within, figures }: CardDraft): unknown =>
  tolerance === 'figures'
    ? { kind: tolerance, figures }
    : {
        kind: tolerance,
        within:
          tolerance === 'relative' && within !== undefined ? Number((within / 100).toPrecision(12)) : within,
      }

/** The question as it is written; not yet one that is sound. */
export const questionOf = (draft: CardDraft): unknown => ({
  text: draft.front,
  numbers: draft.numbers.filter(({ name, low, high }) => name || low !== undefined || high !== undefined),
  formula: draft.formula,
  ...(draft.unit.trim() && { unit: draft.unit }),
  tolerance: toleranceOf(draft),
  ...(draft.slips.some(({ formula, name }) => formula || name) && {
    slips: draft.slips.filter(({ formula, name }) => formula || name),
  }),
  ...(draft.worked.trim() && { worked: draft.worked }),
})

/** The card that was written, or everything that is wrong with it by field. */
export function cardOf(draft: CardDraft): { card: Card } | { problems: Problem[] } {
  const { id, kind, topic, front, back, picture, section, exact, seconds, kept } = draft
  const own = { ...kept, id, kind, ...(topic && { topic }) }
  const made =
    kind === 'card'
      ? { ...own, front, back, ...(picture && { picture }) }
      : kind === 'place'
        ? {
            ...own,
            front,
            section,
            ...(exact.trim() && { exact }),
            ...(seconds !== undefined && { seconds }),
          }
        : { ...own, question: questionOf(draft) }
  const read = Card.safeParse(made)
  return read.success ? { card: read.data } : { problems: issuesOf(read.error) }
}

/** A question that is sound as far as its shape goes. */
export function soundQuestion(draft: CardDraft): NumbersQuestion | undefined {
  const found = cardOf({ ...draft, kind: 'numbers' })
  return 'card' in found && found.card.kind === 'numbers' ? found.card.question : undefined
}

/** Names that the text has in braces and no number has. */
export function unnamedIn({ front, numbers }: Pick<CardDraft, 'front' | 'numbers'>): string[] {
  const named = new Set(numbers.map(({ name }) => name))
  const found = [...front.matchAll(/\{\s*([a-z][a-z0-9_]{0,19})\s*\}/gi)].map(([, name = '']) => name)
  return [...new Set(found)].filter((name) => !named.has(name))
}
