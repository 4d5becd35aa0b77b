<script setup lang="ts">
import { computed } from 'vue'
import type { ExamFormat, MovingCut } from '@climber/contract'
import { compositeRange, compositeWeights, movingCutOf, sectionRange } from '@climber/core'
import LinesField from '../../kit/LinesField.vue'
import ChoiceField from '../../kit/ChoiceField.vue'
import NumberField from '../../kit/NumberField.vue'
import TextField from '../../kit/TextField.vue'
import ConversionEditor from './ConversionEditor.vue'
import { setOptional, useDraft } from './draft'

/** How sections make one score, what is a pass, and what a score is called. */
const draft = useDraft()
const format = computed(() => draft.state.format)
const composite = computed(() => format.value.composite)
const range = computed(() => compositeRange(draft.parsed.value))
const kinds: [ExamFormat['composite']['kind'], string][] = [
  ['sum', 'the sum of the sections'],
  ['mean', 'the mean of the sections'],
  ['weighted', 'a weighted sum'],
  ['table', 'a table on the (weighted) sum'],
]
const movings = [
  { value: 'none', title: 'none' },
  { value: 'cohort', title: 'from the cohort’s scores' },
  { value: 'past', title: 'from past years’ cuts' },
]
function setKind(kind: ExamFormat['composite']['kind']): void {
  const { value } = composite
  value.kind = kind
  if (kind === 'weighted')
    value.weights ??= Object.fromEntries(format.value.sections.map(({ id }) => [id, 1]))
  if (kind === 'sum' || kind === 'mean') delete value.weights
  if (kind === 'table') {
    const ends = draft.parsed.value.sections.map(sectionRange)
    const sum = (pick: 'low' | 'high') => ends.reduce((total, one) => total + one[pick], 0)
    value.table ??= {
      points: [
        [sum('low'), sum('low')],
        [sum('high'), sum('high')],
      ],
      step: 1,
    }
  } else delete value.table
}
const sums = computed(() => {
  const weights = compositeWeights(draft.parsed.value)
  const ends = draft.parsed.value.sections.map(sectionRange)
  return {
    low: ends.reduce((sum, { low }, at) => sum + low * weights[at]!, 0),
    high: ends.reduce((sum, { high }, at) => sum + high * weights[at]!, 0),
  }
})
function setWeight(id: string, weight: number | undefined): void {
  composite.value.weights = { ...composite.value.weights, [id]: weight as number }
}
const moving: Record<MovingCut['kind'], () => MovingCut> = {
  cohort: () => ({
    kind: 'cohort',
    mean: (range.value.low + range.value.high) / 2,
    sd: (range.value.high - range.value.low) / 8,
    admitted: 0.3,
  }),
  past: () => ({
    kind: 'past',
    cuts: [2028, 2029].map((year) => ({ year, cut: (range.value.low + range.value.high) / 2 })),
  }),
}
function setMoving(kind: string): void {
  if (kind === 'cohort' || kind === 'past') format.value.movingCut = moving[kind]()
  else delete format.value.movingCut
}
const cut = computed(() => movingCutOf(draft.parsed.value))
const pastText = computed(() =>
  format.value.movingCut?.kind === 'past'
    ? format.value.movingCut.cuts.map(({ year, cut: own }) => `${year} ${own}`).join('\n')
    : '',
)
/** Lines of two numbers each. */
const pairs = (text: string): [number, number][] =>
  text
    .split(/\n/)
    .filter((row) => row.trim())
    .map((row) => {
      const [a, b] = row
        .trim()
        .split(/[\s,;]+/)
        .map(Number)
      return [a ?? NaN, b ?? NaN]
    })
function setPast(text: string): void {
  const cuts = pairs(text).map(([year, own]) => ({ year, cut: own }))
  format.value.movingCut = { kind: 'past', cuts }
}
const percentileText = computed(() =>
  (format.value.percentiles ?? []).map(([scaled, below]) => `${scaled} ${below}`).join('\n'),
)
function setPercentiles(text: string): void {
  const rows = pairs(text)
  setOptional(format.value, 'percentiles', rows.length ? rows : undefined)
}
function addBand(): void {
  const bands = (format.value.bands ??= [])
  const last = bands[bands.length - 1]
  bands.push({
    title: last ? 'Next band' : 'Pass',
    from: last ? last.from + composite.value.step : (composite.value.cut ?? range.value.low),
  })
}
function removeBand(at: number): void {
  format.value.bands!.splice(at, 1)
  if (!format.value.bands!.length) delete format.value.bands
}
</script>

