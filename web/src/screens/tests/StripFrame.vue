<script setup lang="ts">
import { scaleLinear } from 'd3'
import { computed, ref } from 'vue'
import { useWidth } from '../../manners/size'

/** What strips of items share: places from left to right with their numbers, where a drift begins, and going about by arrow keys. */
const props = defineProps<{
  label: string
  /** Of the drawing, and of its head and foot. */
  height: number
  top: number
  bottom: number
  /** How many places there are. */
  length: number
  /** The place at which a drift begins; -1 where there is none. */
  from: number
  /** Places that have their number below them. */
  marks: { place: number; text: number }[]
  /** Several rows: arrows go up and down too. */
  rows?: boolean
}>()
const emit = defineEmits<{ go: [along: number, across: number] }>()
const box = ref<HTMLElement | null>(null)
const drawing = ref<SVGSVGElement | null>(null)
defineExpose({ drawing })
const width = useWidth(box, 720)
const margin = { left: 34, right: 10 }
const x = computed(() =>
  scaleLinear([0, Math.max(1, props.length)], [margin.left, width.value - margin.right]),
)
const steps: Record<string, [along: number, across: number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}
function press(event: KeyboardEvent): void {
  const step = steps[event.key]
  if (!step || (step[1] && !props.rows)) return
  event.preventDefault()
  emit('go', ...step)
}
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
      :aria-label="label"
      @keydown="press"
    >
      <rect
        v-if="from >= 0"
        class="drift"
        :x="x(from)"
        :y="top"
        :width="Math.max(0, x(length) - x(from))"
        :height="height - top - bottom"
      />
      <slot :x="x" :step="x(1) - x(0)" :left="margin.left" :right="width - margin.right" />
      <text
        v-for="{ place, text } in marks"
        :key="place"
        class="label"
        :x="x(place + 0.5)"
        :y="height - 2"
        text-anchor="middle"
      >
        {{ text }}
      </text>
    </svg>
  </div>
</template>

<style scoped src="./strip.css"></style>
