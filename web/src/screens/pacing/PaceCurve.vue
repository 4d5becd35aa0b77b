<script setup lang="ts">
import { brushX, type D3BrushEvent, line, scaleLinear, select } from 'd3'
import { computed, onMounted, ref, watch } from 'vue'
import type { PacingView, SectionPace, TraceLine } from '@climber/core'
import ChoicesField from '../../kit/ChoicesField.vue'
import NumberField from '../../kit/NumberField.vue'
import { useWidth } from '../../manners/size'
import { clockWords, dateWords, onTheClock } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'

/** Question number against the clock: the budget, its checkpoints, past sittings, and where their time was lost. */
const props = defineProps<{ view: PacingView; pace: SectionPace; start?: number }>()
const workspace = useWorkspace()
const box = ref<HTMLElement | null>(null)
const width = useWidth(box, 720)
const height = 330
const margin = { left: 48, right: 46, top: 10, bottom: 32 }

const items = computed(() => props.pace.items.length)
const traces = computed(() => [...props.view.traces].reverse())
const chosen = ref<string[]>([])
watch(
  traces,
  (all) => {
    const there = chosen.value.filter((id) => all.some((trace) => trace.id === id))
    chosen.value = there.length || !all.length ? there : [all[0]!.id]
  },
  { immediate: true },
)
const drawable = computed(() =>
  traces.value.slice(0, 6).map(({ id, title, date }) => ({
    value: id,
    title: date ? `${title}, ${dateWords(date, workspace.today)}` : title,
  })),
)
const drawn = computed(() => traces.value.filter(({ id }) => chosen.value.includes(id)))
const first = computed<TraceLine | undefined>(() => drawn.value[0])
const topicTitle = (id?: string) => workspace.exam!.topics.find((topic) => topic.id === id)?.title ?? ''

const seconds = computed(() =>
  Math.max(props.pace.sectionSeconds, ...drawn.value.flatMap(({ points }) => points.map(({ at }) => at))),
)
const x = computed(() => scaleLinear([0, items.value], [margin.left, width.value - margin.right]))
const y = computed(() => scaleLinear([0, seconds.value / 60], [height - margin.bottom, margin.top]))
const ticks = computed(() => y.value.ticks(6))
const path = (points: [number, number][]) =>
  line<[number, number]>(
    ([item]) => x.value(item),
    ([, at]) => y.value(at / 60),
  )([[0, 0], ...points]) ?? ''
const budget = computed(() => path(props.pace.finishBy.map((at, item) => [item + 1, at])))
const trail = (trace: TraceLine) => path(trace.points.map(({ number, at }) => [number, at]))
const reserveFrom = computed(() => (props.pace.sectionSeconds - props.pace.reserveSeconds) / 60)

/** A stretch of items, brushed or typed. */
const stretch = ref<[number, number]>()
const layer = ref<SVGGElement | null>(null)
const brush = computed(() =>
  brushX<unknown>()
    .extent([
      [margin.left, margin.top],
      [width.value - margin.right, height - margin.bottom],
    ])
    .on('brush end', ({ selection, sourceEvent }: D3BrushEvent<unknown>) => {
      if (!sourceEvent) return
      if (!selection) {
        stretch.value = undefined
        return
      }
      const [from, to] = (selection as [number, number]).map((at) => x.value.invert(at)) as [number, number]
      stretch.value = [Math.max(1, Math.floor(from) + 1), Math.min(items.value, Math.ceil(to))]
    }),
)
function drawBrush(): void {
  if (!layer.value) return
  const group = select(layer.value as SVGGElement)
  group.call(brush.value as never)
  const own = stretch.value
  group.call(brush.value.move as never, own ? [x.value(own[0] - 1), x.value(own[1])] : null)
}
onMounted(drawBrush)
watch([brush, items], drawBrush)
function type(end: 0 | 1, item: number | undefined): void {
  const number = item ?? (end ? items.value : 1)
  const [from, to] = stretch.value ?? [1, items.value]
  stretch.value = end ? [Math.min(from, number), number] : [number, Math.max(to, number)]
  drawBrush()
}
const listed = computed(() => {
  const own = stretch.value
  if (!own || !first.value) return []
  return first.value.points.filter(({ number }) => number >= own[0] && number <= own[1])
})
const spent = computed(() => listed.value.reduce((sum, point) => sum + point.seconds, 0))
const due = computed(() => listed.value.reduce((sum, point) => sum + point.budget, 0))
const outcomes = { right: 'right', wrong: 'wrong', left: 'left blank' }
</script>

