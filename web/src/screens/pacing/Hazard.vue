<script setup lang="ts">
import { line as lineOf, scaleLinear } from 'd3'
import { computed } from 'vue'
import { type ClassLine, hazard } from '@climber/core'
import { clockWords } from '../../manners/words'

/** What staying with an item brings, second by second, against what a second is worth elsewhere; they cross at the leave time. */
const props = defineProps<{ line: ClassLine; mu: number; until: number; highest: number }>()
const width = 240
const height = 44
const x = computed(() => scaleLinear([0, props.until], [2, width - 2]))
const y = computed(() => scaleLinear([0, props.highest * 1.08], [height - 12, 2]))
const points = computed(() =>
  Array.from({ length: 80 }, (_, at): [number, number] => {
    const second = (props.until * (at + 0.5)) / 80
    return [second, props.line.worth * hazard(props.line, second)]
  }),
)
const path = computed(
  () =>
    lineOf<[number, number]>(
      ([second]) => x.value(second),
      ([, worth]) => y.value(worth),
    )(points.value) ?? '',
)
const leave = computed(() =>
  props.line.unhurried || props.line.rule.started < 0.5 || props.line.rule.seconds >= props.until
    ? undefined
    : props.line.rule.seconds,
)
</script>

<template>
  <svg
    :width="width"
    :height="height"
    role="img"
    :aria-label="`At most ${(highest * 60).toFixed(2)} marks a minute; elsewhere ${(mu * 60).toFixed(2)}`"
  >
    <line x1="2" :x2="width - 2" :y1="y(0)" :y2="y(0)" class="hair" />
    <path :d="path" class="curve" />
    <line x1="2" :x2="width - 2" :y1="y(mu)" :y2="y(mu)" class="mu" />
    <template v-if="leave !== undefined">
      <line :x1="x(leave)" :x2="x(leave)" :y1="y(mu) - 6" :y2="y(0)" class="leave" />
      <text :x="x(leave)" :y="height - 1" text-anchor="middle" class="tick">
        {{ clockWords(Math.floor(leave)) }}
      </text>
    </template>
  </svg>
</template>

<style scoped>
.curve {
  fill: none;
  stroke: var(--water);
  stroke-width: 1.5;
}
.mu {
  stroke: var(--ochre);
  stroke-dasharray: 3 2;
}
.leave {
  stroke: var(--ink);
  stroke-width: 1.4;
}
.tick {
  font-size: 11px;
}
</style>
