<script setup lang="ts">
import { line, scaleLinear } from 'd3'
import { computed, ref } from 'vue'
import { parts, type SectionPacing } from '@climber/contract'
import { asSat, itemsOf, PacingProblem, paceSection, type SectionPace } from '@climber/core'
import { useWidth } from '../../manners/size'
import { clockWords, durationWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'

const workspace = useWorkspace()
const fallback = parts.pacing.parse({ sections: { any: {} } }).sections['any']!
const save = computed(() => workspace.saves!.pacing)
const document = computed(() => save.value.state.document)
const sat = computed(() => asSat(workspace.exam!, workspace.record?.settings ?? { timeFactor: 1 }))
const factor = computed(() => sat.value.timeFactor)
const at = ref(0)
const section = computed(() => sat.value.exam.sections[at.value]!)
const wish = computed<SectionPacing>(() => document.value.sections[section.value.id] ?? fallback)
const items = computed(() => itemsOf(section.value))
const result = computed<{ pace?: SectionPace; problem?: PacingProblem }>(() => {
  try {
    return { pace: paceSection(section.value, wish.value, factor.value) }
  } catch (problem) {
    if (problem instanceof PacingProblem) return { problem }
    throw problem
  }
})
const pace = computed(() => result.value.pace)
const problemAt = (field: string) =>
  result.value.problem?.field === field ? [result.value.problem.message] : []

function change(edit: (wish: SectionPacing) => void): void {
  const { id } = section.value
  save.value.edit((pacing) => {
    const next: SectionPacing = JSON.parse(JSON.stringify(pacing.sections[id] ?? fallback))
    edit(next)
    pacing.sections[id] = next
  })
}
const number = (text: string) => (text === '' ? 0 : Number(text))
function setGoal(field: 'items' | 'byMinutes', text: string): void {
  change((next) => {
    if (text === '') next.goal = null
    else {
      const each = pace.value?.secondsEach ?? 60
      const before = next.goal ?? {
        items: Math.floor(items.value / 2),
        byMinutes: Math.round((Math.floor(items.value / 2) * each) / 60),
      }
      next.goal = { ...before, [field]: Number(text) }
    }
  })
}

const box = ref<HTMLElement | null>(null)
const width = useWidth(box, 640)
const height = 320
const margin = { left: 44, right: 14, top: 12, bottom: 34 }
const minutes = computed(() => (pace.value ? pace.value.sectionSeconds / 60 : section.value.minutes))
const x = computed(() => scaleLinear([0, items.value], [margin.left, width.value - margin.right]))
const y = computed(() => scaleLinear([0, minutes.value], [height - margin.bottom, margin.top]))
const budget = computed(() => {
  if (!pace.value) return ''
  const points: [number, number][] = [
    [0, 0],
    ...pace.value.finishBy.map((seconds, item) => [item + 1, seconds / 60] as [number, number]),
  ]
  return (
    line<[number, number]>(
      ([item]) => x.value(item),
      ([, minute]) => y.value(minute),
    )(points) ?? ''
  )
})
</script>

<template>
  <div class="sheet stack">
    <h1 class="only-reader">Pacing</h1>
    <div class="steps" role="tablist" aria-label="Sections">
      <button
        v-for="(one, place) in workspace.exam!.sections"
        :id="`pace-${one.id}`"
        :key="one.id"
        type="button"
        role="tab"
        aria-controls="pace"
        :aria-selected="at === place"
        :class="{ here: at === place }"
        @click="at = place"
      >
        {{ one.title }}
      </button>
    </div>
    <div id="pace" role="tabpanel" :aria-labelledby="`pace-${section.id}`" class="pace">
      <div class="stack">
        <p v-if="pace" class="say">
          <strong>{{ items }} items in {{ durationWords(pace.sectionSeconds / 60) }}</strong
          ><template v-if="factor > 1"> (with your extra time)</template
          ><template v-if="pace.reserveSeconds">, {{ pace.reserveSeconds / 60 }} min kept back</template>:
          exactly <strong>{{ pace.secondsEach.toFixed(1) }} seconds</strong> each<template v-if="wish.goal">
            on average</template
          >.
          <template v-if="pace.thumb">
            Rounded up to {{ pace.thumb.secondsEach }} seconds each, time ends at item
            {{ pace.thumb.lastItem }} of {{ items }}.</template
          >
        </p>
        <p v-else class="bad" role="alert">{{ result.problem?.message }}</p>
        <div ref="box">
          <svg
            v-if="pace"
            :width="width"
            :height="height"
            role="img"
            aria-label="Question number against the clock; the checkpoints are in the table"
          >
            <g v-for="tick in y.ticks(6)" :key="tick">
              <line :x1="margin.left" :x2="width - margin.right" :y1="y(tick)" :y2="y(tick)" class="hair" />
              <text :x="margin.left - 6" :y="y(tick) + 4" text-anchor="end" class="tick">{{ tick }} min</text>
            </g>
            <text
              v-for="tick in x.ticks(8)"
              :key="tick"
              :x="x(tick)"
              :y="height - 14"
              text-anchor="middle"
              class="tick"
            >
              {{ tick }}
            </text>
            <text :x="width - margin.right" :y="height - 1" text-anchor="end" class="tick">item</text>
            <rect
              v-if="pace.reserveSeconds"
              :x="margin.left"
              :y="y(minutes)"
              :width="width - margin.left - margin.right"
              :height="y(minutes - pace.reserveSeconds / 60) - y(minutes)"
              class="reserve"
            />
            <text v-if="pace.reserveSeconds" :x="margin.left + 6" :y="y(minutes) + 14" class="tick">
              kept back
            </text>
            <path :d="budget" class="budget" />
            <g v-for="point in pace.checkpoints" :key="point.item">
              <line :x1="x(point.item)" :x2="x(point.item)" :y1="y(0)" :y2="y(point.at / 60)" class="post" />
              <circle :cx="x(point.item)" :cy="y(point.at / 60)" r="4" class="point" />
            </g>
          </svg>
        </div>
      </div>
      <aside class="stack">
        <h2>Checkpoints</h2>
        <table v-if="pace" class="lines" data-testid="checkpoints">
          <thead>
            <tr>
              <th>After item</th>
              <th class="n">Clock</th>
              <th class="n">Left</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="point in pace.checkpoints" :key="point.item">
              <td>{{ point.item }}</td>
              <td class="n">{{ clockWords(point.at) }}</td>
              <td class="n">{{ clockWords(point.left) }}</td>
            </tr>
          </tbody>
        </table>
        <h2 class="mt-3">Your wishes</h2>
        <v-text-field
          type="number"
          label="Kept back for transfer and checking, minutes"
          :model-value="wish.reserveMinutes"
          :error-messages="problemAt('reserveMinutes')"
          @update:model-value="(text: string) => change((next) => (next.reserveMinutes = number(text)))"
        />
        <div class="goal">
          <v-text-field
            type="number"
            label="The first … items"
            :model-value="wish.goal?.items ?? ''"
            :error-messages="problemAt('goal.items')"
            @update:model-value="setGoal('items', $event)"
          />
          <v-text-field
            type="number"
            label="by minute"
            :model-value="wish.goal?.byMinutes ?? ''"
            :error-messages="problemAt('goal.byMinutes')"
            @update:model-value="setGoal('byMinutes', $event)"
          />
        </div>
        <v-text-field
          type="number"
          label="A checkpoint every … items"
          placeholder="as fits"
          persistent-placeholder
          :model-value="wish.every ?? ''"
          @update:model-value="
            (text: string) =>
              change((next) => (next.every = text === '' ? null : Math.max(1, Math.round(Number(text)))))
          "
        />
        <p class="small soft">Extra time is set once for all sections, in Set-up under How you work.</p>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.pace {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  gap: 34px;
}
.say {
  font-size: 17px;
}
.goal {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.hair {
  stroke: var(--hair);
}
.tick {
  font-size: 12px;
  fill: var(--soft);
}
.budget {
  fill: none;
  stroke: var(--water);
  stroke-width: 2;
}
.post {
  stroke: var(--ink);
  stroke-width: 0.7;
}
.point {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 1.4;
}
.reserve {
  fill: var(--faint);
}
@media (max-width: 900px) {
  .pace {
    grid-template-columns: 1fr;
  }
}
</style>
