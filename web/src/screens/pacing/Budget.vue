<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Section } from '@climber/contract'
import {
  goalWords,
  inOrder,
  inSatOrder,
  type PacingView,
  readGoal,
  ruleOfThumb,
  setsOf,
  timeOf,
} from '@climber/core'
import TextField from '../../kit/TextField.vue'
import { clockWords, durationWords, onTheClock, spanWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import NumberField from '../../kit/NumberField.vue'
import WhereFrom from '../../widgets/WhereFrom.vue'
import PaceCurve from './PaceCurve.vue'
import { useWishes } from './wishes'

/** How the minutes are shared out: the pace curve, its checkpoints, and the wishes that shape it. */
const props = defineProps<{ view: PacingView; section: Section }>()
defineEmits<{ stage: [id: string] }>()
const workspace = useWorkspace()
const { save, wish, change, problemAt } = useWishes(computed(() => props.section))

const pace = computed(() => props.view.pace)
const problem = (field: string) =>
  problemAt(field) ?? (props.view.problem?.field === field ? props.view.problem.message : undefined)
const groups = computed(() => inOrder(props.section.groups, wish.value.order))
const rising = computed(() => props.section.groups.some(({ difficulty }) => difficulty === 'rising'))
const partName = (id: string) => `Part ${props.section.groups.findIndex((group) => group.id === id) + 1}`
const ordered = computed(() => Boolean(wish.value.order?.length))

const said = ref('')
const goalProblem = ref('')
function addGoal(): void {
  const read = readGoal(said.value, {
    items: pace.value?.items.length ?? props.section.groups.reduce((sum, { items }) => sum + items, 0),
    sets: groups.value.flatMap(setsOf),
    startMinute: props.view.clock?.start,
  })
  if ('problem' in read) {
    goalProblem.value = read.problem
    return
  }
  goalProblem.value = ''
  said.value = ''
  change((next) => {
    next.goals = [...props.view.goals, read.goal]
    next.goal = null
  })
}
function dropGoal(at: number): void {
  change((next) => {
    next.goals = props.view.goals.filter((_, place) => place !== at)
    next.goal = null
  })
}
const goalProblemAt = (at: number) =>
  ['items', 'minutes', 'sets', 'seconds', 'minutesEach'].flatMap(
    (field) => problem(`goals.${at}.${field}`) ?? [],
  )[0]

function moveGroup(id: string, by: number): void {
  change((next) => {
    const order = groups.value.map((group) => group.id)
    const at = order.indexOf(id)
    const to = at + by
    if (to < 0 || to >= order.length) return
    ;[order[at], order[to]] = [order[to]!, order[at]!]
    next.order = order
  })
}
function moveSection(by: number): void {
  save.value.edit((pacing) => {
    const order = inSatOrder(workspace.exam!.sections, pacing.order).map(({ id }) => id)
    const at = order.indexOf(props.section.id)
    const to = at + by
    if (to < 0 || to >= order.length) return
    ;[order[at], order[to]] = [order[to]!, order[at]!]
    pacing.order = order
  })
}
const paused = computed(
  () => wish.value.pauses ?? (wish.value.pauses === null ? null : { everyMinutes: 20, minutes: 2 }),
)
const whole = (value: number | undefined) =>
  value === undefined || Number.isNaN(value) ? null : Math.round(value)
const start = computed(() => props.view.clock?.start)
/** A rule of thumb of one's own, and where time would end by it. */
const thumb = ref<number>()
const judged = computed(() => {
  const own = pace.value
  if (!own || !thumb.value || !(thumb.value > 0)) return undefined
  const items = own.items.length
  const seconds = own.grantedSeconds - own.readingSeconds
  const last = ruleOfThumb(thumb.value, seconds, items)
  return last < items
    ? `time ends at item ${last} of ${items}: ${items - last} unanswered`
    : `all ${items} are reached, ${spanWords(seconds - items * thumb.value)} to spare`
})
const goalMade = computed(() => props.view.goals.length > 0)
</script>

<template>
  <div class="budget">
    <div class="stack main">
      <p v-if="pace" class="say">
        <strong>{{ pace.items.length }} items in {{ durationWords(pace.sectionSeconds / 60) }}</strong
        ><template v-if="view.granted > 1.0001">
          with {{ Math.round((view.granted - 1) * 100) }}% more time</template
        ><template v-if="view.untimed && pace.pauses.length"
          >, {{ pace.pauses.length === 1 ? 'a break' : `${pace.pauses.length} breaks` }} in it</template
        ><template v-if="pace.reserveSeconds">, {{ pace.reserveSeconds / 60 }} min kept back</template>:
        <WhereFrom label="Exact seconds an item">
          <template #figure
            ><strong>{{ pace.secondsEach.toFixed(1) }} s</strong></template
          >
          {{ pace.workingSeconds }} seconds to work in, less {{ pace.readingSeconds }} of reading, over
          {{ pace.items.length }} items. Marks, rising difficulty and goals share them out unevenly; the
          checkpoints are the running sum, rounded half up, and end on {{ pace.workingSeconds }}.
        </WhereFrom>
        each{{ goalMade || pace.secondsPerMark ? ' on average' : ''
        }}<template v-if="pace.secondsPerMark">, {{ pace.secondsPerMark.toFixed(1) }} s a mark</template>.
        <span v-if="pace.thumb" class="mark"
          >At {{ pace.thumb.secondsEach }} seconds each, time ends at item {{ pace.thumb.lastItem }} of
          {{ pace.items.length }}.</span
        >
      </p>
      <p v-else class="bad" role="alert" data-testid="pace-problem">{{ view.problem?.message }}</p>
      <p v-if="view.untimed" class="small soft">
        Nobody stops this section: the minutes are what it usually takes, with breaks where they cost least.
      </p>
      <div v-if="view.stages.length" class="row small">
        Second stage
        <span class="rating">
          <button
            v-for="(one, at) in view.stages"
            :key="one.id"
            type="button"
            :aria-pressed="view.stage === at"
            @click="$emit('stage', one.id)"
          >
            {{ one.title }} · {{ Math.round(one.chance * 100) }}%
          </button>
        </span>
        <span class="soft">The first stage ends at the same moment, whichever follows.</span>
      </div>
      <PaceCurve v-if="pace" :view="view" :pace="pace" :start="start" />
    </div>
    <aside class="stack">
      <table v-if="pace" class="lines points" data-testid="checkpoints">
        <thead>
          <tr>
            <th>After item</th>
            <th v-if="start !== undefined" class="n">Clock</th>
            <th class="n">From start</th>
            <th class="n">Left</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="point in pace.checkpoints" :key="point.item">
            <td>
              {{ point.item }}<span v-if="ordered" class="soft"> (no. {{ point.number }})</span>
              <span v-if="point.ends" class="small soft"> end of {{ point.ends }}</span>
            </td>
            <td v-if="start !== undefined" class="n">{{ onTheClock(start, point.at) }}</td>
            <td class="n">{{ clockWords(point.at) }}</td>
            <td class="n">{{ clockWords(point.left) }}</td>
          </tr>
        </tbody>
      </table>
      <form class="stack wishes" novalidate @submit.prevent="addGoal">
        <h2>Goals</h2>
        <ul v-if="view.goals.length" class="goals">
          <li v-for="(goal, at) in view.goals" :key="at">
            <span>{{ goalWords(goal) }}</span>
            <button type="button" class="chip" :aria-label="`Drop: ${goalWords(goal)}`" @click="dropGoal(at)">
              drop
            </button>
            <p v-if="goalProblemAt(at)" class="bad small" role="alert">{{ goalProblemAt(at) }}</p>
          </li>
        </ul>
        <div class="row add">
          <TextField
            v-model="said"
            label="A goal in your words"
            placeholder="first 22 by half past"
            :errors="goalProblem"
          />
          <v-btn type="submit">Add</v-btn>
        </div>
        <div class="row">
          <NumberField
            :model-value="wish.reserveMinutes"
            label="Kept back to transfer and check"
            unit="min"
            style="flex: 1 0 210px"
            :errors="problem('reserveMinutes')"
            @update:model-value="(value) => change((next) => (next.reserveMinutes = value ?? 0))"
          />
          <NumberField
            :model-value="wish.every ?? undefined"
            label="Checkpoint every"
            unit="items"
            placeholder="as fits"
            optional
            :errors="problem('every')"
            @update:model-value="(value) => change((next) => (next.every = whole(value)))"
          />
          <NumberField v-model="thumb" label="A rule of thumb" unit="s each" optional />
          <NumberField
            v-if="rising"
            :model-value="wish.rise ?? 2"
            label="Last item against first"
            unit="times"
            :errors="problem('rise')"
            @update:model-value="(value) => change((next) => (next.rise = value))"
          />
          <template v-if="view.untimed && paused">
            <NumberField
              :model-value="paused.everyMinutes"
              label="Break after"
              unit="min"
              :errors="problem('pauses.everyMinutes')"
              @update:model-value="
                (value) => change((next) => (next.pauses = { ...paused!, everyMinutes: value ?? 0 }))
              "
            />
            <NumberField
              :model-value="paused.minutes"
              label="of"
              unit="min"
              :errors="problem('pauses.minutes')"
              @update:model-value="
                (value) => change((next) => (next.pauses = { ...paused!, minutes: value ?? 0 }))
              "
            />
          </template>
        </div>
        <p v-if="judged" class="small" aria-live="polite" data-testid="judged">
          At {{ thumb }} seconds each {{ judged }}.
        </p>
        <div v-if="section.groups.length > 1" class="stack order">
          <h3>Order of the parts</h3>
          <div v-for="(group, at) in groups" :key="group.id" class="row small">
            <span class="what"
              >{{ partName(group.id) }}, {{ group.items }} × {{ Number(group.perRight.toFixed(2)) }}</span
            >
            <button
              type="button"
              class="chip"
              :disabled="at === 0"
              :aria-label="`${partName(group.id)} earlier`"
              @click="moveGroup(group.id, -1)"
            >
              earlier
            </button>
            <button
              type="button"
              class="chip"
              :disabled="at === groups.length - 1"
              :aria-label="`${partName(group.id)} later`"
              @click="moveGroup(group.id, 1)"
            >
              later
            </button>
          </div>
        </div>
        <div v-if="view.movable" class="row small">
          <span>This section may change places with its neighbour.</span>
          <button type="button" class="chip" @click="moveSection(-1)">earlier</button>
          <button type="button" class="chip" @click="moveSection(1)">later</button>
        </div>
        <p v-if="view.clock" class="small soft">
          {{ timeOf(Math.round(view.clock.start)) }} to {{ timeOf(Math.round(view.clock.end))
          }}{{ view.clock.paper ? `, ${view.clock.paper}` : ''
          }}{{
            view.clock.gap
              ? `, then ${durationWords(view.clock.gap)} ${view.clock.gap >= 30 ? 'gap' : 'break'}`
              : ''
          }}. Extra time is set in Set-up, under How you work.
        </p>
      </form>
    </aside>
  </div>
</template>

<style scoped>
.budget {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 318px;
  gap: 30px;
}
.say {
  font-size: 16px;
}
.points {
  font-size: 14px;
}
table.points th,
table.points td {
  padding-top: 1px;
  padding-bottom: 1px;
}
table.points td:last-child,
table.points th:last-child {
  padding-right: 0;
}
.goals {
  list-style: none;
  margin: 0;
  padding: 0;
}
.goals li {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: baseline;
  justify-content: space-between;
  border-bottom: 1px solid var(--hair);
  padding: 2px 0;
}
.goals p {
  flex-basis: 100%;
}
.add {
  flex-wrap: nowrap;
}
.add input {
  flex: 1;
  min-width: 0;
}
.wishes {
  gap: 8px;
}
.order {
  gap: 2px;
}
.what {
  flex: 1;
}
@media (max-width: 900px) {
  .budget {
    grid-template-columns: 1fr;
    gap: 14px;
  }
}
</style>
