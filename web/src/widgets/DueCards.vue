<script setup lang="ts">
import { shallowRef, watch } from 'vue'
import type { RecallView } from '@climber/core'
import { newestOnly } from '../manners/newest'
import { durationWords } from '../manners/words'
import { useRecall } from '../stores/recall'
import { useWorkspace } from '../stores/workspace'

/** What is due from memory today, and the way there; nothing where there are no cards. */
const workspace = useWorkspace()
const recall = useRecall()
const view = shallowRef<RecallView>()
const look = newestOnly(async () => {
  view.value = await recall.ask('view')
})
watch(
  () => workspace.candidate?.id,
  () => void recall.load(),
  { immediate: true },
)
watch([() => recall.deck, () => workspace.today], () => void look(), { immediate: true })
const minutesOf = ({ queue, fits }: RecallView): number =>
  Math.max(1, Math.round(queue.slice(0, fits).reduce((sum, { seconds }) => sum + seconds, 0) / 60))
</script>

<template>
  <p v-if="!view" class="small">&nbsp;</p>
  <p v-else-if="view.fits" class="small">
    <router-link :to="{ name: 'recall', params: { candidateId: workspace.candidate!.id } }"
      >{{ view.fits }} due from memory</router-link
    >, {{ durationWords(minutesOf(view)) }}.
  </p>
  <p v-else-if="view.done.answers" class="small soft">Nothing more is due from memory today.</p>
</template>
