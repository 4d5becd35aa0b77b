<script setup lang="ts">
import { area, curveMonotoneX, line, scaleLinear } from 'd3'
import { computed, ref } from 'vue'
import type { Phase, PlanSession, PlanWeek } from '@climber/contract'
import { type Overview, dateOf, dayNumber } from '@climber/core'
import { outlookOn } from '../manners/outlook'
import { dateWords, durationWords, scoreWords, monthName } from '../manners/words'
import { useWidth } from '../manners/size'

/**
 * The days that are left, from the start of the plan to the exam: expected score with its range, target, tests, phases,
 * and the hours of each week below. `tall` opens it to the chart of Scores; a `window` of weeks can be dragged.
 */
const props = defineProps<{
  overview: Overview
  today: string
  phases?: Phase[]
  weeks?: PlanWeek[]
  sessions?: PlanSession[]
  tall?: boolean
  weeksShown?: number
}>()
const from = defineModel<string>('from')

const box = ref<HTMLElement | null>(null)
const width = useWidth(box, 1100)
const height = computed(() => (props.tall ? 330 : 78))
const margin = computed(() =>
  props.tall ? { left: 44, right: 64, top: 26, bottom: 58 } : { left: 14, right: 50, top: 15, bottom: 13 },
)

const first = computed(() => dayNumber(props.overview.start))
const last = computed(() => (props.overview.examDate ? dayNumber(props.overview.examDate) : first.value + 1))
const x = computed(() =>
  scaleLinear(
    [first.value, Math.max(last.value, first.value + 1)],
    [margin.value.left, width.value - margin.value.right],
  ),
)
const y = computed(() => {
  const { outlook, tests, target, range } = props.overview
  const all = [
    ...outlook.flatMap(({ low, high }) => [low, high]),
    ...tests.flatMap(({ composite, between }) => [
      composite,
      ...(between ? [between.low, between.high] : []),
    ]),
    ...(target === undefined ? [] : [target]),
  ]
  const low = Math.max(range.low, Math.min(...all))
  const high = Math.min(range.high, Math.max(...all))
  const pad = Math.max(4, (high - low) * 0.08)
  return scaleLinear([low - pad, high + pad], [height.value - margin.value.bottom, margin.value.top])
})
const clamp = (value: number) =>
  Math.min(props.overview.range.high, Math.max(props.overview.range.low, value))
const band = computed(
  () =>
    area<Overview['outlook'][number]>(
      (point) => x.value(dayNumber(point.date)),
      (point) => y.value(clamp(point.low)),
      (point) => y.value(clamp(point.high)),
    ).curve(curveMonotoneX)(props.overview.outlook) ?? '',
)
const mean = computed(
  () =>
    line<Overview['outlook'][number]>(
      (point) => x.value(dayNumber(point.date)),
      (point) => y.value(clamp(point.mean)),
    ).curve(curveMonotoneX)(props.overview.outlook) ?? '',
)
const planned = computed(() =>
  (props.sessions ?? []).filter(
    ({ kind, status, date }) =>
      kind === 'test' && (status === 'planned' || status === 'running') && date >= props.today,
  ),
)
const levelAt = (date: string) => outlookOn(props.overview.outlook, date)?.mean ?? 0
const foot = computed(() => height.value - margin.value.bottom)
const busiest = computed(() =>
  Math.max(60, ...(props.weeks ?? []).map(({ plannedMinutes }) => plannedMinutes)),
)
const profileHeight = computed(() => (props.tall ? 26 : 11))
const ticks = computed(() => (props.tall ? y.value.ticks(5) : []))
const months = computed(() => {
  const marks: { day: number; text: string }[] = []
  // Months crowd each other on a longer way, and a mistyped year would take a while.
  if (last.value - first.value > 1200) return marks
  for (let day = first.value; day <= last.value; day++) {
    const date = dateOf(day)
    if (date.endsWith('-01')) marks.push({ day, text: monthName(date) })
  }
  return marks
})
const phaseMarks = computed(() =>
  (props.phases ?? [])
    .map((phase) => ({
      name: phase.name,
      from: Math.max(first.value, dayNumber(phase.from)),
      to: dayNumber(phase.to) + 1,
    }))
    .filter(({ from: begin, to }) => to > begin)
    .map((phase) => ({
      ...phase,
      x: x.value(phase.from),
      width: x.value(Math.min(phase.to, last.value)) - x.value(phase.from),
    })),
)

