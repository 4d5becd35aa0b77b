<script setup lang="ts">
import { computed, ref } from 'vue'
import { dateOf, dayNumber, hasSlipped, materialOf, minuteOf, mondayOf } from '@climber/core'
import { kindWord } from '../../manners/kinds'
import { dateWords, distanceWords, durationWords, endOf } from '../../manners/words'
import { useReasons } from '../../stores/reasons'
import { useWorkspace } from '../../stores/workspace'
import Caution from '../../widgets/Caution.vue'
import DueCards from '../../widgets/DueCards.vue'
import SessionActions from '../../widgets/SessionActions.vue'

const workspace = useWorkspace()
const sessions = computed(() => workspace.plan?.sessions ?? [])
const today = computed(() => sessions.value.filter(({ date }) => date === workspace.today))
const open = computed(() =>
  sessions.value.filter(
    ({ date, status }) => date >= workspace.today && (status === 'planned' || status === 'running'),
  ),
)
const next = computed(() => open.value.find(({ status }) => status === 'running') ?? open.value[0])
const rest = computed(() => today.value.filter(({ id }) => id !== next.value?.id))
/** Tests of the plan whose answers were logged. */
const logged = computed(() => new Set(workspace.attempts.map(({ session }) => session)))
const slipped = computed(() =>
  sessions.value
    .filter(
      (session) =>
        hasSlipped(session, workspace.today) && dayNumber(workspace.today) - dayNumber(session.date) <= 21,
    )
    .reverse(),
)
/** Why the plan should be mended, besides what slipped: that has a list of its own. */
const reasons = useReasons().lines
const all = ref(false)
const monday = computed(() => dateOf(mondayOf(dayNumber(workspace.today))))
const week = computed(() => {
  const own = sessions.value.filter(
    ({ date }) => date >= monday.value && dayNumber(date) < dayNumber(monday.value) + 7,
  )
  const sum = (list: typeof own, minutes: (one: (typeof own)[number]) => number) =>
    list.reduce((total, one) => total + minutes(one), 0)
  const done = own.filter(({ status }) => status === 'done')
  return {
    done: sum(done, (one) => one.minutesDone ?? one.minutes),
    planned: sum(
      own.filter(({ status }) => status !== 'skipped'),
      ({ minutes }) => minutes,
    ),
    slipped: sum(
      own.filter((one) => hasSlipped(one, workspace.today)),
      ({ minutes }) => minutes,
    ),
  }
})
const when = computed(() => {
  if (!next.value) return ''
  const { date, start, minutes } = next.value
  const span = `${start} to ${endOf(start, minutes)}`
  if (date !== workspace.today) return `${dateWords(date, workspace.today)}, ${span}`
  const until = minuteOf(start) - workspace.now.minute
  return until > 0 ? `today, ${span}, in ${durationWords(until)}` : `today, ${span}`
})
</script>

