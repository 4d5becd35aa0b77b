<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Availability } from '@climber/contract'
import { dateWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import DateField from '../../kit/DateField.vue'
import Later from '../../kit/Later.vue'
import MinutesField from '../../kit/MinutesField.vue'
import NumberField from '../../kit/NumberField.vue'
import { byField } from '../../kit/problems'
import TextField from '../../kit/TextField.vue'
import TimeField from '../../kit/TimeField.vue'
import Commitments from './Commitments.vue'
import FreeTime from './FreeTime.vue'
import PublicHolidays from './PublicHolidays.vue'

const workspace = useWorkspace()
const save = computed(() => workspace.saves!.availability)
const document = computed(() => save.value.state.document)
const fields = computed(() => byField(save.value.state.problems))
const off = ref<string>()
const offProblem = ref('')

function addDayOff(): void {
  const day = off.value
  offProblem.value = day ? '' : 'Choose a day first.'
  if (!day) return
  save.value.edit((availability) => {
    if (!availability.daysOff.includes(day)) availability.daysOff = [...availability.daysOff, day].sort()
  })
  off.value = undefined
}
const removeDayOff = (day: string) =>
  save.value.edit(
    (availability) => (availability.daysOff = availability.daysOff.filter((other) => other !== day)),
  )
const setNumber = (field: 'minutesPerDay' | 'daysPerWeek', number: number | undefined) =>
  save.value.edit((availability) => {
    if (number !== undefined) availability[field] = number
  })
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
const exception = ref<{ date?: string; from?: string; to?: string }>({ from: '09:00', to: '12:00' })
const exceptionProblem = ref('')
function addException(): void {
  const { date, from, to } = exception.value
  exceptionProblem.value = date ? '' : 'Choose a day first.'
  if (!date || !from || !to) return
  if (from >= to) {
    exceptionProblem.value = 'It must end after it starts.'
    return
  }
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
</script>

<template>
  <div class="stack">
    <h2>A usual week</h2>
    <FreeTime />
    <Later :frames="1">
      <div class="fields">
        <MinutesField
          label="At most, minutes a day"
          :min="1"
          :max="1440"
          :model-value="document.minutesPerDay"
          :errors="fields.at('minutesPerDay')"
          @update:model-value="setNumber('minutesPerDay', $event)"
        />
        <NumberField
          label="At most, days a week"
          :min="1"
          :max="7"
          whole
          :model-value="document.daysPerWeek"
          :errors="fields.at('daysPerWeek')"
          @update:model-value="setNumber('daysPerWeek', $event)"
        />
        <MinutesField
          label="At most, minutes a week"
          optional
          hint="empty: no cap"
          :min="1"
          :model-value="document.minutesPerWeek"
          :errors="fields.at('minutesPerWeek')"
          @update:model-value="setOptional('minutesPerWeek', $event)"
        />
        <TimeField
          label="Best hours of the day, from"
          optional
          :model-value="document.best?.from"
          :errors="fields.at('best')"
          @update:model-value="setBest('from', $event)"
        />
        <TimeField
          label="Best hours, until"
          optional
          :model-value="document.best?.to"
          @update:model-value="setBest('to', $event)"
        />
        <TextField
          label="Time zone"
          :model-value="document.zone"
          :errors="fields.at('zone')"
          @update:model-value="(zone: string) => save.edit((availability) => (availability.zone = zone))"
        />
      </div>
      <v-checkbox
        label="A quarter of an hour on days with nothing else"
        :model-value="Boolean(document.keepWarm)"
        density="compact"
        hide-details
        @update:model-value="setOptional('keepWarm', $event || undefined)"
      />
      <p v-if="document.minutesPerDay > 360" class="mark">
        More than 6 hours a day costs sleep and tells little. If study keeps you from sleeping or frightens
        you, talk to a doctor or counsellor.
      </p>
      <p v-if="document.daysPerWeek > 6" class="mark">
        Seven days a week leave no day off. One free day keeps people going.
      </p>
    </Later>
    <Later :frames="2">
      <h2 class="mt-2">Days off</h2>
      <form class="row" novalidate @submit.prevent="addDayOff">
        <div class="day">
          <DateField
            v-model="off"
            label="Day off"
            :today="workspace.today"
            :min="workspace.today"
            optional
            :errors="offProblem || undefined"
          />
        </div>
        <v-btn type="submit">Add the day</v-btn>
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
    </Later>
    <Later :frames="3"><PublicHolidays /></Later>
    <Later :frames="4">
      <h2 class="mt-2">Days with other free time</h2>
      <form class="row" novalidate @submit.prevent="addException">
        <div class="day">
          <DateField
            v-model="exception.date"
            label="Day with other free time"
            :today="workspace.today"
            :min="workspace.today"
            optional
          />
        </div>
        <div class="time"><TimeField v-model="exception.from" label="Free from" /></div>
        <div class="time"><TimeField v-model="exception.to" label="Free until" /></div>
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
    </Later>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 220px));
  gap: 14px 18px;
}
.day {
  width: 240px;
}
.time {
  width: 130px;
}
@media (max-width: 700px) {
  .fields {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
