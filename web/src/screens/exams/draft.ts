import { computed, inject, type InjectionKey, onScopeDispose, provide, ref, shallowRef, watch } from 'vue'
import { type Answer, ExamFormat, issuesOf, type StoredExam } from '@climber/contract'
import { actionOf, lanes } from '../../outbox/entry'
import { call } from '../../api'
import { outbox } from '../../outbox/here'
import type { Outcome } from '../../outbox/outbox'
import { Autosave, type Problem, type Wiring } from '../../stores/autosave'
import { EditHistory } from '../../stores/history'
import { plain } from '../../workers/core'

/** What stands against a format that was handed in. */
export interface Told {
  message?: string
  conflict?: boolean
}
function told(outcome: Outcome): Told {
  if (outcome === 'waiting')
    return { message: 'The server does not answer. What you typed is kept here, and sent when it does.' }
  if ('answer' in outcome) return {}
  return { message: outcome.failure.message, conflict: outcome.failure.code === 'conflict' }
}

/** How a format waits and is sent: by hand, as a new edition where the server makes one. */
const wiringOf = (
  stored: StoredExam,
  { changed, ...ways }: Required<Pick<Wiring<ExamFormat>, 'check' | 'history'>> & { changed: () => boolean },
): Wiring<ExamFormat> => ({
  ...ways,
  outbox: outbox(),
  lane: lanes.exam(stored.id),
  about: `The exam format ${stored.format.title}`,
  action: (version, format) => ({
    route: 'saveFormat',
    params: { examId: stored.id },
    body: { version, newId: crypto.randomUUID(), format },
  }),
  sent: (entry) => actionOf(entry, 'saveFormat')?.body.format as ExamFormat | undefined,
  answered: (answer) => {
    const { version, format } = answer as StoredExam
    return { version, document: format }
  },
  byHand: { changed },
})

/**
 * The exam format being edited. What is typed waits in the outbox until it is handed in or dropped, and is checked with the
 * contract's schema after each change; `problemAt` says what is wrong with a field by its path. `onStored` hears of the exam
 * that holds the format, once the server has it: another one where a new edition was made.
 */
export function examDraft(stored: StoredExam, onStored: (exam: StoredExam) => void) {
  const box = outbox()
  const lane = lanes.exam(stored.id)
  const restored = box.last(lane) !== undefined
  const saved = shallowRef(stored)
  const parsed = shallowRef<ExamFormat>(stored.format)
  const dirty = ref(false)

  function check(format: ExamFormat): Problem[] {
    const text = JSON.stringify(format)
    const result = ExamFormat.safeParse(JSON.parse(text))
    if (result.success) parsed.value = result.data
    dirty.value = (result.success ? JSON.stringify(result.data) : text) !== JSON.stringify(saved.value.format)
    return result.success ? [] : issuesOf(result.error)
  }
  const history = new EditHistory()
  const wiring = wiringOf(stored, { check, history, changed: () => dirty.value })
  const draft = new Autosave<ExamFormat>(plain(stored.format), stored.version, wiring)
  const { state } = draft
  check(state.document)
  watch(
    () => state.document,
    () => draft.noticed(),
    { deep: true },
  )
  const stop = box.onSettled((settled) => {
    if (settled.lane !== lane) return
    saved.value = settled.answer as Answer<'saveFormat'>
    check(state.document)
    onStored(saved.value)
  })
  onScopeDispose(() => {
    stop()
    draft.stop()
  })

  return {
    state: {
      get format(): ExamFormat {
        return state.document
      },
    },
    saved,
    problems: computed(() => state.problems),
    parsed,
    dirty,
    restored,
    problemAt: (path: string) => state.problems.find(({ field }) => field === path)?.message,
    /** What is wrong anywhere below a path. */
    within: (path: string) =>
      state.problems.filter(({ field }) => field === path || field.startsWith(`${path}.`)),
    history,
    drop(): void {
      state.document = plain(saved.value.format)
      state.version = saved.value.version
    },
    /** After a conflict: what is stored takes the place of what was typed, or the next save goes over it. */
    async settle(mine: boolean): Promise<Told> {
      await draft.settle(mine)
      if (!mine) saved.value = await call('readExam', { examId: stored.id })
      check(state.document)
      const entry = box.last(lane)
      return mine && entry ? told(await box.outcome(entry)) : {}
    },
    /** Hands the format in; answers what stands against it, or that it waits. */
    async save(): Promise<Told> {
      const entry = await box.put({
        ...wiring.action(state.version, parsed.value),
        lane,
        about: wiring.about,
      })
      return told(await box.outcome(entry))
    },
  }
}

export type ExamDraft = ReturnType<typeof examDraft>
const injectionKey: InjectionKey<ExamDraft> = Symbol('exam draft')
export const provideDraft = (draft: ExamDraft): void => provide(injectionKey, draft)
export const useDraft = (): ExamDraft => inject(injectionKey)!

/** Sets or clears an optional key, so that what is empty on screen is absent in the file. */
export function setOptional<T extends object, K extends keyof T>(
  target: T,
  key: K,
  value: T[K] | '' | undefined,
): void {
  if (value === '' || value === undefined) delete target[key]
  else target[key] = value
}
