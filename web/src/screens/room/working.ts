import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Confidence } from '@climber/contract'
import { hasKeys, type ItemState, lettersOf, paceOf, railOf, type Room, type RoomView } from '@climber/core'
import type { Attending } from '../../stores/attending'

/** What is to be seen of a section that runs. */
function useShown({ state, now }: Attending, room: () => Room, view: () => RoomView | undefined) {
  const part = computed(() => state.value?.parts[state.value.at])
  const onPaper = computed(() => room().setup.medium === 'paper')
  const byCheckpoints = computed(() => onPaper.value && room().setup.pressing === 'checkpoints')
  /** The items that may be worked at: of an adaptive section one stage after the other. */
  const items = computed<readonly ItemState[]>(() => {
    const own = part.value
    if (!own) return []
    return own.stage ? own.items.slice(own.firstStage) : own.items
  })
  /** The first stage is worked at, and a second follows. */
  const firstStage = computed(() => Boolean(part.value?.part.section?.stages) && !part.value?.stage)
  /** Second stages to choose from, where no key tells which follows. */
  const stages = computed(() => {
    const own = part.value
    if (!firstStage.value || !own || hasKeys(own.items, room().form)) return undefined
    return own.part.section?.stages?.map(({ id, title }) => ({ id, title }))
  })
  const item = computed(() => items.value.find((one) => one.item === state.value?.current?.item))
  const text = computed(() => {
    const { value: own } = item
    return own && room().form?.items?.[own.group.id]?.[own.at]
  })
  const stimulus = computed(() =>
    onPaper.value ? undefined : room().form?.stimuli?.find(({ id }) => id === text.value?.stimulus),
  )
  const letters = computed(() =>
    item.value?.group.kind === 'choice' ? [...lettersOf(item.value.group.choices ?? 4)] : [],
  )
  const pace = computed(() => part.value && paceOf(part.value, view()?.paces[part.value.part.id] ?? []))
  const rail = computed(() => state.value && pace.value && railOf(state.value, pace.value, now.value))
  /** Seconds to the bell; undefined where there is none. */
  const left = computed(() => {
    const own = part.value
    if (!own || own.bell === Infinity) return undefined
    return Math.max(0, own.bell - (state.value?.stopped ?? now.value))
  })
  /** The last minutes, in which there is no time for thinking long: a tenth of the section, five minutes at most. */
  const lastMinutes = computed(
    () => left.value !== undefined && left.value <= Math.min(300, (part.value?.part.seconds ?? 0) / 10),
  )
  const nextCheckpoint = computed(() => rail.value?.next?.item ?? items.value[items.value.length - 1]?.item)
  return {
    part,
    onPaper,
    byCheckpoints,
    items,
    firstStage,
    stages,
    item,
    text,
    stimulus,
    letters,
    rail,
    left,
    lastMinutes,
    nextCheckpoint,
  }
}
type Shown = ReturnType<typeof useShown>

/** Where single items are pressed, one of them is always taken up. */
function takeUpFirst(attending: Attending, { part, item, items, byCheckpoints }: Shown): void {
  const { state } = attending
  watch(
    () => [state.value?.phase, part.value?.stage?.id, attending.holds.value, item.value?.item],
    () => {
      const [first] = items.value
      if (state.value?.phase !== 'working' || byCheckpoints.value || item.value || !first) return
      if (state.value.stopped === undefined) attending.press({ kind: 'go', item: first.item })
    },
    { immediate: true },
  )
}

