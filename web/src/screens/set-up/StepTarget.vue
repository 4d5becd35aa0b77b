<script setup lang="ts">
import { computed } from 'vue'
import { lossBudget, rawNeeded } from '@climber/core'
import { dateWords, distanceWords, percentWords, rawWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'

const workspace = useWorkspace()
const save = computed(() => workspace.saves!.target)
const document = computed(() => save.value.state.document)
const exam = computed(() => workspace.exam!)
const problemAt = (field: string) => save.value.state.problems.find((one) => one.field === field)?.message
const range = computed(() => workspace.analysis?.range)
const chosen = computed(() => document.value.sitting ?? workspace.sitting?.id)
const oddsAt = (id: string) => {
  const verdict = workspace.analysis?.verdict
  if (id === workspace.sitting?.id)
    return verdict && verdict.odds !== undefined ? { odds: verdict.odds, hours: verdict.hours } : undefined
  const lever = verdict?.levers.find((one) => one.kind === 'sitting' && one.sitting === id)
  return lever?.kind === 'sitting' ? lever : undefined
}
const outside = computed(() => {
  const { scaled } = document.value
  return scaled !== undefined && range.value && (scaled < range.value.low || scaled > range.value.high)
    ? `this exam's scores run from ${range.value.low} to ${range.value.high}`
    : undefined
})
const losses = computed(() =>
  exam.value.sections.flatMap((section) => {
    if (section.cut === undefined) return []
    const raw = rawNeeded(section, section.conversion, section.cut)
    const budget = lossBudget(section, section.conversion, section.cut)
    const middle = budget?.[Math.floor(budget.length / 2)]
    return { section, raw, none: budget?.[0]?.blank, most: budget?.[budget.length - 1]?.wrong, middle }
  }),
)

function setTarget(event: Event): void {
  const text = (event.target as HTMLInputElement).value
  save.value.edit((target) => {
    if (text === '') delete target.scaled
    else target.scaled = Number(text)
  })
}
const setSitting = (id: string) => save.value.edit((target) => (target.sitting = id))
</script>

<template>
  <div class="stack">
    <h2><label for="target">The score you need</label></h2>
    <div class="row">
      <input
        id="target"
        class="figure target"
        type="number"
        :min="range?.low"
        :max="range?.high"
        :step="exam.composite.step"
        :value="document.scaled ?? ''"
        :aria-invalid="Boolean(outside) || undefined"
        @input="setTarget"
      />
      <span class="soft"
        >scaled points in all{{ range ? `, from ${range.low} to ${range.high}` : ''
        }}{{ exam.composite.cut === undefined ? '' : `; the pass mark is ${exam.composite.cut}` }}</span
      >
    </div>
    <p v-if="outside" class="bad">{{ outside }}</p>
    <h2 class="mt-3">Which sitting</h2>
    <p v-if="!exam.sittings.length" class="bad">The exam format names no sitting; add one to it.</p>
    <p v-if="problemAt('sitting')" class="bad" role="alert">{{ problemAt('sitting') }}</p>
    <div class="scroll">
      <table class="lines">
        <thead>
          <tr>
            <td></td>
            <th>Date</th>
            <th>Start, place</th>
            <th>Register by</th>
            <th class="n">Fee</th>
            <th class="n">Study</th>
            <th class="n">Odds</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="sitting in exam.sittings"
            :key="sitting.id"
            :class="{ soft: sitting.date <= workspace.today }"
          >
            <td>
              <input
                :id="`sitting-${sitting.id}`"
                type="radio"
                name="sitting"
                :checked="chosen === sitting.id"
                :disabled="sitting.date <= workspace.today"
                @change="setSitting(sitting.id)"
              />
            </td>
            <td>
              <label :for="`sitting-${sitting.id}`">{{ dateWords(sitting.date, workspace.today) }}</label>
              <div class="small soft">
                {{ sitting.date <= workspace.today ? 'over' : distanceWords(sitting.date, workspace.today) }}
              </div>
            </td>
            <td>
              {{ sitting.start }}
              <div class="small soft">{{ sitting.place }}</div>
            </td>
            <td :class="sitting.registerBy && sitting.registerBy < workspace.today ? 'mark' : ''">
              {{ sitting.registerBy ? dateWords(sitting.registerBy, workspace.today) : '–' }}
              <div v-if="sitting.registerBy && sitting.registerBy < workspace.today" class="small">
                closed
              </div>
            </td>
            <td class="n">{{ sitting.fee ? `${sitting.fee.amount} ${sitting.fee.currency}` : '–' }}</td>
            <td class="n">{{ oddsAt(sitting.id) ? `${oddsAt(sitting.id)!.hours.toFixed(0)} h` : '' }}</td>
            <td class="n">
              <strong>{{ oddsAt(sitting.id) ? percentWords(oddsAt(sitting.id)!.odds) : '' }}</strong>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
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
.target {
  width: 110px !important;
  font-family: var(--large);
  font-size: 32px;
}
</style>
