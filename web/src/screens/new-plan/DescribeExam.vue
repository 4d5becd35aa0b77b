<script setup lang="ts">
import { computed } from 'vue'
import { blankSection, sectionTitle } from '@climber/core'
import ChoiceRow from '../../kit/ChoiceRow.vue'
import DateField from '../../kit/DateField.vue'
import NumberField from '../../kit/NumberField.vue'
import TextField from '../../kit/TextField.vue'
import TimeField from '../../kit/TimeField.vue'
import ExamDrawing from '../../widgets/ExamDrawing.vue'
import DescribeSection from './DescribeSection.vue'
import type { Description } from './described'

/** An exam from its own page, in the order in which such pages tell it; what else its format can say is added later. */
const props = defineProps<{ description: Description; today: string }>()
const exam = computed(() => props.description.described.value)
const fields = computed(() => props.description.fields.value)
const tells = [
  { value: 'marks', title: 'as marks' },
  { value: 'percent', title: 'in per cent' },
  { value: 'scale', title: 'on a scale' },
] as const
const wholes = [
  { value: 'added', title: 'added' },
  { value: 'averaged', title: 'averaged' },
] as const
const units = { marks: 'marks', percent: '%', scale: 'points' } as const
const unit = computed(() => units[exam.value.told])

function addSection(): void {
  const { sections } = exam.value
  sections.push(blankSection(sections[sections.length - 1]))
}
const addSitting = () => exam.value.sittings.push({ start: exam.value.sittings.at(-1)?.start ?? '09:00' })
</script>

<template>
  <div class="stack describe">
    <p v-if="description.wasKept" class="small mark">
      This was begun before and kept in this browser.
      <v-btn size="small" variant="text" @click="description.beginAgain()">Begin again</v-btn>
    </p>
    <TextField v-model="exam.title" label="What the exam is called" :errors="fields.at('title')" />

    <DescribeSection
      v-for="(_, at) in exam.sections"
      :key="at"
      v-model="exam.sections[at]!"
      :name="sectionTitle(exam, at)"
      :at="at"
      :of="exam.sections.length"
      :told="exam.told"
      :fields="fields"
      :asked="description.asked.value.includes(at)"
      :warning="description.warnings.value.find(({ field }) => field === `sections.${at}.table`)?.message"
      @remove="exam.sections.splice(at, 1)"
    />
    <div><v-btn size="small" @click="addSection">Another section</v-btn></div>

    <section class="part stack" aria-label="Result">
      <h2>The result</h2>
      <div class="row">
        <span>It is told</span>
        <ChoiceRow v-model="exam.told" label="The result is told" :options="tells" />
      </div>
      <div v-if="exam.sections.length > 1 && exam.told !== 'percent'" class="row">
        <span>The sections are</span>
        <ChoiceRow v-model="exam.whole" label="The sections are" :options="wholes" />
      </div>
      <div class="field-grid">
        <template v-if="exam.told === 'scale'">
          <NumberField
            v-model="exam.low"
            :label="exam.sections.length > 1 ? 'Each section from' : 'From'"
            optional
            :errors="fields.at('low')"
          />
          <NumberField v-model="exam.high" label="To" optional :errors="fields.at('high')" />
        </template>
        <NumberField
          v-model="exam.pass"
          label="Pass mark, if there is one"
          :unit="unit"
          optional
          :errors="fields.at('pass')"
        />
      </div>
    </section>

    <section class="part stack" aria-label="Sittings">
      <h2>When it is sat</h2>
      <div v-for="(sitting, at) in exam.sittings" :key="at" class="field-grid">
        <DateField
          v-model="sitting.date"
          :label="at ? `Day ${at + 1}` : 'Day'"
          :today="today"
          optional
          :errors="fields.at(`sittings.${at}.date`)"
        />
        <TimeField
          v-model="sitting.start"
          :label="at ? `Start ${at + 1}` : 'Start'"
          :errors="fields.at(`sittings.${at}.start`)"
        />
        <DateField
          v-model="sitting.registerBy"
          :label="at ? `Register ${at + 1} by` : 'Register by'"
          :today="today"
          optional
          :errors="fields.at(`sittings.${at}.registerBy`)"
        />
        <v-btn
          v-if="exam.sittings.length > 1"
          size="small"
          variant="text"
          :aria-label="`Remove day ${at + 1}`"
          @click="exam.sittings.splice(at, 1)"
          >Remove</v-btn
        >
      </div>
      <div><v-btn size="small" @click="addSitting">Another day to choose from</v-btn></div>
    </section>

    <section v-if="description.format.value" class="part stack" aria-label="As it is understood">
      <h2>As it is understood</h2>
      <ExamDrawing :exam="description.format.value" />
      <p class="small soft">
        Tables, several kinds of a test, rules, books and practice tests can be added at any time under Exam
        formats.
      </p>
    </section>
  </div>
</template>

<style scoped>
.describe {
  gap: 16px;
}
.part {
  border-top: 1px solid var(--hair);
  padding-top: 12px;
}
</style>
