<script setup lang="ts">
import { computed } from 'vue'
import type { SortState } from './sorting'

/** The head of a column that rows are sorted by. */
const props = defineProps<{ head: SortState; by: string }>()
const way = computed(() =>
  props.head.by === props.by ? (props.head.down ? 'descending' : 'ascending') : undefined,
)
</script>

<template>
  <th class="sorts" :aria-sort="way">
    <button type="button" @click="head.press(by)"><slot /></button>
  </th>
</template>
