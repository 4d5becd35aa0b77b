<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Availability } from '@climber/contract'
import { dateWords, durationWords } from '../../manners/words'
import { minuteOf } from '@climber/core'
import { useWorkspace } from '../../stores/workspace'
import Field from '../../widgets/Field.vue'
import WeekPainter from '../../widgets/WeekPainter.vue'
import Commitments from './Commitments.vue'

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
const setOptional = <K extends 'minutesPerWeek' | 'keepWarm' | 'best'>(
  field: K,
  value: Availability[K] | undefined,
) =>
  save.value.edit((availability) => {
    if (value) availability[field] = value
    else delete availability[field]
  })
const setBest = (end: 'from' | 'to', time: string | undefined) =>
  setOptional('best', time ? { from: '09:00', to: '12:00', ...document.value.best, [end]: time } : undefined)

/** A dated exception: other free time on one day than its weekday has. */
const exception = ref({ date: '', from: '09:00', to: '12:00' })
const exceptionProblem = ref('')
function addException(): void {
  const { date, from, to } = exception.value
  exceptionProblem.value = !date
    ? 'Choose a day first.'
    : date < workspace.today
      ? `${dateWords(date, workspace.today)} is over; choose a day from today on.`
      : from >= to
        ? 'It must end after it starts.'
        : ''
  if (exceptionProblem.value) return
  save.value.edit((availability) => {
    const other = availability.exceptions.find((one) => one.date === date)
    if (!other) availability.exceptions.push({ date, windows: [{ from, to }] })
    else if (other.windows.some((window) => window.from < to && from < window.to))
      exceptionProblem.value = 'It overlaps what is free that day already.'
    else other.windows.push({ from, to })
    availability.exceptions.sort((a, b) => a.date.localeCompare(b.date))
  })
}
const removeException = (date: string) =>
  save.value.edit(
    (availability) => (availability.exceptions = availability.exceptions.filter((one) => one.date !== date)),
  )
const lightly = ref(false)
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
    <div class="row small" role="radiogroup" aria-label="What is painted">
      <label><input v-model="lightly" type="radio" :value="false" /> free time</label>
      <label><input v-model="lightly" type="radio" :value="true" /> light work only, such as a commute</label>
    </div>
    <WeekPainter :model-value="document.windows" :light="lightly" @update:model-value="setWindows" />
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
    <div class="row wide-row">
      <Field
        label="At most, minutes a week"
        type="number"
        optional
        placeholder="no cap"
        :model-value="document.minutesPerWeek"
        :problem="problemAt('minutesPerWeek')[0]"
        @update:model-value="setOptional('minutesPerWeek', $event as number | undefined)"
      />
      <Field
        label="Best hours of the day, from"
        type="time"
        optional
        :model-value="document.best?.from"
        :problem="problemAt('best')[0]"
        @update:model-value="setBest('from', $event as string | undefined)"
      />
      <Field
        label="to"
        type="time"
        optional
        :model-value="document.best?.to"
        @update:model-value="setBest('to', $event as string | undefined)"
      />
      <label class="small"
        ><input
          type="checkbox"
          :checked="document.keepWarm"
          @change="setOptional('keepWarm', ($event.target as HTMLInputElement).checked || undefined)"
        />
        a quarter of an hour on days with nothing else</label
      >
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
    <h2 class="mt-2">Days with other free time</h2>
    <form class="row" novalidate @submit.prevent="addException">
      <input
        v-model="exception.date"
        class="figure"
        type="date"
        :min="workspace.today"
        aria-label="Day with other free time"
      />
      <input v-model="exception.from" class="figure" type="time" aria-label="Free from" />
      <input v-model="exception.to" class="figure" type="time" aria-label="Free until" />
      <v-btn type="submit">Add the time</v-btn>
      <span v-if="exceptionProblem" class="bad small" role="alert">{{ exceptionProblem }}</span>
    </form>
    <div class="row">
      <v-btn
        v-for="one in document.exceptions"
        :key="one.date"
        :aria-label="`${dateWords(one.date, workspace.today)}: as its weekday again`"
        @click="removeException(one.date)"
        >{{ dateWords(one.date, workspace.today) }}
        {{ one.windows.map(({ from, to }) => `${from} to ${to}`).join(', ') || 'nothing' }} ×</v-btn
      >
      <span v-if="!document.exceptions.length" class="soft small">None yet.</span>
    </div>
    <Commitments />
  </div>
</template>

<style scoped>
.wide-row {
  align-items: end;
  gap: 18px;
}
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
