<script setup lang="ts">
import { computed, ref } from 'vue'
import { adviceAt, type GuessTable } from '@climber/core'
import { useWidth } from '../../manners/size'
import { percentWords } from '../../manners/words'

/**
 * The table over safe answers (up) and unsure ones (across): what to do in each cell, told apart by texture, and by a number
 * where it is some of them. One path a texture, so that thousands of cells are drawn at once.
 */
const props = defineProps<{ table: GuessTable; cell: { safe: number; unsure: number }; left: number }>()
const emit = defineEmits<{ choose: [safe: number, unsure: number] }>()
const box = ref<HTMLElement | null>(null)
const width = useWidth(box, 640)
const margin = { left: 34, right: 8, top: 6, bottom: 34 }
const items = computed(() => props.table.size - 1)
/** Cells are wider than high where that lets their numbers be read. */
const cells = computed(() => ({
  width: Math.max(
    4,
    Math.min(20, Math.floor((width.value - margin.left - margin.right) / (items.value + 1))),
  ),
  height: Math.max(4, Math.min(16, Math.floor((400 / (items.value + 1)) * 2) / 2)),
}))
const height = computed(() => cells.value.height * (items.value + 1) + margin.top + margin.bottom)
const drawn = computed(() => cells.value.width * (items.value + 1))
const across = (unsure: number) => margin.left + unsure * cells.value.width
const up = (safe: number) => margin.top + (items.value - safe) * cells.value.height
const readable = computed(() => cells.value.width >= 13 && cells.value.height >= 9.5)

const drawing = computed(() => {
  const paths: Record<'answer' | 'leave' | 'some' | 'same', string[]> = {
    answer: [],
    leave: [],
    some: [],
    same: [],
  }
  const numbers: { x: number; y: number; best: number }[] = []
  for (let safe = 0; safe <= items.value; safe++)
    for (let unsure = 1; safe + unsure <= items.value; unsure++) {
      const advice = adviceAt(props.table, safe, unsure) ?? 'same'
      paths[advice].push(
        `M${across(unsure)} ${up(safe)}h${cells.value.width}v${cells.value.height}h${-cells.value.width}z`,
      )
      if (advice === 'some' && readable.value)
        numbers.push({
          x: across(unsure) + cells.value.width / 2,
          y: up(safe) + cells.value.height / 2 + 3.2,
          best: props.table.best[safe * props.table.size + unsure]!,
        })
    }
  return {
    answer: paths.answer.join(''),
    leave: paths.leave.join(''),
    some: paths.some.join(''),
    same: paths.same.join(''),
    numbers,
  }
})
const ticks = computed(() => {
  const step = items.value > 40 ? 10 : 5
  return Array.from({ length: Math.floor(items.value / step) + 1 }, (_, at) => at * step)
})
const say = computed(() => {
  const { safe, unsure } = props.cell
  if (safe + unsure > items.value || safe < 0 || unsure < 1) return undefined
  const at = safe * props.table.size + unsure
  const best = props.table.best[at]!
  const advice = adviceAt(props.table, safe, unsure)
  const words =
    advice === undefined
      ? 'makes no difference'
      : advice === 'answer'
        ? 'answer'
        : advice === 'leave'
          ? 'leave'
          : `answer ${best}`
  return {
    words,
    odds: `${percentWords(props.table.odds[at]!)}, with none ${percentWords(props.table.none[at]!)}, with all ${percentWords(props.table.all[at]!)}`,
  }
})
function pick(event: PointerEvent | MouseEvent): void {
  const own = (event.currentTarget as SVGSVGElement).getBoundingClientRect()
  const unsure = Math.floor((event.clientX - own.left - margin.left) / cells.value.width)
  const safe = items.value - Math.floor((event.clientY - own.top - margin.top) / cells.value.height)
  if (safe >= 0 && unsure >= 0 && safe + unsure <= items.value) emit('choose', safe, unsure)
}
function press(event: KeyboardEvent): void {
  const by: Record<string, [number, number]> = {
    ArrowUp: [1, 0],
    ArrowDown: [-1, 0],
    ArrowLeft: [0, -1],
    ArrowRight: [0, 1],
  }
  const step = by[event.key]
  if (!step) return
  event.preventDefault()
  const safe = props.cell.safe + step[0]
  const unsure = props.cell.unsure + step[1]
  if (safe >= 0 && unsure >= 0 && safe + unsure <= items.value) emit('choose', safe, unsure)
}
</script>

