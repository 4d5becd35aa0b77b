<script setup lang="ts">
import { line, scaleLinear } from 'd3'
import { computed, ref } from 'vue'
import type { ReadItem, SectionSays } from '@climber/core'
import StripFrame from './StripFrame.vue'

/**
 * A section over several tests: a row for each, place by place, and below them the running sum of what the answers were above or
 * below what their topics let expect. Where it falls for good is where the drift begins.
 */
const props = defineProps<{
  section: SectionSays
  titleOf: (test: string) => string
  chosen?: { test?: string; item: number }
}>()
const emit = defineEmits<{ choose: [item: ReadItem] }>()
const frame = ref<InstanceType<typeof StripFrame>>()
defineExpose({ drawing: computed(() => frame.value?.drawing ?? null) })
const rowHeight = 14
const margin = { top: 6, bottom: 16 }
const sumHeight = 44
/** The newest tests; more rows than these are read nowhere. */
const most = 12

/** Places are those in the order in which the items were taken up, as the drift is read. */
const taken = (a: ReadItem, b: ReadItem): number =>
  a.reached === b.reached ? a.order - b.order || a.item - b.item : a.reached ? -1 : 1
const rows = computed(() => props.section.items.slice(-most).map((items) => [...items].sort(taken)))
const length = computed(() => Math.max(1, ...rows.value.map((items) => items.length)))
const rowsFoot = computed(() => margin.top + rows.value.length * rowHeight)
const sums = computed(() => props.section.drift?.sums ?? [])
const height = computed(() => rowsFoot.value + (sums.value.length ? sumHeight : 0) + margin.bottom)
const y = computed(() => {
  const far = Math.max(1, ...sums.value.map(Math.abs))
  return scaleLinear([-far, far], [rowsFoot.value + sumHeight, rowsFoot.value + 4])
})
const pathOn = (x: (place: number) => number): string =>
  line<number>(
    (_, at) => x(at + 1),
    (sum) => y.value(sum),
  )(sums.value) ?? ''
const from = computed(() => {
  const { drift, drifts } = props.section
  return drift && drifts ? drift.from.place : -1
})
const marks = computed(() =>
  Array.from({ length: length.value }, (_, place) => ({ place, text: place + 1 })).filter(
    ({ place }) => place % 5 === 4 || place === 0,
  ),
)
const saying = (one: ReadItem): string =>
  `${props.titleOf(one.test ?? '')}, item ${one.item}: ${one.reached ? one.outcome : 'not reached'}`
/** Goes along a test or to another one; from nowhere, to the first item of the first. */
function go(along: number, across: number): void {
  const found = rows.value.findIndex((items) => items.some(isChosen))
  const within = (at: number, many: number) => Math.min(many - 1, Math.max(0, at))
  const items = rows.value[found < 0 ? 0 : within(found + across, rows.value.length)]
  const at = found < 0 ? -along : rows.value[found]!.findIndex(isChosen)
  const next = items?.[within(at + along, items.length)]
  if (next) emit('choose', next)
}
const isChosen = (one: ReadItem) => props.chosen?.item === one.item && props.chosen.test === one.test
</script>

<template>
  <StripFrame
    ref="frame"
    v-slot="{ x, step, left, right }"
    :label="`${section.title} in ${rows.length} tests, place by place. Arrow keys go along and between them.`"
    :height="height"
    :top="margin.top"
    :bottom="margin.bottom"
    :length="length"
    :from="from"
    :marks="marks"
    rows
    @go="go"
  >
    <g v-for="(items, row) in rows" :key="row">
      <rect
        v-for="(one, at) in items"
        :key="one.item"
        class="bar"
        :class="[one.reached ? one.outcome : 'unreached', { chosen: isChosen(one) }]"
        :x="x(at) + step * 0.12"
        :y="margin.top + row * rowHeight + 2"
        :width="Math.max(1, step * 0.76)"
        :height="rowHeight - 4"
        @click="emit('choose', one)"
      >
        <title>{{ saying(one) }}</title>
      </rect>
    </g>
    <template v-if="sums.length">
      <line class="zero" :x1="left" :x2="right" :y1="y(0)" :y2="y(0)" />
      <path class="sum" :d="pathOn(x)" />
    </template>
  </StripFrame>
</template>

<style scoped src="./strip.css"></style>
