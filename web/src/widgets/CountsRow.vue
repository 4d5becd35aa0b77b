<script setup lang="ts">
import { computed } from 'vue'
import type { Counts, ItemGroup } from '@climber/contract'
import NumberField from '../kit/NumberField.vue'

/** Right, wrong, blank and (of the blank) not reached, with the sum checked against the items; marks, where written. */
const props = defineProps<{ label: string; group: ItemGroup; problem?: string }>()
const counts = defineModel<Counts | undefined>({ required: true })
const written = computed(() => props.group.kind === 'written')
const fields = computed(() =>
  written.value
    ? ([
        ['marks', 'marks'],
        ['blank', 'left blank'],
        ['notReached', 'of those not reached'],
      ] as const)
    : ([
        ['right', 'right'],
        ['wrong', 'wrong'],
        ['blank', 'left blank'],
        ['notReached', 'of those not reached'],
      ] as const),
)
const sum = computed(() =>
  counts.value ? counts.value.right + counts.value.wrong + counts.value.blank : undefined,
)
const off = computed(() => (sum.value === undefined ? 0 : props.group.items - sum.value))
const most = computed(() => (props.group.items - (counts.value?.blank ?? 0)) * props.group.perRight)

function set(field: keyof Counts, count: number | undefined): void {
  const before = counts.value ?? {
    right: 0,
    wrong: 0,
    blank: 0,
    notReached: 0,
    ...(written.value ? { marks: 0 } : {}),
  }
  counts.value = { ...before, [field]: count ?? 0 }
}
</script>

<template>
  <tr>
    <th scope="row">{{ label }}</th>
    <td v-for="[field, words] in fields" :key="field" class="n count" :colspan="field === 'marks' ? 2 : 1">
      <span v-if="field === 'marks'" class="small soft">marks </span>
      <NumberField
        quiet
        optional
        :label="`${label}: ${words}`"
        :model-value="counts?.[field]"
        :aria-invalid="Boolean(problem) || undefined"
        @update:model-value="set(field, $event)"
      />
    </td>
    <td class="small" aria-live="polite">
      <template v-if="written">
        <span v-if="problem" class="bad">{{ problem }}</span>
        <span v-else-if="counts" class="good">{{ counts.marks ?? 0 }} of {{ most }} marks</span>
        <span v-else class="soft">{{ group.items }} items, {{ group.items * group.perRight }} marks</span>
      </template>
      <template v-else>
        <span v-if="sum === undefined && problem" class="bad">{{ problem }}</span>
        <span v-else-if="sum === undefined" class="soft">{{ group.items }} items</span>
        <span v-else-if="off > 0" class="bad">{{ sum }} of {{ group.items }}: {{ off }} missing</span>
        <span v-else-if="off < 0" class="bad">{{ sum }} of {{ group.items }}: {{ -off }} too many</span>
        <span v-else-if="problem" class="bad">{{ problem }}</span>
        <span v-else class="good">{{ sum }} of {{ group.items }}</span>
      </template>
    </td>
  </tr>
</template>
