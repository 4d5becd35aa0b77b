<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import type { Availability } from '@climber/contract'
import { stillWhile, whenRested } from '../manners/finger'
import { minuteOf, timeOf } from '@climber/core'
import { durationWords, weekdayName } from '../manners/words'

/** A week of half-hours: drag to paint a block of free time, over days and hours, or Space; Shift and an arrow key paint along. */
type Windows = Availability['windows']
const windows = defineModel<Windows>({ required: true })
/** What is painted takes light work only. */
const props = defineProps<{ light?: boolean }>()

const firstSlot = 12
const lastSlot = 46
const slots = Array.from({ length: lastSlot - firstSlot }, (_, at) => firstSlot + at)
const cells = computed(() => {
  const free = new Map<string, 'free' | 'light'>()
  for (const { weekday, from, to, light } of windows.value)
    for (let slot = Math.floor(minuteOf(from) / 30); slot * 30 < minuteOf(to); slot++)
      free.set(`${weekday}.${slot}`, light ? 'light' : 'free')
  return free
})
const painted = computed(() => (props.light ? 'light' : 'free'))
const totals = computed(() =>
  Array.from({ length: 7 }, (_, day) =>
    windows.value
      .filter(({ weekday, light }) => weekday === day + 1 && !light)
      .reduce((sum, { from, to }) => sum + minuteOf(to) - minuteOf(from), 0),
  ),
)

/** A weekday of `of` with a run of half-hours freed or taken; the rest of the day keeps its exact times. */
function dayPainted(of: Windows, weekday: number, [first, last]: [number, number], free: boolean): Windows {
  const minutes = new Map<number, boolean>()
  for (const window of of)
    if (window.weekday === weekday)
      for (let minute = minuteOf(window.from); minute < minuteOf(window.to); minute++)
        minutes.set(minute, Boolean(window.light))
  for (let minute = first * 30; minute < last * 30 + 30; minute++) {
    if (free) minutes.set(minute, props.light)
    else minutes.delete(minute)
  }
  const day: Windows = []
  const sorted = [...minutes].sort(([a], [b]) => a - b)
  for (const [minute, light] of sorted) {
    const open = day[day.length - 1]
    if (open && minuteOf(open.to) === minute && Boolean(open.light) === light) open.to = timeOf(minute + 1)
    else day.push({ weekday, from: timeOf(minute), to: timeOf(minute + 1), ...(light && { light }) })
  }
  return day
}

interface Cell {
  weekday: number
  slot: number
}
const inOrder = (one: number, other: number): [number, number] => [Math.min(one, other), Math.max(one, other)]
/** Frees or takes all half-hours between two corners; all in one assignment, since the model only shows the new value later. */
function paint(of: Windows, from: Cell, to: Cell, free: boolean): void {
  const [firstDay, lastDay] = inOrder(from.weekday, to.weekday)
  const slots = inOrder(from.slot, to.slot)
  const isPainted = ({ weekday }: { weekday: number }) => weekday >= firstDay && weekday <= lastDay
  const days = [1, 2, 3, 4, 5, 6, 7].filter((weekday) => isPainted({ weekday }))
  windows.value = [
    ...of.filter((window) => !isPainted(window)),
    ...days.flatMap((weekday) => dayPainted(of, weekday, slots, free)),
  ].sort((a, b) => a.weekday - b.weekday || a.from.localeCompare(b.from))
}

const at = ref<Cell>({ weekday: 1, slot: 36 })
/** A block being painted: its first corner, whether it frees, and the week as it was. */
let stroke: { corner: Cell; free: boolean; before: Windows } | undefined
/** Paints one half-hour, or takes it back; answers what a block would go on from. */
function dab(corner: Cell): NonNullable<typeof stroke> {
  const before = windows.value
  const free = cells.value.get(`${corner.weekday}.${corner.slot}`) !== painted.value
  at.value = corner
  paint(before, corner, corner, free)
  return { corner, free, before }
}
const lift = (): void => void (stroke = undefined)
const lifting = ['pointerup', 'pointercancel'] as const
onMounted(() => lifting.forEach((name) => addEventListener(name, lift)))
onBeforeUnmount(() => lifting.forEach((name) => removeEventListener(name, lift)))
/** A mouse paints at once; a finger taps, or rests first and paints along, since it may be scrolling. */
function press(weekday: number, slot: number, event: PointerEvent): void {
  const corner = { weekday, slot }
  ;(event.target as Element).releasePointerCapture?.(event.pointerId)
  const hold = (): void => void (stroke = dab(corner))
  if (event.pointerType === 'touch') whenRested(event, hold, () => dab(corner))
  else hold()
}
function along(weekday: number, slot: number): void {
  if (stroke) paint(stroke.before, stroke.corner, { weekday, slot }, stroke.free)
}
const grid = ref<HTMLElement | null>(null)
stillWhile(grid, () => stroke !== undefined)
function key(event: KeyboardEvent): void {
  const { weekday, slot } = at.value
  const moves: Record<string, [number, number]> = {
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
    ArrowLeft: [0, -1],
    ArrowRight: [0, 1],
  }
  const free = cells.value.get(`${weekday}.${slot}`) === painted.value
  if (event.key === ' ' || event.key === 'Enter') paint(windows.value, at.value, at.value, !free)
  else if (moves[event.key]) {
    const [down, right] = moves[event.key]!
    const next = {
      weekday: Math.min(7, Math.max(1, weekday + down)),
      slot: Math.min(lastSlot - 1, Math.max(firstSlot, slot + right)),
    }
    if (event.shiftKey) paint(windows.value, next, next, free)
    at.value = next
    const cell = grid.value?.querySelector<HTMLElement>(`[data-cell="${next.weekday}.${next.slot}"]`)
    requestAnimationFrame(() => cell?.focus())
  } else return
  event.preventDefault()
}
</script>

