<script setup lang="ts">
import { curveStepBefore, line, scaleLinear } from 'd3'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef } from 'vue'
import {
  costOf,
  countWords,
  type GuessGround,
  type GuessQuestion,
  habitOf,
  type Situation,
} from '@climber/core'
import { dateWords, percentWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import { core, plain } from '../../workers/core'
import NumberField from '../../kit/NumberField.vue'

/** Twenty quick situations from this exam: answer or leave, and what the habit costs. */
const props = defineProps<{ ground: GuessGround; question: GuessQuestion }>()
const workspace = useWorkspace()
const save = computed(() => workspace.saves!.guessing)
const rounds = computed(() =>
  save.value.state.document.rounds.filter(({ section }) => section === props.ground.section),
)
const many = 20

const seed = ref<number>(rounds.value.length + 1)
const situations = shallowRef<Situation[]>([])
const decided = ref<boolean[]>([])
const shown = ref(false)
const kept = ref(false)
const none = ref(false)

const at = computed(() => decided.value.length - (shown.value ? 1 : 0))
const now = computed(() => situations.value[at.value])
const decisions = computed(() =>
  decided.value.map((answered, place) => ({ situation: situations.value[place]!, answered })),
)
const habit = computed(() => habitOf(decisions.value))
const done = computed(
  () => situations.value.length > 0 && decided.value.length === situations.value.length && !shown.value,
)

async function begin(): Promise<void> {
  const { left: _left, ...question } = plain(props.question)
  situations.value = await core().trainingOf(
    plain(props.ground),
    question,
    many,
    Math.max(0, Math.round(seed.value ?? 1)),
  )
  none.value = situations.value.length === 0
  decided.value = []
  shown.value = false
  kept.value = false
}
function decide(answered: boolean): void {
  if (!now.value || shown.value) return
  decided.value = [...decided.value, answered]
  shown.value = true
}
function next(): void {
  shown.value = false
  if (decided.value.length === situations.value.length && !kept.value) keep()
}
function keep(): void {
  kept.value = true
  const { decided: number, best, cost, answeredTooOften, leftTooOften } = habit.value
  save.value.edit((guessing) => {
    guessing.rounds = [
      ...guessing.rounds.slice(-499),
      {
        id: crypto.randomUUID(),
        date: workspace.today,
        seed: Math.max(0, Math.round(seed.value ?? 1)),
        section: props.ground.section,
        decided: number,
        best,
        cost,
        answeredTooOften,
        leftTooOften,
      },
    ]
  })
}
function press(event: KeyboardEvent): void {
  if (event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT|BUTTON)$/.test(event.target.tagName))
    return
  if (event.repeat || event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key === 'y') decide(true)
  else if (event.key === 'n') decide(false)
  else if ((event.key === 'Enter' || event.key === ' ') && shown.value) next()
  else return
  event.preventDefault()
}
onMounted(() => addEventListener('keydown', press))
onBeforeUnmount(() => removeEventListener('keydown', press))

const chosenCost = computed(() =>
  shown.value && now.value ? costOf(now.value, decided.value[decided.value.length - 1]!) : 0,
)
/** What the decisions so far have given away, one after the other. */
const running = computed(() => {
  let sum = 0
  return decisions.value.map(({ situation, answered }) => (sum += costOf(situation, answered)))
})
const span = { width: 320, height: 46 }
const course = computed(() => {
  const x = scaleLinear([0, situations.value.length], [2, span.width - 2])
  const y = scaleLinear([0, Math.max(0.05, ...running.value)], [span.height - 4, 4])
  return (
    line<number>(
      (_, place) => x(place),
      (sum) => y(sum),
    ).curve(curveStepBefore)([0, ...running.value]) ?? ''
  )
})
const blank = computed(() => (now.value ? props.ground.group.items - now.value.safe - now.value.unsure : 0))
const points = (share: number) => `${(share * 100).toFixed(share < 0.1 ? 1 : 0)} points`
const habitWords = computed(() => {
  const { answeredTooOften, leftTooOften, cost } = habit.value
  if (!answeredTooOften && !leftTooOften) return 'every decision was the better one'
  const way =
    answeredTooOften > leftTooOften
      ? 'you answer too often'
      : leftTooOften > answeredTooOften
        ? 'you leave too often'
        : 'you err both ways alike'
  return `${way}; it gave away ${points(cost)} of chance over ${habit.value.decided}`
})
</script>

