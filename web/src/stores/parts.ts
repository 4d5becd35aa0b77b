import { computed, type ComputedRef } from 'vue'
import {
  type Candidate,
  issuesOf,
  type PartDocument,
  type PartDocuments,
  partFrom,
  partIssues,
  type PartName,
  partNames,
  parts,
  type StoredPart,
} from '@climber/contract'
import { actionOf, lanes } from '../outbox/entry'
import type { Outbox } from '../outbox/outbox'
import { plain } from '../workers/core'
import { Autosave, type Problem } from './autosave'
import { EditHistory } from './history'

/** Each part of the open record, being edited. */
export type PartSaves = { [P in PartName]: Autosave<PartDocument<P>> }

/** What is said of a part that waits, or that somebody else changed. */
const partWords: Record<PartName, string> = {
  candidate: 'The name and note',
  ratings: 'The ratings of topics',
  target: 'The target',
  availability: 'The free time',
  settings: 'The habits',
  pacing: 'The pacing',
  materials: 'The materials',
  commitments: 'The commitments',
  examDay: 'The exam day',
  guessing: 'The guessing',
}

/** The parts of an open candidate, each saved by itself, and the last document of each that was valid. */
export class OpenParts {
  readonly saves: PartSaves
  /** What was changed of the candidate here, to be undone. */
  readonly history = new EditHistory()
  /** The last valid document of each part, plain; worked out again only where that part changed. */
  private readonly plainly: { [P in PartName]: ComputedRef<PartDocument<P>> }

  constructor(
    private readonly of: Candidate,
    private readonly today: () => string,
    private readonly outbox: Outbox,
  ) {
    const saves: Partial<Record<PartName, unknown>> = {}
    const documents: Partial<Record<PartName, unknown>> = {}
    for (const part of partNames) saves[part] = this.wire(part)
    this.saves = saves as PartSaves
    for (const part of partNames) documents[part] = this.lastValid(part)
    this.plainly = documents as typeof this.plainly
  }

  private lastValid<P extends PartName>(part: P): ComputedRef<PartDocument<P>> {
    const { state } = this.saves[part] as Autosave<PartDocument<P>>
    let valid = partFrom(part, this.of.parts[part]?.document)
    return computed(() => {
      if (!state.problems.length) valid = plain(state.document) as PartDocument<P>
      return valid
    })
  }

  private check<P extends PartName>(part: P, document: PartDocument<P>): Problem[] {
    const parsed = parts[part].safeParse(document)
    if (!parsed.success) return issuesOf(parsed.error)
    const issues = partIssues(this.of.exam, part, parsed.data as PartDocument<P>, this.today())
    return issuesOf({ issues })
  }

  private wire<P extends PartName>(part: P): Autosave<PartDocument<P>> {
    const stored = this.of.parts[part]
    const document = partFrom(part, stored?.document)
    const candidateId = this.of.id
    return new Autosave(document, stored?.version ?? 0, {
      outbox: this.outbox,
      lane: lanes.part(candidateId, part),
      about: partWords[part],
      history: this.history,
      check: (changed) => this.check(part, changed),
      action: (version, changed) => ({
        route: 'savePart',
        params: { candidateId, part },
        body: { version, document: { ...changed } },
      }),
      // What was put there is such a document, valid or being mended.
      sent: (entry) => actionOf(entry, 'savePart')?.body.document as PartDocument<P> | undefined,
      answered: (answer) => {
        const { document: now, version } = answer as StoredPart
        return { version, document: partFrom(part, now) }
      },
    })
  }

  /** What is stored now, of the parts in which nothing waits. */
  adopt(stored: Candidate['parts']): void {
    for (const part of partNames) this.adoptOne(part, stored[part])
  }
  private adoptOne<P extends PartName>(part: P, stored: StoredPart | undefined): void {
    const save = this.saves[part] as Autosave<PartDocument<P>>
    if (stored && stored.version !== save.state.version)
      save.adopt(stored.version, partFrom(part, stored.document))
  }

  /** What the core works with: while a field is being mended, the document from before. Those that stay are the same objects. */
  documents(): PartDocuments {
    const documents: Partial<Record<PartName, unknown>> = {}
    for (const part of partNames) documents[part] = this.plainly[part].value
    return documents as PartDocuments
  }

  all(): [PartName, Autosave<unknown>][] {
    return partNames.map((part) => [part, this.saves[part] as Autosave<unknown>])
  }
}
