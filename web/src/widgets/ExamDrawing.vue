<script setup lang="ts">
import { drag, type D3DragEvent, scaleLinear, select } from 'd3'
import { computed, onUpdated, onMounted, ref } from 'vue'
import type { ExamFormat, ItemGroup, Section } from '@climber/contract'
import { itemsOf } from '@climber/core'
import { useWidth } from '../manners/size'
import { durationWords } from '../manners/words'

/**
 * An exam format drawn to scale: sections as lengths of time, items as ticks, breaks as gaps, second stages as lanes.
 * `editable` lets a section be chosen, and its end and the end of its break be pulled, or moved with the arrow keys.
 */
const props = defineProps<{ exam: ExamFormat; editable?: boolean; chosen?: number }>()
const emit = defineEmits<{
  choose: [section: number]
  resize: [section: number, what: 'minutes' | 'breakAfter', minutes: number]
}>()
const box = ref<HTMLElement | null>(null)
const drawing = ref<SVGSVGElement | null>(null)
const width = useWidth(box, 700)
const size = (minutes: unknown) => (typeof minutes === 'number' && minutes > 0 ? minutes : 0)

interface Mark {
  at: number
  tall: boolean
}
/** Ticks of a run of groups between two minutes; the first of each item set stands taller. */
function marks(groups: ItemGroup[], from: number, to: number): Mark[] {
  const all = groups.reduce((sum, { items }) => sum + size(items), 0)
  let before = 0
  return groups.flatMap((group) => {
    const own = Array.from({ length: Math.min(400, size(group.items)) }, (_, at) => ({
      at: from + ((to - from) * (before + at)) / all,
      tall: at === 0 || Boolean(group.set && at % group.set.items === 0),
    }))
    before += size(group.items)
    return own
  })
}
const lanesOf = (section: Section) => section.stages?.length ?? 0
const tallest = computed(() => Math.max(0, ...props.exam.sections.map(lanesOf)))
const height = computed(() => 62 + Math.max(0, tallest.value - 1) * 16 + 16)
const spans = computed(() => {
  let clock = 0
  const last = props.exam.sections.length - 1
  return props.exam.sections.map((section, at) => {
    const from = clock
    const to = from + size(section.minutes)
    clock = to + (at < last ? size(section.breakAfter) : 0)
    const items = itemsOf(section)
    const first = section.groups.reduce((sum, group) => sum + size(group.items), 0)
    const turn = section.stages && items ? from + ((to - from) * first) / items : to
    return {
      section,
      from,
      to,
      end: clock,
      turn,
      items,
      ticks: marks(section.groups, from, turn),
      lanes: (section.stages ?? []).map((stage) => ({ stage, ticks: marks(stage.groups, turn, to) })),
    }
  })
})
const total = computed(() => Math.max(1, spans.value[spans.value.length - 1]?.to ?? 1))
const x = computed(() => scaleLinear([0, total.value], [1, width.value - 8]))
const papers = computed(() => {
  const found: { name: string; from: number; to: number }[] = []
  for (const { section, from, to } of spans.value) {
    const before = found[found.length - 1]
    if (section.paper && before?.name === section.paper) before.to = to
    else if (section.paper) found.push({ name: section.paper, from, to })
  }
  return found
})
const label = computed(
  () =>
    `${props.exam.sections.length} sections, ${durationWords(total.value)} in all with breaks: ` +
    spans.value
      .map(({ section, items }) => `${section.title}, ${size(section.minutes)} minutes, ${items} items`)
      .join('; '),
)
/** What stands above a section: as much as there is room for. */
function caption({
  section,
  items,
  from,
  end,
}: {
  section: Section
  items: number
  from: number
  end: number
}): string {
  const room = x.value(end) - x.value(from)
  const minutes = `${section.timed === false ? '~' : ''}${size(section.minutes)}`
  if (room > 120) return `${minutes} min · ${items} items`
  return room > 62 ? `${minutes} min · ${items}` : room > 30 ? minutes : ''
}
const lane = (at: number) => 22 + at * 16
const rising = (section: Section) => section.groups.some(({ difficulty }) => difficulty === 'rising')

type Handle = { section: number; what: 'minutes' | 'breakAfter' }
const step = 5
const snapped = (minutes: number, least: number) => Math.max(least, Math.round(minutes / step) * step)
function pull({ section, what }: Handle, minutes: number): void {
  const { from, to } = spans.value[section]!
  emit(
    'resize',
    section,
    what,
    snapped(minutes - (what === 'minutes' ? from : to), what === 'minutes' ? step : 0),
  )
}
function key(event: KeyboardEvent, { section, what }: Handle): void {
  const by = { ArrowRight: step, ArrowLeft: -step }[event.key]
  if (!by) return
  event.preventDefault()
  const now = size(props.exam.sections[section]![what])
  emit('resize', section, what, snapped(now + by, what === 'minutes' ? step : 0))
}
function wire(): void {
  if (!props.editable || !drawing.value) return
  select(drawing.value)
    .selectAll<SVGGElement, unknown>('.handle')
    .call(
      drag<SVGGElement, unknown>().on('drag', function (event: D3DragEvent<SVGGElement, unknown, unknown>) {
        const { section, what } = this.dataset
        // The scale moves with the length that is being pulled, so the pointer's place is read anew each time.
        pull({ section: Number(section), what: what as Handle['what'] }, x.value.invert(event.x))
      }),
    )
}
onMounted(wire)
onUpdated(wire)
</script>

