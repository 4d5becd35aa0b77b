<script setup lang="ts">
import { drag, type D3DragEvent, line, scaleLinear, select } from 'd3'
import { computed, onMounted, onUpdated, ref, watch } from 'vue'
import type { Conversion } from '@climber/contract'
import { endsEarly, readConversion, writeConversion } from '@climber/core'
import NumberField from '../../kit/NumberField.vue'
import { useWidth } from '../../manners/size'
import type { Problem } from '../../stores/autosave'

/** A conversion table: pasted as text, or drawn. Rows that do not rise are named; until mended, the old table stays. */
const props = defineProps<{ title: string; lowest: number; highest: number; problems?: Problem[] }>()
const table = defineModel<Conversion>({ required: true })
const text = ref(writeConversion(table.value))
const wrong = ref<string[]>([])
watch(
  () => table.value.points,
  () => {
    if (JSON.stringify(readConversion(text.value).points) !== JSON.stringify(table.value.points)) {
      text.value = writeConversion(table.value)
      wrong.value = []
    }
  },
  { deep: true },
)
function paste(typed: string): void {
  text.value = typed
  const { points, problems } = readConversion(text.value)
  wrong.value = problems.map(({ row, message }) => `Row ${row}: ${message}`)
  if (!problems.length) table.value = { ...table.value, points }
}
const early = computed(() => endsEarly(table.value, props.highest))
const setStep = (step: number | undefined) => (table.value = { ...table.value, step: step as number })

const frame = ref<HTMLElement | null>(null)
const room = useWidth(frame, 300)
const w = computed(() => Math.min(300, room.value))
const h = 170
const pad = { left: 36, right: 10, top: 8, bottom: 22 }
const drawing = ref<SVGSVGElement | null>(null)
const x = computed(() => {
  const raws = table.value.points.map(([raw]) => raw)
  return scaleLinear(
    [Math.min(props.lowest, ...raws), Math.max(props.highest, ...raws)],
    [pad.left, w.value - pad.right],
  )
})
const y = computed(() => {
  const scaled = table.value.points.map(([, value]) => value)
  const [low, high] = [Math.min(...scaled), Math.max(...scaled)]
  return scaleLinear([low, high === low ? low + 1 : high], [h - pad.bottom, pad.top])
})
const path = computed(
  () =>
    line<[number, number]>(
      (p) => x.value(p[0]),
      (p) => y.value(p[1]),
    )(table.value.points) ?? '',
)
const round = (value: number, step: number) => Number((Math.round(value / step) * step).toFixed(6))
/** Puts a point where it is wanted, between its neighbours. */
function move(at: number, raw: number, scaled: number): void {
  const { points, step } = table.value
  const before = points[at - 1]
  const after = points[at + 1]
  const rawStep = 0.5
  const to: [number, number] = [
    Math.min(
      after ? after[0] - rawStep : Infinity,
      Math.max(before ? before[0] + rawStep : -Infinity, round(raw, rawStep)),
    ),
    Math.min(after ? after[1] : Infinity, Math.max(before ? before[1] : -Infinity, round(scaled, step || 1))),
  ]
  table.value = { ...table.value, points: points.map((point, place) => (place === at ? to : point)) }
}
function add(event: MouseEvent): void {
  const box = drawing.value!.getBoundingClientRect()
  const raw = round(x.value.invert(event.clientX - box.left), 0.5)
  const scaled = round(y.value.invert(event.clientY - box.top), table.value.step || 1)
  const { points } = table.value
  const at = points.findIndex((point) => point[0] >= raw)
  if (at > 0 && points[at]![0] === raw) return
  const place = at < 0 ? points.length : at
  const low = points[place - 1]?.[1] ?? -Infinity
  const high = points[place]?.[1] ?? Infinity
  table.value = {
    ...table.value,
    points: [...points.slice(0, place), [raw, Math.min(high, Math.max(low, scaled))], ...points.slice(place)],
  }
}
function key(event: KeyboardEvent, at: number): void {
  const [raw, scaled] = table.value.points[at]!
  const { step } = table.value
  const to = {
    ArrowLeft: [raw - 0.5, scaled],
    ArrowRight: [raw + 0.5, scaled],
    ArrowUp: [raw, scaled + step],
    ArrowDown: [raw, scaled - step],
  }[event.key]
  if (to) move(at, to[0]!, to[1]!)
  else if (event.key === 'Delete' && table.value.points.length > 2)
    table.value = { ...table.value, points: table.value.points.filter((_, place) => place !== at) }
  else return
  event.preventDefault()
}
function wire(): void {
  select(drawing.value)
    .selectAll<SVGCircleElement, unknown>('.point')
    .call(
      drag<SVGCircleElement, unknown>().on(
        'drag',
        function (event: D3DragEvent<SVGCircleElement, unknown, unknown>) {
          move(Number(this.dataset.at), x.value.invert(event.x), y.value.invert(event.y))
        },
      ),
    )
}
onMounted(wire)
onUpdated(wire)
</script>

<template>
  <div class="table-editor">
    <v-textarea
      class="typed"
      rows="7"
      spellcheck="false"
      :model-value="text"
      :label="`${title}: raw and scaled scores`"
      :error="wrong.length > 0"
      @update:model-value="paste"
    />
    <div ref="frame" class="frame">
      <svg ref="drawing" :width="w" :height="h" role="group" :aria-label="`${title}, drawn`">
        <rect
          :x="pad.left"
          :y="pad.top"
          :width="w - pad.left - pad.right"
          :height="h - pad.top - pad.bottom"
          class="ground"
          @dblclick="add"
        />
        <g class="axis">
          <text v-for="tick in x.ticks(6)" :key="tick" :x="x(tick)" :y="h - 6" text-anchor="middle">
            {{ tick }}
          </text>
          <text v-for="tick in y.ticks(5)" :key="tick" :x="pad.left - 5" :y="y(tick) + 4" text-anchor="end">
            {{ tick }}
          </text>
        </g>
        <path :d="path" class="line" />
        <circle
          v-for="([raw, scaled], at) in table.points"
          :key="at"
          class="point"
          :data-at="at"
          :cx="x(raw)"
          :cy="y(scaled)"
          r="5"
          tabindex="0"
          role="slider"
          :aria-label="`raw ${raw} is scaled ${scaled}`"
          :aria-valuenow="scaled"
          @keydown="key($event, at)"
        />
      </svg>
      <p class="small soft">Pull points, double-click for a new one, Delete removes.</p>
    </div>
    <div class="stack">
      <NumberField
        label="Rounded to"
        :model-value="table.step"
        style="width: 130px"
        @update:model-value="setStep"
      />
      <p v-for="message in wrong" :key="message" class="bad small" role="alert">{{ message }}</p>
      <p v-for="problem in problems" :key="problem.field" class="bad small">{{ problem.message }}</p>
      <p v-if="early && !wrong.length" class="mark small early" role="status">{{ early }}</p>
    </div>
  </div>
</template>

<style scoped>
.table-editor {
  display: flex;
  flex-wrap: wrap;
  gap: 18px;
  align-items: start;
}
.typed {
  flex: 0 1 290px;
  min-width: 160px;
}
.early {
  max-width: 22em;
}
.frame {
  flex: 1 1 200px;
  min-width: 0;
  max-width: 300px;
}
.ground {
  fill: var(--paper);
  stroke: var(--hair);
}
.axis text {
  font-size: 11px;
  fill: var(--soft);
}
.line {
  fill: none;
  stroke: var(--ink);
}
.point {
  fill: var(--water);
  cursor: grab;
}
</style>
