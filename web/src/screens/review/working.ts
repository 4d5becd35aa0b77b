import { computed, reactive, ref, type Ref, watch } from 'vue'
import { type Cause, type NoteChanges, recordRights, type ReviewNote } from '@climber/contract'
import { causesFor, likelyCause, reworkedRight, type ReviewView } from '@climber/core'
import { useWorkspace } from '../../stores/workspace'
import { useDeedKeys } from '../../manners/deedKeys'
import { type Doubts, hiddenDeed, useAsked, useDoubts } from './asked'

/** The item that is being reviewed, and what is known of it by now. */
function useItem(view: Ref<ReviewView | undefined>) {
  const workspace = useWorkspace()
  const at = ref<number>()
  /** Items whose answer was looked at, and those that are tried once more, whatever their notes say. */
  const seen = reactive(new Set<number>())
  const retried = reactive(new Set<number>())
  const notes = computed(() => {
    const id = view.value?.id
    return new Map(workspace.review.filter(({ attempt }) => attempt === id).map((note) => [note.item, note]))
  })
  const items = computed(() => view.value?.items ?? [])
  const item = computed(() => items.value.find((one) => one.item === at.value))
  const note = computed<ReviewNote | undefined>(() =>
    at.value === undefined ? undefined : notes.value.get(at.value),
  )
  const isDone = (number: number) => Boolean(notes.value.get(number)?.reviewedOn)
  /** The answer is hidden until the item was tried again, or one asked to see it. */
  const hidden = computed(() => {
    if (at.value === undefined || retried.has(at.value)) return true
    return !note.value?.rework && !note.value?.reviewedOn && !seen.has(at.value)
  })
  return { at, seen, retried, notes, items, item, note, isDone, hidden }
}
type Item = ReturnType<typeof useItem>

/** Going through the list. */
function useWay({ at, items, item, isDone }: Item, anew: () => void) {
  const finished = ref(false)
  function go(number: number | undefined): void {
    anew()
    finished.value = number === undefined
    if (number !== undefined) at.value = number
  }
  /** To the next item that is not done with, those before this one last; then to the end. */
  function onward(): void {
    const place = items.value.findIndex((one) => one === item.value)
    const rest = [...items.value.slice(place + 1), ...items.value.slice(0, place)]
    go(rest.find((one) => !isDone(one.item))?.item)
  }
  /** To a neighbour in the list, whether done with or not. */
  function beside(by: 1 | -1): void {
    const next = items.value[items.value.findIndex((one) => one === item.value) + by]
    if (next) go(next.item)
  }
  return { finished, go, onward, beside }
}

/** What is done with an item: tried again, looked at, its cause named. */
function useDeeds(
  view: Ref<ReviewView | undefined>,
  { seen, retried, item, note, hidden }: Item,
  doubts: Doubts,
  onward: () => void,
) {
  const workspace = useWorkspace()
  /** What was done last, for those who do not see it. */
  const told = ref('')
  const mayWrite = () => recordRights[workspace.candidate?.role ?? 'reader'].includes('work')
  function write(changes: NoteChanges): void {
    if (mayWrite() && view.value && item.value)
      void workspace.noteItem(view.value.id, item.value.item, changes)
  }
  /** Shows the answer, whether the item was tried again or not. */
  function look(): void {
    if (!item.value) return
    retried.delete(item.value.item)
    seen.add(item.value.item)
  }
  function answer(given: string): void {
    const { value: confidence } = doubts.doubt
    const struck = [...doubts.struck].sort()
    write({ rework: { answer: given, ...(struck.length && { struck }), ...(confidence && { confidence }) } })
    look()
    told.value = `${given || 'No answer'} noted. `
  }
  function again(): void {
    if (item.value) retried.add(item.value.item)
    doubts.anew()
  }
  /** What one says of an item whose key nobody knows. */
  const judge = (right: boolean): void =>
    write({ rework: { ...(note.value?.rework ?? { answer: '' }), right } })
  const likely = computed(
    () => item.value && likelyCause(item.value, note.value?.rework, view.value?.way.mistakes),
  )
  const causes = computed(() =>
    item.value && view.value ? causesFor(view.value.way.mistakes, item.value) : [],
  )
  function name(cause: Cause): void {
    const taken = note.value?.cause === cause
    write({ cause: taken ? null : cause, reviewedOn: workspace.today })
    told.value = taken ? 'No cause named. ' : ''
  }
  /** Shows the answer; or is done with the item, with the cause that the facts speak for where none was named. */
  function on(): void {
    if (hidden.value) return look()
    const { value: cause } = likely
    write({
      reviewedOn: workspace.today,
      seconds: (note.value?.seconds ?? 0) + doubts.seconds(),
      ...(!note.value?.cause && cause && { cause }),
    })
    onward()
  }
  return { told, write, look, answer, again, judge, likely, causes, name, on }
}

/**
 * A review that is worked off, item by item. `field` puts the cursor where one writes what to do the next time; `card` makes a card of
 * the item, `begin` says with which item to begin, where that was asked for.
 */
export function useReview(
  view: Ref<ReviewView | undefined>,
  field: () => void,
  card: () => void,
  begin: () => number | undefined,
) {
  const shown = useItem(view)
  const { items, item, note, isDone, hidden } = shown
  const asked = useAsked(item)
  const doubts = useDoubts()
  const way = useWay(shown, doubts.anew)
  const deeds = useDeeds(view, shown, doubts, way.onward)
  useDeedKeys((event) => {
    const { key } = event
    if (!item.value || way.finished.value) return undefined
    if (key === 'Enter' || key === ' ') return deeds.on
    if (key === 'ArrowRight' || key === 'ArrowDown') return () => way.beside(1)
    if (key === 'ArrowLeft' || key === 'ArrowUp') return () => way.beside(-1)
    if (hidden.value) return hiddenDeed(event, asked.letters.value, doubts, deeds.answer)
    const cause = /^[1-9]$/.test(key) ? deeds.causes.value[Number(key) - 1] : undefined
    if (cause) return () => deeds.name(cause)
    return { n: field, k: card, r: deeds.again }[key]
  })
  watch(
    () => view.value?.id,
    () => {
      const wanted = items.value.find((one) => one.item === begin())
      way.go((wanted ?? items.value.find((one) => !isDone(one.item)))?.item)
    },
    { immediate: true },
  )
  const right = computed(() => item.value && reworkedRight(item.value, note.value?.rework))
  return { ...shown, ...asked, ...doubts, ...way, ...deeds, right }
}
export type Reviewing = ReturnType<typeof useReview>
