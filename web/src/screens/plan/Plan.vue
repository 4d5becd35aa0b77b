<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { PlanChange, StoredSession, Unplaced } from '@climber/contract'
import {
  changedLately,
  isNews,
  dateOf,
  dayNumber,
  followsOf,
  isOpen,
  materialOf,
  mondayOf,
  statusOn,
} from '@climber/core'
import { useCommands } from '../../commands'
import DateField from '../../kit/DateField.vue'
import TimeField from '../../kit/TimeField.vue'
import { changeWords, kindWord, kindWords, statusWords } from '../../manners/kinds'
import { painted } from '../../manners/painted'
import { useNarrow } from '../../manners/size'
import { useUndoKeys } from '../../manners/undoKeys'
import { dateWords, distanceWords, durationWords, endOf } from '../../manners/words'
import { useReasons } from '../../stores/reasons'
import { useWorkspace } from '../../stores/workspace'
import AfterExam from '../../widgets/AfterExam.vue'
import Conflict from '../../widgets/Conflict.vue'
import SessionActions from '../../widgets/SessionActions.vue'
import WhereFrom from '../../widgets/WhereFrom.vue'
import { useArranging } from './arranging'
import DayList from './DayList.vue'
import DayRulers from './DayRulers.vue'
import Replan from './Replan.vue'
import Tray from './Tray.vue'
import WeekList from './WeekList.vue'
import WholePlan from './WholePlan.vue'

const workspace = useWorkspace()
/** Weeks on the rulers; 0 for the whole plan, a row a week. */
const weeksShown = ref(6)
/** What a phone shows. */
const view = ref<'day' | 'week' | 'all'>('day')
const chosen = ref<string>()
const narrow = useNarrow(700)
const arranging = useArranging()
/** The pressed button shows at once; what it asks for is drawn a frame later. */
const drawn = painted(() => ({ weeks: weeksShown.value, view: view.value }))
const isWhole = computed(() => (narrow.value ? drawn.value.view === 'all' : drawn.value.weeks === 0))
function openWeek(monday: string): void {
  workspace.from = monday < workspace.today ? workspace.today : monday
  if (narrow.value) view.value = 'week'
  else weeksShown.value = 1
}
function showWhole(): void {
  weeksShown.value = 0
  view.value = 'all'
}
function openDay(date: string): void {
  workspace.from = date
  view.value = 'day'
}
const route = useRoute()
const router = useRouter()
/** Other screens lead here with what is to be re-planned. */
const replanning = ref<PlanChange | undefined>(
  route.query.replan === 'today'
    ? { kind: 'off', from: workspace.today, to: workspace.today }
    : route.query.replan
      ? { kind: 'none' }
      : undefined,
)
const anew = ref(route.query.replan === 'anew')
const rulers = ref<InstanceType<typeof DayRulers>>()

