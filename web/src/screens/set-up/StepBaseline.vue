<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Counts } from '@climber/contract'
import { dateOf, dayNumber, weighed } from '@climber/core'
import DateField from '../../kit/DateField.vue'
import NumberField from '../../kit/NumberField.vue'
import ChoiceField from '../../kit/ChoiceField.vue'
import { percentWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import { within } from '../../kit/problems'
import CountsEntry from '../../widgets/CountsEntry.vue'
import KnownRange from '../../widgets/KnownRange.vue'
import type { Problem } from '../../stores/autosave'
import { countedTest } from './counted'
import RatingRow from './RatingRow.vue'
import { vCards } from '../../kit/cards'

const workspace = useWorkspace()
const baseline = computed(() => workspace.baseline!)
const exam = computed(() => workspace.exam!)
const lines = computed(() => new Map(workspace.overview?.topics.map((line) => [line.id, line])))
/** The earlier test that is being entered; the diagnostic where none is chosen. */
const chosen = ref<string>()
const save = computed(() => baseline.value.saves.get(chosen.value ?? '') ?? baseline.value.diagnostic())
const { entry, edit, counts, responses } = countedTest(
  () => save.value,
  () => workspace.today,
)
const isEarlier = computed(() => entry.value.kind === 'earlier')
const ratings = computed(() => workspace.saves!.ratings)
const problemOf = ({ state }: { state: { problems: Problem[] } }, path: string) =>
  state.problems.find(({ field }) => field === path || field.startsWith(`${path}.`))?.message
const problemAt = (path: string) => problemOf(save.value, path)
const form = computed(() => exam.value.forms.find(({ id }) => id === entry.value.form))
const topicCounts = (id: string) => entry.value.counts.topics[id]
/** What each test counts, by its place in the baseline. */
const weights = computed(() => {
  const all = [...baseline.value.saves.values()].map(({ state }) => state.document)
  return new Map(
    weighed(all, ratings.value.state.document.halfWeightDays).map((test) => [test.id, test.weight]),
  )
})

const isNothing = (counts: Counts) => counts.right + counts.wrong + counts.blank === 0
function putTopic(id: string, counts: Counts | undefined): void {
  edit(({ counts: { topics } }) => {
    if (counts) topics[id] = counts
    else delete topics[id]
  })
}
function setTopic(id: string, field: 'right' | 'wrong' | 'blank', items: number): void {
  const next: Counts = {
    ...(topicCounts(id) ?? { right: 0, wrong: 0, blank: 0, notReached: 0 }),
    [field]: items,
  }
  putTopic(id, isNothing(next) ? undefined : next)
}
const setDate = (date: string | undefined) =>
  save.value.edit((own) => {
    if (date) own.date = date
    else if (!isEarlier.value) delete own.date
  })
const setForm = (form: string) =>
  edit((own) => {
    if (form) own.form = form
    else delete own.form
  })
function addEarlier(): void {
  const earlier = baseline.value.earlier()
  const dates = [baseline.value.diagnostic().state.document, ...earlier].map(
    ({ date }) => date ?? workspace.today,
  )
  const [first = workspace.today] = dates.sort()
  chosen.value = baseline.value.addEarlier(
    dateOf(dayNumber(first) - 30),
    `Earlier test ${earlier.length + 1}`,
  )
}
const problem = ref('')
async function removeEarlier(): Promise<void> {
  const id = chosen.value
  if (!id) return
  problem.value = ''
  try {
    await baseline.value.remove(id)
    chosen.value = undefined
  } catch (error) {
    problem.value = (error as Error).message
  }
}
const setHalf = (days: number | undefined) =>
  ratings.value.edit((own) => (own.halfWeightDays = days ?? own.halfWeightDays))
</script>

<template>
  <div class="stack">
    <div class="row" role="group" aria-label="Tests">
      <button type="button" class="chip" :aria-pressed="!chosen" @click="chosen = undefined">
        Diagnostic
      </button>
      <button
        v-for="test in baseline.earlier()"
        :key="test.id"
        type="button"
        class="chip"
        :aria-pressed="chosen === test.id"
        @click="chosen = test.id"
      >
        {{ test.title || 'Earlier test' }}
        <span v-if="weights.get(test.id) !== undefined"
          >· counts {{ percentWords(weights.get(test.id)!) }}</span
        >
      </button>
      <v-btn size="small" @click="addEarlier">Add an earlier test</v-btn>
      <NumberField
        v-if="baseline.earlier().length"
        label="half the weight after"
        unit="days"
        :min="1"
        :model-value="ratings.state.document.halfWeightDays"
        :errors="problemOf(ratings, 'halfWeightDays')"
        @update:model-value="setHalf"
      />
    </div>
    <div class="row">
      <h2>{{ isEarlier ? entry.title || 'Earlier test' : 'A full test' }}</h2>
      <DateField
        label="sat on"
        :today="workspace.today"
        :max="workspace.today"
        :optional="!isEarlier"
        :model-value="entry.date"
        :errors="problemAt('date')"
        @update:model-value="setDate"
      />
      <ChoiceField
        v-if="exam.forms.length"
        label="form"
        :model-value="entry.form ?? ''"
        :options="[
          { value: '', title: 'not one of the list' },
          ...exam.forms.map(({ id, title }) => ({ value: id, title })),
        ]"
        @update:model-value="setForm"
      />
      <v-btn v-if="isEarlier" size="small" variant="text" @click="removeEarlier">Remove this test</v-btn>
      <span v-if="problem" class="bad small" role="alert">{{ problem }}</span>
    </div>
    <p v-if="!isEarlier" class="small soft">
      No test yet? Leave this open: the plan then begins with one, and your own rating below does until then.
    </p>
    <CountsEntry
      :key="chosen ?? 'diagnostic'"
      v-model:counts="counts"
      v-model:responses="responses"
      :exam="exam"
      :form="form"
      :problems="within(save.state.problems, 'counts').filter(({ field }) => !field.startsWith('topics'))"
    />
    <h2 class="mt-3">Topic by topic</h2>
    <p class="small soft">
      How sure are you of each? If you counted them, add right, wrong and blank. The bar is what is known,
      with the range it lies in 8 times in 10.
    </p>
    <div class="scroll">
      <table v-cards class="lines as-cards topics">
        <thead>
          <tr>
            <th>Topic</th>
            <th class="n">Share</th>
            <th>Your rating</th>
            <th class="n">Right</th>
            <th class="n">Wrong</th>
            <th class="n">Blank</th>
            <th>Known</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="topic in exam.topics" :key="topic.id">
            <th scope="row">{{ topic.title }}</th>
            <td class="n small soft">
              {{ lines.get(topic.id) ? percentWords(lines.get(topic.id)!.examShare) : '' }}
            </td>
            <td>
              <RatingRow :topic="topic.id" :title="topic.title" />
            </td>
            <td v-for="field in ['right', 'wrong', 'blank'] as const" :key="field" class="n count">
              <NumberField
                :label="`${topic.title}: ${field}`"
                quiet
                whole
                :min="0"
                optional
                :model-value="topicCounts(topic.id)?.[field]"
                @update:model-value="setTopic(topic.id, field, $event ?? 0)"
              />
            </td>
            <td>
              <KnownRange
                v-if="lines.get(topic.id)"
                :mean="lines.get(topic.id)!.known"
                :low="lines.get(topic.id)!.low"
                :high="lines.get(topic.id)!.high"
                :width="80"
                role="img"
                :aria-label="`known ${percentWords(lines.get(topic.id)!.known)}`"
              />
              <span v-if="problemAt(`counts.topics.${topic.id}`)" class="bad small">{{
                problemAt(`counts.topics.${topic.id}`)
              }}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>

<style scoped>
th[scope='row'] {
  color: var(--ink);
  font-size: 15px;
}
.topics .count {
  width: 48px;
}
.topics .count > .v-input {
  min-width: 44px;
}
@media (min-width: 701px) {
  .topics :deep(.rating) {
    flex-wrap: nowrap;
    white-space: nowrap;
  }
}
</style>
