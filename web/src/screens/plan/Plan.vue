<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import type { StoredSession } from '@climber/contract'
import { dateOf, dayNumber, minuteOf, mondayOf, weekdayOf } from '@climber/core'
import { kindWords, statusOf, statusWords } from '../../manners/kinds'
import { dateWords, distanceWords, durationWords, endOf, weekdayName } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import SessionActions from '../../widgets/SessionActions.vue'

const workspace = useWorkspace()
const weeksShown = ref(6)
const chosen = ref<string>()

const sessions = computed(() => workspace.plan?.sessions ?? [])
const byDay = computed(() => {
  const map = new Map<string, StoredSession[]>()
  for (const session of sessions.value) map.set(session.date, [...(map.get(session.date) ?? []), session])
  return map
})
const exam = computed(() => (workspace.sitting ? dayNumber(workspace.sitting.date) : undefined))
const firstMonday = computed(() => mondayOf(dayNumber(workspace.from || workspace.today)))
const windows = computed(() => workspace.record?.availability)
const freeOn = (day: number) => {
  const availability = windows.value
  if (
    !availability ||
    (exam.value !== undefined && day >= exam.value) ||
    availability.daysOff.includes(dateOf(day))
  )
    return []
  const exception = availability.exceptions.find(({ date }) => dayNumber(date) === day)
  return exception
    ? exception.windows
    : availability.windows.filter(({ weekday }) => weekday === weekdayOf(day))
}
/** The common ruler: from the earliest to the latest hour that anything uses. */
const ruler = computed(() => {
  const starts = [
    ...sessions.value.map(({ start }) => minuteOf(start)),
    ...(windows.value?.windows ?? []).map(({ from }) => minuteOf(from)),
  ]
  const ends = [
    ...sessions.value.map(({ start, minutes }) => minuteOf(start) + minutes),
    ...(windows.value?.windows ?? []).map(({ to }) => minuteOf(to)),
  ]
  const from = Math.floor(Math.min(9 * 60, ...starts) / 60) * 60
  const to = Math.ceil(Math.max(18 * 60, ...ends) / 60) * 60
  return { from, to, hours: Array.from({ length: (to - from) / 60 + 1 }, (_, at) => from / 60 + at) }
})
const left = (minute: number) =>
  `${(100 * (minute - ruler.value.from)) / (ruler.value.to - ruler.value.from)}%`
const wide = (minutes: number) => `${(100 * minutes) / (ruler.value.to - ruler.value.from)}%`

const days = computed(() =>
  Array.from({ length: weeksShown.value * 7 }, (_, at) => firstMonday.value + at)
    .filter((day) => exam.value === undefined || day <= mondayOf(exam.value) + 6)
    .map((day) => ({
      day,
      date: dateOf(day),
      sessions: byDay.value.get(dateOf(day)) ?? [],
      free: freeOn(day),
      monday: weekdayOf(day) === 1,
      exam: day === exam.value,
      off: windows.value?.daysOff.includes(dateOf(day)),
      past: dateOf(day) < workspace.today,
    })),
)
const week = (monday: number) => workspace.plan?.weeks.find(({ from }) => dayNumber(from) === monday)
const visible = computed(() => days.value.flatMap((day) => day.sessions))
const current = computed(() => sessions.value.find(({ id }) => id === chosen.value))
watch(
  [visible, () => workspace.today],
  () => {
    if (visible.value.some(({ id }) => id === chosen.value)) return
    chosen.value = (
      visible.value.find(({ date, status }) => date >= workspace.today && status === 'planned') ??
      visible.value[0]
    )?.id
  },
  { immediate: true },
)
const labelOf = (session: StoredSession) =>
  `${dateWords(session.date)} ${session.start} to ${endOf(session.start, session.minutes)}: ${session.title}, ${statusWords[statusOf(session, workspace.today)]}`