const sessions = computed(() => workspace.plan?.sessions ?? [])
const firstMonday = computed(() => mondayOf(dayNumber(workspace.from || workspace.today)))
/** As many weeks as are asked for, or as are left until the exam: fewer are drawn larger. */
const weeksDrawn = computed(() => {
  const { sitting } = workspace
  const left = sitting ? Math.floor((dayNumber(sitting.date) - firstMonday.value) / 7) + 1 : Infinity
  const { weeks } = drawn.value
  return weeks > left ? [1, 2, weeks].find((shown) => shown >= left)! : weeks
})
const visible = computed(() => {
  const [from, to] = [dateOf(firstMonday.value), dateOf(firstMonday.value + weeksDrawn.value * 7)]
  return sessions.value.filter(({ date }) => date >= from && date < to)
})
watch(
  [visible, () => workspace.today],
  () => {
    if (visible.value.some(({ id }) => id === chosen.value)) return
    chosen.value = (
      visible.value.find(({ date, status }) => date >= workspace.today && status === 'planned') ??
      visible.value[0]
    )?.id
  },
  { immediate: true },
)
/** The session whose mark was moved shows it at once; what is said of it beside the plan comes a frame later. */
const told = painted(() => chosen.value)
const current = computed(() => sessions.value.find(({ id }) => id === told.value))
const move = (weeks: number) => {
  const day = firstMonday.value + weeks * 7
  const last = workspace.sitting ? mondayOf(dayNumber(workspace.sitting.date)) : day
  workspace.from = dateOf(
    Math.min(Math.max(day, mondayOf(dayNumber(workspace.overview?.start ?? workspace.today))), last),
  )
}
const of = computed(() => {
  const test = current.value && followsOf(current.value)
  return test && sessions.value.find(({ id }) => id === test)
})
const steps = computed(() => workspace.plan?.steps)
const open = computed(() => current.value && isOpen(current.value, workspace.today))
const leftToday = computed(() =>
  sessions.value.some((one) => one.date === workspace.today && isOpen(one, workspace.today)),
)
const news = computed(() => current.value && changedLately(current.value, workspace.today))
/** What the changes of the last seven days did, in a line. */
const changes = computed(() => {
  const touched = sessions.value.flatMap((one) => changedLately(one, workspace.today)?.how ?? [])
  return (['moved', 'new', 'other work'] as const)
    .map((how) => ({ how, found: touched.filter((one) => one === how).length }))
    .filter(({ found }) => found)
    .map(({ how, found }) => `${found} ${how === 'other work' ? 'with other work' : how}`)
    .join(', ')
})
/** What those changes took out: its name, and when it was to be. */
const dropped = computed(() =>
  (workspace.plan?.dropped ?? [])
    .filter(({ on }) => isNews(on, workspace.today))
    .map(({ session }) => ({
      id: session.id,
      words: `${workspace.titleOf(session)}, ${dateWords(session.date, workspace.today)} ${session.start}`,
    })),
)
const { all: reasons, waiting } = useReasons()
const undo = (redo: boolean) =>
  arranging.run(
    () => workspace.undoPlan(redo),
    redo ? `Done again: ${steps.value?.redo}.` : `Undone: ${steps.value?.undo}.`,
  )
const notToday = () => (replanning.value = { kind: 'off', from: workspace.today, to: workspace.today })
const print = () => router.push({ name: 'plan-print', params: { candidateId: workspace.candidate!.id } })
useCommands(() => {
  if (!workspace.plan) return []
  const { undo: last, redo: next } = steps.value ?? {}
  return [
    ...(last ? [{ title: `Undo: ${last}`, of: 'Plan', keys: 'Ctrl z', run: () => undo(false) }] : []),
    ...(next ? [{ title: `Redo: ${next}`, of: 'Plan', keys: 'Ctrl Shift z', run: () => undo(true) }] : []),
    ...(workspace.isOver
      ? []
      : [{ title: 'Re-plan', of: 'Plan', run: () => (replanning.value = { kind: 'none' }) }]),
    ...(leftToday.value ? [{ title: 'Not today', of: 'Plan', run: notToday }] : []),
    { title: 'Print the plan', of: 'Plan', run: print },
    { title: 'The whole plan at a glance', of: 'Plan', run: showWhole },
  ]
})
useUndoKeys((redo) => (redo ? steps.value?.redo : steps.value?.undo) && undo(redo))
/** Another day and time, typed: the way on a phone, and for whoever would rather not drag. */
const to = ref<{ date: string | undefined; start: string | undefined }>({ date: undefined, start: undefined })
watch(
  current,
  (session) => {
    if (session) to.value = { date: session.date, start: session.start }
  },
  { immediate: true },
)
function moveThere(): void {
  const { date, start } = to.value
  if (!current.value || !date || !start) return
  const { id } = current.value
  const words = `${workspace.titleOf(current.value)}: ${dateWords(date)}, ${start}.`
  void arranging.arrange([{ id, date, start }], words)
}
const carry = (event: PointerEvent, piece: StoredSession | Unplaced) =>
  rulers.value?.carry(event, piece.minutes, () => arranging.lift(piece))
