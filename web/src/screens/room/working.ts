import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Confidence } from '@climber/contract'
import { hasKeys, type ItemState, lettersOf, paceOf, railOf, type Room, type RoomView } from '@climber/core'
import type { Attending } from '../../stores/attending'

/** What one does in the room while a section runs: by key, by thumb, or by mouse. */
export function useWorking(attending: Attending, room: () => Room, view: () => RoomView | undefined) {
  const { state, now } = attending
  const listing = ref(false)
  const menu = ref(false)
  /** Figures typed to go to an item. */
  const typed = ref('')
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
  const stimulus = computed(() => room().form?.stimuli?.find(({ id }) => id === text.value?.stimulus))
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

  const go = (to: number): void => {
    listing.value = false
    typed.value = ''
    if (items.value.some((one) => one.item === to)) attending.press({ kind: 'go', item: to })
  }
  /** On to the next item; behind the last to the list of all. */
  function on(by = 1): void {
    if (!item.value) return
    const place = items.value.findIndex((one) => one.item === item.value?.item) + by
    const next = items.value[place]
    if (next) go(next.item)
    else if (by > 0) listing.value = true
  }
  function answer(given: string, step = true): void {
    const { value: own } = item
    if (!own) return
    attending.press({ kind: 'answer', item: own.item, answer: given })
    if (onPaper.value && !own.done) attending.press({ kind: 'done', item: own.item })
    if (step) on()
  }
  function doubt(confidence: Confidence): void {
    const { value: own } = item
    if (own)
      attending.press({
        kind: 'doubt',
        item: own.item,
        confidence: own.confidence === confidence ? null : confidence,
      })
  }
  function strike(option: string): void {
    const { value: own } = item
    if (own) attending.press({ kind: 'strike', item: own.item, option, struck: !own.struck.has(option) })
  }
  function leave(): void {
    if (!item.value) return
    attending.press({ kind: 'leave', item: item.value.item })
    on()
  }
  function done(): void {
    if (!item.value) return
    attending.press({ kind: 'done', item: item.value.item })
    on()
  }
  const nextCheckpoint = computed(() => rail.value?.next?.item ?? items.value[items.value.length - 1]?.item)
  function checkpoint(): void {
    if (nextCheckpoint.value !== undefined)
      attending.press({ kind: 'checkpoint', item: nextCheckpoint.value })
  }
  function handIn(stage?: string): void {
    listing.value = false
    if (firstStage.value) attending.press({ kind: 'stage', ...(stage && { to: stage }) })
    else attending.press({ kind: 'close' })
  }

  // Where single items are pressed, one of them is always taken up.
  watch(
    () => [
      state.value?.phase,
      state.value?.at,
      part.value?.stage?.id,
      attending.holds.value,
      item.value?.item,
    ],
    () => {
      const [first] = items.value
      if (state.value?.phase !== 'working' || byCheckpoints.value || item.value || !first) return
      if (state.value.stopped === undefined) attending.press({ kind: 'go', item: first.item })
    },
    { immediate: true },
  )

  const fixed: Record<string, () => void> = {
    '?': () => doubt('between two'),
    ' ': leave,
    ArrowRight: () => on(),
    ArrowDown: () => on(),
    ArrowLeft: () => on(-1),
    ArrowUp: () => on(-1),
    Escape: () => (menu.value = !menu.value),
  }
  function enter(): void {
    if (byCheckpoints.value) checkpoint()
    else if (typed.value) go(Number(typed.value))
    else if (onPaper.value) done()
    else listing.value = true
  }
  function press(event: KeyboardEvent): void {
    const { key, target } = event
    if (event.ctrlKey || event.metaKey || event.altKey || event.repeat || listing.value) return
    if (state.value?.phase !== 'working' || state.value.stopped !== undefined) return
    // Whoever writes a number writes it in its field; a button that has the focus is pressed.
    if (target instanceof HTMLInputElement) return
    if (target instanceof HTMLButtonElement && (key === ' ' || key === 'Enter')) return
    if (menu.value && key !== 'Escape') return
    const letter = key.length === 1 ? key.toUpperCase() : ''
    if (key === 'Enter') enter()
    else if (/^\d$/.test(key)) {
      if (key === '0' && !typed.value) doubt('no idea')
      else typed.value = (typed.value + key).slice(-4)
    } else if (letter && letters.value.includes(letter)) {
      if (event.shiftKey) strike(letter)
      else answer(letter)
    } else if (fixed[key] && !byCheckpoints.value) fixed[key]()
    else if (key === 'Escape') fixed[key]!()
    else return
    event.preventDefault()
  }
  onMounted(() => addEventListener('keydown', press))
  onBeforeUnmount(() => removeEventListener('keydown', press))

  return {
    listing,
    menu,
    typed,
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
    go,
    on,
    answer,
    doubt,
    strike,
    leave,
    done,
    checkpoint,
    handIn,
  }
}
