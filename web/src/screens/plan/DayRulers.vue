<script setup lang="ts">
import { computed, nextTick, onMounted, ref, shallowRef } from 'vue'
import type { StoredSession } from '@climber/contract'
import { dayNumber, isOpen, isTimed, minuteOf, statusOn, timeOf, weekdayOf } from '@climber/core'
import { thatFits, useFonts } from '../../manners/fitting'
import { kindWord, statusWords } from '../../manners/kinds'
import { useWidth } from '../../manners/size'
import { dateWords, durationWords, endOf, weekdayName } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import type { Arranging } from './arranging'
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
const place = computed(() => workspace.sitting?.place)
const movable = (session: StoredSession) => isOpen(session, workspace.today)
const endMinute = ({ start, minutes }: StoredSession) => minuteOf(start) + minutes

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
const widthOf = ({ date }: { date: string }, from: number, to: number) =>
  lineOf(date).at(to) - lineOf(date).at(from)
const widthOfSession = (session: StoredSession) =>
  widthOf(session, minuteOf(session.start), endMinute(session))
/** Where a stretch of a day lies, as CSS has it. */
const lies = (day: { date: string }, from: number, to: number) => ({
  left: `${lineOf(day.date).at(from)}px`,
  width: `${widthOf(day, from, to)}px`,
})
const span = (day: RulerDay, { from, to }: { from: string; to: string }) =>
  lies(day, minuteOf(from), minuteOf(to))
/** Behind what still stands on a day off. */
const clearOf = ({ date, sessions }: RulerDay) =>
  `${sessions.length ? lineOf(date).at(Math.max(...sessions.map(endMinute))) : 0}px`
const fonts = useFonts()
/** Lines of a name that a day's height has. */
const linesOn = computed(() => ({ 1: 3, 2: 2 })[props.weeksShown] ?? 1)
/** What is written on a session: as much of its name as there is room for. */
const nameOn = computed(() => {
  void fonts.value
  const small = props.weeksShown === 6
  const font = `${small ? 10.5 : 12.5}px 'Source Sans 3 Variable', sans-serif`
  return (session: StoredSession): string => {
    const width = widthOfSession(session)
    const room = width - edgeOf(session, width)
    const names = workspace.labelsOf(session)
    return thatFits(names, room, font, linesOn.value)
  }
})
/** Pixels below which a session's texture is narrow. */
const tight = 56
/** Pixels that the edges and the texture of a session take, as the style below has them. */
const edgeOf = ({ kind }: StoredSession, width: number): number =>
  kind === 'drill' || kind === 'mixed' ? (width < tight ? 11 : 19) : width < tight ? 7 : 12
const isTight = (session: StoredSession) => widthOfSession(session) < tight
const labelOf = (session: StoredSession) =>
  `${dateWords(session.date)} ${session.start} to ${endOf(session.start, session.minutes)}: ${kindWord(session)}, ${workspace.titleOf(session)}, ${statusWords[statusOn(session, workspace.today)]}${session.pinned ? ', pinned' : ''}`

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
const snapped = (minute: number) => Math.round(minute / snap) * snap

