<script setup lang="ts">
import { computed } from 'vue'
import type { StoredSession } from '@climber/contract'
import { dateOf, dayNumber, hasSlipped, mondayOf } from '@climber/core'
import { durationWords, weekdayName } from '../../manners/words'

/** The week day by day: what was planned as a frame, what was done in it, what slipped hatched. */
const props = defineProps<{ sessions: StoredSession[]; today: string }>()
const sum = (list: StoredSession[], of: (one: StoredSession) => number) =>
  list.reduce((total, one) => total + of(one), 0)
const doneOf = (list: StoredSession[]) =>
  sum(
    list.filter(({ status }) => status === 'done'),
    (one) => one.minutesDone ?? one.minutes,
  )
const plannedOf = (list: StoredSession[]) =>
  sum(
    list.filter(({ status }) => status !== 'skipped'),
    ({ minutes }) => minutes,
  )
const slippedOf = (list: StoredSession[]) =>
  sum(
    list.filter((one) => hasSlipped(one, props.today)),
    ({ minutes }) => minutes,
  )
const days = computed(() => {
  const monday = mondayOf(dayNumber(props.today))
  return Array.from({ length: 7 }, (_, at) => {
    const date = dateOf(monday + at)
    const own = props.sessions.filter((one) => one.date === date)
    return { at, date, done: doneOf(own), planned: plannedOf(own), slipped: slippedOf(own) }
  })
})
const all = computed(() => ({
  done: days.value.reduce((total, { done }) => total + done, 0),
  planned: days.value.reduce((total, { planned }) => total + planned, 0),
  slipped: days.value.reduce((total, { slipped }) => total + slipped, 0),
}))
const most = computed(() => Math.max(60, ...days.value.map(({ done, planned }) => Math.max(done, planned))))
const tall = (minutes: number) => (48 * minutes) / most.value
</script>

<template>
  <div class="stack">
    <h2>This week</h2>
    <svg
      width="224"
      height="68"
      role="img"
      :aria-label="`${durationWords(all.done)} of ${durationWords(all.planned)} done`"
    >
      <g v-for="day in days" :key="day.date" :transform="`translate(${day.at * 32}, 0)`">
        <rect x="3.5" :y="50.5 - tall(day.planned)" width="22" :height="tall(day.planned)" class="planned" />
        <rect x="3.5" :y="50.5 - tall(day.done)" width="22" :height="tall(day.done)" class="done" />
        <line x1="0" x2="29" y1="50.5" y2="50.5" class="ground" />
        <text x="14" y="65" text-anchor="middle" :class="{ here: day.date === today }">
          {{ weekdayName(day.at + 1) }}
        </text>
      </g>
    </svg>
    <p>
      <strong>{{ durationWords(all.done) }}</strong> of {{ durationWords(all.planned) }} done<template
        v-if="all.slipped"
        >, <span class="bad">{{ durationWords(all.slipped) }} slipped</span></template
      >
    </p>
  </div>
</template>

<style scoped>
.planned {
  fill: none;
  stroke: var(--soft);
}
.done {
  fill: var(--lichen);
}
.ground {
  stroke: var(--ink);
}
text {
  font-size: 12px;
  fill: var(--soft);
}
.here {
  font-weight: 700;
  fill: var(--ink);
}
</style>