const shown = computed(() => props.weeksShown ?? 6)
const windowFrom = computed(() => (from.value ? Math.max(first.value, dayNumber(from.value)) : undefined))
const windowWidth = computed(() =>
  Math.max(
    8,
    x.value(Math.min(last.value, (windowFrom.value ?? 0) + shown.value * 7)) - x.value(windowFrom.value ?? 0),
  ),
)
let grabbed: { at: number; day: number } | undefined
const dayAt = (event: PointerEvent) =>
  x.value.invert(event.clientX - (box.value?.getBoundingClientRect().left ?? 0))
function moveTo(day: number): void {
  const monday = Math.round((day - mondayOffset.value) / 7) * 7 + mondayOffset.value
  from.value = dateOf(
    Math.max(Math.floor(first.value / 1), Math.min(monday, Math.max(first.value, last.value - 7))),
  )
}
// Days since 1970-01-01 of some Monday.
const mondayOffset = computed(() => 4)
function grab(event: PointerEvent): void {
  if (windowFrom.value === undefined) return
  const at = dayAt(event)
  if (at < windowFrom.value || at > windowFrom.value + shown.value * 7) moveTo(at - (shown.value * 7) / 2)
  grabbed = { at, day: windowFrom.value! }
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
}
function drag(event: PointerEvent): void {
  if (grabbed) moveTo(grabbed.day + dayAt(event) - grabbed.at)
}
function key(event: KeyboardEvent): void {
  const step = event.key === 'ArrowRight' ? 7 : event.key === 'ArrowLeft' ? -7 : 0
  if (!step || windowFrom.value === undefined) return
  moveTo(windowFrom.value + step)
  event.preventDefault()
}
</script>

