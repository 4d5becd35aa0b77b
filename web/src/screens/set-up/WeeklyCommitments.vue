<script setup lang="ts">
import { computed, ref } from 'vue'
import { mdiClose } from '@mdi/js'
import type { WeeklyCommitment } from '@climber/contract'
import { readWeek } from '@climber/core'
import ChoiceField from '../../kit/ChoiceField.vue'
import DateField from '../../kit/DateField.vue'
import LinesField from '../../kit/LinesField.vue'
import { byField, type Problem } from '../../kit/problems'
import TextField from '../../kit/TextField.vue'
import TimeField from '../../kit/TimeField.vue'
import { dateWords, weekdayName } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'

/** What is on every week, typed: the plan goes round it, and it need not be left out of the painted week. */
const workspace = useWorkspace()
const save = computed(() => workspace.saves!.commitments)
const weekly = computed(() => save.value.state.document.weekly ?? [])
const weekdays = [1, 2, 3, 4, 5, 6, 7].map((value) => ({ value, title: weekdayName(value) }))
const blank = (): Partial<WeeklyCommitment> & { title: string; weekday: number } => ({
  title: '',
  weekday: 1,
  from: '18:00',
  to: '20:00',
})
const next = ref(blank())
const problems = ref<Problem[]>([])
const fields = computed(() => byField(problems.value))

function add(): void {
  const { title, weekday, from, to, first, last } = next.value
  problems.value = [
    ...(title.trim() ? [] : [{ field: 'title', message: 'Write what it is.' }]),
    ...(from && to && from < to ? [] : [{ field: 'to', message: 'It must end after it starts.' }]),
    ...(first && last && last < first ? [{ field: 'last', message: 'Not before the first day.' }] : []),
  ]
  if (problems.value.length) return
  put([
    { title: title.trim(), weekday, from: from!, to: to!, ...(first && { first }), ...(last && { last }) },
  ])
  next.value = blank()
}
const put = (added: WeeklyCommitment[]) =>
  save.value.edit((document) => {
    document.weekly = [...(document.weekly ?? []), ...added].sort(
      (a, b) => a.weekday - b.weekday || a.from.localeCompare(b.from),
    )
  })
/** Several at once, as people write them. */
const typed = ref('')
const wrong = ref<string[]>([])
function addTyped(): void {
  const { times, problems: found } = readWeek(typed.value)
  wrong.value = found.map(({ row, message }) => `Line ${row}: ${message}`)
  if (times.some(({ words }) => !words))
    wrong.value.push('Write what it is behind its times, such as "Wed 17:30-19:00 swimming".')
  if (wrong.value.length) return
  put(times.map(({ words, ...time }) => ({ title: words, ...time })))
  typed.value = ''
}
const remove = (at: number) =>
  save.value.edit((document) => {
    const left = (document.weekly ?? []).filter((_, other) => other !== at)
    if (left.length) document.weekly = left
    else delete document.weekly
  })
const spanWords = ({ first, last }: WeeklyCommitment): string =>
  [first && `from ${dateWords(first, workspace.today)}`, last && `until ${dateWords(last, workspace.today)}`]
    .filter(Boolean)
    .join(' ')
</script>

<template>
  <section class="stack" aria-label="Every week" data-testid="weekly">
    <h3>On every week</h3>
    <form class="row" novalidate @submit.prevent="add">
      <div class="name">
        <TextField v-model="next.title" label="What is on" :errors="fields.at('title')" />
      </div>
      <div class="short"><ChoiceField v-model="next.weekday" label="Day" :options="weekdays" /></div>
      <div class="short"><TimeField v-model="next.from" label="Starts" /></div>
      <div class="short"><TimeField v-model="next.to" label="Ends" :errors="fields.at('to')" /></div>
      <div class="name">
        <DateField v-model="next.first" label="First on" :today="workspace.today" optional />
      </div>
      <div class="name">
        <DateField
          v-model="next.last"
          label="Last on"
          :today="workspace.today"
          optional
          :errors="fields.at('last')"
        />
      </div>
      <v-btn type="submit">Add it</v-btn>
    </form>
    <form class="row" novalidate @submit.prevent="addTyped">
      <div class="typed">
        <LinesField
          v-model="typed"
          label="Or typed, a line each"
          hint="such as: Wed 17:30-19:00 swimming"
          :rows="2"
          :errors="wrong"
        />
      </div>
      <v-btn type="submit">Add what is typed</v-btn>
    </form>
    <table v-if="weekly.length" class="lines small">
      <tbody>
        <tr v-for="(one, at) in weekly" :key="at">
          <td>{{ one.title }}</td>
          <td>{{ weekdayName(one.weekday) }} {{ one.from }} to {{ one.to }}</td>
          <td class="soft">{{ spanWords(one) }}</td>
          <td>
            <v-btn
              :icon="mdiClose"
              variant="text"
              density="compact"
              :aria-label="`Remove ${one.title}`"
              @click="remove(at)"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <p v-for="message in byField(save.state.problems).at('weekly')" :key="message" class="bad small">
      {{ message }}
    </p>
  </section>
</template>

<style scoped>
.name {
  width: 200px;
}
.typed {
  flex: 1 1 260px;
  max-width: 420px;
}
.short {
  width: 120px;
}
</style>
