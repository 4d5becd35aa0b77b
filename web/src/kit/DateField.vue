<script setup lang="ts">
import { computed, ref } from 'vue'
import { mdiCalendarBlankOutline } from '@mdi/js'
import { dateWords, dayWords, monthFirst } from '../manners/words'
import PickField from './PickField.vue'
import { readDate } from './reading'
import { typedField } from './typed'

/** A day, typed as people write it or picked; `YYYY-MM-DD`. */
const props = defineProps<{
  label: string
  /** The candidate's today: what `tomorrow` and `+2w` are counted from. */
  today: string
  min?: string
  max?: string
  hint?: string
  errors?: string | string[]
  optional?: boolean
  quiet?: boolean
}>()
const value = defineModel<string | undefined>({ required: true })
const wanted = computed(
  () => `a day such as ${dayWords('2027-03-09')}, ${monthFirst() ? '3/9' : '9.3.'}, tomorrow or +2w`,
)
const { text, problem, said, leave } = typedField(value, {
  read: (typed) => (typed === shown.value ? value.value : readDate(typed, props.today, monthFirst())),
  show: (date) => dateWords(date, props.today),
  against: (date) =>
    props.min && date < props.min
      ? `${dateWords(date, props.today)} is over; choose a day from ${props.min === props.today ? 'today' : dateWords(props.min, props.today)} on`
      : props.max && date > props.max
        ? `${dateWords(props.max, props.today)} or before`
        : undefined,
  wanted: () => wanted.value,
  optional: () => props.optional,
  errors: () => props.errors,
  live: false,
})
const shown = computed(() => (value.value ? dateWords(value.value, props.today) : ''))

const open = ref(false)
/** The picker works with instants; noon is the same day in every zone. */
const instant = (date: string | undefined) => (date ? new Date(`${date}T12:00:00`) : undefined)
const picked = computed({
  get: () => instant(value.value),
  set: (date: Date | undefined) => {
    open.value = false
    if (!date) return
    value.value = [date.getFullYear(), date.getMonth() + 1, date.getDate()]
      .map((part, at) => String(part).padStart(at ? 2 : 4, '0'))
      .join('-')
    problem.value = ''
  },
})
/** A day of the picker: the candidate's today is outlined, which the browser's need not be. */
const marked = (date: string) => {
  const chosen = date === value.value
  const now = date === props.today
  return {
    variant: chosen ? ('flat' as const) : now ? ('outlined' as const) : ('text' as const),
    color: chosen || now ? 'primary' : undefined,
    'aria-current': now ? ('date' as const) : undefined,
    'aria-label': now ? `Today, ${dateWords(date)}` : dateWords(date),
  }
}
</script>

<template>
  <PickField
    v-model:text="text"
    v-model:open="open"
    :label="label"
    :quiet="quiet"
    :hint="hint"
    :wanted="wanted"
    :errors="said"
    :icon="mdiCalendarBlankOutline"
    pick="Pick a day"
    @leave="leave"
  >
    <v-date-picker
      v-model="picked"
      :min="instant(min)"
      :max="instant(max)"
      first-day-of-week="1"
      hide-header
      show-adjacent-months
      color="primary"
    >
      <template #day="{ props: day, item }">
        <v-btn v-bind="{ ...day, ...marked(item.isoDate) }">{{ item.localized }}</v-btn>
      </template>
    </v-date-picker>
  </PickField>
</template>
