<script setup lang="ts">
import { computed, ref } from 'vue'
import type { AttemptCounts, Counts, ExamFormat, Form, ItemResponse } from '@climber/contract'
import {
  type CountedResponses,
  countResponses,
  countsAt,
  countsInAll,
  countsOfSection,
  type Grain,
  groupsOf,
  sampleResponses,
  writeResponses,
} from '@climber/core'
import ChoiceRow from '../kit/ChoiceRow.vue'
import FileField from '../kit/FileField.vue'
import { byField, type Problem } from '../kit/problems'
import { download } from '../manners/download'
import { itemRows, sectionRows, topicRows, totalRow } from '../manners/itemRows'
import { readResponseFile } from '../manners/responseFile'
import { plain } from '../workers/core'
import CountsTable from './CountsTable.vue'
import FileProblems from './FileProblems.vue'
import ItemGrid from './ItemGrid.vue'

/**
 * How a test came out, at whatever level one has it: in all, by section, by part, by topic, item by item, or from a CSV.
 * What was typed at another level stays in sight until something is typed at this one.
 */
const props = defineProps<{
  exam: ExamFormat
  form?: Form
  /** What is wrong, by its path in the counts: `total`, `sections.id`, `groups.id`, `topics.id`. */
  problems: readonly Problem[]
  /** Topics are counted here; in Set-up they stand in a table of their own. */
  topics?: boolean
}>()
const counts = defineModel<AttemptCounts>('counts', { required: true })
const responses = defineModel<ItemResponse[] | undefined>('responses', { required: true })

const parts = computed(() => props.exam.sections.some(({ groups, stages }) => groups.length > 1 || stages))
type Way = Grain | 'items' | 'file'
const ways = computed((): { value: Way; title: string }[] => [
  { value: 'total', title: 'In all' },
  ...(parts.value ? [{ value: 'sections' as const, title: 'By section' }] : []),
  { value: 'groups', title: parts.value ? 'By part' : 'By section' },
  ...(props.topics ? [{ value: 'topics' as const, title: 'By topic' }] : []),
  { value: 'items', title: 'Item by item' },
  { value: 'file', title: 'From a CSV' },
])
/** The level at which there is something already; by part where there is nothing yet. */
function begun(): Way {
  const { total, sections, groups } = counts.value
  if (Object.keys(groups).length) return 'groups'
  if (Object.keys(sections ?? {}).length && parts.value) return 'sections'
  return total ? 'total' : 'groups'
}
const way = ref(begun())

interface Level {
  grain: Grain
  head: string
  rows: {
    id: string
    title: string
    room: { items: number; least?: number; marks: number; written: boolean }
  }[]
  of: Record<string, Counts | undefined>
  path: (id: string) => string
}
const level = computed((): Level | undefined => {
  const { exam } = props
  const { groups, sections, topics } = counts.value
  switch (way.value) {
    case 'total':
      return {
        grain: 'total',
        head: 'The whole test',
        rows: [totalRow(exam)],
        of: { total: countsInAll(exam, counts.value) },
        path: () => 'total',
      }
    case 'sections':
      return {
        grain: 'sections',
        head: 'Section',
        rows: sectionRows(exam),
        of: Object.fromEntries(
          exam.sections.map(({ id }) => [id, countsOfSection(exam, id, { groups, sections })]),
        ),
        path: (id) => `sections.${id}`,
      }
    case 'groups':
      return {
        grain: 'groups',
        head: parts.value ? 'Part' : 'Section',
        rows: itemRows(exam, groups),
        of: groups,
        path: (id) => `groups.${id}`,
      }
    case 'topics':
      return {
        grain: 'topics',
        head: 'Topic',
        rows: topicRows(exam),
        of: topics,
        path: (id) => `topics.${id}`,
      }
    default:
      return undefined
  }
})

const fields = computed(() => byField(props.problems))
const problemAt = (id: string) => fields.value.at(level.value!.path(id))[0]
/** What is wrong somewhere that this level does not show. */
const elsewhere = computed(() => {
  const paths = level.value?.rows.map(({ id }) => level.value!.path(id)) ?? []
  return [...new Set(fields.value.besides(...paths).map(({ message }) => message))]
})

