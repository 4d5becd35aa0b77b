<script setup lang="ts">
import { computed } from 'vue'
import type { ExamFormat, ItemGroup } from '@climber/contract'
import { compositeRange, examShares, groupsOf, itemsOf, sectionRange } from '@climber/core'
import { durationWords, percentWords } from '../manners/words'
import ExamDrawing from './ExamDrawing.vue'

/** An exam format to read: the drawing, its figures, and the blueprint. */
const props = defineProps<{ exam: ExamFormat }>()
const shares = computed(() => examShares(props.exam))
const whole = computed(() => compositeRange(props.exam))
function marks({ kind, perRight, perWrong, perBlank, choices }: ItemGroup): string {
  const off = perWrong === 0 ? '' : Math.abs(perWrong - 1 / 3) < 1e-6 ? ', 1/3 off' : `, ${perWrong} off`
  const blank = perBlank ? `, blank ${perBlank}` : ''
  const what = kind === 'choice' ? `${choices} options` : kind
  return `${what}, ${perRight} mark${perRight === 1 ? '' : 's'}${off}${blank}`
}
</script>

<template>
  <div class="stack">
    <ExamDrawing :exam="exam" />
    <div class="scroll">
      <table class="lines small">
        <thead>
          <tr>
            <th>Section</th>
            <th class="n">Items</th>
            <th class="n">Time</th>
            <th>Marking</th>
            <th class="n">Cut</th>
            <th class="n">Scale</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="section in exam.sections" :key="section.id">
            <th scope="row">{{ section.title }}{{ section.stages ? ', adaptive' : '' }}</th>
            <td class="n">{{ itemsOf(section) }}</td>
            <td class="n">
              {{ section.timed === false ? 'about ' : '' }}{{ durationWords(section.minutes) }}
            </td>
            <td>{{ [...new Set(groupsOf(section).map(marks))].join('; ') }}</td>
            <td class="n">{{ section.cut ?? '–' }}</td>
            <td class="n">{{ sectionRange(section).low }} to {{ sectionRange(section).high }}</td>
          </tr>
          <tr>
            <th scope="row">In all</th>
            <td colspan="3"></td>
            <td class="n">{{ exam.composite.cut ?? '–' }}</td>
            <td class="n">{{ whole.low }} to {{ whole.high }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <details>
      <summary>Blueprint: {{ exam.topics.length }} topics</summary>
      <table class="lines small mt-2">
        <tbody>
          <tr v-for="(topic, at) in exam.topics" :key="topic.id">
            <td>{{ topic.title }}</td>
            <td class="soft">{{ (topic.under ?? []).join(' · ') }}</td>
            <td class="n">{{ percentWords(shares[at]!) }} of the marks</td>
          </tr>
        </tbody>
      </table>
    </details>
  </div>
</template>

<style scoped>
summary {
  cursor: pointer;
}
</style>
