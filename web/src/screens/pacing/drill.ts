import { computed, onBeforeUnmount, reactive, ref } from 'vue'

/** One item of a set that is being done. */
export interface DrillItem {
  seconds: number
  left: boolean
  right: boolean | null
}
export interface RunningDrill {
  section: string
  group: string
  budgetSeconds: number
  count: number
  items: DrillItem[]
  /** Milliseconds on the clock of the item under way before it was interrupted. */
  spent: number
}

/** Seconds since the start, of `item` under way, ahead of the pace, and for the whole set. */
function paceOf(drill: RunningDrill | undefined, item: number) {
  if (!drill) return { spent: 0, item: 0, ahead: 0, whole: 0 }
  const { items, budgetSeconds, count } = drill
  const spent = items.reduce((sum, { seconds }) => sum + seconds, 0) + item
  // Behind only once the item under way has used up its own time.
  const due = Math.max(items.length * budgetSeconds, Math.min(spent, (items.length + 1) * budgetSeconds))
  return { spent, item, ahead: due - spent, whole: count * budgetSeconds }
}

/**
 * A short set against the clock. It is written to the browser after every item, so that a closed tab loses at most the item
 * under way; opened again, the clock goes on from there.
 */
export function useDrill(key: string) {
  const state = reactive<{ drill?: RunningDrill }>({})
  let began = 0
  const now = ref(0)
  const read = () => performance.now()
  const keep = () =>
    state.drill
      ? localStorage.setItem(key, JSON.stringify({ ...state.drill, spent: itemSeconds() * 1000 }))
      : localStorage.removeItem(key)
  const itemSeconds = (): number => (state.drill ? (state.drill.spent + read() - began) / 1000 : 0)

  const running = computed(() => Boolean(state.drill && state.drill.items.length < state.drill.count))
  const marking = computed(() => Boolean(state.drill && !running.value))
  const clock = computed(() => {
    void now.value
    return paceOf(state.drill, running.value ? itemSeconds() : 0)
  })

  let frame = 0
  const look = () => {
    now.value = read()
    frame = requestAnimationFrame(look)
  }
  frame = requestAnimationFrame(look)
  const leave = () => keep()
  addEventListener('pagehide', leave)
  onBeforeUnmount(() => {
    keep()
    cancelAnimationFrame(frame)
    removeEventListener('pagehide', leave)
  })

  function start(drill: Pick<RunningDrill, 'section' | 'group' | 'budgetSeconds' | 'count'>): void {
    state.drill = { ...drill, items: [], spent: 0 }
    began = read()
    keep()
  }
  function next(left: boolean): void {
    const { drill } = state
    if (!drill || !running.value) return
    const seconds = Math.round(itemSeconds() * 10) / 10
    drill.items.push({ seconds, left, right: left ? null : true })
    drill.spent = 0
    began = read()
    keep()
  }
  /** Takes the last item back; its time goes on. */
  function back(): void {
    const { drill } = state
    const last = drill?.items.pop()
    if (!drill || !last) return
    drill.spent =
      last.seconds * 1000 + (running.value && drill.items.length < drill.count - 1 ? itemSeconds() * 1000 : 0)
    began = read()
    keep()
  }
  function mark(at: number, right: boolean | null): void {
    const item = state.drill?.items[at]
    if (item) item.right = right
    keep()
  }
  function end(): void {
    state.drill = undefined
    keep()
  }

  const stored = localStorage.getItem(key)
  if (stored)
    try {
      state.drill = JSON.parse(stored) as RunningDrill
      began = read()
    } catch {
      localStorage.removeItem(key)
    }

  return { state, running, marking, clock, start, next, back, mark, end }
}
