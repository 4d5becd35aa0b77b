<script setup lang="ts">
import type { Counts } from '@climber/contract'
import type { CountsLine } from '../manners/itemRows'
import CountsRow from './CountsRow.vue'
import { vCards } from '../kit/cards'

/** Counts of a paper, a row for each of its parts. */
defineProps<{
  head: string
  rows: CountsLine[]
  counts: Record<string, Counts | undefined>
  /** What stands against the counts of a row. */
  problemAt: (id: string) => string | undefined
}>()
const emit = defineEmits<{ set: [id: string, counts: Counts | undefined] }>()
</script>

<template>
  <div class="scroll">
    <table v-cards class="lines as-cards">
      <thead>
        <tr>
          <th>{{ head }}</th>
          <th class="n">Right</th>
          <th class="n">Wrong</th>
          <th class="n">Blank</th>
          <th class="n" title="Of the blank ones, those at the end that time ran out on">Not reached</th>
          <td></td>
        </tr>
      </thead>
      <tbody>
        <CountsRow
          v-for="{ id, title, room } in rows"
          :key="id"
          :label="title"
          :room="room"
          :problem="problemAt(id)"
          :model-value="counts[id]"
          @update:model-value="emit('set', id, $event)"
        />
      </tbody>
    </table>
  </div>
</template>
