<script setup lang="ts">
import { computed } from 'vue'
import type { Counts } from '@climber/contract'

/** Right, wrong, blank and (of the blank) not reached, with the sum checked against the items. */
const props = defineProps<{ label: string; items?: number; problem?: string }>()
const counts = defineModel<Counts | undefined>({ required: true })
const fields = [
  ['right', 'right'],
  ['wrong', 'wrong'],
  ['blank', 'left blank'],
  ['notReached', 'of those not reached'],
] as const
const sum = computed(() =>
  counts.value ? counts.value.right + counts.value.wrong + counts.value.blank : undefined,
)
const off = computed(() =>
  props.items === undefined || sum.value === undefined ? 0 : props.items - sum.value,
)

function set(field: keyof Counts, event: Event): void {
  const text = (event.target as HTMLInputElement).value
  const before = counts.value ?? { right: 0, wrong: 0, blank: 0, notReached: 0 }
  counts.value = { ...before, [field]: text === '' ? 0 : Number(text) }
}
</script>

<template>
  <tr>
    <th scope="row">{{ label }}</th>
    <td v-for="[field, words] in fields" :key="field" class="n count">
      <input
        class="figure"
        type="number"
        min="0"
        :max="items"
        inputmode="numeric"
        :value="counts?.[field] ?? ''"
        :aria-label="`${label}: ${words}`"
        :aria-invalid="Boolean(problem) || undefined"
        @input="set(field, $event)"
      />
    </td>
    <td v-if="items !== undefined" class="small" aria-live="polite">
      <span v-if="sum === undefined" class="soft">{{ items }} items</span>
      <span v-else-if="off > 0" class="bad">{{ sum }} of {{ items }}: {{ off }} missing</span>
      <span v-else-if="off < 0" class="bad">{{ sum }} of {{ items }}: {{ -off }} too many</span>
      <span v-else-if="problem" class="bad">{{ problem }}</span>
      <span v-else class="good">{{ sum }} of {{ items }}</span>
    </td>
  </tr>
</template>
