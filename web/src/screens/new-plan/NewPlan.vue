<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { climberFileVersion, type ExamRow } from '@climber/contract'
import { call, type ApiFailure } from '../../api'
import FileField from '../../kit/FileField.vue'
import { afterPress } from '../../manners/press'
import { importCandidate, importExam, isCandidate, readClimberFile } from '../../stores/files'
import type { Problem } from '../../stores/autosave'
import { useSession } from '../../stores/session'
import { useWorkspace } from '../../stores/workspace'
import DescribeExam from './DescribeExam.vue'
import { useDescription } from './described'
import FileProblems from '../../widgets/FileProblems.vue'
import PageFrame from '../../widgets/PageFrame.vue'

type Sample = Awaited<ReturnType<typeof samplesOf>>[number]
const samplesOf = () => call('listSamples', {})

const zone = Intl.DateTimeFormat().resolvedOptions().timeZone
const session = useSession()
const workspace = useWorkspace()
const router = useRouter()
const exams = ref<ExamRow[]>([])
const samples = ref<Sample[]>([])
const ready = ref(false)
const self = ref(true)
const name = ref(session.user?.name ?? '')
/** An exam's id, a sample's, or that another is described here. */
const chosen = ref('')
const another = 'another'
const description = useDescription(session.user?.id ?? '')
const problem = ref('')
const problems = ref<Problem[]>([])
const busy = ref(false)

/** Of an exam with several editions, the newest. */
const newest = computed(() =>
  exams.value.filter(
    (exam) => !exams.value.some((one) => one.lineage === exam.lineage && one.edition > exam.edition),
  ),
)
const unusedSamples = computed(() =>
  samples.value.filter(({ title }) => !exams.value.some((exam) => exam.title === title)),
)
onMounted(async () => {
  document.title = 'New plan · Climber'
  try {
    ;[exams.value, samples.value] = await Promise.all([call('listExams', {}), samplesOf()])
    chosen.value = description.wasKept ? another : (newest.value[0]?.id ?? samples.value[0]?.id ?? another)
  } catch (error) {
    problem.value = (error as ApiFailure).message
  }
  ready.value = true
})

watch(description.described, () => (problem.value = ''), { deep: true })
function chooseWhom(mine: boolean): void {
  self.value = mine
  if (mine && !name.value) name.value = session.user?.name ?? ''
  if (!mine && name.value === session.user?.name) name.value = ''
}
const form = ref<HTMLFormElement>()
/** The id of the exam chosen; a sample, or one described here, is taken over first. */
async function theExam(): Promise<string> {
  const sample = samples.value.find(({ id }) => id === chosen.value)
  if (sample) return (await importExam(sample.file)).id
  if (chosen.value !== another) return chosen.value
  const { id } = await importExam({ climber: climberFileVersion, exam: description.format.value! })
  exams.value = await call('listExams', {})
  // If what comes next fails, the exam is there to choose.
  chosen.value = id
  description.done()
  return id
}
async function begin(): Promise<void> {
  problem.value = ''
  if (!name.value.trim()) {
    problem.value = 'Write whose plan it is.'
    return
  }
  const { format } = description
  if (chosen.value === another && !format.value) {
    description.tried.value = true
    problem.value = 'Something of the exam is missing yet; it is marked above.'
    await nextTick()
    // What is wrong is shown when the press is over.
    await new Promise<void>(afterPress)
    await nextTick()
    form.value?.querySelector<HTMLElement>('.v-input--error input, .v-input--error textarea')?.focus()
    return
  }
  busy.value = true
  try {
    const examId = await theExam()
    const candidateId = crypto.randomUUID()
    const made = await call(
      'createCandidate',
      { candidateId },
      { name: name.value.trim(), examId, self: self.value },
    )
    workspace.open(made)
    workspace.saves!.availability.edit((availability) => (availability.zone = zone))
    await router.push({ name: 'set-up', params: { candidateId } })
  } catch (error) {
    problem.value = (error as ApiFailure).message
  }
  busy.value = false
}
async function bring(file: File): Promise<void> {
  problem.value = ''
  const read = await readClimberFile(file)
  problems.value = read.problems
  if (!read.file) return
  busy.value = true
  try {
    if (isCandidate(read.file)) {
      const made = await importCandidate(read.file, self.value)
      workspace.open(made)
      await router.push({ name: made.plan ? 'today' : 'set-up', params: { candidateId: made.id } })
    } else {
      const exam = await importExam(read.file)
      exams.value = await call('listExams', {})
      chosen.value = exam.id
    }
  } catch (error) {
    const failure = (error as ApiFailure).failure
    if (failure?.issues) problems.value = failure.issues
    else problem.value = (error as ApiFailure).message
  }
  busy.value = false
}
</script>

<template>
  <PageFrame title="New plan">
    <form ref="form" class="stack form" novalidate @submit.prevent="begin">
      <fieldset class="plain">
        <legend>Whose plan is it?</legend>
        <v-btn-toggle :model-value="self" mandatory density="compact" @update:model-value="chooseWhom">
          <v-btn :value="true">Mine</v-btn>
          <v-btn :value="false">Somebody I teach</v-btn>
        </v-btn-toggle>
        <v-text-field v-model="name" label="Name" class="mt-2" />
      </fieldset>
      <fieldset class="plain">
        <legend>Which exam?</legend>
        <v-skeleton-loader v-if="!ready" type="list-item@4" />
        <v-radio-group v-else v-model="chosen" hide-details density="compact">
          <v-radio v-for="exam in newest" :key="exam.id" :value="exam.id" :label="exam.title" />
          <v-radio v-for="sample in unusedSamples" :key="sample.id" :value="sample.id">
            <template #label
              ><span
                >{{ sample.title }} <span class="soft small">a sample that ships with Climber</span></span
              ></template
            >
          </v-radio>
          <v-radio :value="another">
            <template #label
              ><span
                >Another <span class="soft small">described here from its page, in five minutes</span></span
              ></template
            >
          </v-radio>
        </v-radio-group>
      </fieldset>
      <DescribeExam v-if="chosen === another" :description="description" :today="session.moment(zone).date" />
      <template v-if="ready">
        <div class="row">
          <v-btn type="submit" size="default" class="main" :loading="busy" :disabled="!chosen">Begin</v-btn>
        </div>
        <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
        <hr class="rule" />
        <h2>Or bring a Climber file</h2>
        <p class="soft">An exam format to choose above, or a whole plan from another server.</p>
        <FileField label="Climber file" accept=".json,application/json" @chosen="bring" />
        <FileProblems :problems="problems" />
      </template>
    </form>
  </PageFrame>
</template>

<style scoped>
.form {
  max-width: 640px;
  gap: 18px;
}
.plain {
  border: 0;
  padding: 0;
  margin: 0;
}
legend {
  font-weight: 600;
  margin-bottom: 6px;
}
</style>
