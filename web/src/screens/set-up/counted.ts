import { computed } from 'vue'
import type { Attempt } from '@climber/contract'
import type { Autosave } from '../../stores/autosave'

/** A test of the baseline as its counts and answers are typed: one that has no day yet is of `today`. */
export function countedTest(save: () => Autosave<Attempt>, today: () => string) {
  const entry = computed(() => save().state.document)
  function edit(change: (attempt: Attempt) => void): void {
    save().edit((attempt) => {
      change(attempt)
      attempt.date ??= today()
    })
  }
  return {
    entry,
    edit,
    counts: computed({
      get: () => entry.value.counts,
      set: (counts) => edit((own) => void (own.counts = counts)),
    }),
    responses: computed({
      get: () => entry.value.items,
      set: (items) => edit((own) => (items ? void (own.items = items) : void delete own.items)),
    }),
  }
}