const rulers = ref<HTMLElement | null>(null)
function key(event: KeyboardEvent): void {
  const at = visible.value.findIndex(({ id }) => id === chosen.value)
  const here = visible.value[at]
  if (!here) return
  const onDay = (step: number) => {
    const other =
      step > 0
        ? visible.value.find(({ date }) => date > here.date)
        : [...visible.value].reverse().find(({ date }) => date < here.date)
    const near = visible.value.filter(({ date }) => date === other?.date)
    return near.sort(
      (a, b) =>
        Math.abs(minuteOf(a.start) - minuteOf(here.start)) -
        Math.abs(minuteOf(b.start) - minuteOf(here.start)),
    )[0]
  }
  const next =
    event.key === 'ArrowRight'
      ? visible.value[at + 1]
      : event.key === 'ArrowLeft'
        ? visible.value[at - 1]
        : event.key === 'ArrowDown'
          ? onDay(1)
          : event.key === 'ArrowUp'
            ? onDay(-1)
            : undefined
  if (!next) return
  event.preventDefault()
  chosen.value = next.id
  void nextTick(() =>
    rulers.value?.querySelector<HTMLElement>(`[data-session="${CSS.escape(next.id)}"]`)?.focus(),
  )
}
const move = (weeks: number) => {
  const day = firstMonday.value + weeks * 7
  const last = exam.value === undefined ? day : mondayOf(exam.value)
  workspace.from = dateOf(
    Math.min(Math.max(day, mondayOf(dayNumber(workspace.analysis?.start ?? workspace.today))), last),
  )
}
const of = computed(() => current.value?.of && sessions.value.find(({ id }) => id === current.value!.of))
</script>

<template>
  <div class="plan sheet">
    <h1 class="only-reader">Plan</h1>
    <div v-if="!workspace.plan" class="stack">
      <p>There is no plan yet. It is made from where you stand, the target and the free hours.</p>
      <div>
        <v-btn
          size="default"
          class="main"
          :to="{ name: 'set-up', params: { candidateId: workspace.candidate!.id } }"
          >To Set-up</v-btn
        >
      </div>
    </div>
    <template v-else>
      <div class="stack main-part">
        <div class="row no-print">
          <v-btn aria-label="A week earlier" @click="move(-1)">‹</v-btn>
          <v-btn aria-label="A week later" @click="move(1)">›</v-btn>
          <v-btn @click="workspace.from = workspace.today">Today</v-btn>
          <v-btn-toggle v-model="weeksShown" mandatory density="compact" aria-label="Weeks shown">
            <v-btn :value="1">1 week</v-btn>
            <v-btn :value="2">2</v-btn>
            <v-btn :value="6">6 weeks</v-btn>
          </v-btn-toggle>
          <span class="legend small" aria-hidden="true">
            <span
              v-for="kind in ['learn', 'drill', 'mixed', 'test', 'review'] as const"
              :key="kind"
              class="kind"
              :class="`kind-${kind}`"
              ><span class="word">{{ kindWords[kind] }}</span></span
            >
          </span>
        </div>
        <div ref="rulers" class="rulers" :class="`weeks-${weeksShown}`" @keydown="key">
          <div class="day head" aria-hidden="true">
            <span />
            <span class="track"
              ><span
                v-for="hour in ruler.hours"
                :key="hour"
                class="hour"
                :style="{ left: left(hour * 60) }"
                >{{ hour }}</span
              ></span
            >
            <span />
          </div>
          <div
            v-for="day in days"
            :key="day.day"
            class="day"
            :class="{
              monday: day.monday,
              today: day.date === workspace.today,
              past: day.past,
              exam: day.exam,
            }"
          >
            <span class="name"
              >{{
                weeksShown === 6
                  ? weekdayName(weekdayOf(day.day)).slice(0, 2)
                  : weekdayName(weekdayOf(day.day))
              }}
              {{ dateWords(day.date).split(' ').slice(1).join(' ') }}</span
            >
            <span class="track">
              <span v-for="hour in ruler.hours" :key="hour" class="tick" :style="{ left: left(hour * 60) }" />
              <span
                v-for="(window, at) in day.free"
                :key="at"
                class="free"
                :style="{
                  left: left(minuteOf(window.from)),
                  width: wide(minuteOf(window.to) - minuteOf(window.from)),
                }"
              />
              <span v-if="day.exam" class="exam-word"
                >{{ workspace.sitting!.start }} Exam: {{ workspace.sitting!.place }}</span
              >
              <span v-else-if="day.off" class="off-word">day off</span>
              <button
                v-for="session in day.sessions"
                :key="session.id"
                type="button"
                class="kind session"
                :class="[
                  `kind-${session.kind}`,
                  `state-${statusOf(session, workspace.today)}`,
                  { chosen: session.id === chosen },
                ]"
                :style="{ left: left(minuteOf(session.start)), width: wide(session.minutes) }"
                :tabindex="session.id === chosen ? 0 : -1"
                :data-session="session.id"
                :aria-label="labelOf(session)"
                :aria-pressed="session.id === chosen"
                @click="chosen = session.id"
                @focus="chosen = session.id"
              >
                <span class="word">{{
                  weeksShown === 6 || session.topics.length !== 1 ? kindWords[session.kind] : session.title
                }}</span>
              </button>
            </span>
            <span class="total small">
              <template v-if="day.monday && week(day.day)"
                >{{ durationWords(week(day.day)!.plannedMinutes)
                }}<span class="soft"> of {{ durationWords(week(day.day)!.freeMinutes) }}</span></template
              >
            </span>
          </div>
        </div>
        <ul v-if="workspace.plan.notices.length" class="small notices">
          <li v-for="notice in workspace.plan.notices" :key="notice.code">{{ notice.message }}</li>
        </ul>
      </div>
      <aside v-if="current" class="beside stack" aria-live="polite">
        <div>
          <span class="kind tag" :class="`kind-${current.kind}`"
            ><span class="word">{{ kindWords[current.kind] }}</span></span
          >
          <span class="soft small"> {{ statusWords[statusOf(current, workspace.today)] }}</span>
        </div>
        <h2>{{ current.title }}</h2>
        <p>
          {{ dateWords(current.date, workspace.today) }}, {{ current.start }} to
          {{ endOf(current.start, current.minutes) }}
          <span class="soft"
            >({{ durationWords(current.minutes) }}, {{ distanceWords(current.date, workspace.today) }})</span
          >
        </p>
        <div>
          <h3>Why this</h3>
          <p class="small">{{ current.why.text }}</p>
          <p v-if="of" class="small soft">Belongs to the test of {{ dateWords(of.date) }}.</p>
        </div>
        <SessionActions :session="current" />
      </aside>
    </template>
  </div>
