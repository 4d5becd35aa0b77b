<script setup lang="ts">
import { computed } from 'vue'
import type { Gap } from '@climber/core'
import { vCards } from '../../kit/cards'
import SliderField from '../../kit/SliderField.vue'
import { percentWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import HourFrom from '../../widgets/HourFrom.vue'
import WhereFrom from '../../widgets/WhereFrom.vue'
import SortHead from '../../kit/SortHead.vue'
import { sorted } from '../../kit/sorting'

/** Where the next hours pay most: hours shared out over topics, those there are or as many as one asks for. */
const props = defineProps<{ found: Gap }>()
const hours = defineModel<number | undefined>({ required: true })
const workspace = useWorkspace()
const section = (id: string) => workspace.exam!.sections.find((one) => one.id === id)!
const mostHours = computed(() => Math.max(20, Math.ceil((props.found.available * 2) / 10) * 10))
const given = computed(() => [...props.found.topics].sort((a, b) => b.hours - a.hours || b.yield - a.yield))
const { rows: topics, head } = sorted(() => given.value, {
  title: (topic) => topic.title,
  section: (topic) => section(topic.section).title,
  known: (topic) => topic.known,
  yield: (topic) => topic.yield,
  counts: (topic) => topic.counts,
  hours: (topic) => topic.hours,
  fair: (topic) => topic.hoursToFair,
  strong: (topic) => topic.hoursToStrong,
})
const byOdds = computed(() => topics.value.some(({ counts }) => counts !== undefined))
/** Points do not count alike everywhere: a section is short of its cut, or safe. */
const differs = computed(() => topics.value.some(({ counts = 1 }) => Math.abs(counts - 1) > 0.05))
/** What the last hour of the topics that get any adds to the odds. */
const lastHour = computed(() => {
  const busy = topics.value.filter((topic) => topic.hours > 0 && topic.chance !== undefined)
  const all = busy.reduce((sum, topic) => sum + topic.hours, 0)
  const mean = busy.reduce((sum, topic) => sum + topic.hours * topic.chance!, 0) / Math.max(1e-9, all)
  return mean >= 5e-4 ? `, ${(100 * mean).toFixed(1)}% each` : ''
})
const busiest = computed(() => Math.max(1, ...topics.value.map((topic) => topic.hours)))
const hoursWords = (value: number) =>
  value === 0 ? 'there' : value < 0.5 ? 'under 1 h' : `${value.toFixed(0)} h`
</script>

<template>
  <div class="row mt-3">
    <h2>Where the hours pay</h2>
    <SliderField
      quiet
      label="Hours to share out"
      :min="0"
      :max="mostHours"
      :step="1"
      :shown="`${Math.round(hours ?? found.available)} h`"
      :model-value="hours ?? Math.round(found.available)"
      @update:model-value="hours = $event"
    />
    <span data-testid="hours"
      >{{ found.hours.toFixed(0) }} h bring <strong>{{ found.points.toFixed(0) }} points</strong></span
    >
    <v-btn v-if="hours !== undefined" @click="hours = undefined"
      >The {{ found.available.toFixed(0) }} h there are</v-btn
    >
  </div>
  <table v-cards class="lines small as-cards three" data-testid="topics">
    <thead>
      <tr>
        <SortHead :head="head" by="title">Topic</SortHead>
        <SortHead :head="head" by="section">Section</SortHead>
        <SortHead class="n" :head="head" by="known">Known</SortHead>
        <SortHead class="n" :head="head" by="yield">Next hour</SortHead>
        <SortHead v-if="differs" class="n" :head="head" by="counts">Counts</SortHead>
        <SortHead :head="head" by="hours">Hours of these</SortHead>
        <SortHead class="n" :head="head" by="fair">To fair</SortHead>
        <SortHead class="n" :head="head" by="strong">To strong</SortHead>
      </tr>
    </thead>
    <tbody>
      <tr v-for="topic in topics" :key="topic.id">
        <th scope="row">{{ topic.title }}</th>
        <td class="soft">{{ section(topic.section).title }}</td>
        <td class="n">{{ percentWords(topic.known) }}</td>
        <td class="n">
          <WhereFrom :label="`${topic.title}, the next hour`">
            <template #figure>{{ topic.yield.toFixed(2) }}</template>
            <HourFrom :topic="topic" :section="section(topic.section).title" />
          </WhereFrom>
        </td>
        <td v-if="differs" class="n">{{ topic.counts!.toFixed(1) }}</td>
        <td class="bar">
          <svg width="190" height="14" aria-hidden="true">
            <rect x="0" y="2" :width="(150 * topic.hours) / busiest" height="10" class="hours" />
            <rect v-if="topic.hours >= 1" x="0" y="2" :width="150 / busiest" height="10" class="next" />
            <text :x="(150 * topic.hours) / busiest + 5" y="12" class="tick">
              {{ topic.hours.toFixed(1) }} h
            </text>
          </svg>
          <span class="only-reader">{{ topic.hours.toFixed(1) }} hours</span>
        </td>
        <td class="n">{{ hoursWords(topic.hoursToFair) }}</td>
        <td class="n">{{ hoursWords(topic.hoursToStrong) }}</td>
      </tr>
    </tbody>
  </table>
  <p class="small soft">
    Next hour: scaled points that one more hour is expected to bring.
    <template v-if="differs"
      >Counts: how much a point there adds to the odds of the target and every cut, against a point anywhere. </template
    ><template v-if="byOdds"
      >The hours are shared out so that the last hour on every topic adds the same to the odds{{
        lastHour
      }};</template
    ><template v-else
      >The hours are shared out so that the last hour on every topic brings the same;</template
    >
    the dark end of a bar is the first of them. Fair is half known, strong 85%.
  </p>
</template>

<style scoped>
.hours {
  fill: var(--water);
  fill-opacity: 0.45;
}
.next {
  fill: var(--water);
}
.tick {
  font-size: 12px;
  fill: var(--ink);
}
th[scope='row'] {
  color: var(--ink);
  font-size: 14px;
}
</style>
