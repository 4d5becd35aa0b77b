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
import { actionOf, lanes } from '../outbox/entry'
import type { Outbox } from '../outbox/outbox'
import { plain } from '../workers/core'
import { Autosave, type Problem } from './autosave'
import { EditHistory } from './history'

const blankDiagnostic = (): Attempt => ({
  id: diagnosticId,
  kind: 'diagnostic',
  seen: false,
  counts: { groups: {}, topics: {} },
})

/** Something was written down of it. */
const hasContent = ({ counts, items, date, form }: Attempt): boolean =>
  [counts.groups, counts.sections ?? {}, counts.topics].some((grain) => Object.keys(grain).length) ||
  counts.total !== undefined ||
  (items?.length ?? 0) > 0 ||
  date !== undefined ||
  form !== undefined

/** The tests that the baseline rests on, each saved as it is typed: the diagnostic, and those sat before it. */
export class OpenBaseline {
  readonly saves = shallowReactive(new Map<string, Autosave<Attempt>>())
  private readonly valid = new Map<string, Attempt>()

  constructor(
    private readonly of: Candidate,
    private readonly today: () => string,
    private readonly outbox: Outbox,
    private readonly history = new EditHistory(),
  ) {
    const removed = new Set<string>()
    const begun: Attempt[] = []
    for (const entry of outbox.entries.value) {
      const deleted = actionOf(entry, 'deleteAttempt')?.params
      if (deleted?.candidateId === of.id) removed.add(deleted.attemptId)
      const saved = actionOf(entry, 'saveAttempt')
      if (saved?.params.candidateId === of.id) begun.push(saved.body.attempt as Attempt)
    }
    for (const { version, ...attempt } of of.attempts)
      if (isBaseline(attempt) && !removed.has(attempt.id)) this.wire(attempt, version)
    if (!this.saves.has(diagnosticId)) this.wire(blankDiagnostic(), 0)
    // What was begun here and not stored before the tab was closed.
    for (const { id, kind } of begun)
      if (kind === 'earlier' && !this.saves.has(id)) this.wire({ ...blankDiagnostic(), id, kind }, 0)
  }

  private check(attempt: Attempt): Problem[] {
    const parsed = Attempt.safeParse(attempt)
    if (!parsed.success) return issuesOf(parsed.error)
    const issues = attemptIssues(this.of.exam, parsed.data, { today: this.today() })
    return issuesOf({ issues })
  }

  private wire(attempt: Attempt, version: number): Autosave<Attempt> {
    const { id } = attempt
    const candidateId = this.of.id
    const save = new Autosave<Attempt>(attempt, version, {
      outbox: this.outbox,
      lane: lanes.attempt(candidateId, id),
      about: id === diagnosticId ? 'The baseline' : 'A test from before',
      history: this.history,
      check: (changed) => this.check(changed),
      action: (at, changed) => ({
        route: 'saveAttempt',
        params: { candidateId, attemptId: id },
        body: { version: at, attempt: changed },
      }),
      sent: (entry) => actionOf(entry, 'saveAttempt')?.body.attempt as Attempt | undefined,
      answered: (answer) => {
        const { version: now, ...document } = (answer as SavedAttempt).attempt
        return { version: now, document }
      },
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
    const { id } = this.add({ ...blankDiagnostic(), kind: 'earlier', date, title })
    this.note(id, 'null', JSON.stringify(this.saves.get(id)!.state.document))
    return id
  }
  private add(attempt: Attempt): Attempt {
    const added = { ...attempt, id: crypto.randomUUID() }
    this.wire(added, 0).edit(() => undefined)
    return added
  }
  async remove(id: string): Promise<void> {
    const save = this.saves.get(id)
    if (!save) return
    const before = JSON.stringify(save.state.document)
    await this.take(id, save)
    this.note(id, before, 'null')
  }
  /** A test that came or went, as JSON; one that comes back is another to the server. */
  private note(id: string, before: string, after: string): void {
    let here = id
    const replace = (document: string) => {
      const save = this.saves.get(here)
      if (document !== 'null') here = this.add(JSON.parse(document) as Attempt).id
      else if (save) void this.take(here, save)
    }
    this.history.note({ save: { replace }, about: 'A test from before', before, after })
  }
  private async take(id: string, save: Autosave<Attempt>): Promise<void> {
    save.stop()
    this.history.forget(save)
    const params = { candidateId: this.of.id, attemptId: id }
    const lane = lanes.attempt(this.of.id, id)
    await this.outbox.put({ route: 'deleteAttempt', params, body: {}, lane, about: 'A test from before' })
    this.saves.delete(id)
    this.valid.delete(id)
  }

  /** What is stored now, of the tests in which nothing waits. */
  adopt(stored: StoredAttempt[]): void {
    for (const { version, ...attempt } of stored.filter(isBaseline)) {
      const save = this.saves.get(attempt.id)
      if (save && save.state.version !== version) save.adopt(version, attempt)
    }
  }

  /** What the core works with: the last valid state of each. */
  attempts(): Attempt[] {
    for (const [id, { state }] of this.saves)
      if (!state.problems.length) this.valid.set(id, plain(state.document))
    return [...this.valid.values()].filter(hasContent)
  }

  /** Each with its id. */
  all(): [string, Autosave<Attempt>][] {
    return [...this.saves]
  }
}
