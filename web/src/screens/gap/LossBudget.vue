<script setup lang="ts">
import { area, curveStepAfter, scaleLinear } from 'd3'
import { computed, ref } from 'vue'
import type { SectionGap } from '@climber/core'
import { useWidth } from '../../manners/size'

/**
 * What may be lost and still reach the score: wrong across, blank up, as a stepped area; the newest paper as a point, and as a ring what a
 * paper sat today is expected to lose.
 */
const props = defineProps<{ gap: SectionGap; items: number; title: string }>()
const box = ref<HTMLElement | null>(null)
const width = useWidth(box, 320)
const height = 210
const margin = { left: 30, right: 10, top: 8, bottom: 30 }

type Step = { wrong: number; blank: number }
const most = computed(() => {
  const all = [...(props.gap.easiest ?? []), ...(props.gap.strictest ?? [])]
  const { last, expected } = props.gap
  const points = [...all, ...(last ? [last] : []), ...(expected ? [expected] : [])]
  return {
    wrong: Math.min(props.items, Math.max(4, ...points.map(({ wrong }) => Math.ceil(wrong))) + 2),
    blank: Math.min(props.items, Math.max(4, ...points.map(({ blank }) => Math.ceil(blank))) + 2),
  }
})
const x = computed(() => scaleLinear([0, most.value.wrong], [margin.left, width.value - margin.right]))
const y = computed(() => scaleLinear([0, most.value.blank], [height - margin.bottom, margin.top]))
/** A budget of blanks at each whole number wrong, drawn as steps that end after the last of them. */
const steps = (budget: Step[] | undefined) => {
  const end = budget?.[budget.length - 1]
  if (!budget || !end) return ''
  const closed = [...budget, { wrong: end.wrong + 1, blank: end.blank }]
  return (
    area<Step>(
      ({ wrong }) => x.value(Math.min(wrong, most.value.wrong)),
      y.value(0),
      ({ blank }) => y.value(blank),
    ).curve(curveStepAfter)(closed) ?? ''
  )
}
const inside = computed(() => {
  const { last, strictest } = props.gap
  const step = last && strictest?.[last.wrong]
  return Boolean(last && step && last.blank <= step.blank)
})
</script>

<template>
  <div ref="box">
    <svg
      :width="width"
      :height="height"
      role="img"
      :aria-label="`${title}: up to ${gap.strictest?.[0]?.blank ?? 0} blank with none wrong, up to ${gap.strictest?.[gap.strictest.length - 1]?.wrong ?? 0} wrong`"
    >
      <g v-for="tick in x.ticks(6).filter((one) => one + 1 <= most.wrong)" :key="`x${tick}`">
        <line
          :x1="x(tick + 0.5)"
          :x2="x(tick + 0.5)"
          :y1="margin.top"
          :y2="height - margin.bottom"
          class="hair"
        />
        <text :x="x(tick + 0.5)" :y="height - 14" text-anchor="middle" class="tick">{{ tick }}</text>
      </g>
      <g v-for="tick in y.ticks(5)" :key="`y${tick}`">
        <line :x1="margin.left" :x2="width - margin.right" :y1="y(tick)" :y2="y(tick)" class="hair" />
        <text :x="margin.left - 5" :y="y(tick) + 4" text-anchor="end" class="tick">{{ tick }}</text>
      </g>
      <path v-if="gap.tables > 1" :d="steps(gap.easiest)" class="easiest" />
      <path :d="steps(gap.strictest)" class="budget" />
      <text :x="width - margin.right" :y="height - 2" text-anchor="end" class="tick">wrong</text>
      <text :x="margin.left + 4" :y="margin.top + 10" class="tick">blank</text>
      <circle
        v-if="gap.expected"
        :cx="x(gap.expected.wrong + 0.5)"
        :cy="y(gap.expected.blank)"
        r="5"
        class="expected"
      />
      <g v-if="gap.last">
        <circle :cx="x(gap.last.wrong + 0.5)" :cy="y(gap.last.blank)" r="5" :class="inside ? 'in' : 'out'" />
      </g>
    </svg>
  </div>
</template>

<style scoped>
.expected {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
.budget {
  fill: var(--lichen);
  fill-opacity: 0.45;
  stroke: var(--lichen);
}
.easiest {
  fill: none;
  stroke: var(--lichen);
  stroke-dasharray: 3 3;
}
.in {
  fill: var(--ink);
}
.out {
  fill: var(--ground);
  stroke: var(--clay);
  stroke-width: 2.4;
}
</style>
