<script setup lang="ts">
import { computed } from 'vue'
import type { ExamFormat, Form, ItemResponse } from '@climber/contract'
import { withCriterion, type WrittenItem, writtenItems } from '@climber/core'
import NumberField from '../../kit/NumberField.vue'
import FormText from '../../widgets/FormText.vue'

/** Written answers whose form says what earns their marks: marks for each, and what they come to. */
const props = defineProps<{ exam: ExamFormat; form?: Form }>()
const responses = defineModel<ItemResponse[]>({ required: true })
const written = computed(() => writtenItems(props.exam, responses.value, props.form))
const responseOf = (item: number) => responses.value.find((one) => one.item === item)
function give(one: WrittenItem, at: number, marks: number | undefined): void {
  const { item } = one.slot
  const next = withCriterion(one, responseOf(item), at, marks)
  responses.value = [...responses.value.filter((own) => own.item !== item), next].sort(
    (a, b) => a.item - b.item,
  )
}
</script>

<template>
  <section v-if="written.length" class="stack" aria-label="Written answers">
    <h2>Written answers</h2>
    <section
      v-for="one in written"
      :key="one.slot.item"
      class="stack item"
      :aria-label="`Item ${one.slot.item}`"
    >
      <div class="row">
        <h3>Item {{ one.slot.item }}</h3>
        <span aria-live="polite"
          >{{ responseOf(one.slot.item)?.answer || '–' }} of {{ one.slot.group.perRight }} marks</span
        >
      </div>
      <details v-if="one.item.text">
        <summary class="small">The question</summary>
        <FormText :text="one.item.text" :pictures="form?.pictures" />
      </details>
      <div v-for="(criterion, at) in one.criteria" :key="at" class="criterion">
        <span>{{ criterion.text }}</span>
        <NumberField
          optional
          :label="`Item ${one.slot.item}: marks for what earns ${criterion.marks}, ${at + 1}`"
          quiet
          :min="0"
          :max="criterion.marks"
          :model-value="responseOf(one.slot.item)?.criteria?.[at] ?? undefined"
          @update:model-value="give(one, at, $event)"
        />
        <span class="soft">of {{ criterion.marks }}</span>
        <v-btn
          variant="text"
          :aria-label="`Item ${one.slot.item}: all of ${at + 1}`"
          @click="give(one, at, criterion.marks)"
          >all</v-btn
        >
        <v-btn
          variant="text"
          :aria-label="`Item ${one.slot.item}: none of ${at + 1}`"
          @click="give(one, at, 0)"
          >none</v-btn
        >
      </div>
    </section>
  </section>
</template>

<style scoped>
.item {
  border-top: 1px solid var(--hair);
  padding-top: 6px;
}
.criterion {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 64px 44px auto auto;
  gap: 8px;
  align-items: center;
  max-width: 720px;
}
summary {
  cursor: pointer;
}
@media (max-width: 700px) {
  .criterion {
    grid-template-columns: 64px 60px 64px 64px;
  }
  .criterion > :first-child {
    grid-column: 1 / -1;
  }
}
</style>