<template>
  <div ref="box" class="stack table">
    <svg
      :width="Math.max(260, drawn + margin.left + margin.right)"
      :height="height"
      role="application"
      tabindex="0"
      :aria-label="`Safe answers up, unsure ones across. ${cell.safe} safe, ${cell.unsure} unsure: ${say?.words ?? 'nothing to decide'}. Arrow keys move.`"
      @pointerdown="pick"
      @pointermove="$event.buttons && pick($event)"
      @keydown="press"
    >
      <defs>
        <pattern
          id="leave-hatch"
          width="5"
          height="5"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <line x1="0" y1="0" x2="0" y2="5" class="hatch" />
        </pattern>
      </defs>
      <path :d="drawing.same" class="same" />
      <path :d="drawing.answer" class="answer" />
      <path :d="drawing.leave" fill="url(#leave-hatch)" class="leave" />
      <path :d="drawing.some" class="some" />
      <text
        v-for="one in drawing.numbers"
        :key="`${one.x}/${one.y}`"
        :x="one.x"
        :y="one.y"
        text-anchor="middle"
        class="number"
      >
        {{ one.best }}
      </text>
      <g v-for="tick in ticks" :key="tick">
        <text :x="margin.left - 5" :y="up(tick) + cells.height / 2 + 4" text-anchor="end" class="tick">
          {{ tick }}
        </text>
        <text :x="across(tick) + cells.width / 2" :y="height - 18" text-anchor="middle" class="tick">
          {{ tick }}
        </text>
      </g>
      <text :x="drawn + margin.left" :y="height - 4" text-anchor="end" class="tick">
        unsure, {{ left }} options left
      </text>
      <text :x="margin.left + 2" :y="margin.top + 10" class="tick above">safe</text>
      <g :transform="`translate(${margin.left + drawn * 0.56} ${margin.top + 8})`" class="legend">
        <rect width="14" height="14" class="answer" />
        <text x="20" y="12">answer them all</text>
        <rect y="22" width="14" height="14" class="some" />
        <text x="20" y="34">answer so many</text>
        <rect y="44" width="14" height="14" fill="url(#leave-hatch)" class="leave" />
        <text x="20" y="56">leave them blank</text>
        <rect y="66" width="14" height="14" class="same" />
        <text x="20" y="78">makes no difference</text>
      </g>
      <rect
        v-if="cell.safe + cell.unsure <= items"
        :x="across(cell.unsure) - 0.5"
        :y="up(cell.safe) - 0.5"
        :width="cells.width + 1"
        :height="cells.height + 1"
        class="here"
      />
    </svg>
    <p class="small" aria-live="polite" data-testid="cell">
      <template v-if="say"
        >{{ cell.safe }} safe, {{ cell.unsure }} unsure: <strong>{{ say.words }}</strong>,
        {{ say.odds }}</template
      >
      <span v-else class="soft">Press a cell, or move with the arrow keys.</span>
    </p>
  </div>
</template>

<style scoped>
.table svg {
  touch-action: none;
  cursor: crosshair;
  max-width: 100%;
}
.same {
  fill: var(--faint);
}
.answer {
  fill: var(--lichen);
  fill-opacity: 0.55;
}
.some {
  fill: var(--ochre);
  fill-opacity: 0.3;
}
.leave {
  stroke: none;
}
.legend .leave {
  stroke: var(--clay);
  stroke-width: 0.6;
}
.hatch {
  stroke: var(--clay);
  stroke-width: 2;
}
.number {
  font-size: 8.6px;
}
.tick,
.legend text {
  font-size: 12px;
  fill: var(--soft);
}
.tick.above {
  fill: var(--ink);
}
.here {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
</style>
