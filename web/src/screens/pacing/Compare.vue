<script setup lang="ts">
import * as Comlink from 'comlink'
import { area, curveBasis, scaleLinear } from 'd3'
import { computed, onBeforeUnmount, ref, shallowRef } from 'vue'
import type {
  ApproachResult,
  Section,
  SimulationRequest,
  SimulationResult,
  StoredSimulation,
} from '@climber/contract'
import type { PacingView } from '@climber/core'
import { call } from '../../api'
import { clockWords, dateWords, percentWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import { inOwnWorker, plain, Stopped } from '../../workers/core'
import ChoiceField from '../../kit/ChoiceField.vue'
import NumberField from '../../kit/NumberField.vue'
import { vCards } from '../../kit/cards'
import SortHead from '../../kit/SortHead.vue'
import { sorted } from '../../kit/sorting'

/** Ways through the section, sat many thousands of times on the same items, times and luck. */
const props = defineProps<{ view: PacingView; section: Section }>()
const workspace = useWorkspace()

const sittings = ref(20_000)
const howMany = [
  { value: 2000, title: '2 000' },
  { value: 20_000, title: '20 000' },
  { value: 100_000, title: '100 000' },
]
const asOfs = [
  { value: 'today', title: 'today' },
  { value: 'exam', title: 'exam day, plan kept' },
] as const
const seed = ref<number>(1)
const asOf = ref<'today' | 'exam'>('today')
const score = ref<number>()
const running = shallowRef<AbortController>()
const done = ref(0)
const problem = ref('')
const result = shallowRef<SimulationResult>()
const took = ref(0)
const kept = shallowRef<StoredSimulation[]>([])
const request = computed<SimulationRequest>(() => ({
  section: props.section.id,
  sittings: sittings.value,
  seed: Math.max(0, Math.round(seed.value ?? 0)),
  asOf: asOf.value,
  ...(score.value !== undefined && { aim: { kind: 'score', scaled: score.value } }),
}))

async function run(): Promise<void> {
  const control = new AbortController()
  running.value = control
  problem.value = ''
  done.value = 0
  const begun = performance.now()
  try {
    const asked = plain(request.value)
    result.value = await inOwnWorker(
      (worker) =>
        worker.simulate(
          plain(workspace.record!),
          plain(workspace.now),
          asked,
          Comlink.proxy((share: number) => (done.value = share)),
        ),
      control.signal,
    )
    took.value = performance.now() - begun
  } catch (error) {
    if (!(error instanceof Stopped)) problem.value = (error as Error).message
  }
  if (running.value === control) running.value = undefined
}
const stop = () => running.value?.abort()
onBeforeUnmount(stop)

const route = () => ({ candidateId: workspace.candidate!.id })
async function list(): Promise<void> {
  try {
    kept.value = await call('listSimulations', route())
  } catch {
    // Offline: what was kept shows when the server answers again.
  }
}
void list()
const keeping = ref(false)
async function keep(): Promise<void> {
  keeping.value = true
  try {
    await workspace.whenSaved()
    await call('saveSimulation', { ...route(), simulationId: crypto.randomUUID() }, result.value!.request)
    await list()
  } catch (error) {
    problem.value = (error as Error).message
  }
  keeping.value = false
}
async function drop(id: string): Promise<void> {
  await call('deleteSimulation', { ...route(), simulationId: id })
  await list()
}

const own = computed(() => kept.value.filter((one) => one.result.request.section === props.section.id))
const best = computed(() =>
  result.value?.approaches.reduce<ApproachResult | undefined>(
    (most, one) => (!most || one.marks >= most.marks ? one : most),
    undefined,
  ),
)
const likeliest = computed(() =>
  result.value?.approaches.reduce<ApproachResult | undefined>(
    (most, one) => (!most || one.odds > most.odds - 1e-9 ? one : most),
    undefined,
  ),
)
const aimed = computed(() => (result.value?.aim.kind === 'score' ? result.value.aim.scaled : undefined))

const span = { width: 250, height: 34 }
const range = computed<[number, number]>(() => {
  const all =
    result.value?.approaches.flatMap(({ scores }) => scores.filter(([, share]) => share > 0.0004)) ?? []
  const scores = all.map(([scaled]) => scaled)
  return [Math.min(...scores, aimed.value ?? Infinity), Math.max(...scores, aimed.value ?? -Infinity)]
})
const x = computed(() => scaleLinear(range.value, [2, span.width - 2]))
const places = 70
/** Density of the scaled scores, smoothed with a normal kernel so that steps of a table do not show as teeth. */
function density({ scores }: ApproachResult): [number, number][] {
  const [low, high] = range.value
  const step = (high - low) / places || 1
  const spread = Math.max(2.2 * step, (high - low) / 22)
  return Array.from({ length: places + 1 }, (_, at) => {
    const place = low + at * step
    const sum = scores.reduce((total, [scaled, share]) => {
      const away = (place - scaled) / spread
      return away > 4 || away < -4 ? total : total + share * Math.exp((-away * away) / 2)
    }, 0)
    return [place, sum]
  })
}
const { rows: approaches, head } = sorted(() => result.value?.approaches ?? [], {
  title: (one) => one.title,
  marks: (one) => one.marks,
  against: (one) => one.against.marks,
  odds: (one) => one.odds,
  whole: (one) => one.whole,
  notReached: (one) => one.notReached,
  leftOver: (one) => one.leftOver,
})
/** Each is smoothed once: the page draws them in the same task that receives them. */
const densities = computed(() => new Map(result.value?.approaches.map((one) => [one.id, density(one)])))
const highest = computed(() =>
  Math.max(0.001, ...[...densities.value.values()].flatMap((places) => places.map(([, share]) => share))),
)
const shape = ({ id }: ApproachResult) =>
  area<[number, number]>(
    ([scaled]) => x.value(scaled),
    span.height - 6,
    ([, share]) => span.height - 6 - (share / highest.value) * (span.height - 10),
  ).curve(curveBasis)(densities.value.get(id)!) ?? ''
const signed = (value: number, digits = 2) => `${value > 0 ? '+' : ''}${value.toFixed(digits)}`
const shapeWords = ({ id, shape: made }: ApproachResult) =>
  made &&
  [
    id === 'best' && `${made.passes === 1 ? 'once' : made.passes === 2 ? 'twice' : 'three times'} through`,
    made.haste !== 1 && `first pass ${made.haste > 1 ? 'hastier' : 'slower'}, at ${made.haste} mu`,
    made.deferred > 0 && `going past ${made.deferred} kind${made.deferred > 1 ? 's' : ''} of item at first`,
  ]
    .filter(Boolean)
    .join(', ')
const partName = (id: string) => `part ${props.section.groups.findIndex((group) => group.id === id) + 1}`
const bestOrder = computed(() => {
  const orders = result.value?.orders ?? []
  return orders.reduce((most, one) => (one.marks > most.marks ? one : most), orders[0]!)
})
</script>

<template>
  <div class="stack">
    <div class="fields">
      <ChoiceField v-model="sittings" label="Sittings" :options="howMany" />
      <ChoiceField v-model="asOf" label="You, as of" :options="asOfs" />
      <NumberField
        v-model="score"
        label="Score that counts"
        optional
        :placeholder="aimed === undefined ? 'as the target asks' : String(aimed)"
        style="width: 150px"
      />
      <NumberField v-model="seed" label="Seed" whole />
      <v-btn v-if="!running" class="main" :disabled="Boolean(view.problem)" @click="run">Sit them</v-btn>
      <v-btn v-else @click="stop">Stop</v-btn>
      <v-btn v-if="result && !running" :loading="keeping" @click="keep">Keep this comparison</v-btn>
    </div>
    <div v-if="running" class="row" role="status">
      <progress :value="done" max="1" aria-label="Sittings done" />
      <span class="small">{{ Math.round(done * 100) }}%</span>
    </div>
    <p v-if="view.problem" class="bad">{{ view.problem.message }}</p>
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <p v-if="!result && !running" class="soft">
      Each way through is sat on the same items, with the same times and the same luck, so that small
      differences show. The last row is found by search over leave times and passes.
    </p>
    <template v-if="result">
      <div class="scroll">
        <table v-cards class="lines as-cards compare" data-testid="approaches">
          <thead>
            <tr>
              <SortHead :head="head" by="title">Way through</SortHead>
              <th>
                Scaled scores<span v-if="aimed !== undefined">, {{ aimed }} marked</span>
              </th>
              <SortHead class="n" :head="head" by="marks">Marks</SortHead>
              <SortHead class="n" :head="head" by="against">Against straight</SortHead>
              <SortHead class="n" :head="head" by="odds">{{ aimed ?? 'Target' }} reached</SortHead>
              <SortHead v-if="result.approaches[0]?.whole !== undefined" class="n" :head="head" by="whole"
                >Whole target</SortHead
              >
              <SortHead class="n" :head="head" by="notReached">Not reached</SortHead>
              <SortHead class="n" :head="head" by="leftOver">Given up</SortHead>
            </tr>
          </thead>
          <tbody>
            <tr v-for="one in approaches" :key="one.id" :class="{ best: one.id === best?.id }">
              <th scope="row">
                {{ one.title }}
                <span v-if="shapeWords(one)" class="small soft block">{{ shapeWords(one) }}</span>
              </th>
              <td>
                <svg
                  :width="span.width"
                  :height="span.height"
                  role="img"
                  :aria-label="`mean ${one.scaled.toFixed(1)}`"
                >
                  <line x1="0" :x2="span.width" :y1="span.height - 6" :y2="span.height - 6" class="hair" />
                  <path :d="shape(one)" class="spread" />
                  <line
                    v-if="aimed !== undefined"
                    :x1="x(aimed)"
                    :x2="x(aimed)"
                    y1="0"
                    :y2="span.height - 2"
                    class="aim"
                  />
                  <line
                    :x1="x(one.scaled)"
                    :x2="x(one.scaled)"
                    :y1="span.height - 12"
                    :y2="span.height"
                    class="mean"
                  />
                </svg>
              </td>
              <td class="n">
                {{ one.marks.toFixed(2) }}<span class="small soft block">sd {{ one.sd.toFixed(1) }}</span>
              </td>
              <td class="n">
                {{ one.id === 'straight' ? '' : signed(one.against.marks)
                }}<span v-if="one.id !== 'straight'" class="small soft block"
                  >± {{ (1.96 * one.against.marksError).toFixed(2) }}</span
                >
              </td>
              <td class="n">
                <strong :class="{ good: one.id === likeliest?.id }">{{ percentWords(one.odds) }}</strong><span
                  class="small soft block"
                  >± {{ (196 * one.oddsError).toFixed(1) }}</span
                >
              </td>
              <td v-if="one.whole !== undefined" class="n">{{ percentWords(one.whole) }}</td>
              <td class="n">{{ one.notReached.toFixed(1) }}</td>
              <td class="n">{{ one.leftOver.toFixed(1) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="best" class="small" data-testid="verdict">
        <strong>{{ best.title }}</strong> brings most marks, {{ signed(best.against.marks, 1) }} over straight
        through.
        {{
          likeliest && likeliest.id !== best.id && likeliest.odds - best.odds > 2 * best.oddsError
            ? `${likeliest.title} reaches ${aimed} a little more often: it spreads wider.`
            : ''
        }}
        <span class="soft"
          >{{ result.request.sittings.toLocaleString('en').replace(/,/g, ' ') }} sittings each, seed
          {{ result.request.seed }}<template v-if="took">, {{ (took / 1000).toFixed(1) }} s</template>; ± is
          95%. Sittings are simulated from your record; they are estimates.</span
        >
      </p>
      <p v-if="result.orders.length > 1" class="small" data-testid="orders">
        <template v-if="bestOrder.against > 2 * bestOrder.error"
          >Taking <strong>{{ bestOrder.order.map(partName).join(', ') }}</strong> in this order would bring
          {{ signed(bestOrder.against) }} ± {{ (1.96 * bestOrder.error).toFixed(2) }} marks more.</template
        >
        <template v-else
          >No other order of the parts brings more than chance would ({{ result.orders.length }} tried, the
          best {{ signed(bestOrder.against) }} ± {{ (1.96 * bestOrder.error).toFixed(2) }}).</template
        >
      </p>
    </template>
    <template v-if="own.length">
      <h2 class="mt-3">Kept</h2>
      <table class="lines small" data-testid="kept">
        <tbody>
          <tr v-for="one in own" :key="one.id">
            <td>{{ dateWords(one.madeAt.slice(0, 10), workspace.today) }}</td>
            <td>
              {{ one.result.request.sittings }} sittings, seed {{ one.result.request.seed }}, as of
              {{ one.result.request.asOf === 'today' ? 'that day' : 'exam day' }}
            </td>
            <td>
              best {{ Math.max(...one.result.approaches.map(({ marks }) => marks)).toFixed(1) }} marks of
              {{ one.result.items }} items in {{ clockWords(one.result.seconds) }}
            </td>
            <td class="n">
              <button type="button" class="chip" @click="result = one.result">show</button>
              <button type="button" class="chip" @click="drop(one.id)">drop</button>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped>
.compare td,
.compare th[scope='row'] {
  vertical-align: middle;
  line-height: 1.2;
}
.block {
  display: block;
}
.best {
  background: var(--wash);
}
.spread {
  fill: var(--water);
  fill-opacity: 0.4;
  stroke: var(--water);
}
.aim {
  stroke: var(--ochre);
  stroke-width: 1.6;
}
.mean {
  stroke: var(--ink);
  stroke-width: 1.4;
}
progress {
  width: 260px;
  height: 8px;
  accent-color: var(--ochre);
}
</style>
