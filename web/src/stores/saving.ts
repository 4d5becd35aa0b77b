import { computed } from 'vue'
import { type Basis, nothingRecalled, versionsOf } from '@climber/contract'
import type { Moment } from '@climber/core'
import { isAbout } from '../outbox/entry'
import { outbox } from '../outbox/here'
import type { Autosave } from './autosave'
import type { Opened } from './opened'

/** Milliseconds that a plan waits for the last changes to be stored, and between looks. */
const longestSettling = 8000
const settlingStep = 50

/** What of the open candidate is saved by itself, what still waits, and the versions that stand. */
export function savingOf(opened: Opened, now: () => Moment) {
  const { stored, parts, baseline, plan, attempts, review } = opened
  /** Every document that is saved by itself. */
  const saving = computed<Autosave<unknown>[]>(() => [
    ...(parts.value?.all() ?? []).map(([, save]) => save),
    ...(baseline.value?.all() ?? []).map(([, save]) => save as Autosave<unknown>),
  ])
  /** What waits of this candidate. */
  const waiting = computed(() =>
    outbox().entries.value.filter((entry) => isAbout(entry, stored.value?.id ?? '')),
  )

  /** Waits until everything is stored: plans are made from what is stored, so the last changes go first. */
  async function whenSaved(): Promise<void> {
    const settled = () => !waiting.value.length && saving.value.every(({ state }) => state.status === 'saved')
    for (let waited = 0; !settled() && waited < longestSettling; waited += settlingStep)
      await new Promise((resolve) => setTimeout(resolve, settlingStep))
    if (!settled())
      throw new Error(
        'Not everything is saved yet, and a plan rests on what is. “Saved” at the top says when it can be made.',
      )
  }

  /** What a preview that is asked for now rests on: it goes with its acceptance. */
  function basisNow(): Basis {
    const { date, minute } = now()
    const sat = [...(baseline.value?.saves.values() ?? [])].map(({ state }) => ({
      id: state.document.id,
      version: state.version,
    }))
    const all = Object.entries(parts.value?.saves ?? {}).map(([part, { state }]) => [part, state])
    const versions = versionsOf({
      parts: Object.fromEntries(all),
      plan: plan.value,
      attempts: [...sat.filter(({ version }) => version), ...attempts.value],
      review: review.value,
      recalled: stored.value?.recalled ?? nothingRecalled,
    })
    return { date, minute, versions }
  }

  return { saving, waiting, whenSaved, basisNow, history: computed(() => parts.value?.history) }
}
