<script setup lang="ts">
import { scaleLinear } from 'd3'
import { computed, ref } from 'vue'
import type { ReadItem, SectionSays } from '@climber/core'
import { useWidth } from '../../manners/size'
import { spanWords } from '../../manners/words'

/** Every item of a section in the order of the paper: right or not, its seconds against its budget, and where it drifted. */
const props = defineProps<{ section: SectionSays; items: ReadItem[]; chosen?: number }>()
const emit = defineEmits<{ choose: [item: number] }>()
const box = ref<HTMLElement | null>(null)
const drawing = ref<SVGSVGElement | null>(null)
defineExpose({ drawing })
const width = useWidth(box, 720)
const height = 96
const margin = { left: 34, right: 10, top: 8, bottom: 18 }
/** Times its budget at which a bar ends; what took longer is cut off there. */
const most = 3

const x = computed(() =>
  scaleLinear([0, Math.max(1, props.items.length)], [margin.left, width.value - margin.right]),
)
const y = scaleLinear([0, most], [height - margin.bottom, margin.top])
const step = computed(() => x.value(1) - x.value(0))
const timed = computed(() => props.items.some(({ seconds }) => seconds !== undefined))
const shareOf = ({ seconds, budget }: ReadItem): number =>
  seconds === undefined || budget <= 0 ? 1 : Math.min(most, Math.max(0.12, seconds / budget))
const from = computed(() => {
  const { drift, drifts } = props.section
  return drift && drifts ? props.items.findIndex(({ item }) => item === drift.from.item) : -1
})
const changed = ({ changes }: ReadItem) => changes.filter(Boolean).length > 1
const saying = (one: ReadItem): string =>
  [
    `Item ${one.item}: ${one.reached ? one.outcome : 'not reached'}`,
    one.seconds !== undefined && `${spanWords(one.seconds)} of ${spanWords(one.budget)}`,
    changed(one) && `changed ${one.changes.filter(Boolean).join(' to ')}`,
    one.confidence,
  ]
    .filter(Boolean)
    .join(', ')
const labels = computed(() => props.items.filter((_, at) => at % 5 === 4 || at === 0))
/** Goes to an item before or after the chosen one; from nowhere, to the first. */
function go(by: number): void {
  const at = props.chosen === undefined ? -1 : placeOf(props.chosen)
  const next = props.items[at < 0 ? 0 : Math.min(props.items.length - 1, Math.max(0, at + by))]
  if (next) emit('choose', next.item)
}
const placeOf = (item: number) => props.items.findIndex((one) => one.item === item)
</script>

<template>
  <div ref="box" class="box">
    <svg
      ref="drawing"
      :viewBox="`0 0 ${width} ${height}`"
      :width="width"
      :height="height"
      role="application"
      tabindex="0"
      :aria-label="`${section.title}: every item in order. Arrow keys go from one to the next.`"
      @keydown.left.prevent="go(-1)"
      @keydown.right.prevent="go(1)"
    >
      <rect
        v-if="from >= 0"
        class="drift"
        :x="x(from)"
        :y="margin.top"
        :width="Math.max(0, x(items.length) - x(from))"
        :height="height - margin.top - margin.bottom"
      />
      <line class="line" :x1="margin.left" :x2="width - margin.right" :y1="y(0)" :y2="y(0)" />
      <line v-if="timed" class="budget" :x1="margin.left" :x2="width - margin.right" :y1="y(1)" :y2="y(1)" />
      <text v-if="timed" class="label" :x="margin.left - 4" :y="y(1) + 4" text-anchor="end">budget</text>
      <g v-for="(one, at) in items" :key="one.item">
        <rect
          class="bar"
          :class="[one.reached ? one.outcome : 'unreached', { chosen: one.item === chosen }]"
          :x="x(at) + step * 0.14"
          :width="Math.max(1, step * 0.72)"
          :y="y(one.reached ? shareOf(one) : 0.08)"
          :height="y(0) - y(one.reached ? shareOf(one) : 0.08)"
          @click="emit('choose', one.item)"
        >
          <title>{{ saying(one) }}</title>
        </rect>
        <line
          v-if="one.reached && shareOf(one) >= most"
          class="cut"
          :x1="x(at) + step * 0.1"
          :x2="x(at + 1) - step * 0.1"
          :y1="margin.top + 4"
          :y2="margin.top + 1"
        />
        <circle
          v-if="changed(one)"
          class="changed"
          :cx="x(at + 0.5)"
          :cy="height - margin.bottom + 4"
          r="2"
        />
      </g>
      <text
        v-for="one in labels"
        :key="one.item"
        class="label"
        :x="x(placeOf(one.item) + 0.5)"
        :y="height - 2"
        text-anchor="middle"
      >
        {{ one.item }}
      </text>
    </svg>
  </div>
</template>

<style scoped src="./strip.css"></style>
