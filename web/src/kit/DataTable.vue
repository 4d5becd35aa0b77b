<script setup lang="ts" generic="T extends object">
import { computed } from 'vue'

/** Rows that sort by a press on a column's head, and become cards on a phone. A slot named after a column draws its cells. */
interface Column {
  key: string
  title: string
  figure?: boolean
  sortable?: boolean
}
const props = defineProps<{
  label: string
  columns: readonly Column[]
  rows: readonly T[]
  /** The key whose value names a row. */
  id: string
  /** What is said where there are none. */
  none?: string
}>()
defineSlots<Record<string, (scope: { row: T }) => unknown>>()
const headers = computed(() =>
  props.columns.map(({ key, title, figure, sortable = true }) => ({
    key,
    title,
    sortable,
    align: figure ? ('end' as const) : ('start' as const),
  })),
)
/** What a cell shows where no slot draws it. */
const cellOf = (row: T, key: string): unknown => Object.entries(row).find(([own]) => own === key)?.[1]
</script>

<template>
  <v-data-table
    :headers="headers"
    :items="[...rows]"
    :item-value="id"
    :items-per-page="-1"
    :aria-label="label"
    :no-data-text="none ?? 'Nothing here yet.'"
    density="compact"
    mobile-breakpoint="sm"
    hide-default-footer
    class="kit-table"
  >
    <template v-for="column in columns" :key="column.key" #[`item.${column.key}`]="{ item }">
      <slot :name="column.key" :row="item">{{ cellOf(item, column.key) }}</slot>
    </template>
  </v-data-table>
</template>
