import { computed, ref, watch } from 'vue'
import { ExamFormat, issuesOf } from '@climber/contract'
import { blankDescription, type DescribedExam, fieldOf, formatOf } from '@climber/core'
import { byField, type Problem } from '../../kit/problems'

const keyOf = (userId: string): string => `climber.description.${userId}`

/** What was being described in this browser, if anything. */
function kept(key: string): DescribedExam | undefined {
  try {
    return (JSON.parse(localStorage.getItem(key) ?? 'null') as DescribedExam | null) ?? undefined
  } catch {
    return undefined
  }
}

/** A description as it is typed, kept in this browser until a format is made of it. */
export function useDescription(userId: string) {
  const key = keyOf(userId)
  const before = kept(key)
  const described = ref(before ?? blankDescription())
  watch(described, (now) => localStorage.setItem(key, JSON.stringify(now)), { deep: true })

  const made = computed(() => {
    const { format, problems, asked, warnings } = formatOf(described.value)
    const read = format ? ExamFormat.safeParse(format) : undefined
    const found: Problem[] = [
      ...problems,
      ...(format && read?.error
        ? issuesOf(read.error).map(({ field, message }) => ({ field: fieldOf(field, format), message }))
        : []),
    ]
    return { format: read?.data, problems: found, asked, warnings }
  })
  /** What is only missing is nobody's mistake until it is handed in. */
  const tried = ref(false)
  const empty = (field: string): boolean => {
    const value = field
      .split('.')
      .reduce<unknown>((part, name) => (part as Record<string, unknown> | undefined)?.[name], described.value)
    return value === undefined || value === ''
  }
  const shown = computed(() => made.value.problems.filter(({ field }) => tried.value || !empty(field)))

  return {
    described,
    wasKept: before !== undefined,
    format: computed(() => made.value.format),
    problems: computed(() => made.value.problems),
    asked: computed(() => made.value.asked),
    warnings: computed(() => made.value.warnings),
    fields: computed(() => byField(shown.value)),
    tried,
    /** A format was made of it. */
    done(): void {
      localStorage.removeItem(key)
    },
    beginAgain(): void {
      described.value = blankDescription()
      tried.value = false
    },
  }
}
export type Description = ReturnType<typeof useDescription>
