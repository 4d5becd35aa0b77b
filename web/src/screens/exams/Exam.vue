<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { StoredExam } from '@climber/contract'
import type { ApiFailure } from '../../api'
import { outbox } from '../../outbox/here'
import { askKept } from '../../outbox/kept'
import PageFrame from '../../widgets/PageFrame.vue'
import ExamEditor from './ExamEditor.vue'

const route = useRoute()
const exam = ref<StoredExam>()
const problem = ref('')
async function load(): Promise<void> {
  exam.value = undefined
  problem.value = ''
  try {
    const examId = String(route.params.examId)
    exam.value = (await askKept(outbox(), 'readExam', { examId })).answer
    document.title = `${exam.value.format.title} · Climber`
  } catch (error) {
    problem.value = (error as ApiFailure).message
  }
}
onMounted(load)
watch(
  () => route.params.examId,
  (id) => id && id !== exam.value?.id && void load(),
)
</script>

<template>
  <ExamEditor v-if="exam" :key="exam.id" :exam="exam" />
  <PageFrame v-else title="Exam format">
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <v-skeleton-loader v-else type="heading, list-item@6" />
  </PageFrame>
</template>
