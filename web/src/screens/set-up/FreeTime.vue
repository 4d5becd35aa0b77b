<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { readFreeTime, writeFreeTime, minuteOf } from '@climber/core'
import { steady } from '../../manners/press'
import { durationWords } from '../../manners/words'
import LinesField from '../../kit/LinesField.vue'
import { byField } from '../../kit/problems'
import { useWorkspace } from '../../stores/workspace'
import WeekPainter from '../../widgets/WeekPainter.vue'
import { freeTimes } from './freeTimes'

/** A usual week: as one of a few to begin with, typed, or painted; each shows what the others made. */
const props = defineProps<{ /** The painted week waits for a press. */ folded?: boolean }>()
const workspace = useWorkspace()
const save = computed(() => workspace.saves!.availability)
const windows = computed(() => save.value.state.document.windows)
const problems = computed(() => byField(save.value.state.problems).at('windows'))
const week = computed(() =>
  windows.value.reduce((sum, { from, to }) => sum + minuteOf(to) - minuteOf(from), 0),
)
const set = (found: typeof windows.value) => save.value.edit((availability) => (availability.windows = found))

const written = computed(() => writeFreeTime(windows.value))
/** What was typed and cannot be read: it stays, and the week as it was. */
const unread = ref<string>()
const wrong = ref<string[]>([])
watch(written, () => {
  unread.value = undefined
  wrong.value = []
})
function type(text: string): void {
  const { windows: found, problems: told } = readFreeTime(text)
  wrong.value = told.map(({ row, message }) => `Line ${row}: ${message}`)
  unread.value = told.length ? text : undefined
  if (!told.length) set(found)
}
// While one paints, the week does not move away under the pointer because a line is added above it.
const shown = steady(() => unread.value ?? written.value)
const light = ref(false)
const painted = ref(!props.folded)
</script>

<template>
  <div class="stack">
    <div class="row" role="group" aria-label="Begin with">
      <v-btn
        v-for="one in freeTimes"
        :key="one.title"
        size="small"
        :aria-pressed="written === one.text"
        @click="set(readFreeTime(one.text).windows)"
        >{{ one.title }}</v-btn
      >
    </div>
    <LinesField
      :model-value="shown"
      label="Free to study, days and times a line"
      hint="Such as “Mon-Thu 19-21”, “Sat 9-12”, “weekdays 7:30-8:10 light” for a commute."
      :rows="Math.max(2, shown.split('\n').length)"
      :errors="wrong"
      @update:model-value="type"
    />
    <p class="row">
      <span v-if="week"
        ><strong>{{ durationWords(week) }}</strong> a week</span
      >
      <span v-else class="bad">Nothing is free yet, so there is nothing to plan with.</span>
      <v-btn v-if="folded" size="small" variant="text" :aria-expanded="painted" @click="painted = !painted"
        >Paint it</v-btn
      >
    </p>
    <template v-if="painted">
      <v-radio-group v-model="light" aria-label="What is painted" inline density="compact" hide-details>
        <v-radio :value="false" label="free time" />
        <v-radio :value="true" label="light work only, such as a commute" />
      </v-radio-group>
      <WeekPainter :model-value="windows" :light="light" @update:model-value="set" />
    </template>
    <p v-for="message in problems" :key="message" class="bad">{{ message }}</p>
  </div>
</template>
