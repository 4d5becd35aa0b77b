<script setup lang="ts">
import { computed, ref } from 'vue'
import type { PlanChange, ReviewNote } from '@climber/contract'
import { causeTitle, follows, isActive, type Remedy, type ReviewView, serves } from '@climber/core'
import { dateWords, distanceWords, durationWords, rawWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import Replan from '../plan/Replan.vue'
import { aimWords } from './sayings'

/** What a review comes to: causes, pressure and luck, the work they ask for and how that changes the plan, and the retest. */
const props = defineProps<{ view: ReviewView; notes: ReadonlyMap<number, ReviewNote>; used: number }>()
const emit = defineEmits<{ back: [item: number] }>()
const workspace = useWorkspace()
const planning = ref(false)
const kept = ref('')
/** Nothing is called off: the plan is mended with what the review asks for. */
const noChange: PlanChange = { kind: 'none' }
const candidateId = computed(() => workspace.candidate!.id)
/** So many open items are named. */
const mostOpen = 12
const open = computed(() => props.view.items.filter(({ item }) => !props.notes.get(item)?.reviewedOn))
const causes = computed(() => {
  const found = new Map<string, { items: number[]; lost: number }>()
  for (const { item, lost } of props.view.items) {
    const cause = props.notes.get(item)?.cause
    if (!cause) continue
    const title = causeTitle(cause, props.view.way.mistakes)
    const own = found.get(title) ?? { items: [], lost: 0 }
    found.set(title, { items: [...own.items, item], lost: own.lost + lost })
  }
  return [...found].sort(([, a], [, b]) => b.lost - a.lost || b.items.length - a.items.length)
})
const both = computed(() => {
  const { content, pressure, luck, known } = props.view.reworked
  return [
    ['Wrong both times: content', content],
    ['Right only without the clock: pressure', pressure],
    ['Right only against the clock: luck', luck],
    ['Right both times', known],
  ].filter(([, items]) => items!.length) as [string, number[]][]
})
const titles = computed(() => new Map(workspace.exam!.topics.map(({ id, title }) => [id, title])))
/** The session that stands in the plan for a remedy. */
const placed = (remedy: Remedy) => workspace.plan?.sessions.find((session) => serves(session, remedy))
const remedies = computed(() =>
  props.view.remedies.map((remedy) => ({
    remedy,
    title: `${aimWords[remedy.aim]}: ${remedy.topics.map((id) => titles.value.get(id) ?? id).join(', ')}`,
    session: placed(remedy),
  })),
)
const waiting = computed(
  () => remedies.value.filter(({ session, remedy }) => !session && !remedy.waits).length,
)
const session = computed(() => workspace.plan?.sessions.find(({ id }) => id === props.view.next?.id))
const retest = computed(() => {
  const sat = workspace.record?.attempts.find(({ id }) => id === props.view.id)
  return workspace.plan?.sessions.find(
    (one) => one.kind === 'retest' && isActive(one) && sat && follows(one, sat),
  )
})
/** Minutes that today's notes took; where they tell none, those that were booked. */
const minutes = computed(() => {
  const today = [...props.notes.values()].filter(({ reviewedOn }) => reviewedOn === workspace.today)
  const spent = today.reduce((sum, { seconds = 0 }) => sum + seconds, 0)
  return Math.round(spent / 60) || (session.value?.minutes ?? 0)
})
async function done(): Promise<void> {
  if (!session.value) return
  await workspace.saveSession(session.value, { status: 'done', minutesDone: minutes.value })
}
function close(words?: string): void {
  planning.value = false
  kept.value = words ?? ''
}
</script>

<template>
  <div class="finished">
    <div class="stack">
      <h2>What it comes to</h2>
      <p>
        {{ view.items.length - open.length }} of {{ view.items.length }} items are done with, in
        {{ durationWords(used) }}.
        <template v-if="open.length">
          Still open:
          <button
            v-for="one in open.slice(0, mostOpen)"
            :key="one.item"
            type="button"
            class="chip"
            @click="emit('back', one.item)"
          >
            {{ one.item }}
          </button>
          <template v-if="open.length > mostOpen">and {{ open.length - mostOpen }} more</template>
        </template>
      </p>
      <div v-if="session" class="row">
        <v-btn class="main" @click="done">The review is done, {{ durationWords(minutes) }}</v-btn>
        <span class="small soft"
          >booked {{ dateWords(session.date, workspace.today) }}, {{ durationWords(session.minutes) }}</span
        >
      </div>
      <table v-if="causes.length" class="lines" data-testid="causes">
        <thead>
          <tr>
            <th>Cause</th>
            <th>Items</th>
            <th class="n">Marks lost</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="[title, { items, lost }] in causes" :key="title">
            <th scope="row">{{ title }}</th>
            <td>{{ items.join(', ') }}</td>
            <td class="n">{{ rawWords(lost) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-else class="soft">No cause is named yet.</p>
      <table v-if="both.length" class="lines" data-testid="both-times">
        <tbody>
          <tr v-for="[words, items] in both" :key="words">
            <th scope="row">{{ words }}</th>
            <td class="n">{{ items.length }}</td>
            <td class="small soft">{{ items.join(', ') }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="view.pace && view.nextRatio" class="small">
        A miss takes you {{ view.pace.missed.toFixed(1) }} minutes, by {{ view.pace.timed }} items of your
        log; the next plan books reviews of {{ view.nextRatio.toFixed(2) }} times their test.
      </p>
      <p v-if="retest" data-testid="retest">
        What was missed is tried again {{ dateWords(retest.date, workspace.today) }},
        {{ distanceWords(retest.date, workspace.today) }}, {{ durationWords(retest.minutes) }}.
      </p>
    </div>
    <section class="stack" aria-label="What the plan takes in">
      <h2>What the plan takes in</h2>
      <p v-if="kept" role="status" class="good">{{ kept }}</p>
      <p v-if="!remedies.length" class="soft">Causes ask for work once they are named.</p>
      <template v-if="(waiting || planning) && workspace.plan">
        <Replan v-if="planning" :change="noChange" @close="close" />
        <div v-else class="row">
          <v-btn class="main" @click="planning = true">See what it changes</v-btn>
          <span class="small soft"
            >Nothing moves before you accept it; the next plan takes it in by itself.</span
          >
        </div>
      </template>
      <table v-if="remedies.length" class="lines" data-testid="remedies">
        <tbody>
          <tr v-for="{ remedy, title, session: standing } in remedies" :key="title">
            <th scope="row">
              {{ title }}<br /><span class="small soft"
                >{{ remedy.misses === 1 ? 'one miss' : `${remedy.misses} misses` }},
                {{ rawWords(remedy.marks) }} marks</span
              >
            </th>
            <td class="n">{{ durationWords(standing?.minutes ?? remedy.minutes) }}</td>
            <td class="small">
              <template v-if="standing"
                >{{ dateWords(standing.date, workspace.today) }} {{ standing.start }}</template
              >
              <span v-else-if="remedy.waits" class="soft">not begun yet: its own hours come</span>
              <span v-else class="soft">not in the plan</span>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="remedies.length && !workspace.plan" class="soft small">
        There is no plan yet;
        <router-link :to="{ name: 'plan', params: { candidateId } }">once made</router-link> it holds this
        work.
      </p>
    </section>
  </div>
</template>

<style scoped>
.finished {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(380px, 100%), 1fr));
  gap: 20px 34px;
  align-items: start;
}
.lines .n {
  white-space: nowrap;
}
.lines th[scope='row'] {
  color: var(--ink);
  font-weight: 400;
}
</style>
