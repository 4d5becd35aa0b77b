<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import EmptyState from '../../kit/EmptyState.vue'
import { dateWords, durationWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import AskedHead from '../../widgets/AskedHead.vue'
import { useAgain, useFixed } from './again'
import MissedAsked from './MissedAsked.vue'

/** A retest: what was missed once more, one item at a time, without a clock; each answer is judged as it is given. */
const workspace = useWorkspace()
const route = useRoute()
const session = computed(() => workspace.plan?.sessions.find(({ id }) => id === route.query.session))
const topic = computed(() => (route.query.topic ? String(route.query.topic) : undefined))
const view = useFixed(() =>
  workspace.ask('againView', {
    ...(route.query.session && { session: String(route.query.session) }),
    ...(topic.value && { topic: topic.value }),
  }),
)
const items = computed(() => view.value?.items ?? [])
const again = useAgain(items, () => ({ of: view.value?.of, session: session.value?.id, topic: topic.value }))
const { at, item, own, tried } = again
const titles = computed(() => new Map(workspace.exam!.topics.map(({ id, title }) => [id, title])))
const topicTitle = computed(() => titles.value.get(item.value?.topic ?? '') ?? 'No topic')
const right = computed(() => [...tried.values()].filter((one) => one.right).length)
const seconds = computed(() => [...tried.values()].reduce((sum, one) => sum + one.seconds, 0))
const minutes = computed(() => Math.max(1, Math.round(seconds.value / 60)))
const over = computed(() => Boolean(view.value) && at.value >= items.value.length)
const missed = computed(() =>
  [...tried].filter(([, one]) => !one.right).map(([place_]) => items.value[place_]!),
)
const candidateId = computed(() => workspace.candidate!.id)
async function done(): Promise<void> {
  if (session.value)
    await workspace.saveSession(session.value, { status: 'done', minutesDone: minutes.value })
}
</script>

<template>
  <div class="sheet stack again">
    <h1 class="only-reader">Try again what was missed</h1>
    <p class="only-reader" role="status" aria-live="polite">
      <template v-if="own">{{
        own.right ? 'Right now. ' : `Missed again, the key is ${item?.key}. `
      }}</template><template v-if="item">Item {{ at + 1 }} of {{ items.length }}</template>
    </p>
    <v-skeleton-loader v-if="!view" type="list-item@6" />
    <EmptyState
      v-else-if="!items.length"
      title="Nothing is to be tried again"
      text="What a review is done with comes back a week later, and from then on with your cards in Recall."
    >
      <v-btn class="main" :to="{ name: 'review', params: { candidateId } }">Reviews</v-btn>
    </EmptyState>
    <section v-else-if="over" class="stack" aria-label="How it went">
      <h2>{{ right }} of {{ tried.size }} right now</h2>
      <p v-if="missed.length">
        Missed again: {{ missed.map((one) => `${one.item} of ${one.title}`).join(', ') }}. They come back in
        recall, soon.
      </p>
      <p v-else>What was missed has stayed.</p>
      <p class="small soft">
        It tells of the topics: what you know of them, and the forecast, moved with it. From now on these
        items come with your cards under
        <router-link :to="{ name: 'recall', params: { candidateId } }">Recall</router-link>, each later the
        better it stays.
      </p>
      <div class="row">
        <v-btn v-if="session && session.status !== 'done'" class="main" @click="done"
          >The retest is done, {{ durationWords(minutes) }}</v-btn
        >
        <span v-else-if="session" class="good"
          >Done, {{ durationWords(session.minutesDone ?? minutes) }}.</span
        >
        <v-btn v-if="missed.length" :to="{ name: 'review', params: { candidateId, attemptId: again.id } }"
          >Review what was missed again</v-btn
        >
        <v-btn :to="{ name: 'review', params: { candidateId }, query: { part: 'again' } }"
          >What is left</v-btn
        >
      </div>
    </section>
    <article v-else-if="item" class="work stack" :aria-label="`Item ${at + 1} of ${items.length}`">
      <AskedHead :number="at + 1" :of="items.length" :title="topicTitle"
        >item {{ item.item }} of {{ item.title
        }}<template v-if="item.date">, {{ dateWords(item.date, workspace.today) }}</template
        ><template v-if="item.misses > 1">; missed {{ item.misses }} times</template></AskedHead
      >
      <MissedAsked :key="at" :item="item" @took="again.took" @on="again.on()" />
    </article>
  </div>
</template>
