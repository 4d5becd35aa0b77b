import { computed, onBeforeUnmount, reactive, ref, type Ref, shallowRef, watch } from 'vue'
import type { RecallAnswer, StoredCard } from '@climber/contract'
import {
  dateOf,
  dayNumber,
  gradeOfItem,
  type JudgedNumber,
  type MissedItem,
  nextIn,
  type RecallGrade,
  type RecallView,
} from '@climber/core'
import { useDeedKeys } from '../../manners/deedKeys'
import { useRecall } from '../../stores/recall'
import { useWorkspace } from '../../stores/workspace'
import { plain } from '../../workers/core'
import { numbers } from '../../workers/numbers'
import type { DrawnQuestion } from '../../workers/numbering'
import type { Tried } from '../review/again'

/** Seconds after which a card left on the screen is no longer being thought about. */
const longestLook = 600

interface Given {
  card: string
  grade: RecallGrade
  seconds: number
  made: RecallAnswer
}
/** A missed item as it is asked with the cards. */
export interface AskedMiss {
  kind: 'item'
  id: string
  topic?: string
  item: MissedItem
}
export type Asked = StoredCard | AskedMiss

/** What an answer is called, by kind, with the grade that it stands for. */
export const gradesOf: Record<Asked['kind'], readonly [RecallGrade, string][]> = {
  card: [
    [1, 'not'],
    [2, 'hardly'],
    [3, 'well'],
    [4, 'at once'],
  ],
  place: [
    [1, 'elsewhere'],
    [2, 'the section'],
    [3, 'exactly there'],
  ],
  numbers: [],
  item: [],
}
/** How long one looks at a card, counted while the page is seen. */
function useLook() {
  let since = Date.now()
  const beat = ref(0)
  const ticking = setInterval(() => beat.value++, 1000)
  onBeforeUnmount(() => clearInterval(ticking))
  return {
    beat,
    anew: () => void (since = Date.now()),
    seconds: () => Math.min(longestLook, Math.round((Date.now() - since) / 100) / 10),
  }
}

/** The numbers of a question: drawn anew each time, judged in the worker. */
function useDraw(card: () => Asked | undefined) {
  const draw = shallowRef<DrawnQuestion>()
  const judged = shallowRef<JudgedNumber>()
  const problem = ref('')
  const typed = ref('')
  async function anew(): Promise<void> {
    const own = card()
    draw.value = undefined
    judged.value = undefined
    problem.value = ''
    typed.value = ''
    if (own?.kind !== 'numbers') return
    const seed = crypto.getRandomValues(new Uint32Array(1))[0]! % 2 ** 31
    try {
      const found = await numbers((worker) => worker.draw(plain(own.question), seed))
      if (card() === own) draw.value = found
    } catch (error) {
      if (card() === own) problem.value = (error as Error).message
    }
  }
  async function judge(): Promise<boolean> {
    const own = card()
    const text = typed.value.trim()
    if (own?.kind !== 'numbers' || !draw.value || judged.value) return false
    const { seed } = draw.value
    try {
      const found = await numbers((worker) => worker.judge(plain(own.question), seed, text))
      // What cannot be read as a number is no answer yet.
      problem.value = text && found.given === undefined ? 'Write a number, with its unit or without.' : ''
      if (!problem.value && card() === own) judged.value = found
    } catch (error) {
      problem.value = (error as Error).message
    }
    return Boolean(judged.value)
  }
  return { draw, judged, problem, typed, anew, judge }
}

/** A card that is not to be asked: today, or at all. */
function useRest(card: Ref<Asked | undefined>) {
  const workspace = useWorkspace()
  const recall = useRecall()
  const change = (more: Partial<StoredCard>, about: string): void => {
    if (!card.value || card.value.kind === 'item') return
    const { version: _, ...own } = card.value
    void recall.saveCard({ ...own, ...more } as StoredCard, about)
  }
  const bury = (): void =>
    change({ rests: dateOf(dayNumber(workspace.today) + 1) }, 'A card that rests until tomorrow')
  const suspend = (): void => change({ suspended: true }, 'A card that is no longer asked')

  return { bury, suspend }
}

