<script setup lang="ts">
import { line, scaleLinear } from 'd3'
import { computed, ref } from 'vue'
import type { MixOdds } from '@climber/core'
import { useWidth } from '../../manners/size'
import { percentWords } from '../../manners/words'

/** Chance of the score against how many of the unsure are answered, fewest options first; the best is marked. */
const props = defineProps<{ mix: MixOdds }>()
const box = ref<HTMLElement | null>(null)
const width = useWidth(box, 380)
const height = 150
const margin = { left: 40, right: 12, top: 12, bottom: 30 }
const odds = computed(() => Array.from(props.mix.odds))
const top = computed(() => Math.max(...odds.value))
const low = computed(() => Math.min(...odds.value))
const pad = computed(() => Math.max(0.01, (top.value - low.value) * 0.12))
const x = computed(() =>
  scaleLinear([0, Math.max(1, odds.value.length - 1)], [margin.left, width.value - margin.right]),
)
const y = computed(() =>
  scaleLinear(
    [Math.max(0, low.value - pad.value), Math.min(1, top.value + pad.value)],
    [height - margin.bottom, margin.top],
  ),
)
const path = computed(
  () =>
    line<number>(
      (_, at) => x.value(at),
      (value) => y.value(value),
    )(odds.value) ?? '',
)
const best = computed(() => odds.value.indexOf(top.value))
</script>

<template>
  <div ref="box">
    <svg
      :width="width"
      :height="height"
      role="img"
      :aria-label="`Chance by how many are answered: none ${percentWords(odds[0]!)}, best ${best} at ${percentWords(top)}, all ${percentWords(odds[odds.length - 1]!)}`"
    >
      <g v-for="tick in y.ticks(4)" :key="tick">
        <line :x1="margin.left" :x2="width - margin.right" :y1="y(tick)" :y2="y(tick)" class="hair" />
        <text :x="margin.left - 5" :y="y(tick) + 4" text-anchor="end" class="tick">
          {{ (tick * 100).toFixed(y.domain()[1]! - y.domain()[0]! < 0.04 ? 1 : 0) }}%
        </text>
      </g>
      <text
        v-for="tick in x.ticks(Math.min(8, odds.length - 1)).filter(Number.isInteger)"
        :key="tick"
        :x="x(tick)"
        :y="height - 14"
        text-anchor="middle"
        class="tick"
      >
        {{ tick }}
      </text>
      <text :x="width - margin.right" :y="height - 1" text-anchor="end" class="tick">
        answered, surest first
      </text>
      <path :d="path" class="curve" />
      <circle v-for="(value, at) in odds" :key="at" :cx="x(at)" :cy="y(value)" r="1.8" class="dot" />
      <line :x1="x(best)" :x2="x(best)" :y1="y(top)" :y2="height - margin.bottom" class="post" />
      <circle :cx="x(best)" :cy="y(top)" r="4.5" class="best" />
    </svg>
  </div>
</template>

<style scoped>
.curve {
  fill: none;
  stroke: var(--water);
  stroke-width: 1.6;
}
.dot {
  fill: var(--water);
}
.best {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 2;
}
.post {
  stroke: var(--ink);
  stroke-width: 0.8;
}
</style>
