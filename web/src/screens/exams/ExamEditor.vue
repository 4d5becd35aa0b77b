<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { climberFileVersion, type Section, type StoredExam } from '@climber/contract'
import { groupsOf, slugOf } from '@climber/core'
import TickField from '../../kit/TickField.vue'
import { download, fileName } from '../../manners/download'
import ExamDrawing from '../../widgets/ExamDrawing.vue'
import TextField from '../../kit/TextField.vue'
import PageFrame from '../../widgets/PageFrame.vue'
import UndoEdits from '../../widgets/UndoEdits.vue'
import BlueprintPanel from './BlueprintPanel.vue'
import BooksPanel from './BooksPanel.vue'
import { examDraft, provideDraft, setOptional, type Told } from './draft'
import Effect from './Effect.vue'
import FormsPanel from './FormsPanel.vue'
import ScorePanel from './ScorePanel.vue'
import SectionPanel from './SectionPanel.vue'
import SittingsPanel from './SittingsPanel.vue'

/** An exam format, edited in place under its drawing. */
const props = defineProps<{ exam: StoredExam }>()
const router = useRouter()
const draft = examDraft(props.exam, (exam) => void stored(exam))
provideDraft(draft)
const format = computed(() => draft.state.format)
const chosen = ref(0)
const tabs = ['Sections', 'Score', 'Blueprint', 'Books', 'Practice tests', 'Sittings and rules'] as const
const tab = ref<(typeof tabs)[number]>('Sections')
const message = ref('')
const conflict = ref(false)
// An edition that was just made opens with what it changes for the candidates.
const made = useRoute().query.made !== undefined
const savedWords = ref(made ? `Kept as edition ${props.exam.edition}; the one before stays as it was.` : '')
const effect = ref(made)
const used = computed(() => draft.saved.value.candidates > 0)

/** Where a problem is mended. */
const places: [RegExp, (typeof tabs)[number]][] = [
  [/^sections\.\d+$/, 'Blueprint'],
  [/^sections/, 'Sections'],
  [/^(composite|movingCut|bands|percentiles)/, 'Score'],
  [/^topics/, 'Blueprint'],
  [/^books/, 'Books'],
  [/^forms/, 'Practice tests'],
  [/^(sittings|retake|bring|tools|forbidden|accommodations)/, 'Sittings and rules'],
]
const tabOf = (field: string) => places.find(([pattern]) => pattern.test(field))?.[1]
function go(field: string): void {
  tab.value = tabOf(field) ?? tab.value
  const at = /^sections\.(\d+)\./.exec(field)
  if (at) chosen.value = Number(at[1])
}
const troubled = (name: string) => draft.problems.value.some(({ field }) => tabOf(field) === name)

function resize(at: number, what: 'minutes' | 'breakAfter', minutes: number): void {
  format.value.sections[at]![what] = minutes
}
function addSection(): void {
  const { sections } = format.value
  const like = sections[sections.length - 1]
  const title = `Section ${sections.length + 1}`
  const id = slugOf(
    title,
    sections.flatMap((one) => [one.id, ...(one.stages ?? []).map((stage) => stage.id)]),
  )
  const groups = sections.flatMap((one) => groupsOf(one).map((group) => group.id))
  sections.push({
    id,
    title,
    ...(like?.paper ? { paper: like.paper } : {}),
    minutes: like?.minutes ?? 60,
    groups: [
      {
        kind: 'choice',
        items: 30,
        choices: 4,
        perRight: 1,
        perWrong: 0,
        ...JSON.parse(JSON.stringify(like?.groups[0] ?? {})),
        id: slugOf(`${id}-items`, groups),
      } as Section['groups'][number],
    ],
    conversion: JSON.parse(
      JSON.stringify(
        like?.conversion ?? {
          points: [
            [0, 0],
            [30, 100],
          ],
          step: 1,
        },
      ),
    ) as Section['conversion'],
    breakAfter: 0,
  })
  if (format.value.composite.weights) format.value.composite.weights[id] = 1
  chosen.value = sections.length - 1
}

/** The form of the part that is open: what cannot be read there stays as it was typed, and is in no draft. */
const typed = ref<{ errors: unknown[] }>()
const toMend = computed(() => Math.max(draft.problems.value.length, typed.value?.errors.length ?? 0))
function say({ message: words = '', conflict: clash = false }: Told): void {
  message.value = words
  conflict.value = clash
}
async function save(): Promise<void> {
  say({})
  savedWords.value = ''
  say(await draft.save())
}
async function settle(mine: boolean): Promise<void> {
  say({})
  say(await draft.settle(mine))
}
/** The server has it, perhaps long after it was handed in. */
async function stored(exam: StoredExam): Promise<void> {
  say({})
  if (exam.id === props.exam.id) savedWords.value = 'Saved.'
  else await router.replace({ name: 'exam', params: { examId: exam.id }, query: { made: null } })
}
const take = () =>
  download(
    `${fileName(format.value.title)}.exam.climber.json`,
    'application/json',
    `${JSON.stringify({ climber: climberFileVersion, exam: draft.parsed.value }, null, 2)}\n`,
  )
