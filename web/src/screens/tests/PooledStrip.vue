<script setup lang="ts">
import { line, scaleLinear } from 'd3'
import { computed, ref } from 'vue'
import type { ReadItem, SectionSays } from '@climber/core'
import { useWidth } from '../../manners/size'

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
const box = ref<HTMLElement | null>(null)
const drawing = ref<SVGSVGElement | null>(null)
defineExpose({ drawing })
const width = useWidth(box, 720)
const rowHeight = 14
const margin = { left: 34, right: 10, top: 6, bottom: 16 }
const sumHeight = 44
/** The newest tests; more rows than these are read nowhere. */
const most = 12

/** Places are those in the order in which the items were taken up, as the drift is read. */
const taken = (a: ReadItem, b: ReadItem): number =>
  a.reached === b.reached ? a.order - b.order || a.item - b.item : a.reached ? -1 : 1
const rows = computed(() => props.section.items.slice(-most).map((items) => [...items].sort(taken)))
const length = computed(() => Math.max(1, ...rows.value.map((items) => items.length)))
const x = computed(() => scaleLinear([0, length.value], [margin.left, width.value - margin.right]))
const step = computed(() => x.value(1) - x.value(0))
const rowsFoot = computed(() => margin.top + rows.value.length * rowHeight)
const sums = computed(() => props.section.drift?.sums ?? [])
const height = computed(() => rowsFoot.value + (sums.value.length ? sumHeight : 0) + margin.bottom)
const y = computed(() => {
  const far = Math.max(1, ...sums.value.map(Math.abs))
  return scaleLinear([-far, far], [rowsFoot.value + sumHeight, rowsFoot.value + 4])
})
const path = computed(
  () =>
    line<number>(
      (_, at) => x.value(at + 1),
      (sum) => y.value(sum),
    )([0, ...sums.value].slice(1)) ?? '',
)
const from = computed(() => {
  const { drift, drifts } = props.section
  return drift && drifts ? drift.from.place : -1
})
const marks = computed(() =>
  Array.from({ length: length.value }, (_, at) => at + 1).filter((place) => place === 1 || place % 5 === 0),
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
  <div ref="box" class="box">
    <svg
      ref="drawing"
      :viewBox="`0 0 ${width} ${height}`"
      :width="width"
      :height="height"
      role="application"
      tabindex="0"
      :aria-label="`${section.title} in ${rows.length} tests, place by place. Arrow keys go along and between them.`"
      @keydown.left.prevent="go(-1, 0)"
      @keydown.right.prevent="go(1, 0)"
      @keydown.up.prevent="go(0, -1)"
      @keydown.down.prevent="go(0, 1)"
    >
      <rect
        v-if="from >= 0"
        class="drift"
        :x="x(from)"
        :y="margin.top"
        :width="Math.max(0, x(length) - x(from))"
        :height="height - margin.top - margin.bottom"
      />
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
        <line class="zero" :x1="margin.left" :x2="width - margin.right" :y1="y(0)" :y2="y(0)" />
        <path class="sum" :d="path" />
      </template>
      <text
        v-for="place in marks"
        :key="place"
        class="label"
        :x="x(place - 0.5)"
        :y="height - 3"
        text-anchor="middle"
      >
        {{ place }}
      </text>
    </svg>
  </div>
</template>

<style scoped src="./strip.css"></style>
