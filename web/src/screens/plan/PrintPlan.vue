<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { dateOf, dayNumber, isActive, materialOf, mondayOf, topicsOf, weekdayOf } from '@climber/core'
import NumberField from '../../kit/NumberField.vue'
import TextField from '../../kit/TextField.vue'
import { kindWord } from '../../manners/kinds'
import { dateWords, dayWords, distanceWords, durationWords, endOf, weekdayName } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import { weeksAsText } from './weekText'

/** The plan on paper: a page a week for the wall, or a pocket sheet that folds. */
const workspace = useWorkspace()
const pocket = ref(false)
/** Other screens may ask for one week. */
const weeks = ref(Number(useRoute().query['weeks']) || 4)
const sheets = computed(() => {
  const plan = workspace.plan
  if (!plan || !workspace.today) return []
  const first = mondayOf(dayNumber(workspace.today))
  const last = workspace.sitting ? dayNumber(workspace.sitting.date) : first + 7 * weeks.value
  const count = Math.min(weeks.value, Math.floor((mondayOf(last) - first) / 7) + 1)
  return Array.from({ length: Math.max(0, count) }, (_, at) => {
    const monday = first + at * 7
    const days = Array.from({ length: 7 }, (_, day) => {
      const date = dateOf(monday + day)
      return {
        date,
        weekday: weekdayName(weekdayOf(monday + day)),
        exam: workspace.sitting?.date === date,
        sessions: plan.sessions.filter((session) => session.date === date && isActive(session)),
      }
    })
    const minutes = days
      .flatMap(({ sessions }) => sessions)
      .reduce((sum, session) => sum + session.minutes, 0)
    const phase = plan.phases.find(({ from, to }) => from <= dateOf(monday + 6) && dateOf(monday) <= to)
    return { monday: dateOf(monday), days, minutes, phase: phase?.name }
  })
})
/** The title without the word for its kind, which stands beside it. */
const withoutKind = (title: string): string => title.replace(/^(Learn|Drill|Mixed set:|Review|Retest:) /, '')
/** In the pocket, one topic or nothing. */
const briefly = (title: string, topics: number): string =>
  pocket.value ? (topics === 1 ? title.replace(/^\w+ /, '') : '') : withoutKind(title)
const print = (): void => window.print()

const text = computed(() =>
  weeksAsText(
    workspace.name,
    sheets.value.map(({ monday, days, minutes, phase }) => ({
      begins: dateWords(monday),
      minutes,
      phase,
      days: days.map(({ date, exam, sessions }) => ({
        day: dateWords(date),
        exam: exam
          ? [`${workspace.sitting!.start} Exam`, workspace.sitting!.place].filter(Boolean).join(', ')
          : undefined,
        sessions: sessions.map((session) => ({
          start: session.start,
          end: endOf(session.start, session.minutes),
          kind: kindWord(session),
          title: withoutKind(workspace.titleOf(session)),
          material: materialOf(session)?.text,
        })),
      })),
    })),
  ),
)
/** Whether it was copied, or has to be taken by hand. */
const copied = ref<'copied' | 'by hand'>()
async function copy(): Promise<void> {
  try {
    await navigator.clipboard.writeText(text.value)
    copied.value = 'copied'
  } catch {
    copied.value = 'by hand'
  }
}
</script>

