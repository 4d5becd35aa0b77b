<script setup lang="ts">
import { computed } from 'vue'
import { lossBudget, rawNeeded, slugOf, tablesOf } from '@climber/core'
import type { Place, Target } from '@climber/contract'
import TickField from '../../kit/TickField.vue'
import TextField from '../../kit/TextField.vue'
import NumberField from '../../kit/NumberField.vue'
import ChoiceRow from '../../kit/ChoiceRow.vue'
import { percentWords, rawWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import SittingChoice from './SittingChoice.vue'
import TargetScore from './TargetScore.vue'
import { vCards } from '../../kit/cards'

const workspace = useWorkspace()
const save = computed(() => workspace.saves!.target)
const document = computed(() => save.value.state.document)
const exam = computed(() => workspace.exam!)
const problemAt = (field: string) => save.value.state.problems.find((one) => one.field === field)?.message
/** By the strictest of the tables known; an adaptive section's are on Gap. */
const losses = computed(() =>
  exam.value.sections.flatMap((section) => {
    const { cut } = section
    if (cut === undefined || section.stages) return []
    const needs = tablesOf(exam.value, section).map((table) => ({
      table,
      raw: rawNeeded(section, table, cut),
    }))
    const strictest = needs.reduce((a, b) => ((b.raw ?? Infinity) > (a.raw ?? Infinity) ? b : a))
    const budget = lossBudget(section, strictest.table, cut)
    const middle = budget?.[Math.floor(budget.length / 2)]
    return {
      section,
      raw: strictest.raw,
      none: budget?.[0]?.blank,
      most: budget?.[budget.length - 1]?.wrong,
      middle,
    }
  }),
)

const kinds: { value: NonNullable<Target['kind']>; title: string }[] = [
  { value: 'number', title: 'a score' },
  { value: 'cut', title: 'the pass mark' },
  { value: 'places', title: 'places' },
  { value: 'percentile', title: 'a percentile' },
  { value: 'moving', title: 'a cut that moves' },
]
const kind = computed(() => document.value.kind ?? 'number')
const goal = computed(() => workspace.overview?.goal)
const setKind = (chosen: NonNullable<Target['kind']>) =>
  save.value.edit((target) => {
    target.kind = chosen
    if (chosen === 'places') target.places ??= [{ id: 'place-1', title: '', asks: NaN }]
  })
const setPercentile = (percentile: number | undefined) =>
  save.value.edit((target) => {
    if (percentile === undefined) delete target.percentile
    else target.percentile = percentile
  })
const setOpen = (open: number | undefined) => save.value.edit((target) => (target.open = open ?? 1))
function editPlace(at: number, change: (place: Place) => void): void {
  save.value.edit((target) => change(target.places![at]!))
}
function addPlace(): void {
  save.value.edit((target) => {
    const places = (target.places ??= [])
    places.push({
      id: slugOf(
        `place-${places.length + 1}`,
        places.map(({ id }) => id),
      ),
      title: '',
      asks: NaN,
    })
  })
}
const removePlace = (at: number) => save.value.edit((target) => target.places!.splice(at, 1))
function weigh(at: number, own: boolean): void {
  editPlace(at, (place) => {
    if (own) place.weights = Object.fromEntries(exam.value.sections.map(({ id }) => [id, 1]))
    else delete place.weights
  })
}
const opens = (id: string) => workspace.overview?.verdict?.places.find((one) => one.id === id)
</script>

<template>
  <div class="stack">
    <div class="row">
      <h2>What you need is</h2>
      <ChoiceRow
        :model-value="kind"
        label="What you need is"
        :options="kinds"
        @update:model-value="setKind"
      />
    </div>
    <TargetScore v-if="kind === 'number'" />
    <div v-else-if="kind === 'percentile'" class="row">
      <NumberField
        label="Better than"
        unit="% of candidates"
        :min="1"
        :max="99"
        optional
        :model-value="document.percentile"
        :errors="problemAt('percentile')"
        @update:model-value="setPercentile"
      />
    </div>
    <div v-else-if="kind === 'places'" class="stack">
      <NumberField
        label="At least so many should open"
        :unit="`of ${document.places?.length ?? 0}`"
        whole
        :min="1"
        :max="document.places?.length"
        :model-value="document.open ?? 1"
        :errors="problemAt('open')"
        @update:model-value="setOpen"
      />
      <div class="scroll">
        <table v-cards class="lines as-cards" data-testid="places">
          <thead>
            <tr>
              <th>Place</th>
              <th class="n">Asks</th>
              <th>Counted</th>
              <th class="n">Opens at</th>
              <th class="n">Odds</th>
              <td></td>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(place, at) in document.places ?? []" :key="place.id">
              <td>
                <TextField
                  :label="`Place ${at + 1}`"
                  quiet
                  :model-value="place.title"
                  @update:model-value="editPlace(at, (one) => (one.title = $event))"
                />
              </td>
              <td class="n">
                <NumberField
                  :label="`Place ${at + 1}: asks`"
                  quiet
                  :model-value="Number.isFinite(place.asks) ? place.asks : undefined"
                  :errors="problemAt(`places.${at}.asks`)"
                  @update:model-value="editPlace(at, (one) => (one.asks = $event ?? NaN))"
                />
              </td>
              <td class="small">
                <TickField
                  label="weighs sections its own way"
                  :model-value="Boolean(place.weights)"
                  @update:model-value="weigh(at, $event)"
                />
                <span v-if="place.weights" class="fields">
                  <NumberField
                    v-for="section in exam.sections"
                    :key="section.id"
                    :label="`${section.title} ×`"
                    :min="0"
                    :model-value="place.weights[section.id] ?? 0"
                    @update:model-value="editPlace(at, (one) => (one.weights![section.id] = $event ?? 0))"
                  />
                </span>
              </td>
              <td class="n">{{ opens(place.id)?.needs ?? '–' }}</td>
              <td class="n">
                <strong>{{ opens(place.id) ? percentWords(opens(place.id)!.odds) : '–' }}</strong>
              </td>
              <td>
                <v-btn
                  size="small"
                  variant="text"
                  :aria-label="`Remove place ${at + 1}`"
                  @click="removePlace(at)"
                  >Remove</v-btn
                >
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <v-btn size="small" class="justify-start" variant="text" @click="addPlace">Another place</v-btn>
    </div>
    <p v-if="goal?.problem" class="mark" role="alert">{{ goal.problem }}</p>
    <p v-else-if="goal?.mean !== undefined && kind !== 'number'" data-testid="goal">
      That is <strong class="large goal">{{ Number(goal.mean.toFixed(1)) }}</strong><template v-if="goal.sd">
        ± {{ goal.sd.toFixed(1) }}</template
      >
      points in all.
      <span class="soft small"
        ><template v-if="kind === 'moving'"
          >The cut is known only afterwards; the odds count every place where it may lie.</template
        ><template v-else-if="kind === 'places'"
          >A place with its own weights opens where your best path, hour by hour, reaches what it
          asks.</template
        ></span
      >
    </p>
    <h2 class="mt-3">Which sitting</h2>
    <SittingChoice />
    <template v-if="losses.length">
      <h2 class="mt-3">What may be lost and still make each section's cut</h2>
      <table class="lines small">
        <tbody>
          <tr v-for="loss in losses" :key="loss.section.id">
            <th scope="row">{{ loss.section.title }}</th>
            <td class="n">cut {{ loss.section.cut }}</td>
            <td v-if="loss.raw === undefined" class="bad">out of reach on this table</td>
            <template v-else>
              <td class="n">raw {{ rawWords(loss.raw) }} needed</td>
              <td v-if="loss.none !== undefined && loss.middle">
                up to {{ loss.none }} blank, or {{ loss.most }} wrong, or {{ loss.middle.wrong }} wrong and
                {{ loss.middle.blank }} blank
              </td>
            </template>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped>
.goal {
  font-size: 28px;
}
</style>