/** What is done in it. */
function useDeeds(attending: Attending, shown: Shown) {
  const { item, items, onPaper, firstStage, nextCheckpoint } = shown
  const listing = ref(false)
  /** Figures typed to go to an item. */
  const typed = ref('')
  /** What was done last, in words, for those who do not see it. */
  const told = ref('')
  const go = (to: number): void => {
    listing.value = false
    typed.value = ''
    if (items.value.some((one) => one.item === to)) attending.press({ kind: 'go', item: to })
  }
  /** On to the next item; behind the last to the list of all. */
  function on(by = 1): void {
    if (!item.value) return
    const next = items.value[items.value.findIndex((one) => one.item === item.value?.item) + by]
    if (next) go(next.item)
    else if (by > 0) listing.value = true
  }
  function answer(given: string, step = true): void {
    const { value: own } = item
    if (!own) return
    attending.press({ kind: 'answer', item: own.item, answer: given })
    told.value = given ? `${given} for item ${own.item}. ` : `Item ${own.item} is blank again. `
    if (onPaper.value && !own.done) attending.press({ kind: 'done', item: own.item })
    if (step) on()
  }
  function doubt(confidence: Confidence): void {
    const { value: own } = item
    const wanted = own?.confidence === confidence ? null : confidence
    if (!own) return
    attending.press({ kind: 'doubt', item: own.item, confidence: wanted })
    told.value = `${wanted ? `Marked ${wanted}` : 'No longer marked'}. `
  }
  function strike(option: string): void {
    const { value: own } = item
    if (!own) return
    const struck = !own.struck.has(option)
    attending.press({ kind: 'strike', item: own.item, option, struck })
    told.value = `${option} ${struck ? 'struck out' : 'back in'}. `
  }
  function past(kind: 'leave' | 'done'): void {
    if (!item.value) return
    attending.press({ kind, item: item.value.item })
    told.value = `Item ${item.value.item} ${kind === 'leave' ? 'left' : 'done'}. `
    on()
  }
  function checkpoint(): void {
    if (nextCheckpoint.value !== undefined)
      attending.press({ kind: 'checkpoint', item: nextCheckpoint.value })
  }
  function handIn(stage?: string): void {
    listing.value = false
    if (firstStage.value) attending.press({ kind: 'stage', ...(stage && { to: stage }) })
    else attending.press({ kind: 'close' })
  }
  takeUpFirst(attending, shown)
  return {
    listing,
    typed,
    told,
    go,
    on,
    answer,
    doubt,
    strike,
    leave: () => past('leave'),
    done: () => past('done'),
    checkpoint,
    handIn,
  }
}
type Deeds = ReturnType<typeof useDeeds>

/** The same by keyboard. */
function useKeys({ state }: Attending, shown: Shown, deeds: Deeds) {
  const { item, letters, onPaper, byCheckpoints } = shown
  const { listing, typed, go, on, answer, doubt, strike, leave, done, checkpoint } = deeds
  const menu = ref(false)
  const turnMenu = () => void (menu.value = !menu.value)
  const fixed: Record<string, () => void> = {
    '?': () => doubt('between two'),
    ' ': leave,
    ArrowRight: () => on(),
    ArrowDown: () => on(),
    ArrowLeft: () => on(-1),
    ArrowUp: () => on(-1),
  }
  /** In a field figures are figures, and arrows to the sides go about in it. */
  const inField: Record<string, () => void> = {
    '?': () => doubt(item.value?.confidence === 'between two' ? 'no idea' : 'between two'),
    ' ': leave,
    ArrowDown: () => on(),
    ArrowUp: () => on(-1),
  }
  function enter(): void {
    if (byCheckpoints.value) checkpoint()
    else if (typed.value) go(Number(typed.value))
    else if (onPaper.value) done()
    else listing.value = true
  }
  function figure(key: string): void {
    if (key === '0' && !typed.value) doubt('no idea')
    else typed.value = (typed.value + key).slice(-4)
  }
  /** What a key does; undefined for one that is not the room's. */
  function deedOf({ key, shiftKey, target }: KeyboardEvent): (() => void) | undefined {
    if (key === 'Escape') return turnMenu
    if (menu.value) return undefined
    // Whoever writes a number writes it in its field; a button that has the focus is pressed.
    if (target instanceof HTMLInputElement) return inField[key]
    if (target instanceof HTMLButtonElement && (key === ' ' || key === 'Enter')) return undefined
    if (key === 'Enter') return enter
    if (byCheckpoints.value) return undefined
    if (/^\d$/.test(key)) return () => figure(key)
    const letter = key.length === 1 ? key.toUpperCase() : ''
    if (letters.value.includes(letter)) return () => (shiftKey ? strike(letter) : answer(letter))
    return fixed[key]
  }
  function press(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey || event.repeat || listing.value) return
    if (state.value?.phase !== 'working' || state.value.stopped !== undefined) return
    const deed = deedOf(event)
    if (!deed) return
    event.preventDefault()
    deed()
  }
  onMounted(() => addEventListener('keydown', press))
  onBeforeUnmount(() => removeEventListener('keydown', press))
  return { menu }
}

/** What one does in the room while a section runs: by key, by thumb, or by mouse. */
export function useWorking(attending: Attending, room: () => Room, view: () => RoomView | undefined) {
  const shown = useShown(attending, room, view)
  const deeds = useDeeds(attending, shown)
  return { ...shown, ...deeds, ...useKeys(attending, shown, deeds) }
}
