<script setup lang="ts">
import { scaleLinear } from 'd3'
import { computed, ref } from 'vue'
import type { ReadItem, SectionSays } from '@climber/core'
import { spanWords } from '../../manners/words'
import StripFrame from './StripFrame.vue'

/** Every item of a section in the order of the paper: right or not, its seconds against its budget, and where it drifted. */
const props = defineProps<{ section: SectionSays; items: ReadItem[]; chosen?: number }>()
const emit = defineEmits<{ choose: [item: number] }>()
const frame = ref<InstanceType<typeof StripFrame>>()
defineExpose({ drawing: computed(() => frame.value?.drawing ?? null) })
const height = 96
const margin = { top: 8, bottom: 18 }
/** Times its budget at which a bar ends; what took longer is cut off there. */
const most = 3

const y = scaleLinear([0, most], [height - margin.bottom, margin.top])
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
const marks = computed(() =>
  props.items
    .map(({ item }, place) => ({ place, text: item }))
    .filter(({ place }) => place % 5 === 4 || place === 0),
)
/** Goes to an item before or after the chosen one; from nowhere, to the first. */
function go(by: number): void {
  const at = props.chosen === undefined ? -1 : placeOf(props.chosen)
  const next = props.items[at < 0 ? 0 : Math.min(props.items.length - 1, Math.max(0, at + by))]
  if (next) emit('choose', next.item)
}
const placeOf = (item: number) => props.items.findIndex((one) => one.item === item)
</script>

<template>
  <StripFrame
    ref="frame"
    v-slot="{ x, step, left, right }"
    :label="`${section.title}: every item in order. Arrow keys go from one to the next.`"
    :height="height"
    :top="margin.top"
    :bottom="margin.bottom"
    :length="items.length"
    :from="from"
    :marks="marks"
    @go="go"
  >
    <line class="line" :x1="left" :x2="right" :y1="y(0)" :y2="y(0)" />
    <line v-if="timed" class="budget" :x1="left" :x2="right" :y1="y(1)" :y2="y(1)" />
    <text v-if="timed" class="label" :x="left - 4" :y="y(1) + 4" text-anchor="end">budget</text>
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
      <circle v-if="changed(one)" class="changed" :cx="x(at + 0.5)" :cy="height - margin.bottom + 4" r="2" />
    </g>
  </StripFrame>
</template>

<style scoped src="./strip.css"></style>