<template>
  <div class="stack trainer">
    <template v-if="!situations.length || done">
      <template v-if="done">
        <h2 data-testid="trained">{{ habit.best }} of {{ habit.decided }} decided for the better</h2>
        <p>{{ habitWords.charAt(0).toUpperCase() + habitWords.slice(1) }}.</p>
        <table class="lines small">
          <thead>
            <tr>
              <th class="n">Safe</th>
              <th class="n">Unsure</th>
              <th class="n">Options left</th>
              <th class="n">Answered</th>
              <th class="n">Left</th>
              <th>You</th>
              <th class="n">Gave away</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="({ situation, answered }, place) in decisions" :key="place">
              <td class="n">{{ situation.safe }}</td>
              <td class="n">{{ situation.unsure }}</td>
              <td class="n">{{ situation.left }}</td>
              <td class="n">{{ percentWords(situation.answer) }}</td>
              <td class="n">{{ percentWords(situation.leave) }}</td>
              <td>{{ answered ? 'answered' : 'left' }}</td>
              <td class="n">
                <span v-if="costOf(situation, answered) > 0" class="bad">{{
                  points(costOf(situation, answered))
                }}</span>
              </td>
            </tr>
          </tbody>
        </table>
      </template>
      <p v-else-if="none" class="bad" role="alert">
        There is nothing to train: in no situation of these items does answering or leaving change the chance
        by a hundredth. Choose another score on the table.
      </p>
      <p v-else>
        {{ many }} situations made up from these items, their table and how far your certainty holds. Decide
        each in a few seconds, as on the day.
      </p>
      <div class="fields">
        <NumberField v-model="seed" label="Seed" whole />
        <v-btn class="main" @click="begin">{{ done ? 'Another round' : 'Begin' }}</v-btn>
      </div>
      <template v-if="rounds.length">
        <h2 class="mt-3">Rounds so far</h2>
        <table class="lines small" data-testid="trainer-rounds">
          <tbody>
            <tr v-for="round in [...rounds].reverse()" :key="round.id">
              <td>{{ dateWords(round.date, workspace.today) }}</td>
              <td class="n">{{ round.best }} of {{ round.decided }}</td>
              <td class="n">gave away {{ points(round.cost) }}</td>
              <td>
                {{
                  round.answeredTooOften > round.leftTooOften
                    ? 'answered too often'
                    : round.leftTooOften > round.answeredTooOften
                      ? 'left too often'
                      : ''
                }}
              </td>
            </tr>
          </tbody>
        </table>
      </template>
    </template>
    <template v-else-if="now">
      <p class="soft">
        {{ at + 1 }} of {{ situations.length }} · so far {{ habit.best }} for the better,
        {{ points(habit.cost) }} given away
      </p>
      <p class="large situation" data-testid="situation">
        {{ now.safe }} safe.
        {{ countWords(now.unsure).charAt(0).toUpperCase() + countWords(now.unsure).slice(1) }} more with
        {{ countWords(now.left) }} options left.
      </p>
      <p class="small soft">
        Of {{ ground.group.items }} items, {{ blank }} {{ blank === 1 ? 'stays' : 'stay' }} blank anyway. For
        {{ question.aim.kind === 'score' ? question.aim.scaled : 'the whole target' }}, sure answers right
        {{ percentWords(ground.sure.rate) }} of the time.
      </p>
      <div class="row">
        <v-btn size="x-large" class="main" :disabled="shown" @click="decide(true)">Answer them</v-btn>
        <v-btn size="x-large" class="main" :disabled="shown" @click="decide(false)">Leave them</v-btn>
        <span class="small soft">y, n</span>
      </div>
      <svg
        :width="span.width"
        :viewBox="`0 0 ${span.width} ${span.height}`"
        class="course"
        role="img"
        :aria-label="`${points(habit.cost)} given away so far`"
      >
        <line x1="2" :x2="span.width - 2" :y1="span.height - 4" :y2="span.height - 4" class="hair" />
        <path :d="course" class="cost" />
      </svg>
      <div v-if="shown" class="stack" aria-live="polite" data-testid="verdict">
        <p class="verdict">
          <strong :class="chosenCost > 0 ? 'bad' : 'good'">{{
            chosenCost > 0 ? `That gave away ${points(chosenCost)}.` : 'The better one.'
          }}</strong>
          Answered {{ percentWords(now.answer) }}, left {{ percentWords(now.leave)
          }}<template v-if="now.best > 0 && now.best < now.unsure"
            >; best of all, answer {{ now.best }}: {{ percentWords(now.odds) }}</template
          >.
        </p>
        <div class="row">
          <v-btn size="x-large" @click="next">Next</v-btn><span class="small soft">Enter</span>
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.trainer {
  max-width: 720px;
  gap: 14px;
}
.situation {
  font-size: 34px;
  line-height: 1.15;
}
.course {
  max-width: 100%;
}
.cost {
  fill: none;
  stroke: var(--clay);
  stroke-width: 1.6;
}
.verdict {
  font-size: 17px;
}
</style>
