import { computed, reactive, watch } from 'vue'
import type { Conditions, ExamFormat, FormItem, PlanSession, RoomSetup } from '@climber/contract'
import {
  asSat,
  formOfSession,
  formsSat,
  hasSlipped,
  isTest,
  isTimed,
  itemsOf,
  lastMet,
  minuteOf,
  partOf,
  partsGranted,
  shareOfSet,
  timeOf,
} from '@climber/core'
import type { Problem } from '../../kit/problems'
import { dateWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'

/** How a test is to be sat, as it is chosen. */
export interface Choice {
  session?: string
  /** `whole`, `set`, or a list of sections divided by commas. */
  what: string
  /** Empty for another paper. */
  form: string
  title: string
  items: number | undefined
  topics: string[]
  medium: 'paper' | 'screen'
  pressing: 'items' | 'checkpoints'
  strict: boolean
  sound: boolean
  conditions: Required<Pick<Conditions, 'examHour' | 'alone' | 'noise' | 'tired'>> & { note: string }
}

/** Minutes by which an hour may differ from the exam's to be called the same. */
const sameHour = 60

/** Forms as they are offered: what of them is known here, and when they were met. */
function useForms() {
  const workspace = useWorkspace()
  const met = computed(() => formsSat(workspace.attempts, workspace.today))
  const seenOn = (form: string, sections?: string[]) =>
    lastMet(met.value, form, `${workspace.today}~`, sections)
  const metWords = (id: string): string => {
    const day = seenOn(id)
    const whole = met.value.some(({ form, sections }) => form === id && !sections)
    return day ? `${whole ? 'met' : 'met in part'} ${dateWords(day, workspace.today)}` : ''
  }
  const some = (id: string, wanted: (item: FormItem) => unknown) => {
    const form = workspace.exam!.forms.find((one) => one.id === id)
    return Object.values(form?.items ?? {}).some((items) => items.some(wanted))
  }
  const hasText = (id: string) => some(id, ({ text }) => text)
  const hasKey = (id: string) => some(id, ({ key }) => key)
  const forms = computed(() => [
    ...workspace.exam!.forms.map(({ id, title }) => ({
      value: id,
      title: [title, hasText(id) ? 'on screen' : hasKey(id) ? 'key known' : '', metWords(id)]
        .filter(Boolean)
        .join(' · '),
    })),
    { value: '', title: 'Another paper' },
  ])
  return { forms, seenOn, hasText, hasKey }
}

/** The whole, its papers where it has some, its sections, a set. */
function whatsOf({ sections }: ExamFormat): { value: string; title: string }[] {
  const papers = new Map<string, string[]>()
  for (const { id, paper } of sections) if (paper) papers.set(paper, [...(papers.get(paper) ?? []), id])
  return [
    { value: 'whole', title: 'The whole exam' },
    ...[...papers]
      .filter(([, ids]) => papers.size > 1 && ids.length > 1)
      .map(([title, ids]) => ({ value: ids.join(), title })),
    ...sections.map(({ id, title }) => ({ value: id, title: `Only ${title}` })),
    { value: 'set', title: 'A set of items of my own' },
  ]
}

/** What of the exam a planned session sits: `whole`, `set`, or sections divided by commas. */
const whatOf = (session: PlanSession | undefined): string =>
  session && 'timed' in session && session.timed ? 'set' : ((session && partOf(session)?.join()) ?? 'whole')

/** The form of a planned session; empty for one of no form, undefined where nothing is planned. */
const formPlanned = (session: PlanSession | undefined): string | undefined =>
  session && (formOfSession(session) ?? '')

/** The planned test or timed set that is meant, and how it would be sat unless somebody chooses. */
function useDue(wanted: () => string | undefined, { seenOn, hasText }: ReturnType<typeof useForms>) {
  const workspace = useWorkspace()
  const due = computed((): PlanSession | undefined => {
    const timed = (workspace.plan?.sessions ?? []).filter(isTimed)
    const open = timed.filter(isTest).filter(({ status }) => status === 'planned' || status === 'running')
    const named = timed.find(({ id }) => id === wanted())
    return named ?? open.find((one) => !hasSlipped(one, workspace.today)) ?? open[0]
  })
  const nearExam = computed(() => {
    const start = workspace.sitting?.start
    return start !== undefined && Math.abs(minuteOf(start) - workspace.now.minute) <= sameHour
  })
  const fresh = (): Choice => {
    const planned = due.value
    const set = planned && 'timed' in planned ? planned : undefined
    const form = formPlanned(planned) ?? workspace.exam!.forms.find(({ id }) => !seenOn(id))?.id ?? ''
    return {
      ...(planned && { session: planned.id }),
      what: whatOf(planned),
      form,
      title: '',
      items: set?.timed?.items ?? 20,
      topics: set?.topics ?? workspace.exam!.topics.slice(0, 3).map(({ id }) => id),
      medium: form && hasText(form) ? 'screen' : 'paper',
      pressing: 'items',
      strict: true,
      sound: false,
      conditions: { examHour: nearExam.value, alone: true, noise: false, tired: false, note: '' },
    }
  }
  return { due, fresh }
}

function problemsOf({ what, items, topics }: Choice): Problem[] {
  if (what !== 'set') return []
  const found: Problem[] = []
  if (items === undefined || !Number.isInteger(items) || items < 5 || items > 60)
    found.push({ field: 'items', message: 'from 5 to 60 items' })
  if (!topics.length) found.push({ field: 'topics', message: 'choose a topic' })
  return found
}
const conditionsOf = ({ conditions: { note, ...held } }: Choice): Conditions => ({
  ...held,
  ...(note && { note }),
})

/** What is chosen in the lobby, and what follows from it. */
export function useChoice(wanted: () => string | undefined) {
  const workspace = useWorkspace()
  const exam = computed(() => workspace.exam!)
  const known = useForms()
  const { forms, hasText, hasKey, seenOn } = known
  const { due, fresh } = useDue(wanted, known)
  const choice = reactive<Choice>(fresh())
  watch(
    () => due.value?.id,
    () => Object.assign(choice, fresh()),
  )

  watch(
    () => choice.form,
    (form) => (choice.medium = form && hasText(form) ? 'screen' : 'paper'),
  )

  const whats = computed(() => whatsOf(exam.value))
  // A test that is sat over several days has sections that are no paper.
  const offered = computed(() =>
    whats.value.some(({ value }) => value === choice.what)
      ? whats.value
      : [...whats.value, { value: choice.what, title: 'These sections of it' }],
  )
  const sat = computed(() => asSat(exam.value, workspace.record!.settings))
  const set = computed(() =>
    choice.what === 'set' ? { items: choice.items ?? 0, topics: choice.topics } : undefined,
  )
  const problems = computed(() => problemsOf(choice))
  const parts = computed(() => {
    if (problems.value.length) return []
    if (set.value) return partsGranted(sat.value.exam, sat.value.timeFactor, { set: set.value })
    const sections =
      choice.what === 'whole' ? exam.value.sections.map(({ id }) => id) : choice.what.split(',')
    return partsGranted(sat.value.exam, sat.value.timeFactor, { sections })
  })
  const itemsIn = (id: string): number => {
    if (set.value) return shareOfSet(exam.value, set.value).reduce((sum, one) => sum + one.items, 0)
    const section = exam.value.sections.find((one) => one.id === id)
    return section ? itemsOf(section) : 0
  }
  const isSession = computed(
    () =>
      due.value !== undefined &&
      choice.session === due.value.id &&
      choice.what === whatOf(due.value) &&
      (choice.what === 'set' || (formPlanned(due.value) ?? '') === choice.form),
  )

  function setup(): RoomSetup {
    const { accommodation } = workspace.record!.settings
    const form = choice.what !== 'set' && choice.form ? choice.form : undefined
    const sections = choice.what === 'whole' ? undefined : choice.what.split(',')
    return {
      id: crypto.randomUUID(),
      date: workspace.today,
      start: timeOf(workspace.now.minute),
      ...(isSession.value && { session: choice.session }),
      ...(form ? { form } : choice.title && { title: choice.title }),
      whole: choice.what === 'whole',
      ...(set.value && { set: set.value }),
      medium: choice.what === 'set' ? 'paper' : choice.medium,
      pressing: choice.pressing,
      strict: choice.strict,
      parts: parts.value,
      ...(accommodation && { accommodation }),
      sound: choice.sound,
      seen: form !== undefined && seenOn(form, sections) !== undefined,
      conditions: conditionsOf(choice),
    }
  }
  return { choice, due, offered, forms, parts, problems, itemsIn, setup, hasText, hasKey, isSession }
}
