import { computed, type Ref, ref, watch } from 'vue'
import { afterPress, steady } from '../manners/press'

interface Reading<T> {
  /** What the text says; undefined for what it does not. */
  read: (text: string) => T | undefined
  /** The value as it is shown when the field is left. */
  show: (value: T) => string
  /** What stands against a value: out of its range. */
  against?: (value: T) => string | undefined
  /** What would be right, where the text says nothing. */
  wanted: () => string
  optional: () => boolean
  /** What the server has against it. */
  errors: () => string | string[] | undefined
  /** Taken at every keystroke; else when the field is left. */
  live: boolean
}

/**
 * A field that is typed in and read: text while it is being typed, the value when it can be read. What cannot be read stays as it
 * was typed, and what would be right is said when the field is left.
 */
export function typedField<T>(value: Ref<T | undefined>, reading: Reading<T>) {
  /** A draft may begin with an empty text where a value belongs. */
  const shown = (now: T | undefined): string => (now === undefined || now === '' ? '' : reading.show(now))
  const text = ref(shown(value.value))
  const problem = ref('')
  let typing = false
  /** What the text gave last, where it was taken as it stands. */
  let taken: { value: T | undefined } | undefined

  function give(found: T | undefined): true {
    taken = { value: found }
    value.value = found
    return true
  }
  function take(): boolean {
    taken = undefined
    const typed = text.value.trim()
    if (typed === '') return reading.optional() && give(undefined)
    const found = reading.read(typed)
    return found !== undefined && !reading.against?.(found) && give(found)
  }
  function say(): string {
    const typed = text.value.trim()
    if (typed === '') return reading.optional() ? '' : reading.wanted()
    const found = reading.read(typed)
    return found === undefined ? reading.wanted() : (reading.against?.(found) ?? '')
  }
  watch(value, (now) => {
    // While one types, one's own value comes back; another one comes from elsewhere, and takes the place of what was taken already.
    if (typing && (!taken || taken.value === now)) return
    text.value = shown(now)
    problem.value = ''
  })

  const told = steady(reading.errors)

  return {
    text: computed({
      get: () => text.value,
      set: (typed: string | null) => {
        typing = true
        text.value = typed ?? ''
        taken = undefined
        if (reading.live && take()) problem.value = ''
      },
    }),
    problem,
    /** What stands against it: what it says itself, else what the server says. */
    said: computed(() => (problem.value ? [problem.value] : told.value)),
    /** The field is left: the value is taken, or it is said what would be right. */
    leave(): void {
      typing = false
      const found = say()
      if (!found && take()) text.value = shown(value.value)
      afterPress(() => (problem.value = found))
    },
  }
}

/**
 * What a field is told of its hint: one that always shows, else one while the field is focused. That one stays until a press
 * that leaves the field has become a click, since the page moves when it goes.
 */
export function fieldHint(always: () => string | undefined, meanwhile: () => string | undefined) {
  const focused = ref(false)
  const stays = steady(() => focused.value)
  return computed(() => ({
    hint: always() ?? meanwhile(),
    persistentHint: Boolean(always()) || stays.value,
    'onUpdate:focused': (now: boolean) => {
      focused.value = now
    },
  }))
}
