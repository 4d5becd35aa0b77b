<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import type { Section } from '@climber/contract'
import { isDrill, leaveWords, type PacingView } from '@climber/core'
import { dateWords, percentWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import ChoiceField from '../../kit/ChoiceField.vue'
import NumberField from '../../kit/NumberField.vue'
import { useDrill } from './drill'

/** Practice at holding to the pace: a few items on paper, and nothing on the screen but the rail. */
const props = defineProps<{ view: PacingView; section: Section }>()
const workspace = useWorkspace()
/** Pace drills of this section that were done. */
const rounds = computed(() =>
  workspace.attempts.filter(isDrill).flatMap(({ id, date, scope, budgetSeconds = 1, items = [] }) => {
    const [group] = scope?.groups ?? []
    return scope?.sections?.[0] === props.section.id && group !== undefined
      ? { id, date: date ?? workspace.today, group, budgetSeconds, items }
      : []
  }),
)
const problem = ref('')

const groups = computed(() => [
  ...props.section.groups,
  ...(props.section.stages?.[props.view.stage]?.groups ?? []),
])
const group = ref(groups.value[0]!.id)
const count = ref<number>(10)
const own = ref<number>()
const due = computed(() => {
  const lines = props.view.classes.filter((line) => line.group === group.value && line.count > 0)
  const items = lines.reduce((sum, line) => sum + line.count, 0)
  return Math.max(
    1,
    Math.round(lines.reduce((sum, line) => sum + line.count * line.budget, 0) / Math.max(1, items)),
  )
})
const seconds = computed(() => own.value ?? due.value)
const rule = computed(() => props.view.classes.filter((line) => line.group === group.value && line.count > 0))
const countProblem = computed(() =>
  Number.isInteger(count.value) && count.value >= 5 && count.value <= 15 ? undefined : 'from 5 to 15 items',
)
const secondsProblem = computed(() =>
  seconds.value > 0 && seconds.value <= 3600 ? undefined : 'more than 0 seconds, at most 3600',
)

const drill = useDrill(`climber.draft.${workspace.candidate!.id}.drill`)
const { state, running, marking, clock } = drill
function begin(): void {
  if (countProblem.value || secondsProblem.value) return
  drill.start({
    section: props.section.id,
    group: group.value,
    budgetSeconds: seconds.value,
    count: count.value,
  })
}
function press(event: KeyboardEvent): void {
  if (!running.value || event.repeat || event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key === ' ' || event.key === 'Enter') drill.next(false)
  else if (event.key === 'l') drill.next(true)
  else if (event.key === 'Backspace') drill.back()
  else return
  event.preventDefault()
}
onMounted(() => addEventListener('keydown', press))
onBeforeUnmount(() => removeEventListener('keydown', press))

/** A round's id is made once, so that one kept twice is stored once. */
const roundId = ref(crypto.randomUUID())
async function asked(work: () => Promise<unknown>): Promise<void> {
  problem.value = ''
  try {
    await work()
  } catch (error) {
    problem.value = (error as Error).message
  }
}
const keep = () =>
  asked(async () => {
    const done = state.drill!
    await workspace.saveAttempt(
      {
        id: roundId.value,
        kind: 'drill',
        date: workspace.today,
        seen: false,
        scope: { sections: [done.section], groups: [done.group] },
        budgetSeconds: done.budgetSeconds,
        counts: { groups: {}, topics: {} },
        items: done.items.map(({ seconds: took, right }, at) => ({ item: at + 1, seconds: took, right })),
      },
      0,
    )
    roundId.value = crypto.randomUUID()
    drill.end()
  })
const dropRound = (id: string) => asked(() => workspace.deleteAttempt(id))
const aheadWords = computed(() => {
  const whole = Math.round(clock.value.ahead)
  return whole === 0 ? 'on pace' : whole > 0 ? `${whole} s ahead` : `${-whole} s behind`
})
const railHeight = 420
const place = (at: number) => Math.min(1, at / Math.max(1, clock.value.whole)) * railHeight
const partName = (id: string) =>
  groups.value.length > 1 ? `part ${groups.value.findIndex((one) => one.id === id) + 1}` : props.section.title
const mean = (items: { seconds?: number }[]) =>
  items.reduce((sum, item) => sum + (item.seconds ?? 0), 0) / Math.max(1, items.length)
</script>

<template>
  <div
    v-if="running && state.drill"
    class="room"
    role="dialog"
    aria-modal="true"
    aria-label="Pace drill"
    data-testid="drill"
  >
    <svg class="rail" width="150" :height="railHeight + 20" role="img" :aria-label="aheadWords">
      <g transform="translate(0 10)">
        <line x1="60" x2="60" y1="0" :y2="railHeight" class="line" />
        <g v-for="item in state.drill.count" :key="item">
          <line
            x1="50"
            x2="60"
            :y1="place(item * state.drill.budgetSeconds)"
            :y2="place(item * state.drill.budgetSeconds)"
            class="line"
          />
          <text x="44" :y="place(item * state.drill.budgetSeconds) + 4" text-anchor="end" class="tick">
            {{ item }}
          </text>
        </g>
        <rect
          x="62"
          width="12"
          :y="Math.min(place(state.drill.items.length * state.drill.budgetSeconds), place(clock.spent))"
          :height="Math.abs(place(clock.spent) - place(state.drill.items.length * state.drill.budgetSeconds))"
          :class="clock.ahead < 0 ? 'late' : 'fine'"
        />
        <line x1="54" x2="84" :y1="place(clock.spent)" :y2="place(clock.spent)" class="now" />
      </g>
    </svg>
    <div class="stack center">
      <p class="large item">
        {{ state.drill.items.length + 1 }} <span class="soft">of {{ state.drill.count }}</span>
      </p>
      <p class="large ahead" :class="clock.ahead < 0 ? 'bad' : 'good'">{{ aheadWords }}</p>
      <div class="row">
        <v-btn size="x-large" class="main" @click="drill.next(false)">Answered</v-btn>
        <v-btn size="x-large" @click="drill.next(true)">Left it</v-btn>
        <v-btn size="x-large" variant="text" :disabled="!state.drill.items.length" @click="drill.back()"
          >Back</v-btn
        >
      </div>
      <p class="small soft">Space: answered. l: left it. Backspace: back.</p>
      <v-btn variant="text" @click="drill.end()">Stop, keep nothing</v-btn>
    </div>
  </div>
  <div v-else-if="marking && state.drill" class="stack" data-testid="marking">
    <h2>How did they come out?</h2>
    <p>
      {{ Math.round(clock.spent) }} s for {{ state.drill.count }} items where
      {{ Math.round(clock.whole) }} were due. Mark each against the key.
    </p>
    <table class="lines marks">
      <tbody>
        <tr v-for="(item, at) in state.drill.items" :key="at">
          <th scope="row" class="n">{{ at + 1 }}</th>
          <td class="n" :class="{ bad: item.seconds > 2 * state.drill.budgetSeconds }">
            {{ item.seconds.toFixed(1) }} s
          </td>
          <td>
            <span class="rating" role="group" :aria-label="`Item ${at + 1}`">
              <button type="button" :aria-pressed="item.right === true" @click="drill.mark(at, true)">
                right
              </button>
              <button type="button" :aria-pressed="item.right === false" @click="drill.mark(at, false)">
                wrong
              </button>
              <button type="button" :aria-pressed="item.right === null" @click="drill.mark(at, null)">
                left
              </button>
            </span>
          </td>
        </tr>
      </tbody>
    </table>
    <div class="row">
      <v-btn class="main" @click="keep">Keep it</v-btn>
      <v-btn @click="drill.end()">Throw it away</v-btn>
    </div>
  </div>
  <div v-else class="stack">
    <p>
      Take a few items on paper, start, and press once for each. Only the rail is shown: where you are against
      where you should be. The times join your record and move the leave times.
    </p>
    <form class="fields" novalidate @submit.prevent="begin">
      <ChoiceField
        v-if="groups.length > 1"
        v-model="group"
        label="Items of"
        :options="groups.map(({ id }) => ({ value: id, title: partName(id) }))"
      />
      <NumberField v-model="count" label="How many" whole unit="items" :errors="countProblem" />
      <NumberField
        v-model="own"
        label="Seconds each"
        optional
        :placeholder="String(due)"
        unit="s"
        :errors="secondsProblem"
      />
      <v-btn type="submit" class="main">Start</v-btn>
    </form>
    <p class="small soft">
      The budget gives {{ due }} seconds.
      <template v-for="line in rule" :key="line.id"
        >{{ line.title || 'Rule' }}: {{ leaveWords(line) }}.
      </template>
    </p>
    <template v-if="rounds.length">
      <h2 class="mt-3">Done so far</h2>
      <table class="lines small" data-testid="rounds">
        <thead>
          <tr>
            <th>Day</th>
            <th>Items</th>
            <th class="n">Took each</th>
            <th class="n">Due each</th>
            <th class="n">Within twice its time</th>
            <th class="n">Right</th>
            <td></td>
          </tr>
        </thead>
        <tbody>
          <tr v-for="round in [...rounds].reverse()" :key="round.id">
            <td>{{ dateWords(round.date, workspace.today) }}</td>
            <td>{{ round.items.length }}, {{ partName(round.group) }}</td>
            <td class="n">{{ mean(round.items).toFixed(0) }} s</td>
            <td class="n">{{ Math.round(round.budgetSeconds) }} s</td>
            <td class="n">
              {{
                percentWords(
                  round.items.filter((item) => (item.seconds ?? 0) <= 2 * round.budgetSeconds).length /
                    round.items.length,
                )
              }}
            </td>
            <td class="n">{{ round.items.filter(({ right }) => right).length }}</td>
            <td class="n"><button type="button" class="chip" @click="dropRound(round.id)">drop</button></td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped>
/* Nothing else is to be seen. */
.room {
  position: fixed;
  inset: 0;
  z-index: 30;
  background: var(--ground);
  display: flex;
  gap: 40px;
  align-items: center;
  justify-content: center;
}
.center {
  justify-items: start;
}
.item {
  font-size: 64px;
}
.ahead {
  font-size: 40px;
  font-variant-numeric: tabular-nums;
  min-width: 220px;
}
.line {
  stroke: var(--ink);
}
.now {
  stroke: var(--ochre);
  stroke-width: 3;
}
.late {
  fill: var(--clay);
}
.fine {
  fill: var(--lichen);
}
.marks {
  max-width: 420px;
}
@media (max-width: 700px) {
  .room {
    gap: 4px;
  }
  .item {
    font-size: 48px;
  }
  .ahead {
    font-size: 28px;
    min-width: 0;
  }
  .marks .rating button {
    min-height: 40px;
  }
}
</style>
