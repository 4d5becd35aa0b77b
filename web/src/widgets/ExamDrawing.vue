<script setup lang="ts">
import { scaleLinear } from 'd3'
import { computed, ref } from 'vue'
import type { ExamFormat } from '@climber/contract'
import { itemsOf } from '@climber/core'
import { useWidth } from '../manners/size'
import { durationWords, percentWords } from '../manners/words'

/** An exam format drawn to scale: sections as lengths of time, items as ticks, breaks as gaps; topics as a table. */
const props = defineProps<{ exam: ExamFormat }>()
const box = ref<HTMLElement | null>(null)
const width = useWidth(box, 700)
const spans = computed(() => {
  let clock = 0
  return props.exam.sections.map((section) => {
    const from = clock
    clock += section.minutes + section.breakAfter
    return { section, from, to: from + section.minutes, items: itemsOf(section) }
  })
})
const total = computed(() => spans.value[spans.value.length - 1]!.to)
const x = computed(() => scaleLinear([0, total.value], [1, width.value - 1]))
const ticks = (items: number, from: number, to: number) =>
  Array.from({ length: items - 1 }, (_, at) => x.value(from + ((to - from) * (at + 1)) / items))
const marks = (perWrong: number) =>
  perWrong === 0 ? 'nothing off' : Math.abs(perWrong - 1 / 3) < 1e-6 ? '1/3 off' : `${perWrong} off`
</script>

<template>
  <div ref="box" class="stack">
    <svg
      :width="width"
      height="64"
      role="img"
      :aria-label="`${exam.sections.length} sections, ${durationWords(total)} in all`"
    >
      <g v-for="span in spans" :key="span.section.id">
        <rect :x="x(span.from)" y="24" :width="x(span.to) - x(span.from)" height="26" class="section" />
        <line
          v-for="(tick, at) in ticks(span.items, span.from, span.to)"
          :key="at"
          :x1="tick"
          :x2="tick"
          y1="42"
          y2="50"
          class="tick"
        />
        <text
          :x="x(span.from) > width - 110 ? x(span.to) : x(span.from)"
          y="16"
          class="name"
          :text-anchor="x(span.from) > width - 110 ? 'end' : 'start'"
        >
          {{ span.section.minutes }} min · {{ span.items }} items
        </text>
      </g>
    </svg>
    <div class="scroll">
      <table class="lines small">
        <thead>
          <tr>
            <th>Section</th>
            <th class="n">Items</th>
            <th class="n">Time</th>
            <th class="n">Wrong answer</th>
            <th class="n">Cut</th>
            <th class="n">Scale</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="{ section, items } in spans" :key="section.id">
            <td>{{ section.title }}</td>
            <td class="n">{{ items }}</td>
            <td class="n">{{ durationWords(section.minutes) }}</td>
            <td class="n">{{ section.groups.map((group) => marks(group.perWrong)).join(', ') }}</td>
            <td class="n">{{ section.cut ?? '–' }}</td>
            <td class="n">
              {{ section.conversion.points[0]![1] }} to
              {{ section.conversion.points[section.conversion.points.length - 1]![1] }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <details>
      <summary>Blueprint: {{ exam.topics.length }} topics</summary>
      <table class="lines small mt-2">
        <tbody>
          <tr v-for="topic in exam.topics" :key="topic.id">
            <td>{{ topic.title }}</td>
            <td class="soft">{{ exam.sections.find(({ id }) => id === topic.section)?.title }}</td>
            <td class="n">{{ percentWords(topic.share) }} of its section</td>
          </tr>
        </tbody>
      </table>
    </details>
  </div>
</template>

<style scoped>
.section {
  fill: var(--paper);
  stroke: var(--ink);
}
.tick {
  stroke: var(--soft);
  stroke-width: 0.8;
}
.name {
  font-size: 12px;
}
summary {
  cursor: pointer;
}
</style>
