<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import type { AgainView } from '@climber/core'
import { newestOnly } from '../../manners/newest'
import { useWorkspace } from '../../stores/workspace'
import SortHead from '../../kit/SortHead.vue'
import { sorted } from '../../kit/sorting'

/** What was missed and not right since: due now, and by topic as short sets. */
const workspace = useWorkspace()
const view = shallowRef<AgainView>()
const look = newestOnly(async () => void (view.value = await workspace.ask('againView')))
watch(
  () => workspace.record,
  () => void look(),
  { immediate: true },
)
const titles = computed(() => new Map(workspace.exam!.topics.map(({ id, title }) => [id, title])))
const { rows, head } = sorted(() => view.value?.topics ?? [], {
  title: (line) => titles.value.get(line.topic ?? '') ?? 'No topic',
  due: (line) => line.due,
  waiting: (line) => line.waiting,
})
const params = computed(() => ({ candidateId: workspace.candidate!.id }))
</script>

<template>
  <section class="stack" aria-label="Try again">
    <v-skeleton-loader v-if="!view" type="list-item@4" />
    <p v-else-if="!view.waiting" class="soft">
      Each miss that a review is done with comes back here a week later, and from then on with your cards in
      Recall.
    </p>
    <template v-else>
      <div class="row">
        <p>
          <strong>{{ view.due }}</strong> of {{ view.waiting }} missed items are due.
          <template v-if="view.queued">
            {{ view.queued }} of them, tried again before, {{ view.queued === 1 ? 'comes' : 'come' }} with
            your cards in <router-link :to="{ name: 'recall', params }">Recall</router-link>.</template
          >
        </p>
        <v-btn v-if="view.due" class="main" :to="{ name: 'review-again', params }"
          >Try {{ Math.min(view.due, view.items.length) }} now</v-btn
        >
      </div>
      <table class="lines topics">
        <thead>
          <tr>
            <SortHead :head="head" by="title">Topic</SortHead>
            <SortHead class="n" :head="head" by="due">Due</SortHead>
            <SortHead class="n" :head="head" by="waiting">Missed, not right since</SortHead>
            <th><span class="only-reader">As a set</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="line in rows" :key="line.topic">
            <th scope="row">{{ titles.get(line.topic) ?? 'No topic' }}</th>
            <td class="n">{{ line.due || '' }}</td>
            <td class="n">{{ line.waiting }}</td>
            <td>
              <v-btn
                v-if="line.topic"
                :to="{ name: 'review-again', params, query: { topic: line.topic } }"
                :aria-label="`All of ${titles.get(line.topic)} as a set`"
                >As a set</v-btn
              >
            </td>
          </tr>
        </tbody>
      </table>
    </template>
  </section>
</template>

<style scoped>
.topics {
  max-width: 760px;
}
.topics th[scope='row'] {
  color: var(--ink);
}
</style>