<template>
  <section class="stack" aria-label="The score">
    <h2>The score</h2>
    <div class="fields">
      <ChoiceField
        label="The composite is"
        :model-value="composite.kind"
        :options="kinds.map(([value, title]) => ({ value, title }))"
        @update:model-value="setKind"
      />
      <NumberField v-model="composite.step" label="Rounded to" :errors="draft.problemAt('composite.step')" />
      <NumberField
        :model-value="composite.cut"
        label="Pass mark, if there is one"
        :errors="draft.problemAt('composite.cut')"
        @update:model-value="setOptional(composite, 'cut', $event)"
      />
      <span class="small soft">from {{ range.low }} to {{ range.high }}</span>
    </div>
    <div v-if="composite.kind === 'weighted' || composite.kind === 'table'" class="fields">
      <NumberField
        v-for="section in format.sections"
        :key="section.id"
        :label="`Weight of ${section.title}`"
        :model-value="composite.weights?.[section.id] ?? (composite.kind === 'table' ? 1 : undefined)"
        :errors="draft.problemAt(`composite.weights.${section.id}`)"
        @update:model-value="setWeight(section.id, $event)"
      />
    </div>
    <ConversionEditor
      v-if="composite.kind === 'table' && composite.table"
      v-model="composite.table"
      title="From the sum to the composite"
      :lowest="sums.low"
      :highest="sums.high"
      :problems="draft.within('composite.table')"
    />
    <div class="fields">
      <ChoiceField
        label="A cut that moves with the cohort"
        :model-value="format.movingCut?.kind ?? 'none'"
        :options="movings"
        @update:model-value="setMoving"
      />
      <template v-if="format.movingCut?.kind === 'cohort'">
        <NumberField
          v-model="format.movingCut.mean"
          label="Cohort's mean"
          :errors="draft.problemAt('movingCut.mean')"
        />
        <NumberField
          v-model="format.movingCut.sd"
          label="Standard deviation"
          :errors="draft.problemAt('movingCut.sd')"
        />
        <NumberField
          :model-value="Math.round(format.movingCut.admitted * 1000) / 10"
          label="Admitted"
          unit="%"
          :errors="draft.problemAt('movingCut.admitted')"
          @update:model-value="format.movingCut.admitted = ($event ?? NaN) / 100"
        />
        <NumberField
          :model-value="format.movingCut.yearly"
          label="Mean moves by, a year"
          :errors="draft.problemAt('movingCut.yearly')"
          @update:model-value="setOptional(format.movingCut, 'yearly', $event)"
        />
      </template>
      <LinesField
        v-if="format.movingCut?.kind === 'past'"
        label="Past cuts"
        hint="year and cut, a line each"
        :model-value="pastText"
        @update:model-value="setPast"
      />
      <span v-if="cut" class="small">Expected {{ cut.mean.toFixed(1) }} ± {{ cut.sd.toFixed(1) }}</span>
      <span v-for="one in draft.within('movingCut')" :key="one.field" class="bad small">{{
        one.message
      }}</span>
    </div>
    <div class="fields">
      <div class="stack">
        <span class="small soft">Bands, from the lowest</span>
        <div v-for="(band, at) in format.bands ?? []" :key="at" class="row">
          <TextField
            v-model="band.title"
            :label="`Band ${at + 1}`"
            quiet
            :errors="draft.problemAt(`bands.${at}.title`)"
          />
          <NumberField
            v-model="band.from"
            :label="`Band ${at + 1} from`"
            quiet
            unit="and up"
            :errors="draft.problemAt(`bands.${at}.from`)"
          />
          <v-btn size="small" variant="text" :aria-label="`Remove band ${at + 1}`" @click="removeBand(at)"
            >Remove</v-btn
          >
        </div>
        <v-btn size="small" variant="text" class="justify-start" @click="addBand">Add a band</v-btn>
      </div>
      <LinesField
        label="Percentiles"
        hint="score and per cent below it, a line each"
        :model-value="percentileText"
        :errors="draft.within('percentiles').map(({ message }) => message)"
        @update:model-value="setPercentiles"
      />
    </div>
  </section>
</template>

<style scoped>
.rows {
  width: 190px;
}
</style>
