<script setup lang="ts">
import { computed } from 'vue'
import type { SessionKind } from '@climber/contract'
import { dateOf, dayNumber, isActive, isTest, mondayOf, topicsOf } from '@climber/core'
import { kindWords } from '../../manners/kinds'
import { dateWords, dayWords, durationWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'

/** The plan from end to end: a row a week with its hours by kind, its tests and what takes most of it. */
const emit = defineEmits<{ open: [monday: string] }>()
const workspace = useWorkspace()
const order: SessionKind[] = ['test', 'review', 'retest', 'mixed', 'drill', 'learn', 'light', 'errand']
/** Topics named in a row. */
const named = 4

const rows = computed(() => {
  const { plan, sitting, exam } = workspace
  if (!plan || !exam) return []
  const kept = plan.sessions.filter(isActive)
  const titles = new Map(exam.topics.map(({ id, title }) => [id, title]))
  return plan.weeks.map(({ from, plannedMinutes, freeMinutes }) => {
    const end = dateOf(dayNumber(from) + 6)
    const own = kept.filter(({ date }) => date >= from && date <= end)
    const kinds = order
      .map((kind) => ({
        kind,
        minutes: own.filter((one) => one.kind === kind).reduce((sum, { minutes }) => sum + minutes, 0),
      }))
      .filter(({ minutes }) => minutes > 0)
    const topics = new Map<string, number>()
    for (const session of own) {
      const all = topicsOf(session)
      for (const id of all) topics.set(id, (topics.get(id) ?? 0) + session.minutes / all.length)
    }
    const most = [...topics].sort((a, b) => b[1] - a[1]).map(([id]) => titles.get(id) ?? id)
    return {
      from,
      plannedMinutes,
      freeMinutes,
      kinds,
      phase: plan.phases.find((phase) => phase.from <= end && from <= phase.to)?.name ?? '',
      tests: own.filter(isTest).map((test) => ({
        id: test.id,
        words: `${dateWords(test.date).slice(0, 3)} ${workspace.titleOf(test)}`,
      })),
      topics: most.slice(0, named),
      more: Math.max(0, most.length - named),
      exam: Boolean(sitting && sitting.date >= from && sitting.date <= end),
      now: mondayOf(dayNumber(workspace.today)) === dayNumber(from),
    }
  })
})
const longest = computed(() => Math.max(1, ...rows.value.map(({ plannedMinutes }) => plannedMinutes)))
</script>

<template>
  <table class="lines whole">
    <thead>
      <tr>
        <th>Week</th>
        <th>Stage</th>
        <th>Hours</th>
        <th>Tests</th>
        <th>Most of it</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="row.from" :class="{ now: row.now, exam: row.exam }">
        <th scope="row">
          <button type="button" class="week" @click="emit('open', row.from)">
            {{ dayWords(row.from) }}
          </button>
        </th>
        <td class="small">{{ row.phase }}</td>
        <td>
          <span class="bar" aria-hidden="true">
            <span
              v-for="one in row.kinds"
              :key="one.kind"
              class="kind piece"
              :class="`kind-${one.kind}`"
              :style="{ width: `${(100 * one.minutes) / longest}%` }"
              :title="`${kindWords[one.kind]}: ${durationWords(one.minutes)}`"
            />
          </span>
          <span class="small"
            >{{ durationWords(row.plannedMinutes)
            }}<span class="soft"> of {{ durationWords(row.freeMinutes) }}</span></span
          >
        </td>
        <td class="small">
          <div v-for="test in row.tests" :key="test.id">{{ test.words }}</div>
          <strong v-if="row.exam" class="mark">Exam</strong>
        </td>
        <td class="small">
          {{ row.topics.join(', ') }}<span v-if="row.more" class="soft"> and {{ row.more }} more</span>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.whole td,
.whole th {
  vertical-align: top;
}
.week {
  padding: 0;
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  text-decoration: underline;
  white-space: nowrap;
  cursor: pointer;
}
.bar {
  display: flex;
  width: min(220px, 22vw);
  height: 12px;
}
.piece {
  display: block;
  padding: 0 !important;
  border-width: 1px;
}
.now .week {
  color: var(--clay-text);
  font-weight: 700;
}
.exam td,
.exam th {
  border-bottom: 2px solid var(--clay);
}
@media (max-width: 700px) {
  .whole thead {
    display: none;
  }
  .whole tr {
    display: grid;
    grid-template-columns: 84px 1fr;
    gap: 2px 10px;
    padding: 8px 0;
    border-bottom: 1px solid var(--hair);
  }
  .whole td,
  .whole th {
    border: 0;
    padding: 0;
  }
  .whole td:nth-child(n + 3) {
    grid-column: 2;
  }
  .bar {
    width: 60vw;
  }
}
</style>
