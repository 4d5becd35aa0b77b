<script setup lang="ts">
import type { SectionGap } from '@climber/core'
import { vCards } from '../../kit/cards'
import NumberField from '../../kit/NumberField.vue'
import { scoreWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import SortHead from '../../kit/SortHead.vue'
import { sorted } from '../../kit/sorting'

/** What each section must give for the score in all, if the others give what they do today, later, or as one counts on. */
const props = defineProps<{ sections: SectionGap[]; wanted: Record<string, number> }>()
defineEmits<{ want: [section: string, score: number | undefined] }>()
const workspace = useWorkspace()
const titleOf = (id: string) => workspace.exam!.sections.find((one) => one.id === id)!.title
const { rows, head } = sorted(() => props.sections, {
  title: (gap) => titleOf(gap.section),
  today: (gap) => gap.today,
  later: (gap) => gap.later,
  othersToday: (gap) => gap.mustGive?.othersToday,
  othersLater: (gap) => gap.mustGive?.othersLater,
})
const within = ({ low, high }: { low: number; high: number }, score: number) =>
  score > high ? `more than its ${high}` : score <= low ? 'anything' : String(Math.ceil(score - 1e-9))
</script>

<template>
  <h2>Sharing {{ scoreWords(workspace.overview!.goal.mean!) }} between the sections</h2>
  <table v-cards class="lines small as-cards three" data-testid="sharing">
    <thead>
      <tr>
        <SortHead :head="head" by="title">Section</SortHead>
        <SortHead class="n" :head="head" by="today">Today</SortHead>
        <SortHead class="n" :head="head" by="later">After the hours</SortHead>
        <SortHead class="n" :head="head" by="othersToday">Must give if the others stay</SortHead>
        <SortHead class="n" :head="head" by="othersLater">If they rise too</SortHead>
        <th class="n">You count on</th>
        <th class="n">Must give then</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="gap in rows" :key="gap.section">
        <th scope="row">{{ titleOf(gap.section) }}</th>
        <td class="n">{{ Math.round(gap.today) }}</td>
        <td class="n">{{ Math.round(gap.later) }}</td>
        <td class="n">{{ within(gap, gap.mustGive!.othersToday) }}</td>
        <td class="n">{{ within(gap, gap.mustGive!.othersLater) }}</td>
        <td class="n">
          <NumberField
            quiet
            optional
            :label="`You count on in ${titleOf(gap.section)}`"
            :min="gap.low"
            :max="gap.high"
            :placeholder="String(Math.round(gap.later))"
            :model-value="wanted[gap.section]"
            @update:model-value="$emit('want', gap.section, $event)"
          />
        </td>
        <td class="n">
          <strong :class="gap.mustGive!.othersWanted > gap.high ? 'bad' : ''">{{
            within(gap, gap.mustGive!.othersWanted)
          }}</strong>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
td .v-input {
  max-width: 110px;
  margin-left: auto;
}
@media (max-width: 700px) {
  td .v-input {
    margin-left: 0;
  }
}
</style>
