<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { type ClimberFile, ExamFormat, type ExamRow } from '@climber/contract'
import { type ApiFailure, call } from '../../api'
import { offline } from '../../outbox/connection'
import { outbox } from '../../outbox/here'
import { askKept } from '../../outbox/kept'
import FileField from '../../kit/FileField.vue'
import { importExam, readClimberFile } from '../../stores/files'
import type { Problem } from '../../stores/autosave'
import FileProblems from '../../widgets/FileProblems.vue'
import PageFrame from '../../widgets/PageFrame.vue'
import { vCards } from '../../kit/cards'
import SortHead from '../../kit/SortHead.vue'
import { sorted } from '../../kit/sorting'

const router = useRouter()
const exams = ref<ExamRow[]>()
const problems = ref<Problem[]>([])
const problem = ref('')
const samples = ref<{ id: string; title: string; about: string; file: ClimberFile }[]>([])
async function load(): Promise<void> {
  try {
    const [own, shipped] = await Promise.all([
      askKept(outbox(), 'listExams', {}),
      samples.value.length ? samples.value : call('listSamples', {}).catch(() => []),
    ])
    // Together, so that nothing moves when the second comes.
    samples.value = shipped
    exams.value = own.answer
    problem.value = ''
  } catch (error) {
    problem.value = (error as ApiFailure).message
  }
}
onMounted(() => {
  document.title = 'Exam formats · Climber'
  void load()
})
// What could not be fetched is there once the server answers again.
watch(offline, (now) => !now && !exams.value && void load())
const { rows, head } = sorted(() => exams.value ?? [], {
  title: (exam) => exam.title,
  field: (exam) => exam.field || undefined,
  edition: (exam) => exam.edition,
  candidates: (exam) => exam.candidates,
})
const others = computed(() =>
  samples.value.filter(({ title }) => !exams.value?.some((exam) => exam.title === title)),
)
async function take(file: ClimberFile): Promise<void> {
  try {
    const { id } = await importExam(file)
    await router.push({ name: 'exam', params: { examId: id } })
  } catch (error) {
    problem.value = (error as ApiFailure).message
  }
}
/** A format with one section, to be made into what the exam is. */
const begin = () =>
  take({
    climber: 2,
    exam: ExamFormat.parse({
      title: 'New exam',
      sections: [
        {
          id: 'section-1',
          title: 'Section 1',
          minutes: 60,
          groups: [{ id: 'section-1-items', kind: 'choice', items: 40, choices: 4, perRight: 1 }],
          conversion: {
            points: [
              [0, 0],
              [40, 100],
            ],
          },
        },
      ],
      topics: [{ id: 'everything', title: 'Everything', section: 'section-1', share: 1 }],
      composite: { kind: 'sum' },
    }),
  })
async function remove(exam: ExamRow): Promise<void> {
  try {
    const { format } = await call('readExam', { examId: exam.id })
    await call('deleteExam', { examId: exam.id })
    gone.value = { title: exam.title, file: { climber: 2, exam: format } }
    await load()
  } catch (error) {
    problem.value = (error as ApiFailure).message
  }
}
/** The format removed last, until the screen is left: it can be put back. */
const gone = ref<{ title: string; file: ClimberFile }>()
async function putBack(): Promise<void> {
  await importExam(gone.value!.file)
  gone.value = undefined
  await load()
}
async function bring(file: File): Promise<void> {
  problem.value = ''
  const read = await readClimberFile(file)
  problems.value = read.problems
  if (!read.file) return
  try {
    await importExam(read.file)
    await load()
  } catch (error) {
    problem.value = (error as ApiFailure).message
  }
}
</script>

<template>
  <PageFrame title="Exam formats">
    <template #actions><v-btn class="act main" @click="begin">New exam format</v-btn></template>
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <v-skeleton-loader v-if="!exams && !problem" type="list-item@3" />
    <p v-else-if="exams && !exams.length">
      None yet. Make one, bring one as a Climber file, or begin with one of those that ship.
    </p>
    <div v-else-if="exams" class="scroll">
      <table v-cards class="lines as-cards">
        <thead>
          <tr>
            <SortHead :head="head" by="title">Exam</SortHead>
            <SortHead :head="head" by="field">Field</SortHead>
            <SortHead class="n" :head="head" by="edition">Edition</SortHead>
            <SortHead class="n" :head="head" by="candidates">Candidates</SortHead>
            <td></td>
          </tr>
        </thead>
        <tbody>
          <tr v-for="exam in rows" :key="exam.id">
            <td>
              <router-link :to="{ name: 'exam', params: { examId: exam.id } }">{{ exam.title }}</router-link>
            </td>
            <td>{{ exam.field }}</td>
            <td class="n">{{ exam.edition }}</td>
            <td class="n">{{ exam.candidates }}</td>
            <td>
              <v-btn
                v-if="!exam.candidates"
                size="small"
                variant="text"
                :aria-label="`Remove ${exam.title}`"
                @click="remove(exam)"
                >Remove</v-btn
              >
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="gone" role="status">
      {{ gone.title }} is removed. <v-btn size="small" @click="putBack">Put it back</v-btn>
    </p>
    <template v-if="others.length">
      <h2 class="mt-4">Exams that ship, all invented</h2>
      <table class="lines">
        <tbody>
          <tr v-for="sample in others" :key="sample.id">
            <th scope="row">{{ sample.title }}</th>
            <td class="small soft">{{ sample.about }}</td>
            <td>
              <v-btn size="small" :aria-label="`Take ${sample.title}`" @click="take(sample.file)">Take</v-btn>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <template v-if="exams || problem">
      <h2 class="mt-4">Bring a Climber file</h2>
      <FileField label="Climber file" accept=".json,application/json" @chosen="bring" />
      <FileProblems :problems="problems" />
    </template>
  </PageFrame>
</template>
