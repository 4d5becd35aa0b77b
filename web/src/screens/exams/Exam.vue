<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import { climberFileVersion, type ExamFormat } from '@climber/contract'
import { type ApiFailure, call } from '../../api'
import { download, fileName } from '../../manners/download'
import { dateWords } from '../../manners/words'
import ExamDrawing from '../../widgets/ExamDrawing.vue'
import PageFrame from '../../widgets/PageFrame.vue'

const route = useRoute()
const format = ref<ExamFormat>()
const problem = ref('')
onMounted(async () => {
  try {
    format.value = (await call('readExam', { examId: String(route.params.examId) })).format
    document.title = `${format.value.title} · Climber`
  } catch (error) {
    problem.value = (error as ApiFailure).message
  }
})
const take = () =>
  format.value &&
  download(
    `${fileName(format.value.title)}.climber.json`,
    'application/json',
    `${JSON.stringify({ climber: climberFileVersion, exam: format.value }, null, 2)}\n`,
  )
</script>

<template>
  <PageFrame :title="format?.title ?? 'Exam format'">
    <template #actions><v-btn v-if="format" @click="take">As a Climber file</v-btn></template>
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <template v-else-if="format">
      <p class="soft">{{ format.about }}</p>
      <ExamDrawing :exam="format" />
      <h2 class="mt-3">Sittings</h2>
      <div class="scroll">
        <table class="lines">
          <tbody>
            <tr v-for="sitting in format.sittings" :key="sitting.id">
              <td>{{ dateWords(sitting.date) }} {{ sitting.date.slice(0, 4) }}</td>
              <td>{{ sitting.start }}</td>
              <td>{{ sitting.place }}</td>
              <td>{{ sitting.registerBy ? `register by ${dateWords(sitting.registerBy)}` : '' }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <h2 class="mt-3">Papers</h2>
      <p>
        {{ format.forms.filter((form) => form.source === 'publisher').length }} of the publisher's,
        {{ format.forms.filter((form) => form.source === 'other').length }} by other makers;
        {{ format.forms.filter((form) => Object.keys(form.conversions).length).length }} with a conversion
        table of their own.
      </p>
      <p v-if="format.retake" class="soft">
        Again after {{ format.retake.waitDays }} days at the earliest<template v-if="format.retake.perYear"
          >, {{ format.retake.perYear }} times a year at most</template
        >.
      </p>
    </template>
    <v-skeleton-loader v-else type="heading, list-item@6" />
  </PageFrame>
</template>