function set(id: string, own: Counts | undefined): void {
  const grain = level.value!.grain
  const typed: AttemptCounts = plain(counts.value)
  const put = <T extends Record<string, Counts>>(all: T): T => {
    const { [id]: _before, ...rest } = all
    return (own ? { ...rest, [id]: own } : rest) as T
  }
  if (grain === 'total') {
    if (own) typed.total = own
    else delete typed.total
  } else typed[grain] = put(typed[grain] ?? {})
  counts.value = countsAt(props.exam, typed, grain)
  // Counts typed over are no longer what the answers come to.
  if (grain !== 'topics') responses.value = undefined
}

/** Answers, and the counts that follow from them; sections without an answer keep what was typed. */
function take(all: ItemResponse[], found: CountedResponses): void {
  const kept = all.filter(({ answer, key, topic }) => answer || key || topic)
  const typed: AttemptCounts = plain(counts.value)
  for (const section of props.exam.sections) {
    const own = groupsOf(section)
    if (own.some(({ id }) => found.sections[id])) for (const { id } of own) delete typed.groups[id]
  }
  Object.assign(typed.groups, found.sections)
  for (const [id, own] of Object.entries(found.topics))
    if (own.right + own.wrong + own.blank > 0) typed.topics[id] = own
  responses.value = kept.length ? kept : undefined
  counts.value = countsAt(props.exam, typed, 'groups')
}

const reading = ref<number>()
const read = ref<{ rows: number; problems: Problem[]; more: number; used: boolean }>()
async function bring(file: File): Promise<void> {
  read.value = undefined
  reading.value = 0
  try {
    const found = await readResponseFile(
      file,
      props.exam,
      props.form,
      (share) => void (reading.value = share),
    )
    read.value = found.found
    if (found.counted) take(found.responses, found.counted)
  } finally {
    reading.value = undefined
  }
}
const takeSample = () =>
  download(
    'answers-sample.csv',
    'text/csv',
    sampleResponses(plain(props.exam), props.form && plain(props.form)),
  )
const takeAnswers = () =>
  download('item-responses.csv', 'text/csv', writeResponses(plain(responses.value ?? [])))
const timed = computed(() => responses.value?.filter(({ seconds }) => seconds !== undefined).length ?? 0)
</script>

<template>
  <div class="stack">
    <ChoiceRow v-model="way" label="How it is counted" :options="ways" />
    <CountsTable
      v-if="level"
      :key="way"
      :head="level.head"
      :rows="level.rows"
      :counts="level.of"
      :problem-at="problemAt"
      @set="set"
    />
    <p v-if="way === 'total'" class="small soft">
      Enough to follow the score; which sections they came from is left open, and said as a range.
    </p>
    <p v-else-if="way === 'topics'" class="small soft">
      As far as you counted them. What is known by section or in all stays beside it.
    </p>
    <template v-else-if="way === 'items'">
      <ItemGrid
        :exam="exam"
        :form="form"
        :model-value="responses ?? []"
        @update:model-value="take($event, countResponses(exam, plain($event), form))"
      />
    </template>
    <template v-else-if="way === 'file'">
      <p class="small soft">
        A row an item: item, answer, key, and if you have them seconds, confidence (sure, between two, no
        idea), topic, changed_from. Nothing is taken unless every row is good.
      </p>
      <div class="row">
        <FileField
          label="Answers as CSV"
          accept=".csv,text/csv"
          :disabled="reading !== undefined"
          @chosen="bring"
        />
        <v-btn variant="text" @click="takeSample">A filled-in sample to write over</v-btn>
      </div>
      <p v-if="reading !== undefined" role="status">
        Reading… {{ Math.round(100 * reading) }}%
        <progress :value="reading" max="1" aria-label="Share of the file read" />
      </p>
      <p v-if="read?.used" class="good" role="status" data-testid="csv-read">
        {{ read.rows === 1 ? '1 row' : `${read.rows} rows` }} read.
      </p>
      <div v-else-if="read" data-testid="csv-problems">
        <FileProblems :problems="read.problems" :more="read.more" />
      </div>
    </template>
    <p v-if="elsewhere.length" class="bad small" role="alert">{{ elsewhere.join('; ') }}</p>
    <p v-if="responses?.length" class="small" data-testid="answers">
      {{ responses.length }} answers<template v-if="timed"
        >, {{ timed }} of them with times; they move the leave times on Pacing</template
      >.
      <v-btn variant="text" @click="takeAnswers">As CSV</v-btn>
    </p>
  </div>
</template>
