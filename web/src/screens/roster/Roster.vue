<script setup lang="ts">
import { scaleLinear } from 'd3'
import { computed, onMounted, ref, watch } from 'vue'
import type { CandidateRow } from '@climber/contract'
import { dayNumber } from '@climber/core'
import { offline } from '../../outbox/connection'
import { outbox } from '../../outbox/here'
import { askKept } from '../../outbox/kept'
import { dateWords, distanceWords, durationWords, percentWords, scoreWords } from '../../manners/words'
import { deleted, restorePlan } from '../../stores/files'
import { useSession } from '../../stores/session'
import PageFrame from '../../widgets/PageFrame.vue'

const session = useSession()
const rows = ref<CandidateRow[]>()
const failed = ref('')
const today = computed(() => session.moment(Intl.DateTimeFormat().resolvedOptions().timeZone).date)

/** Who needs the tutor most: low odds, much slipped, little time. */
const need = (row: CandidateRow): number => {
  const odds = row.odds ?? 0.5
  const days = row.examDate ? Math.max(1, dayNumber(row.examDate) - dayNumber(today.value)) : 90
  return (1 - odds) * 2 + row.slippedMinutes / 600 + 14 / (days + 7) + (row.odds === null ? 0.5 : 0)
}
const sorted = computed(() => [...(rows.value ?? [])].sort((a, b) => need(b) - need(a)))
async function load(): Promise<void> {
  failed.value = ''
  try {
    rows.value = (await askKept(outbox(), 'listCandidates', {})).answer
  } catch (error) {
    failed.value = (error as Error).message
  }
}
// A server that took too long, or was away, answers again: nobody has to ask for it.
watch(offline, (away) => {
  if (!away && failed.value) void load()
})
async function putBack(): Promise<void> {
  try {
    await restorePlan()
    await load()
  } catch (error) {
    failed.value = (error as Error).message
  }
}
onMounted(() => {
  document.title = 'Plans · Climber'
  void load()
})

const width = 190
/** Forecast range against the target on a scale common to the row. */
function gauge(row: CandidateRow) {
  if (!row.forecast || row.target === null) return undefined
  const low = Math.min(row.forecast.low, row.target, row.lastScore?.scaled ?? Infinity)
  const high = Math.max(row.forecast.high, row.target, row.lastScore?.scaled ?? -Infinity)
  const x = scaleLinear([low, high], [6, width - 6])
  return {
    low: x(row.forecast.low),
    high: x(row.forecast.high),
    mean: x(row.forecast.mean),
    target: x(row.target),
    last: row.lastScore && x(row.lastScore.scaled),
  }
}
</script>

<template>
  <PageFrame title="Plans">
    <template #actions><v-btn size="default" class="main" :to="{ name: 'new' }">New plan</v-btn></template>
    <p v-if="deleted" role="status">
      The plan of {{ deleted.name }} is deleted. <v-btn @click="putBack">Undo</v-btn>
    </p>
    <p v-if="failed" class="bad" role="alert">{{ failed }} <v-btn @click="load">Try again</v-btn></p>
    <v-skeleton-loader v-else-if="!rows" type="list-item-two-line@4" />
    <div v-else-if="!rows.length" class="empty stack">
      <p>
        No plan yet. A plan needs an exam, where you stand, the score you need and the hours you have; a
        quarter of an hour does it.
      </p>
      <div><v-btn size="default" class="main" :to="{ name: 'new' }">Start the first plan</v-btn></div>
    </div>
    <table v-else class="lines roster">
      <thead>
        <tr>
          <th>Candidate</th>
          <th>Exam</th>
          <th>Forecast and target</th>
          <th class="n">Odds</th>
          <th class="n">Slipped</th>
          <th>Next test</th>
          <th>Last score</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in sorted" :key="row.id" data-testid="roster-row">
          <td>
            <router-link :to="{ name: 'today', params: { candidateId: row.id } }" class="name">{{
              row.name
            }}</router-link>
            <div class="small soft">{{ row.mine ? 'you' : row.examTitle }}</div>
          </td>
          <td>
            <template v-if="row.examDate"
              >{{ distanceWords(row.examDate, today) }}
              <div class="small soft">{{ dateWords(row.examDate, today) }}</div></template
            >
            <span v-else class="soft">no sitting</span>
          </td>
          <td>
            <svg
              v-if="gauge(row)"
              :width="width"
              height="26"
              role="img"
              :aria-label="`forecast ${Math.round(row.forecast!.mean)}, target ${scoreWords(row.target!)}`"
            >
              <line :x1="gauge(row)!.low" :x2="gauge(row)!.high" y1="16" y2="16" class="range" />
              <line :x1="gauge(row)!.mean" :x2="gauge(row)!.mean" y1="9" y2="23" class="mean" />
              <path :d="`M${gauge(row)!.target} 3 V23`" class="target" />
              <circle v-if="gauge(row)!.last" :cx="gauge(row)!.last!" cy="16" r="3" class="last" />
            </svg>
            <router-link v-else :to="{ name: 'set-up', params: { candidateId: row.id } }">{{
              row.target === null ? 'Give a target' : 'Make the plan'
            }}</router-link>
            <div v-if="gauge(row)" class="small soft">
              {{ Math.round(row.forecast!.mean) }} for {{ scoreWords(row.target!) }}
            </div>
          </td>
          <td class="n">
            <span class="large odds" :class="row.odds !== null && row.odds < 0.5 ? 'bad' : ''">{{
              row.odds === null ? '–' : percentWords(row.odds)
            }}</span>
          </td>
          <td class="n" :class="row.slippedMinutes > 300 ? 'bad' : ''">
            {{ row.slippedMinutes ? durationWords(row.slippedMinutes) : 'none' }}
          </td>
          <td>{{ row.nextTest ? dateWords(row.nextTest, today) : '–' }}</td>
          <td>
            <template v-if="row.lastScore"
              >{{ row.lastScore.scaled }}
              <span class="small soft">{{ dateWords(row.lastScore.date, today) }}</span></template
            >
            <span v-else>–</span>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="sorted.length > 1" class="small soft">
      In order of need: low odds, slipped hours, few days. Bar: where the forecast lies 8 times in 10;
      upright: target; dot: last score.
    </p>
  </PageFrame>
</template>

<style scoped>
.name {
  font-weight: 600;
  color: var(--ink);
}
.odds {
  font-size: 26px;
}
.range {
  stroke: var(--water);
  stroke-width: 6;
  stroke-opacity: 0.35;
}
.mean {
  stroke: var(--water);
  stroke-width: 2;
}
.target {
  stroke: var(--ochre);
  stroke-width: 2;
  stroke-dasharray: 3 2;
}
.last {
  fill: var(--ink);
}
.roster td {
  padding-top: 8px;
  padding-bottom: 8px;
}
@media (max-width: 700px) {
  .roster thead {
    display: none;
  }
  .roster tr {
    display: grid;
    grid-template-columns: 1fr auto;
    border-bottom: 1px solid var(--hair);
    padding: 8px 0;
  }
  .roster td {
    border: 0;
    padding: 1px 0;
    text-align: left;
  }
  .roster td:nth-child(n + 5) {
    display: none;
  }
}
</style>
