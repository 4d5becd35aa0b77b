<script setup lang="ts">
import { onMounted, ref } from 'vue'
import type { ExamRow } from '@climber/contract'
import { type ApiFailure, call } from '../../api'
import { importExam, readClimberFile } from '../../stores/files'
import type { Problem } from '../../stores/autosave'
import FileProblems from '../../widgets/FileProblems.vue'
import PageFrame from '../../widgets/PageFrame.vue'

const exams = ref<ExamRow[]>()
const problems = ref<Problem[]>([])
const problem = ref('')
async function load(): Promise<void> {
  try {
    exams.value = await call('listExams', {})
  } catch (error) {
    problem.value = (error as ApiFailure).message
  }
}
onMounted(() => {
  document.title = 'Exam formats · Climber'
  void load()
})
async function bring(event: Event): Promise<void> {
  const [file] = (event.target as HTMLInputElement).files ?? []
  if (!file) return
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
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <v-skeleton-loader v-if="!exams && !problem" type="list-item@3" />
    <p v-else-if="exams && !exams.length">
      None yet. Bring one as a Climber file, or take the sample when you make a new plan.
    </p>
    <table v-else-if="exams" class="lines">
      <thead>
        <tr>
          <th>Exam</th>
          <th>Field</th>
          <th class="n">Candidates</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="exam in exams" :key="exam.id">
          <td>
            <router-link :to="{ name: 'exam', params: { examId: exam.id } }">{{ exam.title }}</router-link>
          </td>
          <td>{{ exam.field }}</td>
          <td class="n">{{ exam.candidates }}</td>
        </tr>
      </tbody>
    </table>
    <h2 class="mt-4">Bring a Climber file</h2>
    <input type="file" accept=".json,application/json" aria-label="Climber file" @change="bring" />
    <FileProblems :problems="problems" />
  </PageFrame>
</template>
