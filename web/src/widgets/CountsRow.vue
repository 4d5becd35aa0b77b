<script setup lang="ts">
import { computed } from 'vue'
import type { Counts } from '@climber/contract'
import type { CountsRoom } from '../manners/itemRows'
import NumberField from '../kit/NumberField.vue'

/** Right, wrong, blank and (of the blank) not reached, with the sum checked against the items; marks, where written. */
const props = defineProps<{ label: string; room: CountsRoom; problem?: string }>()
const counts = defineModel<Counts | undefined>({ required: true })
const marked = [
  ['right', 'right'],
  ['wrong', 'wrong'],
  ['blank', 'left blank'],
  ['notReached', 'of those not reached'],
] as const
const marksAlone = [['marks', 'marks']] as const
const fields = computed(() =>
  !props.room.written
    ? marked
    : props.room.items
      ? ([...marksAlone, ...marked.slice(2)] as const)
      : marksAlone,
)
const sum = computed(() =>
  counts.value ? counts.value.right + counts.value.wrong + counts.value.blank : undefined,
)
const least = computed(() => props.room.least ?? props.room.items)
/** Items that are still to be accounted for; less than none where there are too many. */
const off = computed(() =>
  sum.value === undefined || (sum.value >= least.value && sum.value <= props.room.items)
    ? 0
    : props.room.items - sum.value,
)
const most = computed(() =>
  props.room.written && props.room.items
    ? (props.room.marks * (props.room.items - (counts.value?.blank ?? 0))) / props.room.items
    : props.room.marks,
)
const items = computed(() =>
  least.value < props.room.items ? `up to ${props.room.items}` : `${props.room.items}`,
)

function set(field: keyof Counts, count: number | undefined): void {
  const before = counts.value ?? {
    right: 0,
    wrong: 0,
    blank: 0,
    notReached: 0,
    ...(props.room.marks ? { marks: 0 } : {}),
  }
  const next = { ...before, [field]: count ?? 0 }
  const { right, wrong, blank, marks = 0 } = next
  counts.value = right + wrong + blank + marks === 0 && count === undefined ? undefined : next
}
/** Only the right ones are known: the others were wrong. */
const restWrong = () => set('wrong', counts.value!.wrong + off.value)
const canFill = computed(
  () => off.value > 0 && !props.room.written && counts.value?.wrong === 0 && counts.value.blank === 0,
)
</script>

<template>
  <tr>
    <th scope="row">{{ label }}</th>
    <td
      v-for="[field, words] in fields"
      :key="field"
      class="n count"
      :colspan="field === 'marks' ? (room.items ? 2 : 4) : 1"
    >
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
      <span v-if="room.marks && !room.written" class="count"
        ><NumberField
          quiet
          optional
          :label="`${label}: marks of the written answers`"
          :model-value="counts?.marks"
          @update:model-value="set('marks', $event)"
        />
        of {{ room.marks }} marks written
      </span>
      <template v-if="room.written">
        <span v-if="problem" class="bad">{{ problem }}</span>
        <span v-else-if="counts" class="good">{{ counts.marks ?? 0 }} of {{ most }} marks</span>
        <span v-else class="soft">{{ room.items ? `${room.items} items, ` : '' }}{{ room.marks }} marks</span>
      </template>
      <template v-else>
        <span v-if="sum === undefined && problem" class="bad">{{ problem }}</span>
        <span v-else-if="sum === undefined" class="soft">{{ items }} items</span>
        <template v-else-if="off > 0"
          ><span class="bad">{{ sum }} of {{ room.items }}: {{ off }} missing</span>
          <v-btn v-if="canFill" variant="text" @click="restWrong">the rest were wrong</v-btn></template
        >
        <span v-else-if="off < 0" class="bad">{{ sum }} of {{ room.items }}: {{ -off }} too many</span>
        <span v-else-if="problem" class="bad">{{ problem }}</span>
        <span v-else class="good">{{ sum }} of {{ items }}</span>
      </template>
    </td>
  </tr>
</template>
