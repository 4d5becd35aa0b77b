<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { StoredAttempt } from '@climber/contract'
import { dayNumber, type Overview } from '@climber/core'
import { useCommands } from '../../commands'
import { dateWords, percentWords, rawWords, scoreWords } from '../../manners/words'
import { useRemoving } from '../../stores/removing'
import { useWorkspace } from '../../stores/workspace'
import HourFrom from '../../widgets/HourFrom.vue'
import Horizon from '../../widgets/Horizon.vue'
import PossibleCandidates from '../../widgets/PossibleCandidates.vue'
import WhereFrom from '../../widgets/WhereFrom.vue'
import LogTest from './LogTest.vue'
import TestsTell from './TestsTell.vue'
import { vCards } from '../../kit/cards'
import { afterPaint } from '../../manners/painted'
import SortHead from '../../kit/SortHead.vue'
import { sorted } from '../../kit/sorting'

const workspace = useWorkspace()
const overview = computed(() => workspace.overview)
const odds = computed(() => overview.value?.odds)
const learned = computed(() => overview.value?.learned)
/** How other makers' papers run, where any was sat. */
const makersWords = computed(() =>
  (learned.value?.makers ?? [])
    .map(({ maker, points }) => {
      const whose = maker === 'other' ? "other makers' papers" : `the papers of ${maker}`
      const by = Math.abs(Math.round(points))
      return `; ${whose} score ${by ? `${by} points ${points < 0 ? 'low' : 'high'}` : 'as the exam does'}`
    })
    .join(''),
)
const section = (id: string) => workspace.exam!.sections.find((one) => one.id === id)!.title
const { rows: tests, head: testHead } = sorted(() => [...(overview.value?.tests ?? [])].reverse(), {
  date: (test) => dayNumber(test.date),
  title: (test) => test.title,
  score: (test) => test.composite,
  ...Object.fromEntries(
    workspace.exam!.sections.map(({ id }) => [
      `in ${id}`,
      (test: Overview['tests'][number]) => test.sections.find((one) => one.section === id)?.scaled,
    ]),
  ),
})
const logging = ref(false)
const editing = ref<StoredAttempt>()
const { gone, problem, remove, back } = useRemoving()
useCommands(() => [{ title: 'Log a test', of: 'Scores', run: () => log() }])

const route = useRoute()
const router = useRouter()
// By its name, from anywhere.
watch(
  () => route.query.log,
  (wanted) => {
    if (!wanted) return
    log()
    void router.replace({ query: {} })
  },
  { immediate: true },
)
/** The form is long: the press shows before it is drawn. */
function log(id?: string): void {
  editing.value = workspace.attempts.find((test) => test.id === id)
  afterPaint(() => (logging.value = true))
}
const given = computed(() => [...(overview.value?.topics ?? [])].sort((a, b) => a.known - b.known))
const { rows: topics, head: topicHead } = sorted(() => given.value, {
  title: (topic) => topic.title,
  share: (topic) => topic.examShare,
  known: (topic) => topic.known,
  yield: (topic) => topic.yield,
})
</script>

