import type { Form, TestSession } from '@climber/contract'
import { type FormSat, formsWorked, formsWithin, haveInCommon, resitAfterDays } from '../../attempts/sat'
import { isTest, isWhole } from '../../sessions/session'
import { dayNumber, type DayNumber } from '../../time/day'
import type { PlanInput } from '../input'
import { firstDay, lastDay, type PlacedTest } from './place'

/** What is sat in a placed test. A section may be sat on questions of no form. */
export interface FormUse {
  form?: Form
  seen: boolean
  /** It is the first test once more. */
  resit?: boolean
}
export type FormUses = Map<PlacedTest, FormUse>

/** Every form, or sections of it, that was met or will be by what stands already, or gave questions that were worked. */
export const metBefore = ({ sat, lived, kept }: PlanInput): FormSat[] => [
  ...sat,
  ...formsWithin([...lived, ...kept].filter(isTest)),
  ...formsWorked([...lived, ...kept]),
]

/** Forms that are kept for the end: the publisher's, and what the shelf reserves. */
export const keptForms = ({ exam, shelf }: Pick<PlanInput, 'exam' | 'shelf'>): Set<string> =>
  new Set([
    ...exam.forms.flatMap(({ id, source }) => (source === 'publisher' ? [id] : [])),
    ...shelf.flatMap(({ form, id, reserved }) => (reserved ? [form ?? id] : [])),
  ])

/** The last day on which any of a form was met; -Infinity where none was. */
const lastOf = (met: FormSat[], form: string): DayNumber =>
  Math.max(-Infinity, ...met.filter((one) => one.form === form).map(({ date }) => dayNumber(date)))

/** The first test sat again, as the last but one, so that the last rehearsal is on an unseen form. */
function assignResit(
  input: PlanInput,
  placed: PlacedTest[],
  uses: FormUses,
  met: FormSat[],
  baseline: PlacedTest | undefined,
): void {
  const own = baseline && uses.get(baseline)
  const oldest = [...input.sat].sort((a, b) => a.date.localeCompare(b.date))[0]?.form
  const form = input.exam.forms.find(({ id }) => id === (oldest ?? own?.form?.id))
  if (!form) return
  const since = Math.max(lastOf(met, form.id), baseline && own?.form === form ? lastDay(baseline) : -Infinity)
  const again = [...placed]
    .reverse()
    .slice(1)
    .find((test) => !uses.has(test) && firstDay(test) >= since + resitAfterDays)
  if (again) uses.set(again, { form, seen: true, resit: true })
}

/** A form is sat so many times at most under one plan: after that it tells only what was remembered. */
const mostSittings = 3

/** A form that was met long enough ago, the one met longest ago first; undefined where there is none. */
function seenLongAgo(forms: Form[], uses: FormUses, met: FormSat[], day: DayNumber): Form | undefined {
  const lastSat = (id: string) =>
    Math.max(
      lastOf(met, id),
      ...[...uses].filter(([, { form }]) => form?.id === id).map(([test]) => lastDay(test)),
    )
  const sittings = (id: string) => [...uses.values()].filter(({ form }) => form?.id === id).length
  return forms
    .filter(
      ({ id }) =>
        sittings(id) < mostSittings && lastSat(id) <= day - resitAfterDays && lastSat(id) > -Infinity,
    )
    .sort((a, b) => lastSat(a.id) - lastSat(b.id))[0]
}

/** Of a list in order of time, so many spread evenly, the first one among them. */
const spread = <T>(list: T[], count: number): T[] =>
  Array.from({ length: count }, (_, at) => list[Math.floor((at * list.length) / count)]!)

/**
 * Which form each placed whole test is sat on. The publisher's, and what the shelf reserves, are for the end: the rehearsals nearest the
 * exam, one for the baseline, and what is left of them for the tests just before. Other makers' go to the rest, spread evenly where they
 * are too few; then forms seen long enough ago. A test that is left without one is not in the answer.
 */
export function assignForms(
  input: PlanInput,
  placed: PlacedTest[],
  rehearses: (test: PlacedTest) => boolean,
): FormUses {
  const { forms } = input.exam
  const met = metBefore(input)
  const kept = keptForms(input)
  const isKept = ({ id }: Form) => kept.has(id)
  const fresh = forms.filter(({ id }) => !met.some(({ form }) => form === id))
  const publisher = fresh.filter(isKept)
  const other = fresh.filter((form) => !isKept(form))
  const uses: FormUses = new Map()
  const use = (test: PlacedTest, form: Form | undefined, seen = false) =>
    form && uses.set(test, { form, seen })
  const open = () => placed.filter((test) => !uses.has(test))
  const baseline = placed.find((test) => test.baseline)
  if (baseline && !baseline.final)
    use(baseline, publisher.length > 1 ? publisher.shift() : (other.shift() ?? publisher.shift()))
  if (input.settings.resitFirst) assignResit(input, placed, uses, met, baseline)
  for (const test of open().reverse()) if (rehearses(test)) use(test, publisher.pop())
  // More of the publisher's than rehearsals: the tests just before have them, unless another maker's is there for each; where a plan
  // stands, those after which nothing but the publisher's is sat unseen.
  const ahead = input.kept
    .filter(isTest)
    .filter((test) => isWhole(test) && test.status === 'planned' && !test.seen)
  const daysOf = (which: (test: TestSession) => boolean) =>
    ahead.filter(which).map(({ date }) => dayNumber(date))
  const isKeptTest = ({ form }: TestSession) => kept.has(form ?? '')
  const from = Math.max(-Infinity, ...daysOf((test) => !isKeptTest(test)))
  const until = Math.min(Infinity, ...daysOf((test) => isKeptTest(test) && test.purpose === 'rhythm'))
  const spare = open().filter((test) => firstDay(test) > from)
  const lacking = Math.min(publisher.length, Math.max(0, open().length - other.length), spare.length)
  if (lacking > 0) for (const test of spare.slice(-lacking).reverse()) use(test, publisher.pop())
  const early = open().filter((test) => firstDay(test) < until)
  for (const test of spread(early, Math.min(early.length, other.length))) use(test, other.shift())
  for (const test of open()) use(test, seenLongAgo(forms, uses, met, firstDay(test)), true)
  return uses
}

/**
 * The form of each single section: of other makers' forms that no whole test uses, section by section in order of time. What finds none
 * is sat on questions of the shelf.
 */
export function assignSections(input: PlanInput, placed: PlacedTest[], uses: FormUses): void {
  const met = metBefore(input)
  const whole = new Set([...uses.values()].flatMap(({ form }) => form?.id ?? []))
  const kept = keptForms(input)
  const pool = input.exam.forms.filter(({ id }) => !kept.has(id) && !whole.has(id))
  const spent: FormSat[] = [...met]
  for (const test of placed) {
    if (!test.sections) continue
    const sections = test.sections.map(({ id }) => id)
    const form = pool.find(
      ({ id }) => !spent.some((one) => one.form === id && haveInCommon(one.sections, sections)),
    )
    if (form) spent.push({ form: form.id, date: '', sections })
    uses.set(test, { ...(form && { form }), seen: false })
  }
}
