<script setup lang="ts">
import type { Levers } from '@climber/core'
import { durationWords, percentWords } from '../manners/words'

/** Where the hours needed come from: plans with fewer and more hours, and the odds with each. */
defineProps<{ tried: Levers['tried']; made: boolean }>()
</script>

<template>
  <p>
    Found between plans, each with its own odds over the possible candidates. Fewer hours are sessions left
    out of {{ made ? 'the plan that would be made' : 'your plan' }}; more are plans made with minutes painted
    where your week has room.
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
          <template v-if="one.minutes">{{ durationWords(one.minutes) }} more a week</template>
          <template v-else-if="one.hours === 0">no study but the tests</template>
          <template v-else-if="at === 4">{{ made ? 'the plan that would be made' : 'your plan' }}</template>
          <template v-else>{{ ['', 'a quarter', 'half', 'three quarters'][at] }} of it</template>
        </th>
        <td class="n">{{ one.hours.toFixed(0) }} h</td>
        <td class="n">{{ percentWords(one.odds) }}</td>
      </tr>
    </tbody>
  </table>
</template>
