import type { ExamFormat, Form, PlanSession, Unplaced } from '@climber/contract'
import { type ShortName, shortNames } from '../exam/shortNames'
import { topicsOf } from './session'

type Said = PlanSession | Unplaced

const errandLabels = {
  register: ['Register', 'Reg.'],
  journey: ['Journey', 'Trip'],
  visit: ['Visit the place', 'Visit'],
  kit: ['Pack the kit', 'Kit'],
} as const

/** Names of several topics, the longest first: in full, short, in letters, and the first of them with how many more there are. */
function together(names: (ShortName & { title: string })[]): string[] {
  const [first] = names
  if (!first) return []
  if (names.length === 1) return [...new Set([first.title, first.short, first.word, first.code])]
  const more = names.length - 1
  const some = names.slice(1, -1).map(
    (_, at) =>
      `${names
        .slice(0, more - at)
        .map(({ code }) => code)
        .join(' ')} +${at + 1}`,
  )
  return [
    names.map(({ title }) => title).join(', '),
    names.map(({ short }) => short).join(', '),
    names.map(({ code }) => code).join(' '),
    ...some,
    `${first.short} +${more}`,
    `${first.word} +${more}`,
    `${first.code} +${more}`,
    first.code,
  ]
}

/**
 * What a session may be called where its kind is told beside, the longest name first: the topics of study, the paper of a test.
 * Whoever draws it takes the first that has room; the last has four letters at most.
 */
export function labelsFor(
  exam: Pick<ExamFormat, 'topics' | 'sections'>,
  forms: readonly Form[],
): (session: Said) => string[] {
  const named = <T extends { id: string; title: string; short?: string | undefined }>(all: readonly T[]) => {
    const names = shortNames(all)
    return new Map(all.map(({ id, title }, at) => [id, { title, ...names[at]! }]))
  }
  const [topics, sections, papers] = [named(exam.topics), named(exam.sections), named(forms)]
  const found = (names: typeof topics, ids: readonly string[]) =>
    ids.flatMap((id) => {
      const name = names.get(id)
      return name ? [name] : []
    })
  const of = (word: string, short: string, form: string | undefined): string[] => {
    const [paper] = found(papers, form === undefined ? [] : [form])
    return paper ? [`${word} ${paper.title}`, `${word} ${paper.short}`, word, short] : [word, short]
  }
  return (session) => {
    if (session.label)
      return together([{ title: session.label, ...shortNames([{ title: session.label }])[0]! }])
    switch (session.kind) {
      case 'test': {
        if (session.sections) return together(found(sections, session.sections))
        const [paper] = found(papers, session.form === undefined ? [] : [session.form])
        return paper ? [paper.title, paper.short, 'Test'] : ['Test']
      }
      case 'review':
        return of('Review', 'Rev.', session.form)
      case 'retest':
        return of('Retest', 'Ret.', session.form)
      case 'errand':
        return [...(session.purpose ? errandLabels[session.purpose] : ['Errand', 'Err.'])]
      case 'light':
        if (session.purpose === 'pace card') return ['Pace card', 'Card']
    }
    const names = together(found(topics, topicsOf(session)))
    return names.length ? names : ['Light']
  }
}
