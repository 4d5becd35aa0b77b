<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { type Gap, itemsOf, type Verdict as VerdictFound } from '@climber/core'
import HourFrom from '../../widgets/HourFrom.vue'
import LearningPace from '../../widgets/LearningPace.vue'
import Verdict from '../../widgets/Verdict.vue'
import { newestOnly } from '../../manners/newest'
import { dateWords, percentWords, rawWords, scoreWords, termsOf } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import { plain } from '../../workers/core'
import WhereFrom from '../../widgets/WhereFrom.vue'
import LossBudget from './LossBudget.vue'

/** What it takes: what may be lost in each section, and where the next hours pay most. Nothing here is stored. */
const workspace = useWorkspace()
const found = shallowRef<Gap>()
const hours = ref<number>()
const wanted = ref<Record<string, number>>({})

const work = newestOnly(async () => {
  found.value = (await workspace.ask('gap', hours.value, plain(wanted.value))) ?? found.value
})
watch([() => workspace.record, hours, wanted], () => void work(), { immediate: true })

// Levers moved by hand; nothing is kept until it is said so.
const more = ref(0)
const sitting = ref<string>()
const target = ref<number>()
/** How fast the work ahead is thought to be learned. */
const learns = ref(1)
const explored = shallowRef<VerdictFound>()
const lag = ref(0)
const moves = computed(() => ({
  ...(more.value && { minutesMoreAWeek: more.value }),
  ...(sitting.value !== undefined && { sitting: sitting.value }),
  ...(target.value !== undefined && { scaled: target.value }),
  ...(learns.value !== 1 && { learns: learns.value }),
}))
const explore = newestOnly(async () => {
  const begun = performance.now()
  explored.value = await workspace.ask('explore', moves.value)
  lag.value = performance.now() - begun
})
watch([() => workspace.record, moves], () => void explore(), { immediate: true })
const moved = computed(() => Object.keys(moves.value).length > 0)
const open = computed(() => workspace.exam!.sittings.filter(({ date }) => date > workspace.today))
const range = computed(() => workspace.overview?.range ?? { low: 0, high: 100 })
function putBack(): void {
  more.value = 0
  sitting.value = undefined
  target.value = undefined
  learns.value = 1
}
/** Keeps target and sitting; minutes are found in the week painter, where their hours lie. */
function keep(): void {
  const [newSitting, newTarget] = [sitting.value, target.value]
  workspace.saves!.target.edit((document) => {
    if (newSitting) document.sitting = newSitting
    if (newTarget !== undefined) Object.assign(document, { kind: 'number', scaled: newTarget })
  })
  sitting.value = undefined
  target.value = undefined
}
const whole = computed(() => {
  const give = found.value?.sections ?? []
  return give.every(({ mustGive }) => mustGive) && workspace.overview?.goal.mean !== undefined ? give : []
})
const within = ({ low, high }: { low: number; high: number }, score: number) =>
  score > high ? `more than its ${high}` : score <= low ? 'anything' : String(Math.ceil(score - 1e-9))

const section = (id: string) => workspace.exam!.sections.find((one) => one.id === id)!
const mostHours = computed(() => Math.max(20, Math.ceil(((found.value?.available ?? 20) * 2) / 10) * 10))
const topics = computed(() =>
  [...(found.value?.topics ?? [])].sort((a, b) => b.hours - a.hours || b.yield - a.yield),
)
const byOdds = computed(() => topics.value.some(({ counts }) => counts !== undefined))
/** Points do not count alike everywhere: a section is short of its cut, or safe. */
const differs = computed(() => topics.value.some(({ counts = 1 }) => Math.abs(counts - 1) > 0.05))
/** What the last hour of the topics that get any adds to the odds. */
const lastHour = computed(() => {
  const given = topics.value.filter((topic) => topic.hours > 0 && topic.chance !== undefined)
  const all = given.reduce((sum, topic) => sum + topic.hours, 0)
  const mean = given.reduce((sum, topic) => sum + topic.hours * topic.chance!, 0) / Math.max(1e-9, all)
  return mean >= 5e-4 ? `, ${(100 * mean).toFixed(1)}% each` : ''
})
const busiest = computed(() => Math.max(1, ...topics.value.map((topic) => topic.hours)))
function want(id: string, event: Event): void {
  const text = (event.target as HTMLInputElement).value
  const { [id]: _gone, ...rest } = wanted.value
  wanted.value = text === '' ? rest : { ...rest, [id]: Number(text) }
}
const hoursWords = (value: number) =>
  value === 0 ? 'there' : value < 0.5 ? 'under 1 h' : `${value.toFixed(0)} h`