<template>
  <div class="sheet stack">
    <h1 class="only-reader">Scores</h1>
    <div v-if="overview" class="head">
      <div v-if="odds" class="say">
        <WhereFrom label="Forecast for exam day">
          <template #figure
            ><span class="large figure" data-testid="forecast">{{
              Math.round(odds.forecast.mean)
            }}</span></template
          >
          A thousand possible candidates who fit everything you answered, each with levels, a speed and a
          memory of their own, do the work that is planned and sit the paper; this is their mean, and the
          range holds 8 in 10 of them. What you answered says that you learn at
          {{ learned!.speed.mean.toFixed(2) }} times the usual rate, 8 times in 10 between
          {{ learned!.speed.low.toFixed(2) }} and {{ learned!.speed.high.toFixed(2)
          }}{{ makersWords }}.<template v-if="odds.atRate">
            At the rate you keep sessions it is {{ Math.round(odds.atRate.forecast.mean) }}.</template
          >
          <PossibleCandidates v-if="odds.odds !== undefined" :odds="odds.odds" />
        </WhereFrom>
        <span
          >{{ workspace.isOver ? 'was expected' : 'expected' }} on the day, 8 times in 10 between
          <strong data-testid="forecast-range"
            >{{ Math.round(odds.forecast.low) }} and {{ Math.round(odds.forecast.high) }}</strong
          ></span
        >
        <span v-if="odds.odds !== undefined && !workspace.isOver"
          ><strong data-testid="odds">{{ percentWords(odds.odds) }}</strong> for {{ scoreWords(odds.target!)
          }}{{ odds.cuts.length ? ' and every cut' : '' }} if the plan is kept<template
            v-if="odds.atRate?.odds !== undefined"
            >, <strong>{{ percentWords(odds.atRate.odds) }}</strong> at the rate you keep it</template
          ></span
        >
        <span v-if="odds.cuts.length" class="small soft cuts"
          >Cuts:
          {{
            odds.cuts
              .map((cut) => `${section(cut.section)} ${cut.cut}: ${percentWords(cut.odds)}`)
              .join(' · ')
          }}</span
        >
      </div>
      <v-btn size="default" class="main" @click="log()">Log a test</v-btn>
      <router-link
        v-if="workspace.plan && overview.tests.length && !workspace.isOver"
        class="small"
        :to="{ name: 'plan', params: { candidateId: workspace.candidate!.id }, query: { replan: 'mend' } }"
        >What a re-plan would change</router-link
      >
    </div>
    <Horizon
      v-if="overview?.examDate"
      tall
      :overview="overview"
      :today="workspace.today"
      :phases="workspace.plan?.phases"
      :weeks="workspace.plan?.weeks"
      :sessions="workspace.plan?.sessions"
    />
    <v-skeleton-loader v-else-if="!overview" type="image" height="330" />
    <div :class="{ tells: workspace.attempts.length }"><TestsTell /></div>
    <p v-if="overview?.tests.length" class="small soft">
      Dot: the publisher's paper. Square: another maker's. Hollow: planned, or a form seen before, which stays
      out of the forecast.<template v-if="overview.tests.some((test) => test.between)">
        Upright line: only totals are known, and the score lies there 8 times in 10.</template
      >
    </p>
    <p v-if="gone" role="status">
      The test of {{ dateWords(gone.date ?? workspace.today, workspace.today) }} is gone.
      <v-btn @click="back">Undo</v-btn>
    </p>
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <div class="scroll">
      <table v-if="tests.length" v-cards class="lines as-cards" data-testid="tests">
        <thead>
          <tr>
            <SortHead :head="testHead" by="date">Sat on</SortHead>
            <SortHead :head="testHead" by="title">Paper</SortHead>
            <SortHead
              v-for="one in workspace.exam!.sections"
              :key="one.id"
              class="n"
              :head="testHead"
              :by="`in ${one.id}`"
              >{{ one.title }}</SortHead
            >
            <SortHead class="n" :head="testHead" by="score">In all</SortHead>
            <td></td>
          </tr>
        </thead>
        <tbody>
          <tr v-for="test in tests" :key="test.id">
            <td>{{ dateWords(test.date, workspace.today) }}</td>
            <td>
              {{ test.title }}
              <span class="small soft"
                >{{ test.source === 'publisher' ? "publisher's" : 'other maker'
                }}{{ test.seen ? ', seen before' : '' }}</span
              >
            </td>
            <td v-for="one in test.sections" :key="one.section" class="n">
              <span :class="one.cut !== undefined && one.scaled < one.cut ? 'bad' : ''">{{
                one.scaled
              }}</span>
              <span class="small soft"
                >&nbsp;{{
                  one.between ? `${one.between.low} to ${one.between.high}` : `raw ${rawWords(one.raw)}`
                }}</span
              >
            </td>
            <td class="n">
              <strong>{{ test.composite }}</strong>
              <span v-if="test.between" class="small soft" data-testid="between"
                >&nbsp;{{ test.between.low }} to {{ test.between.high }}</span
              >
              <div v-if="test.band || test.percentile !== undefined" class="small soft">
                {{
                  [test.band, test.percentile !== undefined && `above ${Math.round(test.percentile)}%`]
                    .filter(Boolean)
                    .join(', ')
                }}
              </div>
            </td>
            <td class="n actions">
              <v-btn variant="text" @click="log(test.id)">Edit</v-btn
              ><v-btn variant="text" @click="remove(test.id)">Delete</v-btn>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else-if="overview">
        No practice test is logged yet. Each one moves the forecast and narrows its range.
      </p>
    </div>
    <template v-if="overview">
      <h2 class="mt-3">Topics</h2>
      <table v-cards class="lines small topics as-cards three">
        <thead>
          <tr>
            <SortHead :head="topicHead" by="title">Topic</SortHead>
            <SortHead class="n" :head="topicHead" by="share">Of the exam</SortHead>
            <SortHead class="n" :head="topicHead" by="known">Known now</SortHead>
            <th class="n">8 times in 10</th>
            <SortHead class="n" :head="topicHead" by="yield">Points the next hour brings</SortHead>
          </tr>
        </thead>
        <tbody>
          <tr v-for="topic in topics" :key="topic.id">
            <th scope="row">{{ topic.title }}</th>
            <td class="n">{{ percentWords(topic.examShare) }}</td>
            <td class="n">{{ percentWords(topic.known) }}</td>
            <td class="n">{{ percentWords(topic.low) }} to {{ percentWords(topic.high) }}</td>
            <td class="n">
              <WhereFrom :label="`${topic.title}, the next hour`">
                <template #figure>{{ topic.yield.toFixed(2) }}</template>
                <HourFrom :topic="topic" :section="section(topic.section)" />
              </WhereFrom>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <LogTest v-model="logging" :test="editing" />
  </div>
</template>

<style scoped>
/* As high as what the tests tell, which comes a little later. */
.tells {
  min-height: 105px;
}
@media (max-width: 700px) {
  .tells {
    min-height: 190px;
  }
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: end;
  gap: 20px;
}
.say {
  display: flex;
  gap: 14px;
  align-items: baseline;
  flex-wrap: wrap;
}
.figure {
  font-size: 46px;
}
.cuts {
  flex-basis: 100%;
}
.topics {
  max-width: 860px;
}
.actions {
  white-space: nowrap;
}
@media (max-width: 700px) {
  .head {
    flex-direction: column;
    align-items: start;
  }
}
</style>
