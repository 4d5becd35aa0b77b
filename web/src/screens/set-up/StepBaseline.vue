<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Counts, ItemResponse, SelfRating } from '@climber/contract'
import {
  type CountedResponses,
  countResponses,
  dateOf,
  dayNumber,
  groupsOf,
  testsOf,
  writeResponses,
} from '@climber/core'
import { chosenFile, download } from '../../manners/download'
import { readResponseFile } from '../../manners/responseFile'
import { itemRows } from '../../manners/itemRows'
import { percentWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import CountsRow from '../../widgets/CountsRow.vue'
import KnownRange from '../../widgets/KnownRange.vue'
import FileProblems from '../../widgets/FileProblems.vue'
import type { Problem } from '../../stores/autosave'
import { plain } from '../../workers/core'
import ItemGrid from './ItemGrid.vue'

const workspace = useWorkspace()
const save = computed(() => workspace.saves!.diagnosis)
const document = computed(() => save.value.state.document)
const exam = computed(() => workspace.exam!)
const problemAt = (path: string) =>
  save.value.state.problems.find(({ field }) => field === path || field.startsWith(`${path}.`))?.message
const lines = computed(() => new Map(workspace.analysis?.topics.map((line) => [line.id, line])))
const ratings: [SelfRating, string][] = [
  ['not-covered', 'not covered'],
  ['covered', 'in a course'],
  ['weak', 'weak'],
  ['fair', 'fair'],
  ['strong', 'strong'],
]
const ways = [
  ['sections', 'Section totals'],
  ['items', 'Item by item'],
  ['file', 'From a CSV'],
] as const
const way = ref<(typeof ways)[number][0]>('sections')

/** The test that is being entered: the diagnostic, or one of the earlier ones. */
const chosen = ref<string>()
const earlier = computed(() => document.value.earlier.find(({ id }) => id === chosen.value))
const path = computed(() =>
  earlier.value ? `earlier.${document.value.earlier.indexOf(earlier.value)}.` : '',
)
interface Entry {
  date?: string
  form?: string
  sections: Record<string, Counts>
  responses?: ItemResponse[]
}
const entry = computed<Entry>(() => earlier.value ?? document.value)
const form = computed(() => exam.value.forms.find(({ id }) => id === entry.value.form))
const groups = computed(() => itemRows(exam.value, entry.value.sections))
const topicCounts = (id: string) =>
  earlier.value ? earlier.value.topics[id] : document.value.topics[id]?.counts
const weights = computed(
  () => new Map(testsOf(document.value).map((test) => [`${test.title}${test.date}`, test.weight])),
)
const weightOf = (test: { title: string; date?: string }) => weights.value.get(`${test.title}${test.date}`)

function edit(change: (entry: Entry) => void): void {
  const id = chosen.value
  save.value.edit((diagnosis) => {
    const own = id ? diagnosis.earlier.find((test) => test.id === id) : diagnosis
    if (own) change(own)
    if (!diagnosis.date && !id) diagnosis.date = workspace.today
  })
}
const isNothing = (counts: Counts) =>
  counts.right + counts.wrong + counts.blank + counts.notReached + (counts.marks ?? 0) === 0
function setGroup(id: string, counts: Counts | undefined): void {
  edit((own) => {
    if (!counts || isNothing(counts)) delete own.sections[id]
    else own.sections[id] = counts
  })
}
function setRating(id: string, rating: SelfRating): void {
  save.value.edit((diagnosis) => {
    const { rating: before, ...rest } = diagnosis.topics[id] ?? {}
    const next = before === rating ? rest : { ...rest, rating }
    if (Object.keys(next).length) diagnosis.topics[id] = next
    else delete diagnosis.topics[id]
  })
}
function putTopic(id: string, counts: Counts | undefined): void {
  const of = chosen.value
  save.value.edit((diagnosis) => {
    const test = of && diagnosis.earlier.find((one) => one.id === of)
    if (test) {
      if (counts) test.topics[id] = counts
      else delete test.topics[id]
      return
    }
    const { counts: _before, ...rest } = diagnosis.topics[id] ?? {}
    if (counts || Object.keys(rest).length) diagnosis.topics[id] = counts ? { ...rest, counts } : rest
    else delete diagnosis.topics[id]
    if (counts && !diagnosis.date) diagnosis.date = workspace.today
  })
}
function setTopic(id: string, field: 'right' | 'wrong' | 'blank', event: Event): void {
  const text = (event.target as HTMLInputElement).value
  const next: Counts = {
    ...(topicCounts(id) ?? { right: 0, wrong: 0, blank: 0, notReached: 0 }),
    [field]: text === '' ? 0 : Number(text),
  }
  putTopic(id, isNothing(next) ? undefined : next)
}
/** Item responses and the counts that follow from them; sections without an answer keep what was typed. */
const takeResponses = (responses: ItemResponse[]) =>
  takeCounted(responses, countResponses(exam.value, plain(responses), form.value))
function takeCounted(responses: ItemResponse[], found: CountedResponses): void {
  edit((own) => {
    own.responses = responses.filter(({ answer, key, topic }) => answer || key || topic)
    if (!own.responses.length) delete own.responses
    for (const section of exam.value.sections) {
      const ids = groupsOf(section).map(({ id }) => id)
      if (ids.some((id) => found.sections[id])) for (const id of ids) delete own.sections[id]
    }
    Object.assign(own.sections, found.sections)
  })
  for (const [id, counts] of Object.entries(found.topics)) if (!isNothing(counts)) putTopic(id, counts)
}
const setDate = (event: Event) => {
  const { value } = event.target as HTMLInputElement
  edit((own) => {
    if (value) own.date = value
    else if (!chosen.value) delete own.date
  })
}
const setForm = (event: Event) => {
  const { value } = event.target as HTMLSelectElement
  edit((own) => {
    if (value) own.form = value
    else delete own.form
  })
}
function addEarlier(): void {
  const id = crypto.randomUUID()
  const dates = [
    document.value.date ?? workspace.today,
    ...document.value.earlier.map(({ date }) => date),
  ].sort()
  const date = dateOf(dayNumber(dates[0]!) - 30)
  save.value.edit((diagnosis) => {
    diagnosis.earlier.push({
      id,
      date,
      title: `Earlier test ${diagnosis.earlier.length + 1}`,
      sections: {},
      topics: {},
    })
  })
  chosen.value = id
}
function removeEarlier(): void {
  const id = chosen.value
  chosen.value = undefined
  save.value.edit((diagnosis) => (diagnosis.earlier = diagnosis.earlier.filter((test) => test.id !== id)))
}
const setHalf = (event: Event) =>
  save.value.edit(
    (diagnosis) => (diagnosis.halfWeightDays = Number((event.target as HTMLInputElement).value)),
  )

const reading = ref<number>()
const found = ref<{ rows: number; problems: Problem[]; more: number; used: boolean }>()
async function bring(event: Event): Promise<void> {
  const file = chosenFile(event)
  if (!file) return
  found.value = undefined
  reading.value = 0
  try {
    const read = await readResponseFile(file, exam.value, form.value, (share) => void (reading.value = share))
    found.value = read.found
    if (read.counted) takeCounted(read.responses, read.counted)
  } finally {
    reading.value = undefined
  }
}
const takeAway = () =>
  download('item-responses.csv', 'text/csv', writeResponses(plain(entry.value.responses ?? [])))
</script>

<template>
  <div class="stack">
    <div class="row" role="group" aria-label="Tests">
      <button type="button" class="chip" :aria-pressed="!chosen" @click="chosen = undefined">
        Diagnostic
      </button>
      <button
        v-for="test in document.earlier"
        :key="test.id"
        type="button"
        class="chip"
        :aria-pressed="chosen === test.id"
        @click="chosen = test.id"
      >
        {{ test.title || 'Earlier test' }}
        <span v-if="weightOf(test) !== undefined">· counts {{ percentWords(weightOf(test)!) }}</span>
      </button>
      <v-btn size="small" @click="addEarlier">Add an earlier test</v-btn>
      <label v-if="document.earlier.length" class="small"
        >half the weight after
        <input
          class="figure"
          type="number"
          min="1"
          :value="document.halfWeightDays"
          :aria-invalid="Boolean(problemAt('halfWeightDays')) || undefined"
          @input="setHalf"
        />
        days</label
      >
    </div>
    <div class="row">
      <h2>{{ earlier ? earlier.title || 'Earlier test' : 'A full test' }}</h2>
      <label class="small"
        >sat on
        <input
          class="figure"
          type="date"
          :value="entry.date ?? ''"
          :max="workspace.today"
          :aria-invalid="Boolean(problemAt(`${path}date`)) || undefined"
          @change="setDate"
        />
      </label>
      <label v-if="exam.forms.length" class="small"
        >form
        <select class="figure" :value="entry.form ?? ''" @change="setForm">
          <option value="">not one of the list</option>
          <option v-for="one in exam.forms" :key="one.id" :value="one.id">{{ one.title }}</option>
        </select>
      </label>
      <v-btn v-if="earlier" size="small" variant="text" @click="removeEarlier">Remove this test</v-btn>
      <span v-if="problemAt(`${path}date`)" class="bad small">{{ problemAt(`${path}date`) }}</span>
    </div>
    <p v-if="!earlier" class="small soft">
      No test yet? Leave this open: the plan then begins with one, and your own rating below does until then.
    </p>
    <span class="rating" role="group" aria-label="How it is entered">
      <button
        v-for="[id, words] in ways"
        :key="id"
        type="button"
        :aria-pressed="way === id"
        @click="way = id"
      >
        {{ words }}
      </button>
    </span>
    <div v-if="way === 'sections'" class="scroll">
      <table class="lines">
        <thead>
          <tr>
            <th>Section</th>
            <th class="n">Right</th>
            <th class="n">Wrong</th>
            <th class="n">Blank</th>
            <th class="n" title="Of the blank ones, those at the end that time ran out on">Not reached</th>
            <td></td>
          </tr>
        </thead>
        <tbody>
          <CountsRow
            v-for="{ group, title } in groups"
            :key="group.id"
            :label="title"
            :group="group"
            :problem="problemAt(`${path}sections.${group.id}`)"
            :model-value="entry.sections[group.id]"
            @update:model-value="setGroup(group.id, $event)"
          />
        </tbody>
      </table>
    </div>
    <template v-else-if="way === 'items'">
      <ItemGrid
        :key="chosen ?? 'diagnostic'"
        :exam="exam"
        :form="form"
        :model-value="entry.responses ?? []"
        @update:model-value="takeResponses"
      />
      <v-btn v-if="entry.responses?.length" size="small" class="justify-start" @click="takeAway"
        >As CSV</v-btn
      >
    </template>
    <div v-else class="stack">
      <p class="small soft">
        One row an item: item, answer, key, and if you have them seconds, confidence (sure, between two, no
        idea), topic, changed_from. Nothing is taken unless every row is good.
      </p>
      <input type="file" accept=".csv,text/csv" aria-label="Item responses as CSV" @change="bring" />
      <p v-if="reading !== undefined" role="status">
        Reading… {{ Math.round(100 * reading) }}%
        <progress :value="reading" max="1" aria-label="Share of the file read" />
      </p>
      <p v-if="found?.used" class="good" role="status" data-testid="csv-read">{{ found.rows }} rows read.</p>
      <template v-else-if="found">
        <div data-testid="csv-problems"><FileProblems :problems="found.problems" :more="found.more" /></div>
      </template>
    </div>
    <h2 class="mt-3">Topic by topic</h2>
    <p class="small soft">
      How sure are you of each? If you counted them, add right, wrong and blank. The bar is what is known,
      with the range it lies in 8 times in 10.
    </p>
    <div class="scroll">
      <table class="lines topics">
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
              <span class="rating" role="group" :aria-label="`${topic.title}: your rating`">
                <button
                  v-for="[rating, words] in ratings"
                  :key="rating"
                  type="button"
                  :aria-pressed="document.topics[topic.id]?.rating === rating"
                  @click="setRating(topic.id, rating)"
                >
                  {{ words }}
                </button>
              </span>
            </td>
            <td v-for="field in ['right', 'wrong', 'blank'] as const" :key="field" class="n count">
              <input
                class="figure"
                type="number"
                min="0"
                inputmode="numeric"
                :value="topicCounts(topic.id)?.[field] ?? ''"
                :aria-label="`${topic.title}: ${field}`"
                :aria-invalid="Boolean(problemAt(`${path}topics.${topic.id}`)) || undefined"
                @input="setTopic(topic.id, field, $event)"
              />
            </td>
            <td>
              <KnownRange
                v-if="lines.get(topic.id)"
                :mean="lines.get(topic.id)!.mean"
                :low="lines.get(topic.id)!.low"
                :high="lines.get(topic.id)!.high"
                :width="104"
                role="img"
                :aria-label="`known ${percentWords(lines.get(topic.id)!.mean)}`"
              />
              <span v-if="problemAt(`${path}topics.${topic.id}`)" class="bad small">{{
                problemAt(`${path}topics.${topic.id}`)
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
.topics .figure {
  width: 46px;
}
</style>