/** What is asked next, of those that may be asked still; and how much time was spent. */
function useQueue(
  { queue, items }: RecallView,
  minutes: number,
  given: readonly Given[],
  ended: Ref<boolean>,
) {
  const recall = useRecall()
  const workspace = useWorkspace()
  function askedOf(id: string): Asked | undefined {
    const item = items[id]
    if (item) return { kind: 'item', id, item, ...(item.topic !== undefined && { topic: item.topic }) }
    const card = recall.cards.get(id)
    return card && !card.suspended && (card.rests ?? '') <= workspace.today ? card : undefined
  }
  const isAsked = (id: string): boolean => Boolean(askedOf(id))
  const all = queue.map(({ card }) => card)
  const left = computed(() => all.filter(isAsked))
  const spent = computed(() => given.reduce((sum, { seconds }) => sum + seconds, 0))
  const card = computed(() => {
    if (ended.value || spent.value >= minutes * 60) return undefined
    const next = nextIn(
      left.value,
      // A missed item whose key was just seen comes again on another day.
      given.filter((one) => isAsked(one.card)).map((one) => (items[one.card] ? { ...one, grade: 3 } : one)),
    )
    return next === undefined ? undefined : askedOf(next)
  })
  return { left, spent, card }
}

/** An answer is kept as it is given. */
function useGrades(card: Ref<Asked | undefined>, look: ReturnType<typeof useLook>, given: Given[]) {
  const recall = useRecall()
  function grade(of: RecallGrade, more: Partial<RecallAnswer> = {}): void {
    if (!card.value) return
    const { id } = card.value
    const made = recall.answer(id, { grade: of, seconds: look.seconds(), ...more })
    given.push({ card: id, grade: of, seconds: made.seconds, made })
  }
  /** An item that was tried once more; that its key was looked at afterwards is no part of its time. */
  function took(tried: Tried): void {
    const own = card.value
    if (own?.kind !== 'item') return
    const answer = tried.answer.slice(0, 100)
    grade(gradeOfItem(tried.right, tried.confidence), {
      seconds: tried.seconds,
      ...(own.topic !== undefined && { topic: own.topic }),
      ...(answer && { given: answer }),
    })
  }
  return { grade, took }
}

/** A session: one thing after the other until the time is over or nothing is left. */
function useSitting(view: RecallView, minutes: number) {
  const recall = useRecall()
  const given = reactive<Given[]>([])
  const shown = ref(false)
  const foundIn = ref(0)
  const ended = ref(false)
  const look = useLook()

  const { left, spent, card } = useQueue(view, minutes, given, ended)
  const drawing = useDraw(() => card.value)
  /** Anew for each card, and for the same one that comes again. */
  watch(
    [() => card.value?.id, () => given.length],
    () => {
      shown.value = false
      look.anew()
      void drawing.anew()
    },
    { immediate: true },
  )

  const { grade, took } = useGrades(card, look, given)
  function show(): void {
    if (shown.value || !card.value || !gradesOf[card.value.kind].length) return
    foundIn.value = look.seconds()
    shown.value = true
  }
  /** The grade that a place stands for: what took longer than it may is found, but hardly. */
  function press(of: RecallGrade): void {
    const own = card.value
    if (!own || !shown.value || !gradesOf[own.kind].some(([one]) => one === of)) return
    const isLate = own.kind === 'place' && of === 3 && foundIn.value > (own.seconds ?? Infinity)
    grade(isLate ? 2 : of)
  }
  async function submit(): Promise<void> {
    if (drawing.judged.value) return on()
    if (await drawing.judge()) shown.value = true
  }
  function on(): void {
    const { judged, draw, typed } = drawing
    if (!judged.value || !draw.value) return
    const { right, slip } = judged.value
    grade(right ? 3 : 1, {
      seed: draw.value.seed,
      ...(typed.value.trim() && { given: typed.value.trim().slice(0, 100) }),
      ...(slip !== undefined && { slip }),
    })
  }
  function undo(): void {
    const last = given.pop()
    if (last) void recall.takeBack(last.made)
    ended.value = false
  }
  return {
    card,
    shown,
    foundIn,
    given,
    left,
    spent,
    ended,
    look,
    drawing,
    show,
    press,
    submit,
    on,
    took,
    undo,
  }
}

/** The same by keys: space shows, 1 to 4 say how it came back, u takes that back. */
function useKeys({
  card,
  shown,
  given,
  ended,
  show,
  press,
  submit,
  undo,
}: ReturnType<typeof useSitting>): void {
  function deedOf(key: string): (() => void) | undefined {
    const isOn = key === ' ' || key === 'Enter'
    // What is done with a missed item is done where it is asked.
    if (card.value?.kind === 'item') return undefined
    if (card.value?.kind === 'numbers') return isOn ? () => void submit() : undefined
    if (!shown.value) return isOn ? show : undefined
    return /^[1-4]$/.test(key) ? () => press(Number(key) as RecallGrade) : undefined
  }
  useDeedKeys(({ key }) => {
    if (key === 'u') return given.length ? undo : undefined
    if (!card.value) return undefined
    return key === 'Escape' ? () => (ended.value = true) : deedOf(key)
  })
}

export function useAsking(view: RecallView, minutes: number) {
  const sitting = useSitting(view, minutes)
  useKeys(sitting)
  return { ...sitting, ...useRest(sitting.card) }
}
