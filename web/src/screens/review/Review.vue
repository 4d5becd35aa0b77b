<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Notebook } from '@climber/core'
import EmptyState from '../../kit/EmptyState.vue'
import TabRow from '../../kit/TabRow.vue'
import { newestOnly } from '../../manners/newest'
import { useWorkspace } from '../../stores/workspace'
import CausesOver from './CausesOver.vue'
import MissedTopics from './MissedTopics.vue'
import NotebookList from './NotebookList.vue'
import ReviewRows from './ReviewRows.vue'
import ReviewTest from './ReviewTest.vue'

/** Reviews: what there is to review, the notebook, and what the causes come to over tests. */
const tabs = [
  { value: 'tests', title: 'To review' },
  { value: 'again', title: 'Try again' },
  { value: 'notebook', title: 'Notebook' },
  { value: 'causes', title: 'Causes over tests' },
] as const
type Tab = (typeof tabs)[number]['value']
const workspace = useWorkspace()
const route = useRoute()
const router = useRouter()
const attempt = computed(() => String(route.params.attemptId ?? ''))
const tab = computed<Tab>({
  get: () => tabs.find(({ value }) => value === route.query.part)?.value ?? 'tests',
  set: (part) => void router.replace({ query: part === 'tests' ? {} : { part } }),
})
const notes = shallowRef<Notebook>()
const look = newestOnly(async () => {
  if (!attempt.value) notes.value = await workspace.ask('notebook')
})
watch([attempt, () => workspace.record], () => void look(), { immediate: true })
const candidateId = computed(() => workspace.candidate!.id)
</script>

<template>
  <ReviewTest v-if="attempt" :key="attempt" :attempt="attempt" />
  <div v-else class="sheet stack">
    <h1 class="only-reader">Review</h1>
    <v-skeleton-loader v-if="!notes" type="list-item@6" />
    <EmptyState
      v-else-if="!notes.rows.length"
      title="Nothing to review yet"
      text="After a test come the hours that pay most: each miss tried again without the clock, its cause named, and the work it asks for put into the plan."
    >
      <v-btn class="main" :to="{ name: 'sit', params: { candidateId } }">Sit a test</v-btn>
    </EmptyState>
    <template v-else>
      <TabRow v-model="tab" label="Reviews" :tabs="tabs" />
      <ReviewRows v-if="tab === 'tests'" :rows="notes.rows" />
      <MissedTopics v-else-if="tab === 'again'" />
      <NotebookList v-else-if="tab === 'notebook'" :noted="notes.noted" />
      <CausesOver v-else :notes="notes" />
    </template>
  </div>
</template>
