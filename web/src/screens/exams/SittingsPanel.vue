<script setup lang="ts">
import { computed } from 'vue'
import type { Accommodation, Sitting } from '@climber/contract'
import { slugOf } from '@climber/core'
import LinesField from '../../kit/LinesField.vue'
import TickField from '../../kit/TickField.vue'
import DateField from '../../kit/DateField.vue'
import NumberField from '../../kit/NumberField.vue'
import TextField from '../../kit/TextField.vue'
import TimeField from '../../kit/TimeField.vue'
import { useSession } from '../../stores/session'
import { setOptional, useDraft } from './draft'
import { vCards } from '../../kit/cards'

/** When and where it is sat, when again, what to bring, and what can be granted. */
const draft = useDraft()
const today = useSession().moment(Intl.DateTimeFormat().resolvedOptions().timeZone).date
const format = computed(() => draft.state.format)
function addSitting(): void {
  const { sittings } = format.value
  const last = sittings[sittings.length - 1]
  const id = slugOf(
    `sitting-${sittings.length + 1}`,
    sittings.map((one) => one.id),
  )
  const date = last ? `${Number(last.date.slice(0, 4)) + 1}${last.date.slice(4)}` : ''
  sittings.push({ ...(last ? (JSON.parse(JSON.stringify(last)) as Sitting) : { start: '09:00' }), id, date })
}
function setFee(sitting: Sitting, amount: number | undefined): void {
  if (amount === undefined) delete sitting.fee
  else sitting.fee = { currency: sitting.fee?.currency ?? 'marks', amount }
}
function setRetake(field: 'waitDays' | 'perYear', value: number | undefined): void {
  const retake = { waitDays: 0, ...format.value.retake }
  if (value === undefined) delete retake[field as 'perYear']
  else retake[field] = value
  if (!retake.waitDays && !retake.perYear) delete format.value.retake
  else format.value.retake = { ...retake, waitDays: retake.waitDays ?? 0 }
}
function addBring(): void {
  format.value.bring.push({
    id: slugOf(
      'thing',
      format.value.bring.map(({ id }) => id),
    ),
    what: '',
    must: true,
  })
}
const lines = (list: string[] | undefined) => (list ?? []).join('\n')
const listed = (text: string) =>
  text
    .split('\n')
    .map((one) => one.trim())
    .filter(Boolean)
function setTools(text: string): void {
  const tools = listed(text)
  setOptional(format.value, 'tools', tools.length ? tools : undefined)
}
function addGrant(): void {
  const grants = (format.value.accommodations ??= [])
  const id = slugOf(
    `grant-${grants.length + 1}`,
    grants.map((one) => one.id),
  )
  grants.push({ id, title: 'A quarter more time', timeFactor: 1.25 })
}
function setFactor(grant: Accommodation, section: string, factor: number | undefined): void {
  const { [section]: _gone, ...rest } = grant.sections ?? {}
  const sections = factor === undefined ? rest : { ...rest, [section]: factor }
  setOptional(grant, 'sections', Object.keys(sections).length ? sections : undefined)
}
function removeGrant(at: number): void {
  format.value.accommodations!.splice(at, 1)
  if (!format.value.accommodations!.length) delete format.value.accommodations
}
</script>

