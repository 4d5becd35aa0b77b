import type { Form } from '@climber/contract'
import { resitAfterDays } from '../../attempts/sat'
import { formOfSession } from '../../sessions/session'
import { dayNumber, type DayNumber } from '../../time/day'
import type { PlanInput } from '../input'
import { firstDay, lastDay, type PlacedTest } from './place'

/** What is sat in a placed test. */
export interface FormUse {
  form: Form
  seen: boolean
  /** It is the first test once more. */
  resit?: boolean
}

/** The last day on which each form was met, or will be by what stands already. */
export function metOn(input: PlanInput): Map<string, DayNumber> {
  const met = new Map<string, DayNumber>()
  for (const { form, date } of [
    ...input.sat,
    ...[...input.lived, ...input.kept].flatMap((session) => {
      const form = formOfSession(session)
      return form ? [{ form, date: session.date }] : []
    }),
  ])
    met.set(form, Math.max(met.get(form) ?? -Infinity, dayNumber(date)))
  return met
}

/** The first test sat again, as the last but one, so that the last rehearsal is on an unseen form. */
function assignResit(
  input: PlanInput,
  placed: PlacedTest[],
  uses: Map<PlacedTest, FormUse>,
  met: Map<string, DayNumber>,
  baseline: PlacedTest | undefined,
): void {
  const own = baseline && uses.get(baseline)
  const oldest = [...input.sat].sort((a, b) => a.date.localeCompare(b.date))[0]?.form
  const form = input.exam.forms.find(({ id }) => id === (oldest ?? own?.form.id))
  if (!form) return
  const since = Math.max(
    met.get(form.id) ?? -Infinity,
    baseline && own?.form === form ? lastDay(baseline) : -Infinity,
  )
  const again = [...placed]
    .reverse()
    .slice(1)
    .find((test) => !uses.has(test) && firstDay(test) >= since + resitAfterDays)
  if (again) uses.set(again, { form, seen: true, resit: true })
}

/** A form that was met long enough ago, the one met longest ago first; undefined where there is none. */
function seenLongAgo(
  forms: Form[],
  uses: Map<PlacedTest, FormUse>,
  met: Map<string, DayNumber>,
  day: DayNumber,
): Form | undefined {
  const lastSat = (id: string) =>
    Math.max(
      met.get(id) ?? -Infinity,
      ...[...uses].filter(([, { form }]) => form.id === id).map(([test]) => lastDay(test)),
    )
  return forms
    .filter(({ id }) => lastSat(id) <= day - resitAfterDays && lastSat(id) > -Infinity)
    .sort((a, b) => lastSat(a.id) - lastSat(b.id))[0]
}

/**
 * Which form each placed test is sat on. The publisher's, and what the shelf reserves, go to the rehearsals nearest the exam,
 * and one to the baseline; then other makers'; then forms seen long enough ago. A test that is left without one is not in the
 * answer.
 */
export function assignForms(
  input: PlanInput,
  placed: PlacedTest[],
  rehearses: (test: PlacedTest) => boolean,
): Map<PlacedTest, FormUse> {
  const { forms } = input.exam
  const met = metOn(input)
  const reserved = new Set(input.shelf.flatMap(({ form, id, reserved }) => (reserved ? [form ?? id] : [])))
  const isKept = (form: Form) => form.source === 'publisher' || reserved.has(form.id)
  const fresh = forms.filter((form) => !met.has(form.id))
  const publisher = fresh.filter(isKept)
  const other = fresh.filter((form) => !isKept(form))
  const uses = new Map<PlacedTest, FormUse>()
  const use = (test: PlacedTest, form: Form | undefined, seen = false) =>
    form && uses.set(test, { form, seen })
  const baseline = placed.find((test) => test.baseline)
  if (baseline) use(baseline, publisher.length > 1 ? publisher.shift() : (other.shift() ?? publisher.shift()))
  if (input.settings.resitFirst) assignResit(input, placed, uses, met, baseline)
  for (const test of [...placed].reverse()) if (!uses.has(test) && rehearses(test)) use(test, publisher.pop())
  for (const test of placed) if (!uses.has(test)) use(test, other.shift())
  for (const test of placed)
    if (!uses.has(test)) use(test, seenLongAgo(forms, uses, met, firstDay(test)), true)
  return uses
}
