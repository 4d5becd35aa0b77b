<script setup lang="ts">
import { computed } from 'vue'
import { dateOf, dayNumber, daysUntil, timeOf, timetable } from '@climber/core'
import { dateWords, distanceWords, durationWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import NumberField from '../../kit/NumberField.vue'
import TickField from '../../kit/TickField.vue'
import AfterExam from '../../widgets/AfterExam.vue'
import Caution from '../../widgets/Caution.vue'

const workspace = useWorkspace()
const save = computed(() => workspace.saves!.examDay)
const document = computed(() => save.value.state.document)
const sitting = computed(() => workspace.sitting)
const days = computed(() => (sitting.value ? daysUntil(sitting.value, workspace.today) : undefined))
const moments = computed(() =>
  sitting.value && workspace.record
    ? timetable(
        workspace.exam!,
        sitting.value,
        workspace.record.examDay,
        workspace.record.settings,
        workspace.record.pacing.order,
      )
    : [],
)
const clock = (minute: number) =>
  minute < 0
    ? `${timeOf(minute + 1440)} the evening before`
    : minute >= 1440
      ? `${timeOf(minute - 1440)} the day after`
      : timeOf(minute)
const problemAt = (field: string) =>
  save.value.state.problems.filter((one) => one.field === field).map(({ message }) => message)
const set = (field: 'travelMinutes' | 'earlyMinutes' | 'readyMinutes', minutes: number | undefined) =>
  save.value.edit((day) => (day[field] = minutes as number))
const pack = (id: string) =>
  save.value.edit(
    (day) =>
      (day.packed = day.packed.includes(id)
        ? day.packed.filter((other) => other !== id)
        : [...day.packed, id]),
  )
const left = computed(
  () => workspace.exam!.bring.filter(({ id, must }) => must && !document.value.packed.includes(id)).length,
)
const eve = computed(() =>
  (workspace.plan?.sessions ?? []).filter(
    ({ date }) =>
      sitting.value &&
      date < sitting.value.date &&
      dayNumber(sitting.value.date) - dayNumber(date) <= 3 &&
      date >= workspace.today,
  ),
)
const earliestRetake = computed(() => {
  const { retake, sittings } = workspace.exam!
  if (!retake || !sitting.value) return undefined
  const from = dateOf(dayNumber(sitting.value.date) + retake.waitDays)
  return {
    from,
    next: sittings.filter(({ date }) => date >= from).sort((a, b) => a.date.localeCompare(b.date))[0],
  }
})
</script>

<template>
  <div class="sheet">
    <h1 class="only-reader">Exam day</h1>
    <p v-if="!sitting">
      No sitting is chosen.
      <router-link :to="{ name: 'set-up', params: { candidateId: workspace.candidate!.id } }"
        >Choose one in Set-up</router-link
      >.
    </p>
    <div v-else class="columns">
      <section class="stack">
        <p class="large count" data-testid="countdown">
          {{
            days! > 0
              ? days === 1
                ? 'tomorrow'
                : `${days} days`
              : days === 0
                ? 'today'
                : distanceWords(sitting.date, workspace.today)
          }}
        </p>
        <AfterExam v-if="workspace.isOver" />
        <p v-if="!workspace.isOver">
          <router-link :to="{ name: 'card', params: { candidateId: workspace.candidate!.id } }"
            >Pace card</router-link
          >, to learn by heart; it opens with the network off.
        </p>
        <p>
          <strong>{{ dateWords(sitting.date, workspace.today) }}, {{ sitting.start }}</strong
          ><br />{{ sitting.place }}
        </p>
        <p
          v-if="sitting.registerBy && !workspace.isOver"
          :class="sitting.registerBy < workspace.today ? 'soft' : 'mark'"
        >
          Register by {{ dateWords(sitting.registerBy, workspace.today) }},
          {{ distanceWords(sitting.registerBy, workspace.today)
          }}<template v-if="sitting.fee"> ({{ sitting.fee.amount }} {{ sitting.fee.currency }})</template>.
        </p>
        <template v-if="eve.length">
          <h2>Until then</h2>
          <table class="lines small">
            <tbody>
              <tr v-for="session in eve" :key="session.id">
                <td>{{ dateWords(session.date) }}</td>
                <td>{{ session.start }}</td>
                <td>{{ workspace.titleOf(session) }}</td>
              </tr>
            </tbody>
          </table>
        </template>
        <p v-if="!workspace.isOver" class="small soft">
          No cramming in the last two days: sleep is worth more. If the exam keeps you from sleeping or
          eating, a doctor or counsellor can help; for extra time or other arrangements ask the testing body.
        </p>
        <p v-if="earliestRetake" class="small soft">
          {{ workspace.isOver ? 'It may be sat again' : 'If it does not work out, it may be sat again' }} from
          {{ dateWords(earliestRetake.from, workspace.today) }} on<template v-if="earliestRetake.next"
            >; the next sitting is {{ dateWords(earliestRetake.next.date, workspace.today) }}</template
          >.
        </p>
        <Caution />
      </section>
      <section class="stack">
        <h2>The day</h2>
        <ol class="day">
          <li v-for="(moment, at) in moments" :key="at" :class="moment.what">
            <span class="time">{{ clock(moment.minute) }}</span>
            <span
              >{{ moment.title }}
              <span v-if="moment.minutes" class="soft small">{{ durationWords(moment.minutes) }}</span></span
            >
          </li>
        </ol>
        <div class="fields no-print">
          <NumberField
            whole
            label="Way there, min"
            :model-value="document.travelMinutes"
            :errors="problemAt('travelMinutes')"
            @update:model-value="set('travelMinutes', $event)"
          />
          <NumberField
            whole
            label="Early by, min"
            :model-value="document.earlyMinutes"
            :errors="problemAt('earlyMinutes')"
            @update:model-value="set('earlyMinutes', $event)"
          />
          <NumberField
            whole
            label="Getting ready, min"
            :model-value="document.readyMinutes"
            :errors="problemAt('readyMinutes')"
            @update:model-value="set('readyMinutes', $event)"
          />
        </div>
      </section>
      <section v-if="!workspace.isOver" class="stack">
        <h2>What to bring</h2>
        <p v-if="!workspace.exam!.bring.length" class="soft">The exam format says nothing about it.</p>
        <ul v-else class="bring">
          <li v-for="thing in workspace.exam!.bring" :key="thing.id">
            <TickField
              :label="thing.must ? thing.what : `${thing.what} (if you like)`"
              :model-value="document.packed.includes(thing.id)"
              @update:model-value="pack(thing.id)"
            />
          </li>
        </ul>
        <p class="small" :class="left ? 'mark' : 'good'">
          {{
            left
              ? `${left} of what you must bring ${left === 1 ? 'is' : 'are'} not packed yet.`
              : 'All that you must bring is packed.'
          }}
        </p>
        <template v-if="workspace.exam!.forbidden.length">
          <h3>Not allowed</h3>
          <ul>
            <li v-for="thing in workspace.exam!.forbidden" :key="thing">{{ thing }}</li>
          </ul>
        </template>
        <div class="no-print"><v-btn @click="print">Print this sheet</v-btn></div>
      </section>
    </div>
  </div>
</template>

<script lang="ts">
const print = (): void => window.print()
</script>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 1fr 1.1fr 1fr;
  gap: 36px;
}
.count {
  font-size: 64px;
}
.day {
  list-style: none;
  margin: 0;
  padding: 0;
  border-left: 2px solid var(--ink);
}
.day li {
  display: grid;
  grid-template-columns: 64px 1fr;
  gap: 10px;
  padding: 7px 0 7px 12px;
  position: relative;
}
.day li::before {
  content: '';
  position: absolute;
  left: -6px;
  top: 13px;
  width: 10px;
  border-top: 2px solid var(--ink);
}
.day .section {
  font-weight: 600;
}
.day .leave {
  color: var(--clay-text);
  font-weight: 600;
}
.fields {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 12px;
  margin-top: 14px;
}
.bring {
  list-style: none;
  padding: 0;
  margin: 0;
}
.bring li {
  padding: 4px 0;
  border-bottom: 1px solid var(--hair);
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: 1fr;
    gap: 24px;
  }
}
</style>
