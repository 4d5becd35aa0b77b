import { shallowReactive } from 'vue'
import {
  Attempt,
  attemptIssues,
  type Candidate,
  diagnosticId,
  inOrder,
  issuesOf,
  type SavedAttempt,
  type StoredAttempt,
} from '@climber/contract'
import { isBaseline } from '@climber/core'
import { call } from '../api'
import { plain } from '../workers/core'
import { type Autosave, autosave, type Problem } from './autosave'

/** Where the ids of earlier tests that are not stored yet are kept. */
const keyOf = (candidateId: string, id: string) => `climber.draft.${candidateId}.attempt.${id}`

const blankDiagnostic = (): Attempt => ({
  id: diagnosticId,
  kind: 'diagnostic',
  seen: false,
  counts: { groups: {}, topics: {} },
})

/** Something was written down of it. */
const hasContent = ({ counts, items, date, form }: Attempt): boolean =>
  Object.keys(counts.groups).length + Object.keys(counts.topics).length + (items?.length ?? 0) > 0 ||
  date !== undefined ||
  form !== undefined

/** The tests that the baseline rests on, each saved as it is typed: the diagnostic, and those sat before it. */
export class OpenBaseline {
  readonly saves = shallowReactive(new Map<string, Autosave<Attempt>>())
  private readonly valid = new Map<string, Attempt>()

  constructor(
    private readonly of: Candidate,
    private readonly today: () => string,
    private readonly renew: () => Promise<void>,
    private readonly taken: (saved: SavedAttempt) => void,
  ) {
    const stored = of.attempts.filter(isBaseline)
    for (const { version, ...attempt } of stored) this.wire(attempt, version)
    if (!this.saves.has(diagnosticId)) this.wire(blankDiagnostic(), 0)
    // What was begun here and not stored before the tab was closed.
    const prefix = keyOf(of.id, '')
    for (const key of Object.keys(localStorage)) {
      const id = key.startsWith(prefix) ? key.slice(prefix.length) : undefined
      if (id && !this.saves.has(id)) this.wire({ ...blankDiagnostic(), id, kind: 'earlier' }, 0)
    }
  }

  private check(attempt: Attempt): Problem[] {
    const parsed = Attempt.safeParse(attempt)
    if (!parsed.success) return issuesOf(parsed.error)
    const issues = attemptIssues(this.of.exam, parsed.data, { today: this.today() })
    return issuesOf({ issues })
  }

  private wire(attempt: Attempt, version: number): Autosave<Attempt> {
    const { id } = attempt
    const save = autosave<Attempt>(attempt, version, {
      key: keyOf(this.of.id, id),
      check: (changed) => this.check(changed),
      save: async (at, changed) => {
        const saved = await call(
          'saveAttempt',
          { candidateId: this.of.id, attemptId: id },
          { version: at, attempt: changed },
        )
        this.taken(saved)
        const { version: now, ...document } = saved.attempt
        return { version: now, document }
      },
      renew: this.renew,
    })
    this.saves.set(id, save)
    this.valid.set(id, plain(attempt))
    return save
  }

  /** The diagnostic being edited; there is always one, though it may be empty and not stored. */
  diagnostic(): Autosave<Attempt> {
    const save = this.saves.get(diagnosticId)
    if (!save) throw new Error('the diagnostic is always open')
    return save
  }

  /** The tests before the diagnostic, oldest first. */
  earlier(): Attempt[] {
    const all = [...this.saves.values()].map(({ state }) => state.document)
    return inOrder(all).filter(({ kind }) => kind === 'earlier')
  }

  addEarlier(date: string, title: string): string {
    const id = crypto.randomUUID()
    const save = this.wire({ ...blankDiagnostic(), id, kind: 'earlier', date, title }, 0)
    save.edit(() => undefined)
    return id
  }
  async remove(id: string): Promise<void> {
    const save = this.saves.get(id)
    if (!save) return
    save.stop()
    await call('deleteAttempt', { candidateId: this.of.id, attemptId: id })
    localStorage.removeItem(keyOf(this.of.id, id))
    this.saves.delete(id)
    this.valid.delete(id)
  }

  /** What the core works with: the last valid state of each. */
  attempts(): Attempt[] {
    for (const [id, { state }] of this.saves)
      if (!state.problems.length) this.valid.set(id, plain(state.document))
    return [...this.valid.values()].filter(hasContent)
  }

  /** What others know of what was stored here. */
  all(): [string, Autosave<Attempt>][] {
    return [...this.saves]
  }
}

/** Everything that was sat and is not part of the baseline. */
export const loggedOf = (attempts: StoredAttempt[]): StoredAttempt[] =>
  attempts.filter((attempt) => !isBaseline(attempt))
