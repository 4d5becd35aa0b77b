<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Availability } from '@climber/contract'
import { dateWords, durationWords } from '../../manners/words'
import { minuteOf } from '@climber/core'
import { useWorkspace } from '../../stores/workspace'
import WeekPainter from '../../widgets/WeekPainter.vue'

const workspace = useWorkspace()
const save = computed(() => workspace.saves!.availability)
const document = computed(() => save.value.state.document)
const problemAt = (field: string) =>
  save.value.state.problems
    .filter((one) => one.field === field || one.field.startsWith(`${field}.`))
    .map(({ message }) => message)
const week = computed(() =>
  document.value.windows.reduce((sum, { from, to }) => sum + minuteOf(to) - minuteOf(from), 0),
)
const off = ref('')
const offProblem = ref('')

function addDayOff(): void {
  offProblem.value = ''
  if (!off.value) offProblem.value = 'Choose a day first.'
  else if (off.value < workspace.today)
    offProblem.value = `${dateWords(off.value, workspace.today)} is over; choose a day from today on.`
  else {
    const day = off.value
    save.value.edit((availability) => {
      if (!availability.daysOff.includes(day)) availability.daysOff = [...availability.daysOff, day].sort()
    })
    off.value = ''
  }
}
const removeDayOff = (day: string) =>
  save.value.edit(
    (availability) => (availability.daysOff = availability.daysOff.filter((other) => other !== day)),
  )
const setNumber = (field: 'minutesPerDay' | 'daysPerWeek', text: string) =>
  save.value.edit((availability) => (availability[field] = Number(text)))
const setWindows = (windows: Availability['windows']) =>
  save.value.edit((availability) => (availability.windows = windows))
</script>

<template>
  <div class="stack">
    <div class="row">
      <h2>A usual week</h2>
      <span class="soft">{{
        week ? `${durationWords(week)} free` : 'Drag over the half-hours in which you can study.'
      }}</span>
    </div>
    <WeekPainter :model-value="document.windows" @update:model-value="setWindows" />
    <p v-for="message in problemAt('windows')" :key="message" class="bad">{{ message }}</p>
    <p v-if="!week" class="bad">No free hour is painted, so there is nothing to plan with yet.</p>
    <div class="fields">
      <v-text-field
        type="number"
        label="At most, minutes a day"
        :model-value="document.minutesPerDay"
        :error-messages="problemAt('minutesPerDay')"
        @update:model-value="setNumber('minutesPerDay', $event)"
      />
      <v-text-field
        type="number"
        label="At most, days a week"
        :model-value="document.daysPerWeek"
        :error-messages="problemAt('daysPerWeek')"
        @update:model-value="setNumber('daysPerWeek', $event)"
      />
      <v-text-field
        label="Time zone"
        :model-value="document.zone"
        :error-messages="problemAt('zone')"
        @update:model-value="(zone: string) => save.edit((availability) => (availability.zone = zone))"
      />
    </div>
    <p v-if="document.minutesPerDay > 360" class="mark">
      More than 6 hours a day costs sleep and tells little. If study keeps you from sleeping or frightens you,
      talk to a doctor or counsellor.
    </p>
    <p v-if="document.daysPerWeek > 6" class="mark">
      Seven days a week leave no day off. One free day keeps people going.
    </p>
    <h2 class="mt-2">Days off</h2>
    <form class="row" novalidate @submit.prevent="addDayOff">
      <input
        v-model="off"
        class="figure"
        type="date"
        :min="workspace.today"
        aria-label="Day off"
        :aria-invalid="Boolean(offProblem) || undefined"
      />
      <v-btn type="submit">Add the day</v-btn>
      <span v-if="offProblem" class="bad small" role="alert">{{ offProblem }}</span>
    </form>
    <div class="row">
      <v-btn
        v-for="day in document.daysOff"
        :key="day"
        :aria-label="`${dateWords(day, workspace.today)}: free again`"
        @click="removeDayOff(day)"
        >{{ dateWords(day, workspace.today) }} ×</v-btn
      >
      <span v-if="!document.daysOff.length" class="soft small">None yet.</span>
    </div>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 190px));
  gap: 18px;
}
@media (max-width: 700px) {
  .fields {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
