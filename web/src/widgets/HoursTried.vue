<script setup lang="ts">
import { computed } from 'vue'
import type { Levers } from '@climber/core'
import { durationWords, percentWords } from '../manners/words'

/** Where the hours needed come from: plans with fewer and more hours, and the odds with each. */
const props = defineProps<{ tried: Levers['tried']; made: boolean }>()
const plan = computed(() => (props.made ? 'the plan that would be made' : 'your plan'))
const parts: Record<number, string> = { 0.25: 'a quarter', 0.5: 'half', 0.75: 'three quarters' }
const words = ({ part, minutes }: Levers['tried'][number]) =>
  part === undefined
    ? `${durationWords(minutes)} more a week`
    : part === 0
      ? 'no study but the tests'
      : part === 1
        ? plan.value
        : `${parts[part]} of it`
</script>

<template>
  <p>
    Found between plans, each with its own odds over the possible candidates. Fewer hours are sessions left
    out of {{ plan }}; more are plans made with minutes painted where your week has room.
  </p>
  <table class="lines">
    <thead>
      <tr>
        <th>Plan</th>
        <th class="n">Study</th>
        <th class="n">Odds</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(one, at) in tried" :key="at">
        <th scope="row">
          {{ words(one) }}
        </th>
        <td class="n">{{ one.hours.toFixed(0) }} h</td>
        <td class="n">{{ percentWords(one.odds) }}</td>
      </tr>
    </tbody>
  </table>
</template>
