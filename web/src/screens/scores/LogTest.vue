<script setup lang="ts">
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import {
  type Attempt,
  type Counts,
  countIssues,
  type ItemResponse,
  type StoredAttempt,
} from '@climber/contract'
import { countResponses, formsSat, lastMet, ofKind, paperScore } from '@climber/core'
import { itemRows } from '../../manners/itemRows'
import { readResponseFile } from '../../manners/responseFile'
import { outbox } from '../../outbox/here'
import { useWorkspace } from '../../stores/workspace'
import { plain } from '../../workers/core'
import ChoiceField from '../../kit/ChoiceField.vue'
import DateField from '../../kit/DateField.vue'
import FileField from '../../kit/FileField.vue'
import FormDialog from '../../kit/FormDialog.vue'
import ProblemList from '../../kit/ProblemList.vue'
import { byField, type Problem } from '../../kit/problems'
import TextField from '../../kit/TextField.vue'
import Conflict, { type Clash } from '../../widgets/Conflict.vue'
import CountsTable from '../../widgets/CountsTable.vue'
import FileProblems from '../../widgets/FileProblems.vue'

const open = defineModel<boolean>({ required: true })
const props = defineProps<{ test?: StoredAttempt }>()
const workspace = useWorkspace()

interface Draft {
  id: string
  date?: string
  form: string
  title: string
  source: 'publisher' | 'other'
  seen: boolean
  session?: string
  counts: Record<string, Counts>
  responses?: ItemResponse[]
  note: string
}
const blank = (): Draft => {
  const due = ofKind(workspace.plan?.sessions ?? [], 'test')
    .filter(
      ({ form, date }) =>
        form && date <= workspace.today && !workspace.attempts.some((test) => test.form === form),
    )
    .pop()
  return {
    id: crypto.randomUUID(),
    date: due?.date ?? workspace.today,
    form: due?.form ?? '',
    title: '',
    source: exam.value.forms.find(({ id }) => id === due?.form)?.source ?? 'other',
    seen: due?.seen ?? false,
    counts: {},
    note: '',
  }
}
const exam = computed(() => workspace.exam!)
const key = computed(() => `climber.draft.${workspace.candidate!.id}.test`)
const draft = reactive<Draft>({
  id: '',
  date: undefined,
  form: '',
  title: '',
  source: 'other',
  seen: false,
  counts: {},
  note: '',
})
/** What the form does not show of a test that is corrected. */
const kept = computed((): Partial<Attempt> => {
  const { version: _version, ...attempt } = props.test ?? { version: 0 }
  return attempt
})
const problems = ref<Problem[]>([])
const busy = ref(false)
const clash = shallowRef<Clash>()

watch(open, (now) => {
  if (!now) return
  problems.value = []
  clash.value = undefined
  fromFile.value = undefined
  delete draft.responses
  const kept = props.test ? null : localStorage.getItem(key.value)
  const { version: _version, counts, items, ...stored } = props.test ?? { version: 0 }
  Object.assign(
    draft,
    blank(),
    props.test
      ? plain({ form: '', title: '', ...stored, counts: counts?.groups, responses: items })
      : kept
        ? JSON.parse(kept)
        : {},
  )
})
// What is typed stays until it is stored, even when the tab is closed.
watch(draft, () => open.value && !props.test && localStorage.setItem(key.value, JSON.stringify(draft)), {
  deep: true,
})

const fromFile = ref<{ rows: number; problems: Problem[]; more: number; used: boolean }>()
const reading = ref(false)
/** Answers with their times, from a CSV; the counts are what they come to. */
async function bring(file: File): Promise<void> {
  reading.value = true
  try {
    const read = await readResponseFile(file, exam.value, form.value, () => undefined)
    fromFile.value = read.found
    if (!read.counted) return
    draft.counts = read.counted.sections
    draft.responses = read.responses.length ? read.responses : undefined
  } finally {
    reading.value = false
  }
}
/** Counts typed over are no longer what the answers come to. */
function setCounts(id: string, counts: Counts | undefined): void {
  draft.counts[id] = counts!
  delete draft.responses
}
const timed = computed(() => draft.responses?.filter(({ seconds }) => seconds !== undefined).length ?? 0)

const rows = computed(() => itemRows(exam.value, draft.counts))
const form = computed(() => exam.value.forms.find(({ id }) => id === draft.form))
const score = computed(() =>
  countIssues(exam.value, draft.counts).length ? undefined : paperScore(exam.value, draft.counts, form.value),
)
const satBefore = computed(() => {
  const others = (workspace.record?.attempts ?? []).filter(({ id }) => id !== draft.id)
  const day = draft.date ?? workspace.today
  return Boolean(draft.form) && lastMet(formsSat(others, workspace.today), draft.form, day) !== undefined
})
function chooseForm(id: string): void {
  draft.form = id
  const chosen = exam.value.forms.find((one) => one.id === id)
  if (chosen) draft.source = chosen.source
  draft.seen = satBefore.value
}
/** Fields of the form at which problems are shown; any other stands below it. */
const fields = computed(() => byField(problems.value, 'attempt'))
const places = ['date', 'form', 'title', 'source', 'note', 'counts']
const papers = computed(() => [
  { value: '', title: 'another one' },
  ...exam.value.forms.map(({ id, title }) => ({ value: id, title })),
])
const makers = [
  { value: 'publisher' as const, title: "the exam's publisher" },
  { value: 'other' as const, title: 'another maker' },
]

