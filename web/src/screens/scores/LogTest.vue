<script setup lang="ts">
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import {
  type Attempt,
  type AttemptCounts,
  attemptIssues,
  type ItemResponse,
  issuesOf,
  type StoredAttempt,
  totalIssues,
  countIssues,
} from '@climber/contract'
import { formsSat, groupsMet, lastMet, ofKind, scoreOfCounts } from '@climber/core'
import { rawWords } from '../../manners/words'
import { outbox } from '../../outbox/here'
import { useWorkspace } from '../../stores/workspace'
import { plain } from '../../workers/core'
import ChoiceField from '../../kit/ChoiceField.vue'
import DateField from '../../kit/DateField.vue'
import FormDialog from '../../kit/FormDialog.vue'
import ProblemList from '../../kit/ProblemList.vue'
import { byField, type Problem, within } from '../../kit/problems'
import Later from '../../kit/Later.vue'
import TextField from '../../kit/TextField.vue'
import Conflict, { type Clash } from '../../widgets/Conflict.vue'
import CountsEntry from '../../widgets/CountsEntry.vue'

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
  counts: AttemptCounts
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
    counts: { groups: {}, topics: {} },
    note: '',
  }
}
/** Drafts of before counts had levels held those of item groups alone. */
const typedBefore = ({ counts, ...rest }: Draft): Draft => ({
  ...rest,
  counts: 'groups' in counts ? counts : { groups: counts as Record<string, never>, topics: {} },
})
const exam = computed(() => workspace.exam!)
const key = computed(() => `climber.draft.${workspace.candidate!.id}.test`)
const draft = reactive<Draft>({
  id: '',
  date: undefined,
  form: '',
  title: '',
  source: 'other',
  seen: false,
  counts: { groups: {}, topics: {} },
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
  delete draft.responses
  const kept = props.test ? null : localStorage.getItem(key.value)
  const { version: _version, items, ...stored } = props.test ?? { version: 0 }
  Object.assign(
    draft,
    blank(),
    props.test
      ? plain({ form: '', title: '', ...stored, responses: items })
      : kept
        ? typedBefore(JSON.parse(kept))
        : {},
  )
  opened.value += 1
})
// What is typed stays until it is stored, even when the tab is closed.
watch(draft, () => open.value && !props.test && localStorage.setItem(key.value, JSON.stringify(draft)), {
  deep: true,
})

/** Opened anew, the counts are shown at the level at which there are some. */
const opened = ref(0)
const form = computed(() => exam.value.forms.find(({ id }) => id === draft.form))
const score = computed(() =>
  countIssues(exam.value, draft.counts.groups).length || totalIssues(exam.value, draft.counts).length
    ? undefined
    : scoreOfCounts(exam.value, draft.counts, form.value),
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
const countsProblems = computed(() => within(problems.value, 'attempt.counts', 'counts'))
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
  const met = new Set(exam.value.sections.flatMap((one) => groupsMet(one, counts.groups)).map(({ id }) => id))
  const groups = Object.fromEntries(Object.entries(counts.groups).filter(([id]) => met.has(id)))
  return {
    ...kept.value,
    ...rest,
    kind: 'practice',
    counts: { ...counts, groups },
    items: responses,
    ...(formId
      ? { form: formId, title: undefined }
      : { form: undefined, title: title.trim() || 'Practice test' }),
  }
}
async function store(): Promise<void> {
  const attempt = attemptOf(plain(draft))
  problems.value = issuesOf({
    issues: attemptIssues(exam.value, attempt, { today: workspace.today, whole: true }),
  })
  if (!draft.date) problems.value.push({ field: 'date', message: 'the day it was sat: today or before' })
  if (problems.value.length) return
  busy.value = true
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
      versions: { theirs: current.document, mine: attempt },
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
    <Later>
      <CountsEntry
        :key="opened"
        v-model:counts="draft.counts"
        v-model:responses="draft.responses"
        :exam="exam"
        :form="form"
        topics
        :problems="countsProblems"
      />
    </Later>
    <p v-if="score" aria-live="polite" data-testid="score-preview">
      <strong class="large total">{{ score.composite }}</strong>
      <span v-if="score.between" class="small">
        most likely between {{ score.between.low }} and {{ score.between.high }}: the counts leave open where
        the right answers were</span
      >
      <span v-else class="soft">
        ·
        {{
          score.sections
            .map((one, at) => `${exam.sections[at]!.title} ${one.scaled} (raw ${rawWords(one.raw)})`)
            .join(' · ')
        }}</span
      >
      <span class="small soft"
        >,
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