<template>
  <div ref="box">
    <svg
      ref="drawing"
      :width="width"
      :height="height + (papers.length ? 16 : 0)"
      role="group"
      :aria-label="label"
    >
      <g v-for="(span, at) in spans" :key="span.section.id">
        <g
          class="body"
          :class="{
            choosable: editable,
            chosen: editable && chosen === at,
            untimed: span.section.timed === false,
          }"
          @click="editable && emit('choose', at)"
        >
          <rect
            :x="x(span.from)"
            y="22"
            :width="Math.max(1, x(span.turn) - x(span.from))"
            height="28"
            class="section"
          />
          <rect
            v-for="({ stage }, row) in span.lanes"
            :key="stage.id"
            :x="x(span.turn)"
            :y="lane(row)"
            :width="Math.max(1, x(span.to) - x(span.turn))"
            height="14"
            class="section"
          >
            <title>{{ stage.title }}</title>
          </rect>
          <path
            v-if="rising(span.section)"
            :d="`M${x(span.from) + 2},48 L${x(span.turn) - 2},26`"
            class="rising"
          />
          <line
            v-for="(mark, i) in span.ticks"
            :key="i"
            :x1="x(mark.at)"
            :x2="x(mark.at)"
            :y1="mark.tall ? 36 : 43"
            y2="50"
            class="tick"
          />
          <template v-for="({ stage, ticks }, row) in span.lanes" :key="`t${stage.id}`">
            <line
              v-for="(mark, i) in ticks"
              :key="i"
              :x1="x(mark.at)"
              :x2="x(mark.at)"
              :y1="lane(row) + 9"
              :y2="lane(row) + 14"
              class="tick"
            />
          </template>
          <text
            :x="x(span.from) > width - 120 ? x(span.to) : x(span.from)"
            y="15"
            class="name"
            :text-anchor="x(span.from) > width - 120 ? 'end' : 'start'"
          >
            {{ caption(span) }}
          </text>
        </g>
        <text
          v-if="at < spans.length - 1 && x(span.end) - x(span.to) > 26"
          :x="(x(span.to) + x(span.end)) / 2"
          y="40"
          class="gap"
          text-anchor="middle"
        >
          {{ size(span.section.breakAfter) }}
        </text>
        <template v-if="editable">
          <g
            v-for="what in at < spans.length - 1
              ? (['minutes', 'breakAfter'] as const)
              : (['minutes'] as const)"
            :key="what"
            class="handle"
            :data-section="at"
            :data-what="what"
            tabindex="0"
            role="slider"
            :aria-label="`${span.section.title}: ${what === 'minutes' ? 'minutes' : 'minutes of break after it'}`"
            :aria-valuenow="size(span.section[what])"
            aria-valuemin="0"
            aria-valuemax="600"
            @keydown="key($event, { section: at, what })"
          >
            <rect
              :x="x(what === 'minutes' ? span.to : span.end) - 6"
              y="18"
              width="12"
              height="36"
              class="grip"
            />
            <line
              :x1="x(what === 'minutes' ? span.to : span.end)"
              :x2="x(what === 'minutes' ? span.to : span.end)"
              y1="20"
              y2="52"
              :class="what === 'minutes' ? 'edge' : 'edge break'"
            />
          </g>
        </template>
      </g>
      <g v-for="paper in papers" :key="paper.name + paper.from">
        <path :d="`M${x(paper.from)},${height - 12} v4 H${x(paper.to)} v-4`" class="bracket" />
        <text :x="(x(paper.from) + x(paper.to)) / 2" :y="height + 8" text-anchor="middle" class="gap">
          {{ paper.name }}
        </text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.section {
  fill: var(--paper);
  stroke: var(--ink);
}
.untimed .section {
  stroke-dasharray: 4 3;
}
.choosable {
  cursor: pointer;
}
.chosen .section {
  fill: var(--wash);
  stroke-width: 1.8;
}
.tick {
  stroke: var(--soft);
  stroke-width: 0.8;
}
.rising {
  stroke: var(--ochre);
  stroke-width: 1.2;
  fill: none;
}
.name {
  font-size: 12px;
}
.gap {
  font-size: 12px;
  fill: var(--soft);
}
.bracket {
  fill: none;
  stroke: var(--soft);
}
.grip {
  fill: transparent;
  cursor: ew-resize;
}
.edge {
  stroke: var(--water);
  stroke-width: 3;
  pointer-events: none;
}
.edge.break {
  stroke: var(--hair);
}
</style>