<template>
  <section class="stack" aria-label="Sittings and rules">
    <div class="row">
      <h2>Sittings</h2>
      <v-btn size="small" @click="addSitting">Add a sitting</v-btn>
    </div>
    <div v-if="format.sittings.length" class="scroll">
      <table v-cards class="lines as-cards small">
        <thead>
          <tr>
            <th>Date</th>
            <th>Start</th>
            <th>Place</th>
            <th>Register by</th>
            <th class="n">Fee</th>
            <th>in</th>
            <td></td>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(sitting, at) in format.sittings" :key="sitting.id">
            <td>
              <DateField
                v-model="sitting.date"
                :today="today"
                :label="`Sitting ${at + 1}: date`"
                quiet
                :errors="draft.problemAt(`sittings.${at}.date`)"
              />
            </td>
            <td>
              <TimeField
                v-model="sitting.start"
                :label="`Sitting ${at + 1}: start`"
                quiet
                :errors="draft.problemAt(`sittings.${at}.start`)"
              />
            </td>
            <td>
              <TextField
                :model-value="sitting.place"
                :label="`Sitting ${at + 1}: place`"
                quiet
                optional
                :errors="draft.problemAt(`sittings.${at}.place`)"
                @update:model-value="setOptional(sitting, 'place', $event)"
              />
            </td>
            <td>
              <DateField
                :today="today"
                :model-value="sitting.registerBy"
                :label="`Sitting ${at + 1}: register by`"
                quiet
                optional
                :errors="draft.problemAt(`sittings.${at}.registerBy`)"
                @update:model-value="setOptional(sitting, 'registerBy', $event)"
              />
            </td>
            <td class="n">
              <NumberField
                :model-value="sitting.fee?.amount"
                :label="`Sitting ${at + 1}: fee`"
                quiet
                :errors="draft.problemAt(`sittings.${at}.fee.amount`)"
                @update:model-value="setFee(sitting, $event)"
              />
            </td>
            <td>
              <TextField
                v-if="sitting.fee"
                v-model="sitting.fee.currency"
                :label="`Sitting ${at + 1}: currency`"
                quiet
                style="width: 80px"
              />
            </td>
            <td>
              <v-btn
                size="small"
                variant="text"
                :aria-label="`Remove sitting ${at + 1}`"
                @click="format.sittings.splice(at, 1)"
                >Remove</v-btn
              >
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <div class="fields">
      <NumberField
        :model-value="format.retake?.waitDays"
        label="Again after, at the earliest"
        unit="days"
        :errors="draft.problemAt('retake.waitDays')"
        @update:model-value="setRetake('waitDays', $event)"
      />
      <NumberField
        :model-value="format.retake?.perYear"
        label="Attempts a year, at most"
        :errors="draft.problemAt('retake.perYear')"
        @update:model-value="setRetake('perYear', $event)"
      />
    </div>
    <div class="row">
      <h2>To bring</h2>
      <v-btn size="small" @click="addBring">Add a thing</v-btn>
    </div>
    <div v-for="(thing, at) in format.bring" :key="thing.id" class="row">
      <TextField
        v-model="thing.what"
        :label="`Thing ${at + 1}`"
        quiet
        :errors="draft.problemAt(`bring.${at}.what`)"
        style="width: 260px"
      />
      <TickField v-model="thing.must" label="must be brought" />
      <v-btn
        size="small"
        variant="text"
        :aria-label="`Remove thing ${at + 1}`"
        @click="format.bring.splice(at, 1)"
        >Remove</v-btn
      >
    </div>
    <div class="fields">
      <LinesField
        label="Tools that are permitted, a line each"
        :model-value="lines(format.tools)"
        @update:model-value="setTools"
      />
      <LinesField
        label="Forbidden, a line each"
        :model-value="lines(format.forbidden)"
        @update:model-value="format.forbidden = listed($event)"
      />
    </div>
    <div class="row">
      <h2>Accommodations that can be granted</h2>
      <v-btn size="small" @click="addGrant">Add one</v-btn>
    </div>
    <div v-for="(grant, at) in format.accommodations ?? []" :key="grant.id" class="fields">
      <TextField
        v-model="grant.title"
        :label="`Accommodation ${at + 1}`"
        :errors="draft.problemAt(`accommodations.${at}.title`)"
        style="width: 230px"
      />
      <NumberField
        v-model="grant.timeFactor"
        label="Time, times"
        :errors="draft.problemAt(`accommodations.${at}.timeFactor`)"
      />
      <NumberField
        v-for="section in format.sections"
        :key="section.id"
        :model-value="grant.sections?.[section.id]"
        :label="`in ${section.title}`"
        :placeholder="String(grant.timeFactor)"
        :errors="draft.problemAt(`accommodations.${at}.sections.${section.id}`)"
        @update:model-value="setFactor(grant, section.id, $event)"
      />
      <NumberField
        :model-value="grant.breakMinutes"
        label="Longer breaks by"
        unit="min"
        :errors="draft.problemAt(`accommodations.${at}.breakMinutes`)"
        @update:model-value="setOptional(grant, 'breakMinutes', $event)"
      />
      <v-btn
        size="small"
        variant="text"
        :aria-label="`Remove accommodation ${at + 1}`"
        @click="removeGrant(at)"
        >Remove</v-btn
      >
    </div>
  </section>
</template>

<style scoped>
.rows {
  width: min(320px, 80vw);
}
</style>
