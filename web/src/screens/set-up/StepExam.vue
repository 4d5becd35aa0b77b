<script setup lang="ts">
import { useWorkspace } from '../../stores/workspace'
import ExamFacts from '../../widgets/ExamFacts.vue'

const workspace = useWorkspace()
</script>

<template>
  <div class="stack">
    <h2>{{ workspace.exam?.title }}</h2>
    <ExamFacts v-if="workspace.exam" :exam="workspace.exam" />
    <v-text-field
      :model-value="workspace.saves!.candidate.state.document.name"
      label="Candidate's name"
      :error-messages="
        workspace
          .saves!.candidate.state.problems.filter((one) => one.field === 'name')
          .map((one) => one.message)
      "
      @update:model-value="
        (name: string) => workspace.saves!.candidate.edit((candidate) => (candidate.name = name))
      "
    />
    <v-textarea
      :model-value="workspace.saves!.candidate.state.document.note"
      label="Note: what to keep in mind"
      rows="2"
      @update:model-value="
        (note: string) => workspace.saves!.candidate.edit((candidate) => (candidate.note = note))
      "
    />
  </div>
</template>