interface Grip {
  session: { minutes: number; start?: string; date?: string }
  /** Minutes from the piece's start to where it was taken. */
  offset: number
  stretch: boolean
  x: number
  y: number
  begun: boolean
  begin: () => void
}
let grip: Grip | undefined
function grab(event: PointerEvent, session: StoredSession, stretch = false): void {
  if (event.button !== 0 || !movable(session)) return
  const at = placeAt(event)
  const what = {
    session,
    offset: at ? at.minute - minuteOf(session.start) : 0,
    stretch,
    begin: () => props.arranging.lift(session),
  }
  if (event.pointerType === 'touch') rest(event, what)
  else take(event, what)
}
/** Milliseconds that a finger rests on a session before it is lifted: until then it may be scrolling. */
const restFor = 350
/** A finger lifts a session by resting on it. */
function rest(event: PointerEvent, what: Omit<Grip, 'x' | 'y' | 'begun'>): void {
  const end = () => {
    clearTimeout(timer)
    removeEventListener('pointermove', moved)
    for (const name of ['pointerup', 'pointercancel']) removeEventListener(name, end)
  }
  const moved = ({ clientX, clientY }: PointerEvent) => {
    if (Math.hypot(clientX - event.clientX, clientY - event.clientY) > 8) end()
  }
  const timer = setTimeout(() => {
    end()
    take(event, what)
    grip!.begun = true
    what.begin()
  }, restFor)
  addEventListener('pointermove', moved)
  for (const name of ['pointerup', 'pointercancel']) addEventListener(name, end, { once: true })
}
/** What is held does not scroll the page. */
const still = (event: TouchEvent) => {
  if (grip?.begun) event.preventDefault()
}
onMounted(() => rulers.value?.addEventListener('touchmove', still, { passive: false }))
function take(event: PointerEvent, what: Omit<Grip, 'x' | 'y' | 'begun'>): void {
  grip = { ...what, x: event.clientX, y: event.clientY, begun: false }
  addEventListener('pointermove', drag)
  addEventListener('pointerup', drop, { once: true })
  addEventListener('keydown', cancel)
}
function drag(event: PointerEvent): void {
  if (!grip) return
  if (!grip.begun) {
    if (Math.hypot(event.clientX - grip.x, event.clientY - grip.y) < 5) return
    grip.begun = true
    grip.begin()
  }
  const at = placeAt(event)
  if (!at) return
  const { session, offset, stretch } = grip
  if (stretch)
    props.arranging.over({
      date: session.date!,
      start: session.start!,
      minutes: Math.max(snap, snapped(at.minute - minuteOf(session.start!))),
    })
  else
    props.arranging.over({
      date: at.date,
      start: timeOf(Math.min(1440 - session.minutes, Math.max(0, snapped(at.minute - offset)))),
      minutes: session.minutes,
    })
}
function release(): void {
  removeEventListener('pointermove', drag)
  removeEventListener('keydown', cancel)
  grip = undefined
}
function drop(): void {
  const begun = grip?.begun
  release()
  if (begun) void props.arranging.putDown()
}
function cancel(event: KeyboardEvent): void {
  if (event.key !== 'Escape') return
  removeEventListener('pointerup', drop)
  release()
  props.arranging.letGo()
}
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
    <div
      v-for="day in days"
      :key="day.day"
      class="day"
      :class="{ monday: day.monday, today: day.date === workspace.today, past: day.past, exam: day.exam }"
    >
      <span class="name"
        >{{
          weeksShown === 6 ? weekdayName(weekdayOf(day.day)).slice(0, 2) : weekdayName(weekdayOf(day.day))
        }}
        {{ dateWords(day.date).split(' ').slice(1).join(' ') }}</span
      >
      <span class="from" aria-hidden="true">{{ day.stretches[0] ? timeOf(day.stretches[0][0]) : '' }}</span>
      <span class="track" :data-date="day.date">
        <template v-if="day.stretches.length">
          <span
            v-for="hour in lineOf(day.date).hours"
            :key="hour"
            class="tick"
            :style="{ left: `${lineOf(day.date).at(hour * 60)}px` }"
          />
        </template>
        <span
          v-for="[from, to] in lineOf(day.date).folds"
          :key="`fold${from}`"
          class="fold"
          :style="lies(day, from, to)"
          >{{ timeOf(to) }}</span
        >
        <span
          v-for="(window, at) in day.free"
          :key="`free${at}`"
          class="free"
          :class="{ light: window.light }"
          :style="span(day, window)"
        />
        <span v-for="(taken, at) in day.busy" :key="`busy${at}`" class="busy" :style="span(day, taken)" />
        <span v-if="day.exam" class="exam-word"
          >{{ workspace.sitting!.start }} Exam{{ place ? `, ${place}` : '' }}</span
        >
        <span v-else-if="day.off" class="off-word" :style="{ marginLeft: clearOf(day) }">{{
          day.holiday ?? 'day off'
        }}</span>
        <button
          v-for="session in day.sessions"
          :key="session.id"
          type="button"
          class="kind session"
          :class="[
            `kind-${session.kind}`,
            `state-${statusOn(session, workspace.today)}`,
            {
              chosen: session.id === chosen,
              pinned: session.pinned,
              lifted: session.id === held?.id,
              movable: movable(session),
              tight: isTight(session),
              timed: session.kind !== 'test' && isTimed(session),
            },
          ]"
          :style="lies(day, minuteOf(session.start), endMinute(session))"
          :tabindex="session.id === chosen ? 0 : -1"
          :data-session="session.id"
          :aria-label="labelOf(session)"
          :aria-pressed="session.id === chosen"
          @click="chosen = session.id"
          @focus="chosen = session.id"
          @pointerdown="grab($event, session)"
        >
          <span v-if="weeksShown === 1" class="when">{{ session.start }}</span>
          <span class="word">{{ nameOn(session) }}</span>
          <span
            v-if="movable(session) && session.kind !== 'test'"
            class="pull"
            @pointerdown.stop="grab($event, session, true)"
          />
        </button>
        <span
          v-if="held && spot?.date === day.date"
          class="ghost"
          :class="refusal ? 'no' : 'yes'"
          :style="lies(day, minuteOf(spot.start), minuteOf(spot.start) + spot.minutes)"
        >
          <span class="bubble" :class="{ flip: lineOf(day.date).at(minuteOf(spot.start)) > pixels / 2 }"
            ><strong>{{ spot.start }} to {{ endOf(spot.start, spot.minutes) }}</strong
            >{{ refusal ? ` ${refusal}` : '' }}</span
          >
        </span>
      </span>
      <span class="total small">
        <template v-if="day.monday && week(day.day)"
          >{{ durationWords(week(day.day)!.plannedMinutes)
          }}<span class="soft"> of {{ durationWords(week(day.day)!.freeMinutes) }}</span></template
        >
      </span>
    </div>
    <p class="only-reader" aria-live="assertive">
      <template v-if="held && spot"
        >{{ workspace.titleOf(held) }}: {{ dateWords(spot.date) }}, {{ spot.start }},
        {{ spot.minutes }} minutes. {{ refusal ?? 'It may stand there.' }}</template
      >
    </p>
  </div>
