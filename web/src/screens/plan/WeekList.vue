<script setup lang="ts">
import { computed } from 'vue'
import { changedLately, dateOf, dayNumber, mondayOf, statusOn, weekdayOf } from '@climber/core'
import { changeWords } from '../../manners/kinds'
import { dayWords, durationWords, weekdayName } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import { useDays } from './ruler'

/** The plan on a phone, a week at a glance: seven days under each other, each session on a line of its own. */
const chosen = defineModel<string>('chosen')
const emit = defineEmits<{ day: [date: string] }>()
const workspace = useWorkspace()
const days = useDays(() => 1)
const monday = computed(() => mondayOf(dayNumber(workspace.from || workspace.today)))
const step = (weeks: number) => (workspace.from = dateOf(monday.value + 7 * weeks))
const planned = computed(() => workspace.plan?.weeks.find(({ from }) => dayNumber(from) === monday.value))
const short = (id: string) => workspace.labelsOf(workspace.plan!.sessions.find((one) => one.id === id)!)[0]
</script>

<template>
  <div class="stack">
    <div class="row">
      <v-btn aria-label="The week before" @click="step(-1)">‹</v-btn>
      <h2>Week of {{ dayWords(dateOf(monday)) }}</h2>
      <span v-if="planned" class="soft small">{{ durationWords(planned.plannedMinutes) }}</span>
      <v-btn aria-label="The week after" class="after" @click="step(1)">›</v-btn>
    </div>
    <div
      v-for="day in days"
      :key="day.date"
      class="day"
      :class="{ today: day.date === workspace.today, past: day.past }"
    >
      <button type="button" class="name" @click="emit('day', day.date)">
        {{ weekdayName(weekdayOf(day.day)).slice(0, 2) }} {{ Number(day.date.slice(8)) }}
      </button>
      <div class="sessions">
        <span v-if="day.exam" class="exam-line">{{ workspace.sitting!.start }} Exam</span>
        <span v-else-if="!day.sessions.length" class="soft small">{{
          day.off ? (day.holiday ?? 'day off') : day.free.length ? 'free' : '–'
        }}</span>
        <button
          v-for="session in day.sessions"
          :key="session.id"
          type="button"
          class="one"
          :class="{ chosen: session.id === chosen }"
          :aria-pressed="session.id === chosen"
          :aria-label="`${session.start} ${workspace.titleOf(session)}`"
          @click="chosen = session.id"
        >
          <span class="time">{{ session.start }}</span>
          <span
            class="kind mark"
            :class="[`kind-${session.kind}`, `state-${statusOn(session, workspace.today)}`]"
          />
          <span class="title"
            >{{ short(session.id)
            }}<span v-if="changedLately(session, workspace.today)" class="small changed"
              >, {{ changeWords(session) }}</span
            ></span
          >
        </button>
      </div>
    </div>
  </div>
</template>

<style scoped>
.after {
  margin-left: auto;
}
.day {
  display: grid;
  grid-template-columns: 46px 1fr;
  gap: 8px;
  padding: 3px 0;
  border-bottom: 1px solid var(--hair);
}
.name {
  padding: 4px 0;
  font: inherit;
  text-align: left;
  align-self: start;
  color: inherit;
  background: none;
  border: 0;
}
.today .name {
  color: var(--clay-text);
  font-weight: 700;
}
.past {
  opacity: 0.75;
}
.sessions {
  display: grid;
  align-content: center;
}
.one {
  display: grid;
  grid-template-columns: 42px 20px 1fr;
  gap: 8px;
  align-items: center;
  min-height: 30px;
  padding: 2px 0;
  font: inherit;
  text-align: left;
  color: inherit;
  background: none;
  border: 0;
}
.one.chosen {
  background: var(--faint);
}
.one .mark {
  height: 14px;
  padding: 0 !important;
}
.title {
  overflow-wrap: anywhere;
}
.changed {
  color: var(--ochre-text);
}
.exam-line {
  padding: 2px 8px;
  background: var(--clay);
  color: var(--ground);
}
</style>