<template>
  <div class="today sheet">
    <div class="stack">
      <h1 class="only-reader">Today</h1>
      <div v-if="!workspace.plan" class="stack">
        <p>There is no plan yet, so there is no today either. Set-up takes a quarter of an hour.</p>
        <div>
          <v-btn
            size="default"
            class="main"
            :to="{ name: 'set-up', params: { candidateId: workspace.candidate!.id } }"
            >To Set-up</v-btn
          >
        </div>
      </div>
      <section v-else-if="next" class="next" aria-label="Next session">
        <div class="row">
          <span class="kind tag" :class="`kind-${next.kind}`"
            ><span class="word">{{ kindWord(next) }}</span></span
          >
          <span>{{ when }}</span>
        </div>
        <p class="large title" data-testid="next-title">{{ workspace.titleOf(next) }}</p>
        <p v-if="materialOf(next)">{{ materialOf(next)!.text }}</p>
        <p class="why">{{ workspace.whyOf(next) }}</p>
        <SessionActions :session="next" />
      </section>
      <p v-else>
        Nothing is left to do in this plan.
        <router-link :to="{ name: 'exam-day', params: { candidateId: workspace.candidate!.id } }"
          >To the exam day</router-link
        >.
      </p>
      <template v-if="rest.length">
        <h2>{{ dateWords(workspace.today) }}</h2>
        <table class="lines">
          <tbody>
            <tr v-for="session in rest" :key="session.id">
              <td class="time">{{ session.start }}</td>
              <td>
                <span class="kind tag" :class="[`kind-${session.kind}`, `state-${session.status}`]"
                  ><span class="word">{{ kindWord(session) }}</span></span
                >
              </td>
              <td>
                {{ workspace.titleOf(session)
                }}<router-link
                  v-if="session.kind === 'test' && session.status === 'done' && !logged.has(session.id)"
                  :to="{ name: 'scores', params: { candidateId: workspace.candidate!.id } }"
                >
                  Log its score
                </router-link>
                <div v-if="session.status === 'planned' && materialOf(session)" class="small soft">
                  {{ materialOf(session)!.text }}
                </div>
                <SessionActions v-if="session.status !== 'planned'" :session="session" />
              </td>
              <td class="n">{{ durationWords(session.minutesDone ?? session.minutes) }}</td>
            </tr>
          </tbody>
        </table>
      </template>
    </div>
    <aside v-if="workspace.plan" class="beside stack">
      <div v-if="today.some(({ status }) => status === 'planned')">
        <v-btn
          @click="
            $router.push({
              name: 'plan',
              params: { candidateId: workspace.candidate!.id },
              query: { replan: 'today' },
            })
          "
          >Not today</v-btn
        >
      </div>
      <DueCards />
      <h2>This week</h2>
      <div
        class="meter"
        role="img"
        :aria-label="`${durationWords(week.done)} of ${durationWords(week.planned)} done`"
      >
        <span :style="{ width: `${Math.min(100, (100 * week.done) / Math.max(1, week.planned))}%` }" />
      </div>
      <p>
        <strong>{{ durationWords(week.done) }}</strong> of {{ durationWords(week.planned) }} done<template
          v-if="week.slipped"
          >, <span class="bad">{{ durationWords(week.slipped) }} slipped</span></template
        >
      </p>
      <p v-if="reasons.others.length" class="small" data-testid="why-mend">
        {{ reasons.others.join(' ') }}
        <router-link
          :to="{ name: 'plan', params: { candidateId: workspace.candidate!.id }, query: { replan: 'mend' } }"
          >Mend the plan</router-link
        >.
      </p>
      <template v-if="slipped.length">
        <h2 class="mt-3">Slipped</h2>
        <p class="small soft">
          Did some of it happen after all? Log it. To spread the rest over the days that are left,
          <router-link
            :to="{
              name: 'plan',
              params: { candidateId: workspace.candidate!.id },
              query: { replan: 'mend' },
            }"
            >mend the plan</router-link
          >.
        </p>
        <details v-for="session in all ? slipped : slipped.slice(0, 6)" :key="session.id" class="slip">
          <summary>
            {{ workspace.titleOf(session) }}
            <span class="soft small"
              >{{ distanceWords(session.date, workspace.today) }}, {{ durationWords(session.minutes) }}</span
            >
          </summary>
          <SessionActions :session="session" />
        </details>
        <div v-if="slipped.length > 6 && !all">
          <v-btn @click="all = true">All {{ slipped.length }}</v-btn>
        </div>
      </template>
      <Caution />
    </aside>
  </div>
</template>

<style scoped>
.today {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 320px;
  gap: 34px;
}
.next {
  display: grid;
  gap: 12px;
  padding-bottom: 18px;
  border-bottom: 1px solid var(--ink);
}
.title {
  font-size: 40px;
}
.why {
  max-width: 44em;
}
.tag {
  padding: 1px 8px;
  font-size: 13px;
}
.time {
  width: 60px;
}
.beside {
  border-left: 1px solid var(--hair);
  padding-left: 24px;
}
.meter {
  height: 10px;
  border: 1px solid var(--ink);
}
.meter span {
  display: block;
  height: 100%;
  background: var(--lichen);
}
.slip {
  border-bottom: 1px solid var(--hair);
  padding: 4px 0 8px;
}
summary {
  cursor: pointer;
}
@media (max-width: 900px) {
  .today {
    grid-template-columns: 1fr;
    gap: 18px;
  }
  .title {
    font-size: 32px;
  }
  .beside {
    border-left: 0;
    border-top: 1px solid var(--ink);
    padding: 14px 0 0;
  }
}
</style>