</template>

<style scoped>
.day,
.measure {
  display: grid;
  grid-template-columns: 66px 30px 1fr 104px;
  gap: 8px;
  align-items: stretch;
}
.weeks-6 .day {
  height: 14px;
}
.weeks-2 .day {
  height: 40px;
}
.weeks-1 .day {
  height: 62px;
}
.measure {
  height: 0;
}
.day.monday {
  border-top: 1px solid var(--ink);
}
.name {
  font-size: 11.5px;
  line-height: 14px;
  color: var(--soft);
  white-space: nowrap;
}
.today .name {
  color: var(--clay-text);
  font-weight: 700;
}
.track {
  position: relative;
  border-bottom: 1px solid var(--hair);
}
.tick {
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: 1px solid var(--hair);
  opacity: 0.6;
}
.free,
.busy {
  position: absolute;
  top: 0;
  bottom: 0;
}
.free {
  background: var(--faint);
}
.free.light {
  background: none;
  border: 1px dotted var(--lichen);
  border-width: 1px 0;
}
.busy {
  background: repeating-linear-gradient(45deg, var(--soft) 0 1px, transparent 1px 5px);
  opacity: 0.75;
}
.past .free,
.past .busy {
  opacity: 0.4;
}
.session {
  position: absolute;
  top: 1px;
  bottom: 1px;
  padding: 0 4px;
  overflow: hidden;
  text-align: left;
  font: inherit;
  font-size: 10.5px;
  line-height: 10px;
  cursor: pointer;
  white-space: nowrap;
}
.session.tight {
  padding: 0 2px;
}
.session.tight.kind-drill,
.session.tight.kind-mixed {
  padding-left: 7px !important;
  background-size: 5px 100%;
}
/* Under the clock: a bar below, as heavy as a test is dark. */
.session.timed {
  border-bottom: 3px solid var(--ink);
}
.weeks-6 .session.timed {
  border-bottom-width: 2px;
  line-height: 9px;
}
.fold {
  position: absolute;
  top: 0;
  bottom: -1px;
  font-size: 10.5px;
  line-height: 14px;
  text-align: right;
  padding-right: 3px;
  color: var(--soft);
  background: var(--ground);
}
.from {
  font-size: 10.5px;
  line-height: 14px;
  text-align: right;
  color: var(--soft);
}
.session.movable {
  cursor: grab;
}
.session.kind-review {
  border-width: 1px 3px;
}
.weeks-6 .session {
  padding-top: 0;
  padding-bottom: 0;
}
.when {
  display: block;
  color: var(--soft);
  font-size: 11px;
}
.kind-test .when {
  color: inherit;
}
.session.pinned::before {
  content: '';
  position: absolute;
  top: 0;
  left: 50%;
  width: 5px;
  height: 5px;
  border-radius: 50%;
  background: var(--clay);
}
.session.lifted {
  opacity: 0.35;
}
.pull {
  position: absolute;
  top: 0;
  bottom: 0;
  right: 0;
  width: 7px;
  cursor: ew-resize;
}
.holding,
.holding .session {
  cursor: grabbing;
  user-select: none;
}
.ghost {
  position: absolute;
  top: -2px;
  bottom: -2px;
  z-index: 4;
  pointer-events: none;
  border: 2px solid var(--lichen);
  background: var(--wash);
}
.ghost.no {
  border-color: var(--clay);
  border-style: dashed;
}
.bubble {
  position: absolute;
  left: calc(100% + 6px);
  top: 50%;
  transform: translateY(-50%);
  width: max-content;
  max-width: 300px;
  padding: 2px 8px;
  font-size: 12.5px;
  line-height: 1.25;
  background: var(--paper);
  border: 1px solid var(--ink);
  color: var(--ink);
  z-index: 5;
}
.bubble.flip {
  left: auto;
  right: calc(100% + 6px);
}
.no .bubble {
  border-color: var(--clay);
}
.weeks-2 .session,
.weeks-1 .session {
  font-size: 12.5px;
  line-height: 1.2;
  white-space: normal;
}
.session.kind-test {
  top: -3px;
  bottom: -3px;
  z-index: 1;
  font-weight: 650;
}
.chosen {
  outline: 2px solid var(--ochre);
  z-index: 2;
}
.total {
  line-height: 14px;
  font-size: 12px;
  text-align: right;
  white-space: nowrap;
}
.exam .track {
  background: var(--clay);
}
.exam-word,
.off-word {
  position: absolute;
  left: 6px;
  font-size: 11px;
  line-height: 13px;
  font-weight: 600;
}
.exam-word {
  color: var(--ground);
}
.off-word {
  color: var(--soft);
  white-space: nowrap;
}
</style>
