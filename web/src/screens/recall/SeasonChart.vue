<script setup lang="ts">
import { scaleLinear } from 'd3'
import { computed, ref } from 'vue'
import { dateOf, type RecallSeason } from '@climber/core'
import { useWidth } from '../../manners/size'
import { dateWords, durationWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'

/** Minutes of each day until the exam, again and new, under what a day may take. */
const props = defineProps<{ season: RecallSeason; cap: number }>()
const workspace = useWorkspace()
const box = ref<HTMLElement | null>(null)
const width = useWidth(box, 720)
const height = 220
const margin = { left: 40, right: 8, top: 12, bottom: 28 }
const days = computed(() => props.season.days)
const most = computed(() => Math.max(props.cap, ...days.value.map(({ seconds }) => seconds / 60), 1))
const x = computed(() =>
  scaleLinear([0, Math.max(1, days.value.length)], [margin.left, width.value - margin.right]),
)
const y = computed(() => scaleLinear([0, most.value], [height - margin.bottom, margin.top]))
const bar = computed(() => Math.max(1, x.value(1) - x.value(0) - (days.value.length > 120 ? 0 : 1)))
const bars = computed(() =>
  days.value.map(({ day, again, fresh: some, seconds }, at) => {
    const top = seconds / 60
    // New ones take more; their share of the column is by number, as is said beside it.
    const part = again + some ? some / (again + some) : 0
    return {
      at,
      x: x.value(at),
      top: y.value(top),
      middle: y.value(top * part),
      words: `${dateWords(dateOf(day), workspace.today)}: ${again} again, ${some} new, ${Math.round(top)} min`,
    }
  }),
)
const ticks = computed(() => {
  const every = Math.max(1, Math.ceil(days.value.length / Math.max(2, Math.floor(width.value / 110))))
  return days.value.flatMap(({ day }, at) => (at % every ? [] : [{ at, words: dateWords(dateOf(day)) }]))
})
const near = ref<number>()
const pointed = computed(() => bars.value[near.value ?? -1]?.words ?? '')
</script>

<template>
  <figure ref="box" class="chart">
    <svg
      :width="width"
      :height="height"
      role="img"
      :aria-label="`Minutes by day until the exam: at most ${durationWords(Math.round(most))} a day; the table below has the weeks`"
      @pointerleave="near = undefined"
      @pointermove="near = Math.floor(x.invert($event.offsetX))"
    >
      <g v-for="tick in y.ticks(4)" :key="tick">
        <line :x1="margin.left" :x2="width - margin.right" :y1="y(tick)" :y2="y(tick)" class="hair" />
        <text :x="margin.left - 5" :y="y(tick) + 4" text-anchor="end" class="tick">{{ tick }}</text>
      </g>
      <text
        v-for="tick in ticks"
        :key="tick.at"
        :x="x(tick.at)"
        :y="height - 10"
        class="tick"
        text-anchor="start"
      >
        {{ tick.words }}
      </text>
      <g v-for="one in bars" :key="one.at" :class="{ near: one.at === near }">
        <rect
          :x="one.x"
          :y="one.top"
          :width="bar"
          :height="Math.max(0, one.middle - one.top)"
          class="again"
        />
        <rect
          :x="one.x"
          :y="one.middle"
          :width="bar"
          :height="Math.max(0, height - margin.bottom - one.middle)"
          class="fresh"
        />
      </g>
      <line :x1="margin.left" :x2="width - margin.right" :y1="y(cap)" :y2="y(cap)" class="cap" />
    </svg>
    <figcaption class="small soft">
      {{ pointed || 'Minutes a day: light, again; dark, new; the line, what a day may take.' }}
    </figcaption>
  </figure>
</template>

<style scoped>
.chart {
  margin: 0;
}
.again {
  fill: var(--water);
  opacity: 0.55;
}
.fresh {
  fill: var(--ink);
  opacity: 0.75;
}
.near rect {
  opacity: 1;
}
.cap {
  stroke: var(--clay);
  stroke-width: 1.2;
}
</style>