const { problem, clash, said, busy } = arranging
</script>

<template>
  <div class="plan sheet">
    <h1 class="only-reader">Plan</h1>
    <div v-if="!workspace.plan" class="stack">
      <p>There is no plan yet. It is made from where you stand, the target and the free hours.</p>
      <div>
        <v-btn
          size="default"
          class="main"
          :to="{ name: 'set-up', params: { candidateId: workspace.candidate!.id } }"
          >To Set-up</v-btn
        >
      </div>
    </div>
    <template v-else>
      <div class="stack main-part">
        <div class="row no-print">
          <template v-if="!narrow && !isWhole">
            <v-btn aria-label="A week earlier" @click="move(-1)">‹</v-btn>
            <v-btn aria-label="A week later" @click="move(1)">›</v-btn>
          </template>
          <v-btn v-if="!isWhole" @click="workspace.from = workspace.today">Today</v-btn>
          <v-btn-toggle
            v-if="!narrow"
            v-model="weeksShown"
            mandatory
            density="compact"
            aria-label="Weeks shown"
          >
            <v-btn :value="1">1 week</v-btn>
            <v-btn :value="2">2</v-btn>
            <v-btn :value="6">6 weeks</v-btn>
            <v-btn :value="0">all</v-btn>
          </v-btn-toggle>
          <v-btn-toggle v-else v-model="view" mandatory density="compact" aria-label="Shown">
            <v-btn value="day">Day</v-btn>
            <v-btn value="week">Week</v-btn>
            <v-btn value="all">All</v-btn>
          </v-btn-toggle>
          <v-btn :disabled="busy || !steps?.undo" :title="steps?.undo ?? undefined" @click="undo(false)"
            >Undo</v-btn
          >
          <v-btn :disabled="busy || !steps?.redo" :title="steps?.redo ?? undefined" @click="undo(true)"
            >Redo</v-btn
          >
          <v-btn v-if="leftToday" @click="notToday">Not today</v-btn>
          <v-btn
            v-if="!workspace.isOver"
            aria-label="Re-plan"
            :title="reasons.join(' ') || undefined"
            @click="replanning = { kind: 'none' }"
            >Re-plan{{ waiting ? ` · ${waiting}` : reasons.length ? ' ·' : '' }}</v-btn
          >
          <v-btn @click="print">Print</v-btn>
        </div>
        <p v-if="problem" class="bad small" role="alert">{{ problem }}</p>
        <Conflict v-if="clash" :clash="clash" @settled="clash = undefined" />
        <p v-else-if="said" class="good small" role="status" data-testid="said">{{ said }}</p>
        <AfterExam v-if="workspace.isOver" />
        <WholePlan v-if="isWhole" @open="openWeek" />
        <WeekList v-else-if="narrow && drawn.view === 'week'" v-model:chosen="chosen" @day="openDay" />
        <DayList v-else-if="narrow" v-model:chosen="chosen" />
        <DayRulers
          v-else
          ref="rulers"
          v-model:chosen="chosen"
          :weeks-shown="weeksDrawn"
          :arranging="arranging"
        />
        <p v-if="changes || dropped.length" class="small changes" data-testid="changes">
          <i class="corner" aria-hidden="true" />Changed since last week: {{ changes
          }}<template v-if="dropped.length"
            >{{ changes ? ', ' : ''
            }}<WhereFrom label="Dropped">
              <template #figure>{{ dropped.length }} dropped</template>
              <ul>
                <li v-for="{ id, words } in dropped" :key="id">{{ words }}</li>
              </ul>
            </WhereFrom></template
          >
        </p>
        <span v-if="!narrow && !isWhole" class="legend small" aria-hidden="true">
          <span
            v-for="kind in ['learn', 'drill', 'mixed', 'test', 'review'] as const"
            :key="kind"
            class="kind"
            :class="`kind-${kind}`"
            ><span class="word">{{ kindWords[kind] }}</span></span
          >
        </span>
        <ul v-if="workspace.plan.notices.length" class="small notices">
          <li v-for="notice in workspace.plan.notices" :key="notice.code">
            {{ notice.message }} <em v-if="notice.remedy">{{ notice.remedy }}</em>
          </li>
        </ul>
      </div>
      <aside v-if="replanning" class="beside">
        <Replan
          :change="replanning"
          :anew="anew"
          :reasons="reasons"
          @close="
            (done) => {
              replanning = undefined
              anew = false
              said = done ?? ''
            }
          "
        />
      </aside>
      <aside v-else class="beside stack">
        <div v-if="current" class="stack" aria-live="polite">
          <div>
            <span class="kind tag" :class="`kind-${current.kind}`"
              ><span class="word">{{ kindWord(current) }}</span></span
            >
            <span class="soft small">
              {{ statusWords[statusOn(current, workspace.today)]
              }}{{ current.pinned ? ', pinned' : '' }}</span
            >
          </div>
          <h2>{{ workspace.titleOf(current) }}</h2>
          <p>
            {{ dateWords(current.date, workspace.today) }}, {{ current.start }} to
            {{ endOf(current.start, current.minutes) }}
            <span class="soft"
              >({{ durationWords(current.minutes) }},
              {{ distanceWords(current.date, workspace.today) }})</span
            >
          </p>
          <p v-if="news" class="small mark" data-testid="changed">
            {{ dateWords(news.on, workspace.today) }}: {{ changeWords(current) }}
          </p>
          <p v-if="materialOf(current)">{{ materialOf(current)!.text }}</p>
          <div>
            <h3>Why this</h3>
            <p class="small">{{ workspace.whyOf(current) }}</p>
            <p v-if="of" class="small soft">Belongs to the test of {{ dateWords(of.date) }}.</p>
          </div>
          <SessionActions :session="current" />
          <div v-if="open" class="row">
            <v-btn
              :disabled="busy"
              @click="
                arranging.arrange(
                  [{ id: current.id, pinned: !current.pinned }],
                  current.pinned ? 'A re-plan may move it again.' : 'Pinned: no re-plan moves it.',
                )
              "
              >{{ current.pinned ? 'Let go' : 'Pin' }}</v-btn
            >
            <v-btn
              :disabled="busy"
              @click="
                arranging.arrange([{ id: current.id, lifted: true }], 'In the tray, waiting for a place.')
              "
              >To the tray</v-btn
            >
          </div>
          <form v-if="open" class="move" novalidate @submit.prevent="moveThere">
            <DateField
              v-model="to.date"
              label="Move to the day"
              :today="workspace.today"
              :min="workspace.today"
            />
            <TimeField v-model="to.start" label="at" />
            <v-btn type="submit" :disabled="busy || !to.date || !to.start">Move</v-btn>
          </form>
        </div>
        <Tray v-if="!workspace.isOver" :busy="busy" @carry="carry" @place="arranging.placeNearest" />
      </aside>
    </template>
  </div>
</template>

<style scoped>
.plan {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 268px;
  gap: 22px;
  max-width: none;
  padding-top: 10px;
}
.legend {
  display: flex;
  gap: 6px;
  justify-self: start;
}
.legend .kind,
.tag {
  padding: 0 7px;
  font-size: 12px;
}
.changes {
  margin: 0;
}
.corner {
  display: inline-block;
  margin-right: 6px;
  border: 4px solid var(--ochre);
  border-left-color: transparent;
  border-bottom-color: transparent;
}
.notices {
  margin: 4px 0 0;
  padding-left: 18px;
}
.move {
  display: grid;
  grid-template-columns: 1fr 96px;
  gap: 4px 10px;
  margin-top: 6px;
}
.move .v-btn {
  justify-self: start;
}
.beside {
  border-left: 1px solid var(--hair);
  padding-left: 18px;
}
@media (max-width: 900px) {
  .plan {
    grid-template-columns: minmax(0, 1fr);
  }
  .beside {
    border-left: 0;
    border-top: 1px solid var(--ink);
    padding: 12px 0 0;
  }
}
</style>
