<script setup lang="ts">
import { computed, ref } from 'vue'
import { dayNumber, hasSlipped, materialOf, minuteOf } from '@climber/core'
import { kindWord } from '../../manners/kinds'
import { dateWords, distanceWords, durationWords, endOf } from '../../manners/words'
import { useReasons } from '../../stores/reasons'
import { useWorkspace } from '../../stores/workspace'
import AfterExam from '../../widgets/AfterExam.vue'
import Caution from '../../widgets/Caution.vue'
import DueCards from '../../widgets/DueCards.vue'
import SessionActions from '../../widgets/SessionActions.vue'
import Ahead from './Ahead.vue'
import DayLine from './DayLine.vue'
import WeekSoFar from './WeekSoFar.vue'

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
/** What comes after the next one: of other days, since those of today stand in the day's own list. */
const ahead = computed(() =>
  open.value.filter(({ id, date }) => id !== next.value?.id && date !== workspace.today),
)
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
          <span v-if="next.date !== workspace.today && !today.length" class="soft">Nothing today.</span>
        </div>
        <p class="large title" data-testid="next-title">{{ workspace.titleOf(next) }}</p>
        <p v-if="materialOf(next)" class="material">{{ materialOf(next)!.text }}</p>
        <SessionActions :session="next" />
        <DueCards />
        <p class="why small soft">{{ workspace.whyOf(next) }}</p>
      </section>
      <AfterExam v-else-if="workspace.isOver" />
      <p v-else>
        Nothing is left to do in this plan.
        <router-link :to="{ name: 'exam-day', params: { candidateId: workspace.candidate!.id } }"
          >To the exam day</router-link
        >.
      </p>
      <template v-if="rest.length">
        <h2>{{ dateWords(workspace.today) }}</h2>
        <DayLine v-if="today.length > 1" :sessions="today" :minute="workspace.now.minute" />
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
      <Ahead :sessions="ahead" />
    </div>
    <aside v-if="workspace.plan && !workspace.isOver" class="beside stack">
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
      <WeekSoFar :sessions="sessions" :today="workspace.today" />
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
      <p v-if="reasons.others.length" class="small" data-testid="why-mend">
        {{ reasons.others.join(' ') }}
        <router-link
          :to="{ name: 'plan', params: { candidateId: workspace.candidate!.id }, query: { replan: 'mend' } }"
          >Mend the plan</router-link
        >.
      </p>
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
.material {
  font-size: 17px;
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