<template>
  <div class="stack">
    <div ref="box">
      <svg
        :width="width"
        :height="height"
        role="img"
        aria-label="Question number against the clock: budget, checkpoints and past sittings; the checkpoints are in the table"
      >
        <g v-for="tick in ticks" :key="tick">
          <line :x1="margin.left" :x2="width - margin.right" :y1="y(tick)" :y2="y(tick)" class="hair" />
          <text :x="margin.left - 6" :y="y(tick) + 4" text-anchor="end" class="tick">{{ tick }} min</text>
          <text v-if="start !== undefined" :x="width - margin.right + 5" :y="y(tick) + 4" class="tick">
            {{ onTheClock(start, tick * 60).slice(0, 5) }}
          </text>
        </g>
        <text
          v-for="tick in x.ticks(Math.min(10, items)).filter(Number.isInteger)"
          :key="tick"
          :x="x(tick)"
          :y="height - 16"
          text-anchor="middle"
          class="tick"
        >
          {{ tick }}
        </text>
        <text :x="width - margin.right" :y="height - 2" text-anchor="end" class="tick">items done</text>
        <rect
          v-if="pace.reserveSeconds"
          :x="margin.left"
          :y="y(pace.sectionSeconds / 60)"
          :width="width - margin.left - margin.right"
          :height="Math.max(0, y(reserveFrom) - y(pace.sectionSeconds / 60))"
          class="reserve"
        />
        <text
          v-if="pace.reserveSeconds"
          :x="margin.left + 6"
          :y="y(pace.sectionSeconds / 60) + 13"
          class="tick"
        >
          kept back
        </text>
        <line
          :x1="margin.left"
          :x2="width - margin.right"
          :y1="y(pace.sectionSeconds / 60)"
          :y2="y(pace.sectionSeconds / 60)"
          class="bell"
        />
        <g v-for="trace in drawn" :key="trace.id">
          <path :d="trail(trace)" class="trail" :class="{ newest: trace.id === first?.id }" />
          <template v-if="trace.id === first?.id">
            <line
              v-for="point in trace.points.filter(({ over, outcome }) => over > 0 && outcome !== 'right')"
              :key="point.number"
              :x1="x(point.number)"
              :x2="x(point.number)"
              :y1="y((point.at - point.over) / 60)"
              :y2="y(point.at / 60)"
              class="lost"
            />
          </template>
        </g>
        <path :d="budget" class="line" />
        <g v-for="point in pace.checkpoints" :key="point.item">
          <line :x1="x(point.item)" :x2="x(point.item)" :y1="y(0)" :y2="y(point.at / 60)" class="post" />
          <circle :cx="x(point.item)" :cy="y(point.at / 60)" r="3.6" class="point" />
        </g>
        <g ref="layer" class="brush" />
      </svg>
    </div>
    <div v-if="traces.length" class="row small keys">
      <span><i class="sample budget" aria-hidden="true" /> budget</span>
      <ChoicesField v-model="chosen" label="Sittings drawn" :options="drawable" />
      <span v-if="first" class="soft"
        ><i class="sample over" aria-hidden="true" /> past its leave time and not solved,
        {{ first.title }}</span
      >
    </div>
    <p v-else class="small soft">
      No test with times yet. Log one on Scores with a CSV of its answers, or do a drill: the curve then shows
      where the time went.
    </p>
    <div v-if="first" class="row small">
      <span>Drag over the curve, or items</span>
      <NumberField
        class="item"
        label="From item"
        whole
        :min="1"
        :max="items"
        optional
        :model-value="stretch?.[0]"
        @update:model-value="type(0, $event)"
      />
      <NumberField
        class="item"
        label="To item"
        whole
        :min="1"
        :max="items"
        optional
        :model-value="stretch?.[1]"
        @update:model-value="type(1, $event)"
      />
      <template v-if="listed.length">
        <span data-testid="stretch"
          ><strong>{{ clockWords(spent) }}</strong> spent where {{ clockWords(due) }} was due</span
        >
      </template>
      <span v-else class="soft">to list what happened there</span>
    </div>
    <div v-if="listed.length" class="scroll listed">
      <table class="lines small" data-testid="listed">
        <thead>
          <tr>
            <th class="n">Item</th>
            <th>Topic</th>
            <th class="n">Took</th>
            <th class="n">Due</th>
            <th>Was</th>
            <th class="n">Past its leave time</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="point in listed" :key="point.number">
            <td class="n">{{ point.number }}</td>
            <td>{{ topicTitle(point.topic) }}</td>
            <td class="n">{{ point.seconds }} s</td>
            <td class="n soft">{{ Math.round(point.budget) }} s</td>
            <td :class="{ bad: point.outcome === 'wrong' }">{{ outcomes[point.outcome] }}</td>
            <td class="n">{{ point.over > 0 ? `${Math.round(point.over)} s` : '' }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>

<style scoped>
.line {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.trail {
  fill: none;
  stroke: var(--soft);
  stroke-width: 1;
  stroke-dasharray: 2 2;
}
.trail.newest {
  stroke: var(--water);
  stroke-width: 1.5;
  stroke-dasharray: none;
}
.lost {
  stroke: var(--clay);
  stroke-width: 3;
}
.post {
  stroke: var(--soft);
  stroke-width: 0.7;
}
.bell {
  stroke: var(--ink);
  stroke-dasharray: 1 3;
}
.point {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 1.4;
}
.reserve {
  fill: var(--faint);
}
.brush :deep(.selection) {
  fill: var(--ochre);
  fill-opacity: 0.16;
  stroke: var(--ochre);
}
.keys {
  gap: 4px 16px;
}
.sample {
  display: inline-block;
  width: 16px;
  border-top: 2px solid var(--ink);
  vertical-align: 4px;
}
.sample.over {
  border-top: 3px solid var(--clay);
}
.listed {
  max-height: 260px;
  overflow-y: auto;
}
</style>