</script>

<template>
  <div class="sheet stack">
    <h1 class="only-reader">Gap</h1>
    <v-skeleton-loader v-if="!found" type="image, list-item@6" />
    <template v-else>
      <div class="levers">
        <section class="stack" aria-label="Levers">
          <h2>What if</h2>
          <label class="lever"
            ><span>Minutes more a week</span>
            <input
              v-model.number="more"
              type="range"
              min="0"
              max="900"
              step="15"
              data-testid="lever-minutes"
            />
            <strong>{{ more ? `+${more}` : 'as it is' }}</strong></label
          >
          <label class="lever"
            ><span>Target</span>
            <input
              type="range"
              :min="range.low"
              :max="range.high"
              :step="workspace.exam!.composite.step"
              :value="target ?? workspace.overview?.goal.mean ?? range.low"
              data-testid="lever-target"
              @input="target = Number(($event.target as HTMLInputElement).value)"
            />
            <strong>{{
              Number((target ?? workspace.overview?.goal.mean ?? 0).toFixed(1)) || '–'
            }}</strong></label
          >
          <fieldset class="sittings">
            <legend class="small soft">Sitting</legend>
            <label v-for="one in open" :key="one.id" class="check"
              ><input
                type="radio"
                name="lever-sitting"
                :checked="(sitting ?? workspace.sitting?.id) === one.id"
                @change="sitting = one.id"
              />
              {{ dateWords(one.date, workspace.today) }}
              <span class="small soft"> {{ termsOf(one, workspace.today) }}</span></label
            >
          </fieldset>
          <div class="lever">
            <span>Learning</span>
            <LearningPace v-model="learns" />
          </div>
          <div v-if="moved" class="row">
            <v-btn v-if="sitting || target !== undefined" class="act" @click="keep"
              >Keep target and sitting</v-btn
            >
            <v-btn @click="putBack">Put back</v-btn>
            <router-link v-if="more" :to="{ name: 'set-up' }" class="small"
              >Paint the minutes in the week</router-link
            >
          </div>
        </section>
        <div :data-lever-lag="Math.round(lag)" data-testid="explored">
          <Verdict v-if="explored" :verdict="explored" :sitting="sitting" :moved="moves" />
          <div v-else-if="workspace.sitting" class="coming">
            <v-skeleton-loader type="heading, list-item@4" />
          </div>
          <p v-else class="soft">There is no sitting to aim at.</p>
        </div>
      </div>
      <template v-if="whole.length > 1">
        <h2>Sharing the total between sections</h2>
        <p class="small soft">
          For {{ scoreWords(workspace.overview!.goal.mean!) }} in all. Write what you count on in a section
          below, and the last column says what each must give if the others give that.
        </p>
        <div class="scroll">
          <table class="lines small" data-testid="sharing">
            <thead>
              <tr>
                <th>Section</th>
                <th class="n">Today</th>
                <th class="n">After the hours</th>
                <th class="n">Must give if the others stay</th>
                <th class="n">If they rise too</th>
                <th class="n">You count on</th>
                <th class="n">Must give then</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="gap in whole" :key="gap.section">
                <th scope="row">{{ section(gap.section).title }}</th>
                <td class="n">{{ Math.round(gap.today) }}</td>
                <td class="n">{{ Math.round(gap.later) }}</td>
                <td class="n">{{ within(gap, gap.mustGive!.othersToday) }}</td>
                <td class="n">{{ within(gap, gap.mustGive!.othersLater) }}</td>
                <td class="n">
                  <input
                    class="figure"
                    type="number"
                    :value="wanted[gap.section] ?? ''"
                    :placeholder="String(Math.round(gap.later))"
                    :aria-label="`You count on in ${section(gap.section).title}`"
                    @input="want(gap.section, $event)"
                  />
                </td>
                <td class="n">
                  <strong :class="gap.mustGive!.othersWanted > gap.high ? 'bad' : ''">{{
                    within(gap, gap.mustGive!.othersWanted)
                  }}</strong>
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </template>
      <h2>What may be lost</h2>
      <div class="budgets">
        <section v-for="gap in found.sections" :key="gap.section" class="stack">
          <div class="row">
            <h3>{{ section(gap.section).title }}</h3>
            <label class="small"
              >for
              <input
                class="figure"
                type="number"
                :value="wanted[gap.section] ?? Math.round(gap.wanted)"
                :aria-label="`${section(gap.section).title}: scaled score wanted`"
                @input="want(gap.section, $event)"
              />
            </label>
          </div>
          <LossBudget
            v-if="gap.strictest?.length"
            :gap="gap"
            :items="itemsOf(section(gap.section))"
            :title="section(gap.section).title"
          />
          <p v-else-if="gap.strictest" class="bad">
            Out of reach: even a full paper scores less on its table.
          </p>
          <table v-else-if="gap.stages" class="lines small">
            <thead>
              <tr>
                <th>Second stage</th>
                <th class="n">First stage from</th>
                <th class="n">Both together</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="stage in gap.stages" :key="stage.stage">
                <th scope="row">
                  {{ section(gap.section).stages?.find(({ id }) => id === stage.stage)?.title }}
                </th>
                <td class="n">{{ stage.first === undefined ? 'any' : rawWords(stage.first) }}</td>
                <td class="n">
                  <span v-if="stage.raw === undefined" class="bad">its table ends lower</span
                  ><template v-else>raw {{ rawWords(stage.raw) }}</template>
                </td>
              </tr>
            </tbody>
          </table>
          <p v-else-if="gap.rawNeeded === undefined" class="bad">
            Out of reach: on one of its tables even a full paper scores less.
          </p>
          <p v-else class="small">
            Up to <strong>{{ rawWords(gap.fullMarks - gap.rawNeeded) }}</strong> of
            {{ rawWords(gap.fullMarks) }} marks may be lost.
            <span class="soft"
              >Items here are worth different marks, so one wrong answer has no single price.</span
            >
          </p>
          <p class="small">
            <template v-if="gap.rawNeeded !== undefined">Raw {{ rawWords(gap.rawNeeded) }} needed. </template>
            <template v-if="gap.last"
              >{{ dateWords(gap.last.of, workspace.today) }}: {{ gap.last.wrong }} wrong,
              {{ gap.last.blank }} blank (the dot).
            </template>
            <template v-if="gap.expected"
              >A paper today would have about {{ Math.round(gap.expected.wrong) }} wrong,
              {{ Math.round(gap.expected.blank) }} blank<template v-if="gap.strictest?.length">
                (the ring)</template
              >.
            </template>
            Level today {{ Math.round(gap.today) }}, {{ Math.round(gap.later) }} after the hours below.
            <span v-if="gap.tables > 1" class="soft"
              >The strictest of {{ gap.tables }} tables; dashed, the easiest.</span
            >
          </p>
          <p v-if="gap.mustGive" class="small soft">
            For {{ scoreWords(workspace.overview!.target!) }} in all it must give
            {{ Math.round(gap.mustGive.othersToday) }} if the others stay, or
            {{ Math.round(gap.mustGive.othersLater) }} if they rise too{{
              gap.cut === undefined ? '' : `; its cut is ${gap.cut}`
            }}.
          </p>
        </section>
      </div>
      <div class="row mt-3">
        <h2>Where the hours pay</h2>
        <label class="slider">
          <span class="only-reader">Hours to share out</span>
          <input
            type="range"
            min="0"
            :max="mostHours"
            step="1"
            :value="hours ?? Math.round(found.available)"
            @input="hours = Number(($event.target as HTMLInputElement).value)"
          />
        </label>
        <span data-testid="hours"
          ><strong>{{ found.hours.toFixed(0) }} h</strong> bring {{ found.points.toFixed(0) }} points</span
        >
        <v-btn v-if="hours !== undefined" @click="hours = undefined"
          >The {{ found.available.toFixed(0) }} h there are</v-btn
        >
      </div>
      <div class="scroll">
        <table class="lines small" data-testid="topics">
          <thead>
            <tr>
              <th>Topic</th>
              <th>Section</th>
              <th class="n">Known</th>
              <th class="n">Next hour</th>
              <th v-if="differs" class="n">Counts</th>
              <th>Hours of these</th>
              <th class="n">To fair</th>
              <th class="n">To strong</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="topic in topics" :key="topic.id">
              <th scope="row">{{ topic.title }}</th>
              <td class="soft">{{ section(topic.section).title }}</td>
              <td class="n">{{ percentWords(topic.known) }}</td>
              <td class="n">
                <WhereFrom :label="`${topic.title}, the next hour`">
                  <template #figure>{{ topic.yield.toFixed(2) }}</template>
                  <HourFrom :topic="topic" :section="section(topic.section).title" />
                </WhereFrom>
              </td>
              <td v-if="differs" class="n">{{ topic.counts!.toFixed(1) }}</td>
              <td class="bar">
                <svg width="190" height="14" aria-hidden="true">
                  <rect x="0" y="2" :width="(150 * topic.hours) / busiest" height="10" class="hours" />
                  <rect v-if="topic.hours >= 1" x="0" y="2" :width="150 / busiest" height="10" class="next" />
                  <text :x="(150 * topic.hours) / busiest + 5" y="12" class="tick">
                    {{ topic.hours.toFixed(1) }} h
                  </text>
                </svg>
                <span class="only-reader">{{ topic.hours.toFixed(1) }} hours</span>
              </td>
              <td class="n">{{ hoursWords(topic.hoursToFair) }}</td>
              <td class="n">{{ hoursWords(topic.hoursToStrong) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="small soft">
        Next hour: scaled points that one more hour is expected to bring.
        <template v-if="differs"
          >Counts: how much a point there adds to the odds of the target and every cut, against a point
          anywhere. </template
        ><template v-if="byOdds"
          >The hours are shared out so that the last hour on every topic adds the same to the odds{{
            lastHour
          }};</template
        ><template v-else
          >The hours are shared out so that the last hour on every topic brings the same;</template
        >
        the dark end of a bar is the first of them. Fair is half known, strong 85%.
      </p>
    </template>
  </div>
</template>

<style scoped>
/* As high as the verdict, which comes a little later. */
.coming {
  min-height: 430px;
}
@media (max-width: 700px) {
  .coming {
    min-height: 520px;
  }
}
.budgets {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  gap: 26px;
}
.levers {
  display: grid;
  grid-template-columns: minmax(300px, 1fr) minmax(320px, 1fr);
  gap: 28px;
}
@media (max-width: 800px) {
  .levers {
    grid-template-columns: minmax(0, 1fr);
  }
}
.lever {
  display: grid;
  grid-template-columns: 150px minmax(80px, 1fr) 70px;
  gap: 10px;
  align-items: center;
}
.lever input {
  accent-color: var(--ink);
}
.sittings {
  border: 0;
  padding: 0;
  display: grid;
  gap: 4px;
}
.slider input {
  width: 260px;
  accent-color: var(--ink);
  vertical-align: middle;
}
.hours {
  fill: var(--water);
  fill-opacity: 0.45;
}
.next {
  fill: var(--water);
}
.tick {
  font-size: 12px;
  fill: var(--ink);
}
th[scope='row'] {
  color: var(--ink);
  font-size: 14px;
}
</style>