<template>
  <div ref="grid" class="painter" role="grid" aria-label="Free time of a week, in half-hours" @keydown="key">
    <div class="line head" role="row" aria-hidden="true">
      <span class="day" />
      <span class="cells"
        ><span v-for="slot in slots" :key="slot" class="hour">{{
          slot % 4 === 0 ? slot / 2 : ''
        }}</span></span
      >
      <span class="total" />
    </div>
    <div v-for="weekday in 7" :key="weekday" class="line" role="row">
      <span class="day" role="rowheader">{{ weekdayName(weekday) }}</span>
      <span class="cells" role="presentation">
        <button
          v-for="slot in slots"
          :key="slot"
          type="button"
          role="gridcell"
          class="cell"
          :class="[cells.get(`${weekday}.${slot}`), { even: slot % 2 === 0 }]"
          :data-cell="`${weekday}.${slot}`"
          :tabindex="at.weekday === weekday && at.slot === slot ? 0 : -1"
          :aria-selected="cells.has(`${weekday}.${slot}`)"
          :aria-label="`${weekdayName(weekday)} ${timeOf(slot * 30)}: ${{ free: 'free', light: 'light work only' }[cells.get(`${weekday}.${slot}`)!] ?? 'not free'}`"
          @pointerdown.prevent="press(weekday, slot, $event)"
          @pointerenter="along(weekday, slot)"
          @focus="at = { weekday, slot }"
        />
      </span>
      <span class="total soft" role="gridcell">{{
        totals[weekday - 1] ? durationWords(totals[weekday - 1]!) : ''
      }}</span>
    </div>
  </div>
</template>

<style scoped>
.painter {
  user-select: none;
  touch-action: pan-x pan-y;
}
.line {
  display: grid;
  grid-template-columns: 40px 1fr 66px;
  align-items: center;
  gap: 6px;
}
.cells {
  display: grid;
  grid-template-columns: repeat(34, 1fr);
  border-right: 1px solid var(--hair);
}
.cell {
  height: 26px;
  padding: 0;
  border: 0;
  border-bottom: 1px solid var(--hair);
  background: var(--paper);
  cursor: crosshair;
}
.cell.even {
  border-left: 1px solid var(--hair);
}
.cell.free {
  background: var(--lichen);
}
.cell.light {
  background: repeating-linear-gradient(45deg, var(--lichen) 0 2px, transparent 2px 6px);
}
.cell:focus-visible {
  outline-offset: -2px;
}
.hour {
  font-size: 12px;
  color: var(--soft);
  white-space: nowrap;
  overflow: visible;
  width: 0;
}
.total {
  font-size: 13px;
  text-align: right;
}
/* On a phone the week stands upright: days across, half-hours down, each as wide as a thumb. */
@media (max-width: 700px) {
  .painter {
    display: grid;
    grid-template-columns: 26px repeat(7, 1fr);
  }
  .line {
    display: flex;
    flex-direction: column;
    align-items: stretch;
    gap: 0;
  }
  .day,
  .total {
    height: 22px;
    font-size: 12px;
    text-align: center;
    white-space: nowrap;
  }
  .cells {
    grid-template-columns: 1fr;
    grid-template-rows: repeat(34, 17px);
    border: 0;
  }
  .cell,
  .hour {
    height: 17px;
  }
  .cell {
    border-left: 1px solid var(--hair);
    border-bottom-color: transparent;
  }
  .cell.even {
    border-top: 1px solid var(--hair);
  }
}
</style>
