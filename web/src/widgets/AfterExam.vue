<script setup lang="ts">
import { computed } from 'vue'
import { dateWords, distanceWords } from '../manners/words'
import { useWorkspace } from '../stores/workspace'

/** What there is to say once the exam is over: nothing of days that are left. */
const workspace = useWorkspace()
const next = computed(
  () =>
    [...workspace.exam!.sittings]
      .filter(({ date }) => date > workspace.today)
      .sort((a, b) => a.date.localeCompare(b.date))[0],
)
</script>

<template>
  <p v-if="workspace.sitting" data-testid="after-exam">
    The exam was on <strong>{{ dateWords(workspace.sitting.date, workspace.today) }}</strong>,
    {{ distanceWords(workspace.sitting.date, workspace.today) }}.
    <template v-if="next"
      >To sit it again on {{ dateWords(next.date, workspace.today) }} or later,
      <router-link
        :to="{ name: 'set-up', params: { candidateId: workspace.candidate!.id }, query: { step: 'target' } }"
        >choose that sitting</router-link
      >, and make a plan for it.</template
    >
    <template v-else>The exam format names no later sitting.</template>
  </p>
</template>
