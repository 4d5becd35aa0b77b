import { computed, shallowRef } from 'vue'

/** Changes that undo goes back over, and characters that they may come to: a form with pictures is large. */
const mostSteps = 200
const mostKept = 40_000_000
/** Milliseconds within which changes of one document are one. */
const oneChange = 800

/** A change of one document: all of it before and after, as JSON. */
interface Step {
  save: { replace: (document: string) => void }
  about: string
  before: string
  after: string
}

/**
 * What was changed in the documents of an open candidate, in its order, to be undone and done again. A document that somebody
 * else changed is not gone back over: that would take their change away with one's own.
 */
export class EditHistory {
  private readonly past = shallowRef<readonly Step[]>([])
  private readonly future = shallowRef<readonly Step[]>([])
  private noted = 0
  private field: Element | null | undefined
  /** What would be undone, or done again, by its name. */
  readonly last = computed(() => this.past.value[this.past.value.length - 1]?.about)
  readonly next = computed(() => this.future.value[this.future.value.length - 1]?.about)

  /** Notes a change; one that follows at once in the same field, as typing does, belongs to the one before. */
  note(step: Step): void {
    if (step.before === step.after) return
    const at = Date.now()
    const past = this.past.value
    const open = past[past.length - 1]
    const field = globalThis.document?.activeElement
    const same = open?.save === step.save && field === this.field && at - this.noted < oneChange
    const kept = Math.max(1, Math.min(mostSteps, Math.floor(mostKept / step.after.length)))
    this.past.value = same
      ? [...past.slice(0, -1), { ...step, before: open.before }]
      : [...past, step].slice(-kept)
    this.future.value = []
    this.noted = at
    this.field = field
  }

  /** Somebody else changed a document. */
  forget(save: Step['save']): void {
    const rest = (steps: readonly Step[]) => steps.filter((step) => step.save !== save)
    this.past.value = rest(this.past.value)
    this.future.value = rest(this.future.value)
  }

  undo(): void {
    const step = this.past.value[this.past.value.length - 1]
    if (!step) return
    this.past.value = this.past.value.slice(0, -1)
    this.future.value = [...this.future.value, step]
    this.noted = 0
    step.save.replace(step.before)
  }
  redo(): void {
    const step = this.future.value[this.future.value.length - 1]
    if (!step) return
    this.future.value = this.future.value.slice(0, -1)
    this.past.value = [...this.past.value, step]
    this.noted = 0
    step.save.replace(step.after)
  }
}
