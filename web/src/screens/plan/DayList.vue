<script setup lang="ts">
import { computed } from 'vue'
import { changedLately, dateOf, dayNumber, weekdayOf, statusOn } from '@climber/core'
import { changeWords, kindWord } from '../../manners/kinds'
import { dateWords, distanceWords, durationWords, endOf, weekdayName } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import { useDays } from './ruler'

/** The plan on a phone: one day at a time, a strip of the week above it. */
const chosen = defineModel<string>('chosen')
const workspace = useWorkspace()
const days = useDays(() => 1)
const date = computed({
  get: () => workspace.from || workspace.today,
  set: (next) => (workspace.from = next),
})
const here = computed(() => days.value.find((day) => day.date === date.value))
const step = (by: number) => (date.value = dateOf(dayNumber(date.value) + by))
const minutes = computed(() =>
  (here.value?.sessions ?? []).reduce((sum, session) => sum + session.minutes, 0),
)
</script>

<template>
  <div class="stack">
    <div class="strip" role="group" aria-label="Days of this week">
      <button
        v-for="day in days"
        :key="day.date"
        type="button"
        :class="{ here: day.date === date, today: day.date === workspace.today, exam: day.exam }"
        :aria-pressed="day.date === date"
        :aria-label="dateWords(day.date, workspace.today)"
        @click="date = day.date"
      >
        <span class="small">{{ weekdayName(weekdayOf(day.day)).slice(0, 2) }}</span>
        <span>{{ Number(day.date.slice(8)) }}</span>
        <span class="dots" aria-hidden="true"
          ><i v-for="session in day.sessions.slice(0, 5)" :key="session.id" :class="`dot-${session.kind}`"
        /></span>
      </button>
    </div>
    <div class="row">
      <v-btn aria-label="The day before" @click="step(-1)">‹</v-btn>
      <h2>{{ dateWords(date, workspace.today) }}</h2>
      <span class="soft small"
        >{{ distanceWords(date, workspace.today) }}{{ minutes ? `, ${durationWords(minutes)}` : '' }}</span
      >
      <v-btn aria-label="The day after" class="after" @click="step(1)">›</v-btn>
    </div>
    <p v-if="here?.exam" class="exam-line">
      {{ [`${workspace.sitting!.start} Exam`, workspace.sitting!.place].filter(Boolean).join(', ') }}
    </p>
    <p v-else-if="!here?.sessions.length" class="soft">
      {{
        here?.off
          ? here.holiday
            ? `${here.holiday}: a day off.`
            : 'A day off.'
          : here?.free.length
            ? 'Free, with nothing planned.'
            : 'No free time.'
      }}
    </p>
    <button
      v-for="session in here?.sessions"
      :key="session.id"
      type="button"
      class="line"
      :class="{ chosen: session.id === chosen }"
      :aria-pressed="session.id === chosen"
      @click="chosen = session.id"
    >
      <span class="time"
        >{{ session.start }}<br /><span class="soft small">{{
          endOf(session.start, session.minutes)
        }}</span></span
      >
      <span
        ><span
          class="kind tag"
          :class="[`kind-${session.kind}`, `state-${statusOn(session, workspace.today)}`]"
          ><span class="word">{{ kindWord(session) }}</span></span
        ><br />{{ workspace.titleOf(session)
        }}<span v-if="changedLately(session, workspace.today)" class="small mark changed">{{
          changeWords(session)
        }}</span></span
      >
    </button>
  </div>
</template>

<style scoped>
.strip {
  display: grid;
  grid-template-columns: repeat(7, 1fr);
  border-bottom: 1px solid var(--ink);
}
.strip button {
  display: grid;
  justify-items: center;
  padding: 4px 0 5px;
  font: inherit;
  border: 0;
  background: none;
  color: inherit;
  min-height: 52px;
}
.changed {
  display: block;
}
.strip .here {
  background: var(--ink);
  color: var(--ground);
}
.strip .today {
  font-weight: 700;
}
.strip .exam {
  box-shadow: inset 0 -4px var(--clay);
}
.dots {
  display: flex;
  gap: 2px;
  height: 5px;
}
.dots i {
  width: 5px;
  height: 5px;
  background: var(--water);
}
.dots .dot-test {
  background: var(--clay);
}
.dots .dot-review,
.dots .dot-retest {
  background: var(--ochre);
}
.dots .dot-light,
.dots .dot-errand {
  background: var(--lichen);
}
.after {
  margin-left: auto;
}
.line {
  display: grid;
  grid-template-columns: 56px 1fr;
  gap: 10px;
  padding: 10px 4px;
  min-height: 48px;
  text-align: left;
  font: inherit;
  border: 0;
  background: none;
  color: inherit;
  border-bottom: 1px solid var(--hair);
}
.line.chosen {
  background: var(--faint);
}
.tag {
  padding: 0 7px;
  font-size: 12px;
}
.exam-line {
  padding: 10px;
  background: var(--clay);
  color: var(--ground);
}
</style>
