<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import { mdiClose } from '@mdi/js'
import type { Answer } from '@climber/contract'
import { dateOf, dayNumber } from '@climber/core'
import { call } from '../../api'
import DateField from '../../kit/DateField.vue'
import { byField, type Problem, problemsOf } from '../../kit/problems'
import TextField from '../../kit/TextField.vue'
import { dateWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'

/**
 * Public holidays between now and the exam: fetched by country as a hint, typed where they are not known. Nothing is planned on one until
 * the candidate agrees to work on it.
 */
const workspace = useWorkspace()
const save = computed(() => workspace.saves!.availability)
const holidays = computed(() =>
  (save.value.state.document.holidays ?? []).filter(({ date }) => date >= workspace.today),
)
const usualAhead = 365
const until = computed(() => workspace.sitting?.date ?? dateOf(dayNumber(workspace.today) + usualAhead))

const countries = shallowRef<Answer<'listCountries'>>([])
const country = ref<string>()
const region = ref<string>()
const regions = computed(() => countries.value.find(({ id }) => id === country.value)?.regions ?? [])
const problems = ref<Problem[]>([])
const fields = computed(() => byField(problems.value))
const said = ref('')
const working = ref(false)
async function guarded(work: () => Promise<void>): Promise<void> {
  working.value = true
  problems.value = []
  said.value = ''
  try {
    await work()
  } catch (error) {
    problems.value = problemsOf(error)
  }
  working.value = false
}
onMounted(() =>
  guarded(async () => {
    countries.value = await call('listCountries', {})
    const { zone } = save.value.state.document
    // Where the time zone is of one country alone, it is likely that one.
    const near = countries.value.filter(({ zones }) => zones.includes(zone))
    if (near.length === 1) country.value = near[0]!.id
  }),
)

type Holidays = NonNullable<(typeof save.value.state.document)['holidays']>
const edit = (change: (list: Holidays) => Holidays) =>
  save.value.edit((availability) => {
    const list = change(availability.holidays ?? []).sort((a, b) => a.date.localeCompare(b.date))
    if (list.length) availability.holidays = list
    else delete availability.holidays
  })
const fetchThem = () =>
  guarded(async () => {
    const known = new Set((save.value.state.document.holidays ?? []).map(({ date }) => date))
    const found = await call('listHolidays', {
      region: region.value ?? country.value!,
      from: workspace.today,
      to: until.value,
    })
    const fresh = found.filter(({ date }) => !known.has(date))
    edit((list) => [...list, ...fresh])
    said.value = fresh.length
      ? `${fresh.length} added, up to ${dateWords(until.value, workspace.today)}.`
      : 'None that is not in the list.'
  })
const own = ref<{ date?: string; title: string }>({ title: '' })
function addOwn(): void {
  const { date, title } = own.value
  problems.value = date ? [] : [{ field: 'date', message: 'Choose a day first.' }]
  if (!date) return
  edit((list) => [
    ...list.filter((one) => one.date !== date),
    { date, title: title.trim() || 'A public holiday' },
  ])
  own.value = { title: '' }
}
const agree = (date: string, work: boolean) =>
  edit((list) =>
    list.map((one) => {
      if (one.date !== date) return one
      const { work: _, ...rest } = one
      return work ? { ...rest, work } : rest
    }),
  )
const remove = (date: string) => edit((list) => list.filter((one) => one.date !== date))
</script>

<template>
  <section class="stack" aria-label="Public holidays" data-testid="holidays">
    <h2 class="mt-2">Public holidays</h2>
    <p class="small soft">Nothing is planned on one unless you tick that you work that day.</p>
    <form class="row" novalidate @submit.prevent="fetchThem">
      <v-autocomplete
        v-model="country"
        class="place"
        :items="countries"
        item-value="id"
        item-title="title"
        label="Country"
        clearable
        auto-select-first
        :menu-props="{ contentClass: 'kit-menu' }"
        @update:model-value="region = undefined"
      />
      <v-autocomplete
        v-if="regions.length"
        v-model="region"
        class="place"
        :items="regions"
        item-value="id"
        item-title="title"
        label="Region"
        hint="may stay empty"
        clearable
        auto-select-first
        :menu-props="{ contentClass: 'kit-menu' }"
      />
      <v-btn type="submit" :loading="working" :disabled="!country">Add its holidays</v-btn>
      <span v-if="said" class="good small" role="status">{{ said }}</span>
    </form>
    <form class="row" novalidate @submit.prevent="addOwn">
      <div class="day">
        <DateField
          v-model="own.date"
          label="Another holiday"
          :today="workspace.today"
          :min="workspace.today"
          optional
          :errors="fields.at('date')"
        />
      </div>
      <div class="day"><TextField v-model="own.title" label="What it is called" optional /></div>
      <v-btn type="submit">Add the holiday</v-btn>
    </form>
    <p v-for="problem in fields.besides('date')" :key="problem.message" class="bad small" role="alert">
      {{ problem.message }}
    </p>
    <table v-if="holidays.length" class="lines small">
      <tbody>
        <tr v-for="one in holidays" :key="one.date">
          <td>{{ dateWords(one.date, workspace.today) }}</td>
          <td>{{ one.title }}</td>
          <td>
            <v-checkbox
              density="compact"
              hide-details
              label="I work that day"
              :model-value="one.work"
              :aria-label="`Work on ${one.title}, ${dateWords(one.date, workspace.today)}`"
              @update:model-value="agree(one.date, Boolean($event))"
            />
          </td>
          <td>
            <v-btn
              :icon="mdiClose"
              variant="text"
              density="compact"
              :aria-label="`Remove ${one.title}, ${dateWords(one.date, workspace.today)}`"
              @click="remove(one.date)"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <p v-for="message in byField(save.state.problems).at('holidays')" :key="message" class="bad small">
      {{ message }}
    </p>
  </section>
</template>

<style scoped>
.place,
.day {
  width: 240px;
  flex: none;
}
</style>
