<script setup lang="ts">
import { computed } from 'vue'
import type { ReviewRow } from '@climber/core'
import DataTable from '../../kit/DataTable.vue'
import { dateWords, distanceWords, durationWords, rawWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'

/** Everything that was sat, the newest first, with how far its review has come. */
const props = defineProps<{ rows: readonly ReviewRow[] }>()
const workspace = useWorkspace()
const columns = [
  { key: 'title', title: 'Test' },
  { key: 'progress', title: 'Done with', sortable: false },
  { key: 'lost', title: 'Marks lost', figure: true },
  { key: 'minutes', title: 'Minutes', figure: true, sortable: false },
  { key: 'go', title: 'To do', sortable: false },
]
const shown = computed(() =>
  props.rows.map((row) => ({
    ...row,
    share: row.worth ? row.done / row.worth : 0,
    day: row.date
      ? `${dateWords(row.date, workspace.today)}, ${distanceWords(row.date, workspace.today)}`
      : 'no day',
    word: !row.worth || !row.done ? 'Review' : row.done < row.worth ? 'Go on' : 'Look again',
  })),
)
const params = (id: string) => ({ candidateId: workspace.candidate!.id, attemptId: id })
</script>

<template>
  <DataTable id="id" label="Reviews" :columns="columns" :rows="shown">
    <template #title="{ row }">
      <router-link :to="{ name: 'review', params: params(row.id) }">{{ row.title }}</router-link><br /><span
        class="small soft"
        >{{ row.day }}</span
      >
    </template>
    <template #progress="{ row }">
      <span v-if="!row.worth" class="soft">only counts are known</span>
      <span v-else class="progress">
        <span class="bar" aria-hidden="true"><span :style="{ width: `${row.share * 100}%` }" /></span>
        {{ row.done }} of {{ row.worth }}
      </span>
    </template>
    <template #lost="{ row }">{{ row.worth ? rawWords(row.lost) : '' }}</template>
    <template #minutes="{ row }">
      <template v-if="row.bookedMinutes || row.usedMinutes"
        >{{ durationWords(row.usedMinutes)
        }}<span v-if="row.bookedMinutes" class="soft">
          of {{ durationWords(row.bookedMinutes) }}</span
        ></template
      ><span v-if="row.next" class="small soft"
        ><br />booked {{ dateWords(row.next.date, workspace.today) }} {{ row.next.start }}</span
      >
    </template>
    <template #go="{ row }">
      <v-btn :class="{ main: row.done < row.worth }" :to="{ name: 'review', params: params(row.id) }">{{
        row.word
      }}</v-btn>
    </template>
  </DataTable>
</template>

<style scoped>
.progress {
  display: inline-flex;
  gap: 8px;
  align-items: center;
  white-space: nowrap;
}
.bar {
  display: inline-block;
  width: 90px;
  height: 8px;
  border: 1px solid var(--ink);
}
.bar > span {
  display: block;
  height: 100%;
  background: var(--ink);
}
</style>
