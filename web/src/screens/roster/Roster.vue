<script setup lang="ts">
import { scaleLinear } from 'd3'
import { computed, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import type { CandidateRow } from '@climber/contract'
import { dayNumber } from '@climber/core'
import { offline } from '../../outbox/connection'
import { outbox } from '../../outbox/here'
import { askKept } from '../../outbox/kept'
import { dateWords, distanceWords, percentWords, scoreWords } from '../../manners/words'
import { deleted, restorePlan } from '../../stores/files'
import { useSession } from '../../stores/session'
import PageFrame from '../../widgets/PageFrame.vue'
import ChoiceField from '../../kit/ChoiceField.vue'
import TextField from '../../kit/TextField.vue'
import { sayingOf } from './saying'

const session = useSession()
const router = useRouter()
const rows = ref<CandidateRow[]>()
const failed = ref('')
const today = computed(() => session.moment(Intl.DateTimeFormat().resolvedOptions().timeZone).date)

/** Who needs the tutor most: low odds, much slipped, little time. */
const need = (row: CandidateRow): number => {
  const odds = row.odds ?? 0.5
  const days = row.examDate ? Math.max(1, dayNumber(row.examDate) - dayNumber(today.value)) : 90
  return (1 - odds) * 2 + row.slippedMinutes / 600 + 14 / (days + 7) + (row.odds === null ? 0.5 : 0)
}
/** What whoever looks for somebody typed; the one exam that is shown; in which order. */
const wanted = ref('')
const everyExam = ''
const exam = ref(everyExam)
const orders = {
  need: (a: CandidateRow, b: CandidateRow) => need(b) - need(a),
  name: (a: CandidateRow, b: CandidateRow) => a.name.localeCompare(b.name),
  day: (a: CandidateRow, b: CandidateRow) => (a.examDate ?? '9').localeCompare(b.examDate ?? '9'),
  odds: (a: CandidateRow, b: CandidateRow) => (a.odds ?? -1) - (b.odds ?? -1),
}
const order = ref<keyof typeof orders | 'exam'>('need')
const orderWords = [
  { value: 'need' as const, title: 'who needs you most' },
  { value: 'exam' as const, title: 'by exam, then need' },
  { value: 'day' as const, title: 'exam day' },
  { value: 'odds' as const, title: 'lowest odds' },
  { value: 'name' as const, title: 'name' },
]
const exams = computed(() => {
  const titles = [...new Set((rows.value ?? []).map(({ examTitle }) => examTitle))].sort()
  return [{ value: everyExam, title: 'every exam' }, ...titles.map((title) => ({ value: title, title }))]
})
const plain = (text: string) => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase()
const found = computed(() => {
  const words = plain(wanted.value).split(/\s+/).filter(Boolean)
  return (rows.value ?? []).filter(({ name, examTitle }) => {
    const text = plain(`${name} ${examTitle}`)
    return (!exam.value || examTitle === exam.value) && words.every((word) => text.includes(word))
  })
})
const sorted = computed(() => {
  const own = order.value
  if (own !== 'exam') return [...found.value].sort(orders[own])
  return [...found.value].sort((a, b) => a.examTitle.localeCompare(b.examTitle) || orders.need(a, b))
})
/** Rows drawn at first: who is further down is found by name, or shown on a press. */
const atFirst = 60
const all = ref(false)
const shown = computed(() => (all.value ? sorted.value : sorted.value.slice(0, atFirst)))
/** Whether a row is the first of its exam, where they stand together. */
const isFirst = (at: number) =>
  order.value === 'exam' && shown.value[at]?.examTitle !== shown.value[at - 1]?.examTitle
const ofExam = (title: string) => found.value.filter(({ examTitle }) => examTitle === title).length
/** Opened afresh, or by signing in, and not by a press that asked for the list: a candidate alone wants the day and not a list. */
function hasJustCome(): boolean {
  const { back } = history.state as { back?: string | null }
  return !back || back.startsWith('/sign-in')
}
async function load(): Promise<void> {
  failed.value = ''
  try {
    const { answer } = await askKept(outbox(), 'listCandidates', {})
    const [only] = answer
    if (only?.mine && answer.length === 1 && hasJustCome())
      return void (await router.replace({ name: 'today', params: { candidateId: only.id } }))
    rows.value = answer
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
    <div v-if="rows && rows.length > 3" class="row finding no-print">
      <TextField v-model="wanted" label="Find" placeholder="a name or an exam" />
      <ChoiceField v-if="exams.length > 2" v-model="exam" label="Exam" :options="exams" />
      <ChoiceField v-model="order" label="In order of" :options="orderWords" />
      <span class="small soft" role="status">{{
        found.length === rows.length ? `${rows.length} plans` : `${found.length} of ${rows.length}`
      }}</span>
    </div>
    <table v-if="rows?.length" class="lines roster">
      <thead>
        <tr>
          <th>Candidate</th>
          <th>Exam</th>
          <th>Forecast and target</th>
          <th class="n">Odds</th>
          <th>Lately, and what to say</th>
          <th>Next test</th>
        </tr>
      </thead>
      <tbody>
        <template v-for="(row, at) in shown" :key="row.id">
          <tr v-if="isFirst(at)" class="head">
            <th colspan="6" scope="rowgroup">
              {{ row.examTitle }} <span class="soft">{{ ofExam(row.examTitle) }}</span>
            </th>
          </tr>
          <tr data-testid="roster-row">
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
              <div v-if="row.oddsAtRate !== null" class="small soft" data-testid="at-rate">
                {{ percentWords(row.oddsAtRate) }} at the rate kept
              </div>
            </td>
            <td class="saying small">
              {{ sayingOf(row, today).what }} <strong>{{ sayingOf(row, today).say }}</strong>
              <router-link
                v-if="row.odds !== null && (row.examDate ?? today) >= today"
                class="sheet-link"
                :to="{ name: 'plan-print', params: { candidateId: row.id }, query: { weeks: 1 } }"
                >the week’s sheet</router-link
              >
            </td>
            <td>{{ row.nextTest ? dateWords(row.nextTest, today) : '–' }}</td>
          </tr>
        </template>
      </tbody>
    </table>
    <p v-if="rows?.length && !found.length">
      Nobody of that name or exam. <v-btn @click="((wanted = ''), (exam = everyExam))">Show all</v-btn>
    </p>
    <v-btn v-if="shown.length < sorted.length" @click="all = true">Show all {{ sorted.length }}</v-btn>
    <p v-if="shown.length > 1" class="small soft">
      Odds: if the plan is kept; below it, at the rate it is kept. Need: low odds, slipped hours, few days.
      Bar: where the forecast lies 8 times in 10; upright: target; dot: last score.
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
.sheet-link {
  margin-left: 6px;
  white-space: nowrap;
}
.saying {
  max-width: 400px;
}
.finding {
  max-width: 860px;
}
.head th {
  padding-top: 18px;
  color: var(--ink);
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
  .roster td.saying {
    grid-column: 1 / -1;
    max-width: none;
  }
  .roster td:nth-child(6) {
    display: none;
  }
}
</style>
