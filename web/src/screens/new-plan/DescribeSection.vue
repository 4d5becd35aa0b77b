<script setup lang="ts">
import { ref } from 'vue'
import { steady } from '../../manners/press'
import type { DescribedExam, DescribedKind, DescribedSection } from '@climber/core'
import ChoiceField from '../../kit/ChoiceField.vue'
import ChoiceRow from '../../kit/ChoiceRow.vue'
import LinesField from '../../kit/LinesField.vue'
import MinutesField from '../../kit/MinutesField.vue'
import NumberField from '../../kit/NumberField.vue'
import type { byField } from '../../kit/problems'
import TextField from '../../kit/TextField.vue'

/** One section of a description: its time, its items by kind, its topics. */
const section = defineModel<DescribedSection>({ required: true })
const props = defineProps<{
  name: string
  at: number
  of: number
  told: DescribedExam['told']
  fields: ReturnType<typeof byField>
  /** Nobody said yet whether the numbers beside the topics are items or per cent. */
  asked: boolean
  /** What looks like a slip in the table. */
  warning?: string
}>()
defineEmits<{ remove: [] }>()
const kinds = [
  { value: 'choice', title: 'options to choose from' },
  { value: 'numeric', title: 'a number or a word' },
  { value: 'written', title: 'written, marked by hand' },
] as const
const numbers = [
  { value: 'items', title: 'numbers of items' },
  { value: 'per cent', title: 'per cent' },
] as const
const problemsAt = (field: string) => props.fields.at(`sections.${props.at}.${field}`)
const more = ref(
  section.value.cut !== undefined || section.value.weight !== undefined || Boolean(section.value.table),
)
const isAsked = steady(() => props.asked)
const wordOf = (place: number) => (section.value.kinds.length > 1 ? ` (${place + 1})` : '')
function addKind(): void {
  const kind: DescribedKind = { kind: 'numeric', perRight: 1 }
  section.value.kinds.push(kind)
}
</script>

<template>
  <section class="part stack" :aria-label="name">
    <div class="row">
      <h2>{{ name }}</h2>
      <v-btn v-if="of > 1" size="small" variant="text" :aria-label="`Remove ${name}`" @click="$emit('remove')"
        >Remove</v-btn
      >
    </div>
    <div class="field-grid">
      <TextField
        v-model="section.title"
        label="Section"
        optional
        class="wide"
        :placeholder="of > 1 ? undefined : 'needs no name where it is the only one'"
        :errors="problemsAt('title')"
      />
      <MinutesField
        v-model="section.minutes"
        label="Time"
        :min="1"
        :max="600"
        optional
        :errors="problemsAt('minutes')"
      />
      <MinutesField
        v-if="at < of - 1"
        v-model="section.breakAfter"
        label="Break after it"
        :min="0"
        :max="480"
        optional
        :errors="problemsAt('breakAfter')"
      />
    </div>
    <div v-for="(kind, place) in section.kinds" :key="place" class="field-grid kinds">
      <NumberField
        v-model="kind.items"
        :label="`Items${wordOf(place)}`"
        whole
        :min="1"
        :max="1000"
        optional
        :errors="problemsAt(`kinds.${place}.items`)"
      />
      <ChoiceField v-model="kind.kind" :label="`Answered with${wordOf(place)}`" :options="kinds" />
      <NumberField
        v-if="kind.kind === 'choice'"
        v-model="kind.choices"
        :label="`Options${wordOf(place)}`"
        whole
        :min="2"
        :max="26"
        :errors="problemsAt(`kinds.${place}.choices`)"
      />
      <NumberField
        v-model="kind.perRight"
        :label="`Marks each${wordOf(place)}`"
        :errors="problemsAt(`kinds.${place}.perRight`)"
      />
      <NumberField
        v-if="kind.kind !== 'written'"
        v-model="kind.perWrong"
        :label="`Wrong costs${wordOf(place)}`"
        optional
        placeholder="nothing"
        :errors="problemsAt(`kinds.${place}.perWrong`)"
      />
      <v-btn
        v-if="section.kinds.length > 1"
        size="small"
        variant="text"
        :aria-label="`Remove items${wordOf(place)}`"
        @click="section.kinds.splice(place, 1)"
        >Remove</v-btn
      >
    </div>
    <LinesField
      v-model="section.topics"
      label="Topics, one a line"
      hint="With its share at the end if it is known: “Old hands 30%”. Headings end in a colon."
      :rows="4"
      :errors="problemsAt('topics')"
    />
    <div v-if="isAsked" class="row" role="alert">
      <span>The numbers do not come to 100. They are</span>
      <ChoiceRow
        :model-value="section.topicsAs"
        label="The numbers beside the topics are"
        :options="numbers"
        @update:model-value="section.topicsAs = $event"
      />
    </div>
    <div class="row">
      <v-btn size="small" variant="text" @click="addKind">Other items in it, too</v-btn>
      <v-btn size="small" variant="text" :aria-expanded="more" @click="more = !more">{{
        told === 'scale' ? 'Cut, weight, sets, table' : 'Cut, weight, sets'
      }}</v-btn>
    </div>
    <div v-if="more" class="field-grid">
      <NumberField v-model="section.cut" label="Must reach by itself" optional :errors="problemsAt('cut')" />
      <NumberField
        v-if="of > 1"
        v-model="section.weight"
        label="Weighs"
        unit="times"
        :min="0"
        optional
        :errors="problemsAt('weight')"
      />
      <NumberField
        v-for="(kind, place) in section.kinds"
        :key="place"
        v-model="kind.inSet"
        :label="`Items on one text${wordOf(place)}`"
        whole
        :min="1"
        optional
        :errors="problemsAt(`kinds.${place}.inSet`)"
      />
    </div>
    <LinesField
      v-if="more && told === 'scale'"
      :model-value="section.table ?? ''"
      label="Raw and scaled scores, a line each"
      :rows="4"
      :errors="problemsAt('table')"
      @update:model-value="section.table = $event"
    />
    <p v-if="more && warning" class="small mark" role="status">{{ warning }}</p>
  </section>
</template>

<style scoped>
.part {
  border-top: 1px solid var(--hair);
  padding-top: 12px;
}
</style>
