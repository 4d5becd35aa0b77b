<script setup lang="ts">
import { computed, nextTick, ref, shallowRef } from 'vue'
import type { StoredSession } from '@climber/contract'
import { dayNumber, isOpen, minuteOf } from '@climber/core'
import { useWidth } from '../../manners/size'
import { dateWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import type { Arranging } from './arranging'
import DayRow from './DayRow.vue'
import { useDragging } from './dragging'
import { snap } from './holding'
import { elastic, perMinuteOf } from './elastic'
import { type RulerDay, useDays } from './ruler'

/**
 * Days down, each on a ruler of its own hours: those in which nothing is and nothing may be are folded away, and an hour is as wide
 * on one day as on another. A session is dragged along and between the rulers, pulled at its end, or moved by keys; where it may
 * not lie is said at the spot.
 */
const props = defineProps<{ weeksShown: number; arranging: Arranging }>()
const chosen = defineModel<string>('chosen')
const workspace = useWorkspace()
const days = useDays(() => props.weeksShown)
const { held, spot, refusal } = props.arranging
const week = (monday: number) => workspace.plan?.weeks.find(({ from }) => dayNumber(from) === monday)
const visible = computed(() => days.value.flatMap((day) => day.sessions))
const movable = (session: StoredSession) => isOpen(session, workspace.today)

const line = shallowRef<HTMLElement | null>(null)
const pixels = useWidth(line)
/** Each day's ruler. */
const lines = computed(() => {
  const perMinute = perMinuteOf(
    days.value.map(({ stretches }) => stretches),
    pixels.value,
  )
  return new Map(days.value.map(({ date, stretches }) => [date, elastic(stretches, perMinute)]))
})
const lineOf = (date: string) => lines.value.get(date) ?? elastic([], 1)
/** An id, where its session stands on the day. */
const on = ({ sessions }: RulerDay, id: string | undefined) =>
  id !== undefined && sessions.some((session) => session.id === id) ? id : undefined

const rulers = ref<HTMLElement | null>(null)
/** The day and the minute under the pointer. */
function placeAt(event: PointerEvent): { date: string; minute: number } | undefined {
  for (const track of rulers.value?.querySelectorAll<HTMLElement>('.track[data-date]') ?? []) {
    const box = track.getBoundingClientRect()
    if (event.clientY < box.top || event.clientY >= box.bottom) continue
    const date = track.dataset.date!
    return { date, minute: lineOf(date).minuteAt(event.clientX - box.left) }
  }
  return undefined
}
const { grab, take } = useDragging(rulers, props.arranging, placeAt)
/** A piece of the tray, taken by the pointer. */
defineExpose({
  carry: (event: PointerEvent, minutes: number, begin: () => void) =>
    take(event, { session: { minutes }, offset: minutes / 2, stretch: false, begin }),
})

const focusOn = (id: string) =>
  void nextTick(() => rulers.value?.querySelector<HTMLElement>(`[data-session="${CSS.escape(id)}"]`)?.focus())
function besides(here: StoredSession, down: number): StoredSession | undefined {
  const list = down > 0 ? visible.value : [...visible.value].reverse()
  const other = list.find(({ date }) => (down > 0 ? date > here.date : date < here.date))
  return visible.value
    .filter(({ date }) => date === other?.date)
    .sort(
      (a, b) =>
        Math.abs(minuteOf(a.start) - minuteOf(here.start)) -
        Math.abs(minuteOf(b.start) - minuteOf(here.start)),
    )[0]
}
const arrows: Record<string, [minutes: number, days: number]> = {
  ArrowLeft: [-15, 0],
  ArrowRight: [15, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}
async function key(event: KeyboardEvent): Promise<void> {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  const at = visible.value.findIndex(({ id }) => id === chosen.value)
  const here = visible.value[at]
  if (!here) return
  const { arranging } = props
  const arrow = arrows[event.key]
  if (held.value) {
    if (arrow) arranging.step(...arrow)
    else if (event.key === '+') arranging.step(0, 0, snap)
    else if (event.key === '-') arranging.step(0, 0, -snap)
    else if (event.key === 'Escape') arranging.letGo()
    else if (event.key === 'Enter') {
      event.preventDefault()
      await arranging.putDown()
      focusOn(here.id)
    } else return
    event.preventDefault()
    return
  }
  const lengthen = event.key === '+' ? snap : event.key === '-' ? -snap : 0
  if (arrow) {
    const next = arrow[1] ? besides(here, arrow[1]) : visible.value[at + Math.sign(arrow[0])]
    if (!next) return
    chosen.value = next.id
    focusOn(next.id)
  } else if (!movable(here)) return
  else if (event.key === 'm') arranging.lift(here)
  else if (lengthen) {
    arranging.lift(here)
    arranging.step(0, 0, lengthen)
    await arranging.putDown()
    focusOn(here.id)
  } else if (event.key === 'i') {
    await arranging.arrange([{ id: here.id, pinned: !here.pinned }], here.pinned ? 'Let go.' : 'Pinned.')
    focusOn(here.id)
  } else if (event.key === 'x') await arranging.arrange([{ id: here.id, lifted: true }], 'In the tray.')
  else return
  event.preventDefault()
}
</script>

<template>
  <div ref="rulers" class="rulers" :class="[`weeks-${weeksShown}`, { holding: held }]" @keydown="key">
    <!-- As wide as each ruler is. -->
    <div class="measure" aria-hidden="true"><span /><span /><span ref="line" /><span /></div>
    <DayRow
      v-for="day in days"
      :key="day.day"
      :day="day"
      :line="lineOf(day.date)"
      :weeks-shown="weeksShown"
      :room="pixels"
      :chosen="on(day, chosen)"
      :lifted="on(day, held?.id)"
      :spot="held && spot?.date === day.date ? spot : undefined"
      :refusal="held && spot?.date === day.date ? refusal : undefined"
      :week="day.monday ? week(day.day) : undefined"
      @choose="chosen = $event"
      @grab="(event, session, stretch) => movable(session) && grab(event, session, stretch)"
    />
    <p class="only-reader" aria-live="assertive">
      <template v-if="held && spot"
        >{{ workspace.titleOf(held) }}: {{ dateWords(spot.date) }}, {{ spot.start }},
        {{ spot.minutes }} minutes. {{ refusal ?? 'It may stand there.' }}</template
      >
    </p>
  </div>
</template>

<style scoped>
.rulers {
  /* Name, beginning, the line itself, the total. */
  --ruler: 66px 30px 1fr 104px;
}
.measure {
  display: grid;
  grid-template-columns: var(--ruler);
  gap: 8px;
  height: 0;
}
.holding {
  cursor: grabbing;
  user-select: none;
}
</style>
