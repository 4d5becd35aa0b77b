import type {
  Attempt,
  ExamFormat,
  Form,
  Materials,
  PlanSession,
  Source,
  TestSession,
} from '@climber/contract'
import { materialOf, partOf } from '../sessions/session'
import { dayNumber } from '../time/day'

/** The exam format's form that was sat; undefined for what it does not know. */
export const formOf = (exam: ExamFormat, { form }: Pick<Attempt, 'form'>): Form | undefined =>
  form === undefined ? undefined : exam.forms.find(({ id }) => id === form)

const plainTitles: Record<Attempt['kind'], string> = {
  diagnostic: 'Diagnostic',
  earlier: 'Earlier test',
  practice: 'Practice test',
  section: 'Section',
  set: 'Set of items',
  drill: 'Pace drill',
  retest: 'Retest',
  exam: 'The exam',
}

/** What an attempt is called: the diagnostic by that word, others by their form or by the title that they were given. */
export function attemptTitle(exam: ExamFormat, attempt: Pick<Attempt, 'kind' | 'form' | 'title'>): string {
  const { kind, title } = attempt
  const plain = plainTitles[kind]
  if (kind === 'diagnostic') return plain
  const form = formOf(exam, attempt)?.title
  return (kind === 'earlier' ? title || form : form || title) || plain
}

/** Who wrote what was sat: as it says, or as its form does, or as the shelf does; another maker where nobody knows. */
export const sourceOf = (
  exam: ExamFormat,
  attempt: Pick<Attempt, 'form' | 'source'>,
  materials?: Materials,
): Source =>
  attempt.source ??
  formOf(exam, attempt)?.source ??
  materials?.items.find(({ id, form }) => attempt.form !== undefined && (form ?? id) === attempt.form)
    ?.source ??
  'other'

export const isBaseline = ({ kind }: Pick<Attempt, 'kind'>): boolean =>
  kind === 'diagnostic' || kind === 'earlier'
export const isPractice = ({ kind }: Pick<Attempt, 'kind'>): boolean => kind === 'practice'
/** A whole paper: its items are numbered through the exam. */
export const isPaper = ({ kind, scope }: Pick<Attempt, 'kind' | 'scope'>): boolean =>
  !scope && (kind === 'diagnostic' || kind === 'earlier' || kind === 'practice' || kind === 'exam')
/** The exam with what of it an attempt sat: through this its items are numbered. A set, a drill and a retest have numbers of their own. */
export function examOfAttempt(
  exam: ExamFormat,
  attempt: Pick<Attempt, 'kind' | 'scope'>,
): ExamFormat | undefined {
  if (isPaper(attempt)) return exam
  const ids = attempt.scope?.sections
  if (attempt.kind !== 'section' || !ids?.length) return undefined
  return { ...exam, sections: exam.sections.filter(({ id }) => ids.includes(id)) }
}
export const isDrill = ({ kind }: Pick<Attempt, 'kind'>): boolean => kind === 'drill'

/** The diagnostic of a record, where there is one. */
export const diagnosticOf = (attempts: Attempt[]): Attempt | undefined =>
  attempts.find(({ kind }) => kind === 'diagnostic')

/** A form, or some sections of it, and the day on which it was met. */
export interface FormSat {
  form: string
  date: string
  /** Absent where all of it was met. */
  sections?: string[]
}

/** Every form that was met, with the day; `today` stands for a diagnostic without one. */
export const formsSat = (attempts: Attempt[], today: string): FormSat[] =>
  attempts.flatMap(({ form, date, scope }) =>
    form === undefined
      ? []
      : [{ form, date: date ?? today, ...(scope?.sections?.length && { sections: scope.sections }) }],
  )

/** Whether two parts of a form, all of it where nothing is named, have a section in common. */
export const haveInCommon = (one: string[] | undefined, other: string[] | undefined): boolean =>
  !one || !other || one.some((id) => other.includes(id))

/** The last day before `date` on which a form was met, or any of these sections of it; undefined for what is unseen then. */
export const lastMet = (
  sat: FormSat[],
  form: string,
  date: string,
  sections?: string[],
): string | undefined =>
  sat
    .filter((one) => one.form === form && one.date < date && haveInCommon(one.sections, sections))
    .map((one) => one.date)
    .sort()
    .pop()

/** Days between two sittings of the same form. */
export const resitAfterDays = 21

/** Whether what is sat may not be sat on `day`, because it was met too lately before or will be met too soon after. */
export const metTooNear = (
  sat: FormSat[],
  { form, sections }: { form?: string; sections?: string[] },
  day: number,
): FormSat | undefined =>
  sat.find(
    (one) =>
      one.form === form &&
      haveInCommon(one.sections, sections) &&
      Math.abs(dayNumber(one.date) - day) < resitAfterDays,
  )

/** The forms of tests that stand in a plan, with their days. */
export const formsWithin = (tests: TestSession[]): FormSat[] =>
  tests.flatMap((test) => {
    const sections = partOf(test)
    return test.form === undefined
      ? []
      : [{ form: test.form, date: test.date, ...(sections && { sections }) }]
  })

/** The forms of which questions were worked, topic by topic, before any test is sat on them. */
export const formsWorked = (sessions: readonly PlanSession[]): FormSat[] =>
  sessions.flatMap((session) => {
    const form = materialOf(session)?.form
    return form === undefined || session.status !== 'done' ? [] : [{ form, date: session.date }]
  })

/**
 * What an item is known by wherever it is met again: its place in its form, or in what was sat where that is of no form. An item
 * that carries an id of its own is known by that.
 */
export const identityOf = (
  { id, form }: Pick<Attempt, 'id' | 'form'>,
  place: { item: number; group?: { id: string }; at?: number },
): string =>
  form !== undefined && place.group
    ? `${form}/${place.group.id}/${(place.at ?? 0) + 1}`
    : `${form ?? id}/${place.item}`