/** What was typed, as something that was sat. */
function attemptOf({ form: formId, title, counts, responses, ...rest }: Draft): Attempt {
  // Of an adaptive section only the stage that was met counts.
  const met = new Set(rows.value.map(({ group }) => group.id))
  const groups = Object.fromEntries(Object.entries(counts).filter(([id]) => met.has(id)))
  const topics = responses ? countResponses(exam.value, responses, form.value).topics : {}
  return {
    ...kept.value,
    ...rest,
    kind: 'practice',
    counts: { groups, topics },
    items: responses,
    ...(formId
      ? { form: formId, title: undefined }
      : { form: undefined, title: title.trim() || 'Practice test' }),
  }
}
async function store(): Promise<void> {
  problems.value = countIssues(exam.value, draft.counts).map(({ path, message }) => ({
    field: `counts.groups.${path.join('.')}`,
    message,
  }))
  for (const { group, title } of rows.value)
    if (!draft.counts[group.id])
      problems.value.push({ field: `counts.groups.${group.id}`, message: `write the counts of ${title}` })
  if (!draft.date || draft.date > workspace.today)
    problems.value.push({ field: 'date', message: 'the day it was sat: today or before' })
  if (problems.value.length) return
  busy.value = true
  const attempt = attemptOf(plain(draft))
  await send(attempt, props.test?.version ?? 0)
  busy.value = false
}
/** Hands a test to the outbox, and stays open where the server will not have it. */
async function send(attempt: Attempt, version: number): Promise<void> {
  const entry = await workspace.saveAttempt(attempt, version)
  const outcome = await outbox().outcome(entry)
  if (outcome === 'waiting' || 'answer' in outcome) {
    localStorage.removeItem(key.value)
    open.value = false
    return
  }
  await outbox().drop(entry.lane)
  const { failure } = outcome
  const current = failure.current as { document: Attempt; version: number } | undefined
  if (failure.code !== 'conflict' || !current)
    problems.value = failure.issues ?? [{ field: '', message: failure.message }]
  else
    clash.value = {
      message: failure.message,
      theirs: async () => {
        await workspace.reload()
        open.value = false
      },
      mine: () => send({ ...attempt, session: current.document.session }, current.version),
    }
}
</script>

<template>
  <FormDialog
    v-model="open"
    :title="test ? 'Edit the test' : 'Log a practice test'"
    submit="Keep it"
    :busy="busy"
    @submit="store"
  >
    <div class="head">
      <DateField
        v-model="draft.date"
        label="Sat on"
        :today="workspace.today"
        :max="workspace.today"
        :errors="fields.at('date')"
      />
      <ChoiceField
        label="Paper"
        :options="papers"
        :model-value="draft.form"
        :errors="fields.at('form')"
        @update:model-value="chooseForm"
      />
      <template v-if="!draft.form">
        <TextField v-model="draft.title" label="Its name" :errors="fields.at('title')" />
        <ChoiceField v-model="draft.source" label="Made by" :options="makers" :errors="fields.at('source')" />
      </template>
      <v-checkbox v-model="draft.seen" label="I had seen it before" density="compact" hide-details />
    </div>
    <CountsTable
      :rows="rows"
      :counts="draft.counts"
      :problem-at="(group) => fields.at(`counts.groups.${group}`)[0]"
      @set="setCounts"
    />
    <FileField
      label="Answers of this test, as CSV"
      accept=".csv,text/csv"
      hint="Instead of the counts: item, answer, key, seconds, confidence, topic"
      :disabled="reading"
      @chosen="bring"
    />
    <FileProblems v-if="fromFile" :problems="fromFile.problems" :more="fromFile.more" />
    <p v-if="draft.responses" class="small" data-testid="answers">
      {{ draft.responses.length }} answers, {{ timed }} of them with times<template v-if="timed"
        >; they move the leave times on Pacing</template
      >.
    </p>
    <p v-if="score" aria-live="polite" data-testid="score-preview">
      <strong class="large total">{{ score.composite }}</strong>
      <span class="soft">
        ·
        {{ score.sections.map((one, at) => `${exam.sections[at]!.title} ${one.scaled}`).join(' · ') }}</span
      >
      <span class="small soft">
        {{
          score.sections.some((one) => one.ownTable)
            ? "by this paper's own table"
            : "by the exam format's table"
        }}</span
      >
    </p>
    <TextField v-model="draft.note" label="Note" optional :errors="fields.at('note')" />
    <ProblemList :problems="fields.besides(...places)" />
    <Conflict v-if="clash" :clash="clash" @settled="clash = undefined" />
  </FormDialog>
</template>

<style scoped>
.total {
  font-size: 34px;
}
.head {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: 10px 18px;
  align-items: start;
}
</style>
