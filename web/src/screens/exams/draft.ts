import { computed, inject, type InjectionKey, provide, reactive, ref, shallowRef, watch } from 'vue'
import { ExamFormat, issuesOf, type StoredExam } from '@climber/contract'
import { ApiFailure, call } from '../../api'
import type { Problem } from '../../stores/autosave'
import { plain } from '../../workers/core'

/**
 * The exam format being edited. What is typed is kept in the browser until it is saved or dropped, and checked with the
 * contract's schema after each change; `problemAt` says what is wrong with a field by its path.
 */
export function examDraft(stored: StoredExam) {
  const key = `climber.exam.${stored.id}`
  const kept = localStorage.getItem(key)
  const restored = kept ? (JSON.parse(kept) as { format: ExamFormat; version: number }) : undefined
  const state = reactive({ format: restored?.format ?? plain(stored.format) })
  const version = ref(restored?.version ?? stored.version)
  const saved = shallowRef(stored)
  const savedText = computed(() => JSON.stringify(saved.value.format))
  const problems = shallowRef<Problem[]>([])
  const parsed = shallowRef<ExamFormat>(stored.format)
  const dirty = ref(false)
  const history: string[] = []
  let last = JSON.stringify(state.format)
  let conflictVersion = stored.version

  function check(): void {
    const text = JSON.stringify(state.format)
    const result = ExamFormat.safeParse(JSON.parse(text))
    problems.value = result.success ? [] : issuesOf(result.error)
    if (result.success) parsed.value = result.data
    dirty.value = (result.success ? JSON.stringify(result.data) : text) !== savedText.value
    if (dirty.value)
      localStorage.setItem(key, JSON.stringify({ format: state.format, version: version.value }))
    else localStorage.removeItem(key)
  }
  watch(
    () => state.format,
    () => {
      const text = JSON.stringify(state.format)
      if (text === last) return
      history.push(last)
      if (history.length > 200) history.shift()
      last = text
      check()
    },
    { deep: true },
  )
  check()

  return {
    state,
    saved,
    version,
    problems,
    parsed,
    dirty,
    restored: Boolean(restored),
    problemAt: (path: string) => problems.value.find(({ field }) => field === path)?.message,
    /** What is wrong anywhere below a path. */
    within: (path: string) =>
      problems.value.filter(({ field }) => field === path || field.startsWith(`${path}.`)),
    canUndo: () => history.length > 0,
    undo(): void {
      const before = history.pop()
      if (!before) return
      last = before
      state.format = JSON.parse(before) as ExamFormat
      check()
    },
    drop(): void {
      state.format = plain(saved.value.format)
      version.value = saved.value.version
    },
    /** After a conflict: what is stored takes the place of what was typed, or the next save goes over it. */
    async settle(mine: boolean): Promise<void> {
      if (mine) {
        version.value = conflictVersion
        return
      }
      saved.value = await call('readExam', { examId: saved.value.id })
      version.value = saved.value.version
      state.format = plain(saved.value.format)
    },
    /** Saves; answers the exam that holds the format now, which is another one where a new edition was made. */
    async save(): Promise<{ exam?: StoredExam; message?: string; conflict?: boolean }> {
      try {
        const exam = await call(
          'saveFormat',
          { examId: saved.value.id },
          { version: version.value, newId: crypto.randomUUID(), format: parsed.value },
        )
        localStorage.removeItem(key)
        saved.value = exam
        version.value = exam.version
        check()
        return { exam }
      } catch (error) {
        if (!(error instanceof ApiFailure)) throw error
        const current = error.failure?.current as { version: number } | undefined
        if (error.code === 'conflict' && current) conflictVersion = current.version
        return { message: error.message, conflict: error.code === 'conflict' }
      }
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