</template>

<style scoped>
.plan {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 268px;
  gap: 22px;
  max-width: none;
  padding-top: 10px;
}
.legend {
  display: flex;
  gap: 6px;
  margin-left: auto;
}
.legend .kind,
.tag {
  padding: 0 7px;
  font-size: 12px;
}
.day {
  display: grid;
  grid-template-columns: 66px 1fr 104px;
  gap: 8px;
  align-items: stretch;
}
.weeks-6 .day {
  height: 14px;
}
.weeks-6 .day.head {
  height: 16px;
}
.weeks-2 .day {
  height: 40px;
}
.weeks-1 .day {
  height: 62px;
}
.day.head {
  height: 16px !important;
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
.hour {
  position: absolute;
  font-size: 11px;
  color: var(--soft);
  transform: translateX(-50%);
}
.tick {
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: 1px solid var(--hair);
  opacity: 0.6;
}
.free {
  position: absolute;
  top: 0;
  bottom: 0;
  background: var(--faint);
}
.past .free {
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
.session.kind-review {
  line-height: 6px;
  border-width: 1px 3px;
}
.weeks-2 .session,
.weeks-1 .session {
  font-size: 12.5px;
  line-height: 1.2;
  white-space: normal;
}
.weeks-6 .session.kind-test {
  top: -1px;
  bottom: -1px;
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
}
.notices {
  margin: 4px 0 0;
  padding-left: 18px;
}
.beside {
  border-left: 1px solid var(--hair);
  padding-left: 18px;
}
@media (max-width: 900px) {
  .plan {
    grid-template-columns: minmax(0, 1fr);
  }
  .beside {
    border-left: 0;
    border-top: 1px solid var(--ink);
    padding: 12px 0 0;
    order: -1;
  }
  .legend {
    display: none;
  }
  .day {
    grid-template-columns: 54px 1fr;
  }
  .total {
    display: none;
  }
  .weeks-6 .day {
    height: 24px;
  }
  .weeks-6 .session {
    line-height: 20px;
  }
  .name {
    line-height: 24px;
  }
}
</style>
