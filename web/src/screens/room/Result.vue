<script setup lang="ts">
import { computed } from 'vue'
import type { StoredAttempt } from '@climber/contract'
import {
  countResponses,
  dayNumber,
  examSat,
  followsOf,
  judge,
  type Odds,
  paperScore,
  type Room,
  type RoomState,
  type RoomView,
  sectionScores,
} from '@climber/core'
import { dateWords, percentWords, rangeWords, rawWords, scoreWords, spanWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'

/** What came out, beside what was expected, and what that changes. */
const props = defineProps<{
  attempt: StoredAttempt
  room: Room
  state: RoomState
  view?: RoomView
  before?: Odds
}>()
const emit = defineEmits<{ again: [] }>()
const workspace = useWorkspace()
const candidateId = computed(() => workspace.candidate!.id)
const form = computed(() => props.room.form)
const whole = computed(() =>
  props.attempt.kind === 'practice'
    ? paperScore(workspace.exam!, props.attempt.counts.groups, form.value)
    : undefined,
)
const sections = computed(
  () => whole.value?.sections ?? sectionScores(workspace.exam!, props.attempt.counts.groups, form.value),
)
const titleOf = (id: string) => workspace.exam!.sections.find((one) => one.id === id)?.title ?? id
const expectedOf = (id: string) => props.view?.sections.find(({ section }) => section === id)
const composite = computed(() => props.view?.composite)
/** A result that the forecast did not hold for likely: the plan rests on something that is not so. */
const surprise = computed(() => {
  if (!whole.value || !composite.value) return undefined
  const { low, high } = composite.value
  if (whole.value.composite < low) return 'less'
  return whole.value.composite > high ? 'more' : undefined
})
const odds = computed(() => workspace.overview?.odds)
const tally = computed(() => {
  const exam = examSat(workspace.exam!, props.room, props.state)
  const { slots } = countResponses(exam, props.attempt.items ?? [], form.value)
  const byItem = new Map(props.attempt.items?.map((one) => [one.item, one]))
  const found = { right: 0, wrong: 0, blank: 0 }
  for (const slot of slots) {
    const judged = judge(slot.group, byItem.get(slot.item))
    if (typeof judged !== 'number') found[judged] += 1
  }
  return { ...found, of: slots.length }
})
const late = computed(() => (props.attempt.items ?? []).filter((one) => one.late))
const reviews = computed(
  () =>
    workspace.plan?.sessions.filter(
      (session) =>
        props.attempt.session && followsOf(session) === props.attempt.session && session.status === 'planned',
    ) ?? [],
)
/** A test that was sat on another day than planned leaves its review where it stood. */
const isFar = computed(() => {
  const [first] = reviews.value
  return first && dayNumber(first.date) - dayNumber(props.attempt.date ?? first.date) > 3
})
const seconds = computed(() => props.state.over ?? 0)
</script>

<template>
  <section class="stack" aria-label="Result">
    <h1>{{ room.form?.title ?? attempt.title ?? 'Test' }}</h1>
    <div class="row">
      <span v-if="whole" class="large score" data-testid="composite">{{ scoreWords(whole.composite) }}</span>
      <span v-else class="large score" data-testid="tally">{{ tally.right }} of {{ tally.of }}</span>
      <span v-if="whole && composite" data-testid="expected"
        >expected {{ rangeWords(composite) }}, 8 times in 10<template v-if="odds?.target">
          · target {{ scoreWords(odds.target) }}</template
        ></span
      >
    </div>
    <p data-testid="counts">
      {{ tally.right }} right, {{ tally.wrong }} wrong, {{ tally.blank }} left blank, in
      {{ spanWords(seconds)
      }}<template v-if="late.length">; {{ late.length }} answered after the bell, which do not count</template
      >.
    </p>
    <table v-if="sections.length" class="lines" data-testid="sections">
      <thead>
        <tr>
          <th>Section</th>
          <th class="n">Raw</th>
          <th class="n">Scaled</th>
          <th class="n">Expected</th>
          <th class="n">Cut</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in sections" :key="one.section">
          <td>{{ titleOf(one.section) }}</td>
          <td class="n">{{ rawWords(one.raw) }}</td>
          <td class="n">
            <strong :class="one.cut !== undefined && one.scaled < one.cut ? 'bad' : ''">{{
              one.scaled
            }}</strong>
          </td>
          <td class="n soft">{{ expectedOf(one.section) ? rangeWords(expectedOf(one.section)!) : '' }}</td>
          <td class="n">{{ one.cut ?? '' }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="whole && odds?.odds !== undefined" data-testid="changes">
      <template v-if="before?.odds !== undefined && percentWords(before.odds) !== percentWords(odds.odds)"
        >{{ percentWords(before.odds) }} before this test, </template
      ><strong>{{ percentWords(odds.odds) }}</strong> for {{ scoreWords(odds.target!) }} if the plan is kept.
    </p>
    <p v-if="surprise" class="call">
      That is {{ surprise }} than the forecast thought likely. A plan that rested on it is worth making again:
      <router-link :to="{ name: 'plan', params: { candidateId }, query: { replan: 'mend' } }"
        >see what a re-plan would change</router-link
      >.
    </p>
    <p v-if="attempt.note" class="small soft">{{ attempt.note }}</p>
    <p v-if="reviews.length">
      Its review is booked:
      {{ reviews.map((one) => `${dateWords(one.date, workspace.today)}, ${one.start}`).join('; ') }}.
      <template v-if="isFar"
        >That is long after the test;
        <router-link :to="{ name: 'plan', params: { candidateId }, query: { replan: 'mend' } }"
          >a re-plan brings it nearer</router-link
        >.</template
      >
    </p>
    <div class="row">
      <v-btn class="main" :to="{ name: 'tests', params: { candidateId, attemptId: attempt.id } }"
        >What this test says</v-btn
      >
      <v-btn :to="{ name: 'review', params: { candidateId, attemptId: attempt.id } }">Review it</v-btn>
      <v-btn :to="{ name: 'scores', params: { candidateId } }">Scores</v-btn>
      <v-btn :to="{ name: 'today', params: { candidateId } }">Today</v-btn>
      <v-btn variant="text" @click="emit('again')">Correct an answer or the key</v-btn>
    </div>
  </section>
</template>

<style scoped>
.score {
  font-size: 64px;
}
.call {
  border-left: 3px solid var(--ochre);
  padding-left: 10px;
}
</style>