</script>

<template>
  <PageFrame :title="format.title || 'Exam format'">
    <template #actions>
      <UndoEdits :history="draft.history" />
      <v-btn :disabled="toMend > 0" @click="take">As a Climber file</v-btn>
      <v-btn
        class="act main"
        :disabled="!draft.dirty.value || toMend > 0"
        data-testid="save-exam"
        @click="save"
        >{{ used ? 'Keep as a new edition' : 'Save' }}</v-btn
      >
    </template>
    <div class="stack">
      <p v-if="message" class="bad" role="alert">
        {{ message }}
        <template v-if="conflict">
          <v-btn size="small" @click="settle(false)">Take theirs</v-btn>
          <v-btn size="small" @click="settle(true)">Save mine over it</v-btn>
        </template>
      </p>
      <p v-if="savedWords" class="good" role="status">{{ savedWords }}</p>
      <p v-if="draft.restored && draft.dirty.value" class="small mark">
        These changes were not saved yet; they were kept in this browser.
        <v-btn size="small" variant="text" @click="draft.drop()">Drop them</v-btn>
      </p>
      <p class="small soft">
        Edition {{ draft.saved.value.edition }},
        {{
          draft.saved.value.candidates === 1 ? '1 candidate' : `${draft.saved.value.candidates} candidates`
        }}.
        <template v-for="one in draft.saved.value.editions" :key="one.id">
          <router-link
            v-if="one.id !== draft.saved.value.id"
            :to="{ name: 'exam', params: { examId: one.id } }"
            >Edition {{ one.edition }}</router-link
          >{{ ' ' }}
        </template>
        <template v-if="used">Candidates use this edition: a change makes a new one.</template>
        <v-btn
          v-if="used || draft.saved.value.editions.length > 1"
          size="small"
          variant="text"
          :aria-expanded="effect"
          @click="effect = !effect"
          >What it changes for them</v-btn
        >
      </p>
      <Effect
        v-if="effect"
        :key="`${draft.saved.value.id}-${draft.dirty.value}`"
        :exam-id="draft.saved.value.id"
        :edition="draft.saved.value.edition"
        :stored="!draft.dirty.value"
      />
      <ExamDrawing
        :exam="format"
        editable
        :chosen="tab === 'Sections' ? chosen : -1"
        @choose="(at: number) => ((chosen = at), (tab = 'Sections'))"
        @resize="resize"
      />
      <details v-if="toMend" class="problems" open>
        <summary class="bad">{{ toMend }} to mend before it can be saved</summary>
        <ul>
          <li v-if="!draft.problems.value.length" class="small">
            What is typed in a field below cannot be read.
          </li>
          <li v-for="one in draft.problems.value.slice(0, 30)" :key="one.field + one.message" class="small">
            <button type="button" class="link" @click="go(one.field)">
              {{ tabOf(one.field) ?? 'Exam' }}</button>: {{ one.message }}
          </li>
        </ul>
      </details>
      <nav class="steps" aria-label="Parts of the exam format">
        <button
          v-for="name in tabs"
          :key="name"
          type="button"
          :class="{ here: tab === name }"
          :aria-current="tab === name || undefined"
          @click="tab = name"
        >
          {{ name }}<span v-if="troubled(name)" class="bad"> •</span>
        </button>
      </nav>
      <v-form ref="typed" class="stack" @submit.prevent>
        <template v-if="tab === 'Sections'">
          <div class="fields">
            <TextField
              v-model="format.title"
              label="Exam"
              :errors="draft.problemAt('title')"
              style="width: 320px"
            />
            <TextField
              :model-value="format.field"
              label="Field"
              optional
              style="width: 190px"
              @update:model-value="setOptional(format, 'field', $event)"
            />
            <TextField
              :model-value="format.about"
              label="About"
              optional
              style="width: 380px"
              @update:model-value="setOptional(format, 'about', $event)"
            />
            <TickField v-model="format.licence" label="a licence exam" />
          </div>
          <div class="row" role="group" aria-label="Sections">
            <button
              v-for="(section, at) in format.sections"
              :key="section.id"
              type="button"
              class="chip"
              :aria-pressed="chosen === at"
              @click="chosen = at"
            >
              {{ section.title }}
            </button>
            <v-btn size="small" @click="addSection">Add a section</v-btn>
          </div>
          <SectionPanel
            v-if="format.sections[chosen]"
            :key="format.sections[chosen]!.id"
            :at="chosen"
            @moved="chosen = $event"
          />
        </template>
        <ScorePanel v-else-if="tab === 'Score'" />
        <BlueprintPanel v-else-if="tab === 'Blueprint'" />
        <BooksPanel v-else-if="tab === 'Books'" />
        <FormsPanel v-else-if="tab === 'Practice tests'" />
        <SittingsPanel v-else />
      </v-form>
    </div>
  </PageFrame>
</template>

<style scoped>
.problems ul {
  margin: 4px 0 0;
  padding-left: 18px;
}
summary {
  cursor: pointer;
}
</style>
