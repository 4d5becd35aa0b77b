<script setup lang="ts">
import type { Counts, ItemGroup } from '@climber/contract'
import CountsRow from './CountsRow.vue'

/** Counts of a paper, a row an item group. */
defineProps<{
  rows: { group: ItemGroup; title: string }[]
  counts: Record<string, Counts | undefined>
  /** What stands against the counts of a group. */
  problemAt: (group: string) => string | undefined
}>()
const emit = defineEmits<{ set: [group: string, counts: Counts | undefined] }>()
</script>

<template>
  <div class="scroll">
    <table class="lines">
      <thead>
        <tr>
          <th>Section</th>
          <th class="n">Right</th>
          <th class="n">Wrong</th>
          <th class="n">Blank</th>
          <th class="n" title="Of the blank ones, those at the end that time ran out on">Not reached</th>
          <td></td>
        </tr>
      </thead>
      <tbody>
        <CountsRow
          v-for="{ group, title } in rows"
          :key="group.id"
          :label="title"
          :group="group"
          :problem="problemAt(group.id)"
          :model-value="counts[group.id]"
          @update:model-value="emit('set', group.id, $event)"
        />
      </tbody>
    </table>
  </div>
</template>
