<script setup lang="ts">
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { useDisplay } from 'vuetify'
import {
  type Attempt,
  type Counts,
  countIssues,
  type ItemResponse,
  type StoredAttempt,
} from '@climber/contract'
import { countResponses, formsSat, lastMet, ofKind, paperScore } from '@climber/core'
import { type ApiFailure, isPassing } from '../../api'
import { chosenFile } from '../../manners/download'
import { itemRows } from '../../manners/itemRows'
import { readResponseFile } from '../../manners/responseFile'
import { useWorkspace } from '../../stores/workspace'
import { plain } from '../../workers/core'
import type { Problem } from '../../stores/autosave'
import Conflict, { type Clash } from '../../widgets/Conflict.vue'
import CountsRow from '../../widgets/CountsRow.vue'
import FileProblems from '../../widgets/FileProblems.vue'

const { smAndDown } = useDisplay()
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ test?: StoredAttempt }>()
const workspace = useWorkspace()

interface Draft {
  id: string
  date: string
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
  date: '',
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
const problems = ref<{ field: string; message: string }[]>([])
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
async function bring(event: Event): Promise<void> {
  const file = chosenFile(event)
  if (!file) return
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
  return (
    Boolean(draft.form) && lastMet(formsSat(others, workspace.today), draft.form, draft.date) !== undefined
  )
})
function chooseForm(id: string): void {
  draft.form = id
  const chosen = exam.value.forms.find((one) => one.id === id)
  if (chosen) draft.source = chosen.source
  draft.seen = satBefore.value
}
const problemAt = (field: string) =>
  problems.value.find(
    ({ field: at }) => at === field || at === `attempt.${field}` || at.startsWith(`${field}.`),
  )?.message

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
  try {
    for (let tries = 0; ; tries++)
      try {
        await workspace.saveAttempt(attempt, props.test?.version ?? 0)
        break
      } catch (error) {
        // The id is the client's own, so the same test sent again is stored once.
        if (!isPassing(error) || tries >= 5) throw error
        problems.value = [{ field: '', message: 'The server does not answer; trying again…' }]
        await new Promise((resolve) => setTimeout(resolve, 800 * (tries + 1)))
      }
    problems.value = []
    localStorage.removeItem(key.value)
    open.value = false
  } catch (error) {
    const { code, failure, message } = error as ApiFailure
    const current = failure?.current as { document: Attempt; version: number } | undefined
    problems.value = code === 'conflict' ? [] : (failure?.issues ?? [{ field: '', message }])
    if (code === 'conflict' && current)
      clash.value = {
        message,
        theirs: async () => {
          await workspace.reload()
          open.value = false
        },
        mine: async () => {
          await workspace.saveAttempt({ ...attempt, session: current.document.session }, current.version)
          open.value = false
        },
      }
  }
  busy.value = false
}
</script>

<template>
  <v-dialog v-model="open" max-width="760" :fullscreen="smAndDown" aria-labelledby="log-title">
    <v-card class="pa-5">
      <form class="stack" novalidate @submit.prevent="store">
        <h2 id="log-title">{{ test ? 'Edit the test' : 'Log a practice test' }}</h2>
        <div class="row">
          <label
            >Sat on
            <input
              v-model="draft.date"
              class="figure"
              type="date"
              :max="workspace.today"
              :aria-invalid="Boolean(problemAt('date')) || undefined"
          /></label>
          <label
            >Paper
            <select
              class="figure"
              :value="draft.form"
              @change="chooseForm(($event.target as HTMLSelectElement).value)"
            >
              <option value="">another one</option>
              <option v-for="one in exam.forms" :key="one.id" :value="one.id">{{ one.title }}</option>
            </select></label
          >
          <template v-if="!draft.form">
            <label>Its name <input v-model="draft.title" class="figure" type="text" /></label>
            <label
              >Made by
              <select v-model="draft.source" class="figure">
                <option value="publisher">the exam's publisher</option>
                <option value="other">another maker</option>
              </select></label
            >
          </template>
          <label><input v-model="draft.seen" type="checkbox" /> I had seen it before</label>
        </div>
        <p v-if="problemAt('date')" class="bad small">{{ problemAt('date') }}</p>
        <div class="scroll">
          <table class="lines">
            <thead>
              <tr>
                <th>Section</th>
                <th class="n">Right</th>
                <th class="n">Wrong</th>
                <th class="n">Blank</th>
                <th class="n">Not reached</th>
                <td></td>
              </tr>
            </thead>
            <tbody>
              <CountsRow
                v-for="{ group, title } in rows"
                :key="group.id"
                :label="title"
                :group="group"
                :problem="problemAt(`counts.groups.${group.id}`)"
                :model-value="draft.counts[group.id]"
                @update:model-value="setCounts(group.id, $event)"
              />
            </tbody>
          </table>
        </div>
        <label class="small"
          >Or from a CSV of its answers (item, answer, key, seconds, confidence, topic)
          <input
            type="file"
            accept=".csv,text/csv"
            :disabled="reading"
            aria-label="Answers of this test, as CSV"
            @change="bring"
        /></label>
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
            {{
              score.sections.map((one, at) => `${exam.sections[at]!.title} ${one.scaled}`).join(' · ')
            }}</span
          >
          <span class="small soft">
            {{
              score.sections.some((one) => one.ownTable)
                ? "by this paper's own table"
                : "by the exam format's table"
            }}</span
          >
        </p>
        <label class="small">Note <input v-model="draft.note" class="figure note" type="text" /></label>
        <p
          v-for="problem in problems.filter((one) => !one.field)"
          :key="problem.message"
          class="bad"
          role="alert"
        >
          {{ problem.message }}
        </p>
        <Conflict v-if="clash" :clash="clash" @settled="clash = undefined" />
        <div class="row">
          <v-btn type="submit" size="default" class="main" :loading="busy">Keep it</v-btn
          ><v-btn size="default" @click="open = false">Not now</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.total {
  font-size: 34px;
}
.note {
  width: 70%;
}
</style>