<template>
  <div ref="box" class="horizon">
    <svg
      :width="width"
      :height="height"
      role="img"
      :aria-label="`Expected score from ${dateWords(overview.start)} to the exam${overview.target === undefined ? '' : `, target ${scoreWords(overview.target)}`}. The table below has the figures.`"
      @pointerdown="grab"
      @pointermove="drag"
      @pointerup="grabbed = undefined"
    >
      <g v-if="windowFrom !== undefined">
        <rect :x="x(windowFrom)" :y="2" :width="windowWidth" :height="height - 4" class="window" />
      </g>
      <g class="phases">
        <g v-for="phase in phaseMarks" :key="phase.name + phase.from">
          <line :x1="phase.x" :x2="phase.x" :y1="2" :y2="foot" class="hair" />
          <text
            v-if="phase.width > phase.name.length * 6.2"
            :x="phase.x + 4"
            :y="tall ? 14 : 11"
            class="phase"
          >
            {{ phase.name }}
          </text>
        </g>
      </g>
      <g v-if="tall">
        <g v-for="tick in ticks" :key="tick">
          <line :x1="margin.left" :x2="width - margin.right" :y1="y(tick)" :y2="y(tick)" class="hair" />
          <text :x="margin.left - 6" :y="y(tick) + 4" text-anchor="end" class="tick">{{ tick }}</text>
        </g>
        <text v-for="mark in months" :key="mark.day" :x="x(mark.day)" :y="height - 4" class="tick">
          {{ mark.text }}
        </text>
      </g>
      <path :d="band" class="band" />
      <path :d="mean" class="mean" />
      <g v-if="overview.target !== undefined">
        <line
          :x1="margin.left"
          :x2="width - margin.right"
          :y1="y(overview.target)"
          :y2="y(overview.target)"
          class="target"
        />
        <text :x="width - margin.right + 5" :y="y(overview.target) + 4" class="target-word">
          {{ scoreWords(overview.target) }}
        </text>
      </g>
      <g v-for="test in planned" :key="test.id">
        <line
          :x1="x(dayNumber(test.date))"
          :x2="x(dayNumber(test.date))"
          :y1="foot"
          :y2="y(clamp(levelAt(test.date))) + 3"
          class="post"
        />
        <circle :cx="x(dayNumber(test.date))" :cy="y(clamp(levelAt(test.date)))" r="3" class="hollow" />
      </g>
      <g v-for="test in overview.tests" :key="test.id">
        <line
          :x1="x(dayNumber(test.date))"
          :x2="x(dayNumber(test.date))"
          :y1="foot"
          :y2="y(test.composite)"
          class="post"
        />
        <line
          v-if="test.between"
          :x1="x(dayNumber(test.date))"
          :x2="x(dayNumber(test.date))"
          :y1="y(test.between.low)"
          :y2="y(test.between.high)"
          class="between"
        />
        <circle
          v-if="test.source === 'publisher'"
          :cx="x(dayNumber(test.date))"
          :cy="y(test.composite)"
          :r="tall ? 5 : 3.4"
          :class="test.seen ? 'hollow' : 'filled'"
        />
        <rect
          v-else
          :x="x(dayNumber(test.date)) - (tall ? 4.5 : 3)"
          :y="y(test.composite) - (tall ? 4.5 : 3)"
          :width="tall ? 9 : 6"
          :height="tall ? 9 : 6"
          :class="test.seen ? 'hollow' : 'filled other'"
        />
        <text
          v-if="tall"
          :x="x(dayNumber(test.date))"
          :y="y(test.between?.high ?? test.composite) - 9"
          text-anchor="middle"
          class="tick strong"
        >
          {{ test.composite }}
        </text>
      </g>
      <line :x1="margin.left" :x2="width - margin.right" :y1="foot" :y2="foot" class="ground" />
      <g class="profile">
        <rect
          v-for="week in weeks ?? []"
          :key="week.from"
          :x="Math.max(margin.left, x(dayNumber(week.from)) + 0.5)"
          :y="foot + 1"
          :width="
            Math.max(
              1,
              x(Math.min(last, dayNumber(week.from) + 7)) -
                Math.max(margin.left, x(dayNumber(week.from))) -
                1,
            )
          "
          :height="(profileHeight * week.plannedMinutes) / busiest"
        />
      </g>
      <text v-if="tall" :x="margin.left" :y="foot + 42" class="tick">
        Below the line: hours planned a week, most {{ durationWords(busiest) }}
      </text>
      <g>
        <line :x1="x(dayNumber(today))" :x2="x(dayNumber(today))" :y1="2" :y2="height - 2" class="today" />
        <text v-if="tall" :x="x(dayNumber(today)) + 4" :y="foot - 6" class="tick strong">today</text>
      </g>
    </svg>
    <table class="only-reader">
      <caption>
        Expected score by week
      </caption>
      <thead>
        <tr>
          <th>Day</th>
          <th>Expected</th>
          <th>8 times in 10 between</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="point in overview.outlook" :key="point.date">
          <td>{{ dateWords(point.date) }}</td>
          <td>{{ Math.round(point.mean) }}</td>
          <td>{{ Math.round(point.low) }} and {{ Math.round(point.high) }}</td>
        </tr>
      </tbody>
    </table>
    <input
      v-if="windowFrom !== undefined"
      class="only-reader"
      type="range"
      :min="first"
      :max="last"
      step="7"
      :value="windowFrom"
      aria-label="First week shown"
      :aria-valuetext="dateWords(dateOf(windowFrom))"
      @keydown="key"
      @input="moveTo(Number(($event.target as HTMLInputElement).value))"
    />
  </div>
</template>

<style scoped>
.horizon {
  width: 100%;
  overflow: hidden;
  position: relative;
}
svg {
  display: block;
  touch-action: pan-y;
}
.horizon:has(input:focus-visible) {
  outline: 2px solid var(--ochre);
}
.band {
  fill: var(--wash);
}
.mean {
  fill: none;
  stroke: var(--water);
  stroke-width: 2;
}
.target {
  stroke: var(--ochre);
  stroke-dasharray: 5 3;
  stroke-width: 1.4;
}
.target-word {
  font-size: 13px;
  font-weight: 600;
  fill: var(--ochre-text);
}
.between {
  stroke: var(--ink);
  stroke-width: 3;
  stroke-linecap: round;
  opacity: 0.45;
}
.post {
  stroke: var(--ink);
  stroke-width: 0.8;
}
.hollow {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 1.2;
}
.filled {
  fill: var(--ink);
}
.ground {
  stroke: var(--ink);
}
.profile rect {
  fill: var(--lichen);
}
.today {
  stroke: var(--clay);
  stroke-width: 1.4;
}
.phase {
  font-size: 11px;
  fill: var(--soft);
}
.strong {
  fill: var(--ink);
  font-weight: 600;
}
.window {
  fill: var(--faint);
  stroke: var(--soft);
  cursor: grab;
}
</style>
