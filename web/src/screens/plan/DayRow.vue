<script setup lang="ts">
import { computed } from 'vue'
import type { PlanWeek, StoredSession } from '@climber/contract'
import { changedLately, isOpen, isTimed, minuteOf, statusOn, timeOf, weekdayOf } from '@climber/core'
import { thatFits, useFonts } from '../../manners/fitting'
import { changeWords, kindWord, statusWords } from '../../manners/kinds'
import { dateWords, dayWords, durationWords, endOf, weekdayName } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import type { Elastic } from './elastic'
import type { RulerDay } from './ruler'

/** One day on its ruler. It is given only what concerns it, so that a press elsewhere does not draw it anew. */
const props = defineProps<{
  day: RulerDay
  line: Elastic
  weeksShown: number
  /** Pixels that a ruler has. */
  room: number
  chosen?: string
  lifted?: string
  /** Where a piece is held on this day, and what stands against it. */
  spot?: { start: string; minutes: number }
  refusal?: string
  week?: PlanWeek
}>()
defineEmits<{ choose: [id: string]; grab: [event: PointerEvent, session: StoredSession, stretch: boolean] }>()
const workspace = useWorkspace()
const place = computed(() => workspace.sitting?.place)
const movable = (session: StoredSession) => isOpen(session, workspace.today)
const endMinute = ({ start, minutes }: StoredSession) => minuteOf(start) + minutes
const widthOf = (from: number, to: number) => props.line.at(to) - props.line.at(from)
const widthOfSession = (session: StoredSession) => widthOf(minuteOf(session.start), endMinute(session))
/** Where a stretch of the day lies, as CSS has it. */
const lies = (from: number, to: number) => ({
  left: `${props.line.at(from)}px`,
  width: `${widthOf(from, to)}px`,
})
const span = ({ from, to }: { from: string; to: string }) => lies(minuteOf(from), minuteOf(to))
/** Behind what still stands on a day off. */
const clear = computed(() => {
  const { sessions } = props.day
  return `${sessions.length ? props.line.at(Math.max(...sessions.map(endMinute))) : 0}px`
})
const changed = (session: StoredSession) =>
  changedLately(session, workspace.today) ? `, ${changeWords(session)}` : ''
const fonts = useFonts()
/** Lines of a name that a day's height has. */
const linesOn = computed(() => ({ 1: 3, 2: 2 })[props.weeksShown] ?? 1)
/** Pixels below which a session's texture is narrow, and those below which its letters are small and little stands around them. */
const tight = 56
const tiny = 33
/** Pixels that the edges and the texture of a session take, as the style below has them. */
function edgeOf({ kind }: StoredSession, width: number): number {
  if (width < tiny) return 5
  const isTextured = kind === 'drill' || kind === 'mixed'
  return width < tight ? (isTextured ? 11 : 7) : isTextured ? 19 : 12
}
/** What is written on a session: as much of its name as there is room for; two letters where a day is so full that no more fits. */
const nameOn = computed(() => {
  void fonts.value
  const small = props.weeksShown === 6
  return (session: StoredSession): string => {
    const width = widthOfSession(session)
    const font = `${width < tiny ? 9.5 : small ? 10.5 : 12.5}px 'Source Sans 3 Variable', sans-serif`
    const names = workspace.labelsOf(session)
    const least = (names[names.length - 1] ?? '').slice(0, 2)
    return thatFits([...names, least], width - edgeOf(session, width), font, linesOn.value)
  }
})
const labelOf = (session: StoredSession) =>
  `${dateWords(session.date)} ${session.start} to ${endOf(session.start, session.minutes)}: ${kindWord(session)}, ${workspace.titleOf(session)}, ${statusWords[statusOn(session, workspace.today)]}${session.pinned ? ', pinned' : ''}${changed(session)}`
</script>

<template>
  <div
    class="day"
    :class="{ monday: day.monday, today: day.date === workspace.today, past: day.past, exam: day.exam }"
  >
    <span class="name"
      >{{ weeksShown === 6 ? weekdayName(weekdayOf(day.day)).slice(0, 2) : weekdayName(weekdayOf(day.day)) }}
      {{ dayWords(day.date) }}</span
    >
    <span class="from" aria-hidden="true">{{ day.stretches[0] ? timeOf(day.stretches[0][0]) : '' }}</span>
    <span class="track" :data-date="day.date">
      <template v-if="day.stretches.length">
        <span
          v-for="hour in line.hours"
          :key="hour"
          class="tick"
          :style="{ left: `${line.at(hour * 60)}px` }"
        />
      </template>
      <span v-for="[from, to] in line.folds" :key="`fold${from}`" class="fold" :style="lies(from, to)">{{
        timeOf(to)
      }}</span>
      <span
        v-for="(window, at) in day.free"
        :key="`free${at}`"
        class="free"
        :class="{ light: window.light }"
        :style="span(window)"
      />
      <span v-for="(taken, at) in day.busy" :key="`busy${at}`" class="busy" :style="span(taken)" />
      <span v-if="day.exam" class="exam-word"
        >{{ workspace.sitting!.start }} Exam{{ place ? `, ${place}` : '' }}</span
      >
      <span v-else-if="day.off" class="off-word" :style="{ marginLeft: clear }">{{
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
            lifted: session.id === lifted,
            movable: movable(session),
            tight: widthOfSession(session) < tight,
            tiny: widthOfSession(session) < tiny,
            timed: session.kind !== 'test' && isTimed(session),
            changed: changedLately(session, workspace.today),
          },
        ]"
        :style="lies(minuteOf(session.start), endMinute(session))"
        :tabindex="session.id === chosen ? 0 : -1"
        :data-session="session.id"
        :aria-label="labelOf(session)"
        :aria-pressed="session.id === chosen"
        @click="$emit('choose', session.id)"
        @focus="$emit('choose', session.id)"
        @pointerdown="$emit('grab', $event, session, false)"
      >
        <span v-if="weeksShown === 1" class="when">{{ session.start }}</span>
        <span class="word">{{ nameOn(session) }}</span>
        <span
          v-if="movable(session) && session.kind !== 'test'"
          class="pull"
          @pointerdown.stop="$emit('grab', $event, session, true)"
        />
      </button>
      <span
        v-if="spot"
        class="ghost"
        :class="refusal ? 'no' : 'yes'"
        :style="lies(minuteOf(spot.start), minuteOf(spot.start) + spot.minutes)"
      >
        <span class="bubble" :class="{ flip: line.at(minuteOf(spot.start)) > room / 2 }"
          ><strong>{{ spot.start }} to {{ endOf(spot.start, spot.minutes) }}</strong
          >{{ refusal ? ` ${refusal}` : '' }}</span
        >
      </span>
    </span>
    <span class="total small">
      <template v-if="day.monday && week"
        >{{ durationWords(week!.plannedMinutes)
        }}<span class="soft"> of {{ durationWords(week!.freeMinutes) }}</span></template
      >
    </span>
  </div>
</template>

<style scoped>
.day {
  display: grid;
  grid-template-columns: var(--ruler);
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
.session.tight:not(.tiny).kind-drill,
.session.tight:not(.tiny).kind-mixed {
  padding-left: 7px !important;
  background-size: 5px 100%;
}
.session.session.tiny {
  padding: 0 !important;
  font-size: 9.5px;
  border-width: 1px 0 1px 3px;
  background-image: none;
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
/* A folded corner: it is not what it was a week ago. */
.session.changed::after {
  content: '';
  position: absolute;
  top: 0;
  right: 0;
  border: 4px solid var(--ochre);
  border-left-color: transparent;
  border-bottom-color: transparent;
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