<template>
  <div class="sheet stack">
    <div class="row no-print">
      <h1>Print the plan</h1>
      <v-btn-toggle v-model="pocket" mandatory density="compact" aria-label="Size">
        <v-btn :value="false">A page a week</v-btn>
        <v-btn :value="true">Pocket</v-btn>
      </v-btn-toggle>
      <NumberField v-model="weeks" class="weeks" label="weeks" whole :min="1" :max="104" />
      <v-btn class="main" @click="print">Print</v-btn>
      <v-btn @click="copy">Copy as text</v-btn>
      <router-link :to="{ name: 'plan', params: { candidateId: workspace.candidate!.id } }"
        >Back to the plan</router-link
      >
    </div>
    <p v-if="copied === 'copied'" class="good small no-print" role="status">
      Copied: paste it into a letter or a message.
    </p>
    <TextField
      v-else-if="copied"
      :model-value="text"
      label="Mark all of it, and copy"
      :lines="8"
      class="no-print"
    />
    <p v-if="!sheets.length">There is no plan yet.</p>
    <div :class="pocket ? 'pocket' : 'wall'">
      <section v-for="week in sheets" :key="week.monday" class="week">
        <header>
          <h2 class="large">Week of {{ dayWords(week.monday) }}</h2>
          <span>{{ week.phase }}</span>
          <span>{{ durationWords(week.minutes) }}</span>
          <span v-if="workspace.sitting && !pocket" class="to-exam"
            >exam {{ distanceWords(workspace.sitting.date, week.monday) }} from Monday</span
          >
          <span v-if="!pocket" class="who">{{ workspace.name }}</span>
        </header>
        <div v-for="day in week.days" :key="day.date" class="day" :class="{ exam: day.exam }">
          <div class="name">
            {{ day.weekday }} <span>{{ Number(day.date.slice(8)) }}</span>
          </div>
          <ul>
            <li v-if="day.exam">
              <b>{{ workspace.sitting!.start }}</b> EXAM {{ workspace.sitting!.place }}
            </li>
            <li v-for="session in day.sessions" :key="session.id">
              <i class="box" aria-hidden="true" />
              <b>{{ session.start }}</b>
              {{ pocket ? '' : `to ${endOf(session.start, session.minutes)} ` }}
              <span class="kind-word">{{ kindWord(session) }}</span>
              {{ briefly(workspace.titleOf(session), topicsOf(session).length) }}
              <small v-if="materialOf(session) && !pocket">{{ materialOf(session)!.text }}</small>
            </li>
          </ul>
        </div>
      </section>
    </div>
  </div>
</template>

<style scoped>
.week {
  background: #fff;
  color: #000;
  border: 1px solid var(--hair);
  padding: 22px 26px;
  margin-bottom: 18px;
  max-width: 820px;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 20px;
  align-items: baseline;
  border-bottom: 2px solid #000;
  padding-bottom: 6px;
  color: #000;
}
header h2 {
  font-size: 28px;
}
.who {
  margin-left: auto;
}
.day {
  display: grid;
  grid-template-columns: 90px 1fr;
  border-bottom: 1px solid #999;
  min-height: 84px;
  padding: 6px 0;
}
.name {
  font-weight: 600;
  font-size: 18px;
}
.exam {
  border: 3px solid #000;
  padding: 6px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  padding: 2px 0;
  font-size: 16px;
}
small {
  display: block;
  padding-left: 24px;
}
.box {
  display: inline-block;
  width: 13px;
  height: 13px;
  border: 1.5px solid #000;
  margin-right: 8px;
  vertical-align: -1px;
}
.kind-word {
  font-variant-caps: small-caps;
  font-weight: 600;
}
.pocket {
  display: grid;
  grid-template-columns: repeat(auto-fill, 74mm);
  gap: 0;
}
.pocket .week {
  width: 74mm;
  padding: 4mm;
  margin: 0;
}
.pocket header {
  gap: 8px;
  font-size: 11px;
}
.pocket header h2 {
  font-size: 17px;
}
.pocket .day {
  grid-template-columns: 38px 1fr;
  min-height: 0;
  padding: 2px 0;
}
.pocket .name {
  font-size: 11px;
}
.pocket li {
  font-size: 10.5px;
  padding: 0;
}
.pocket .box {
  width: 8px;
  height: 8px;
  margin-right: 4px;
}
@media print {
  .sheet {
    padding: 0;
  }
  .wall .week {
    border: 0;
    break-after: page;
    max-width: none;
    padding: 0;
  }
  .pocket .week {
    break-inside: avoid;
  }
}
</style>
