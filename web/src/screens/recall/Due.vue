<script setup lang="ts">
import { computed } from 'vue'
import type { RouteLocationRaw } from 'vue-router'
import type { RecallView } from '@climber/core'
import DataTable from '../../kit/DataTable.vue'
import { durationWords, percentWords } from '../../manners/words'
import { useRecall } from '../../stores/recall'
import { useWorkspace } from '../../stores/workspace'
import { frontOf } from './sayings'

/** What is due today, sessions of a few lengths, and how the deck stands by topic. */
const props = defineProps<{ view: RecallView }>()
const emit = defineEmits<{ go: [minutes: number] }>()
const workspace = useWorkspace()
const recall = useRecall()
const lengths = [3, 5, 10, 15, 50]
const titles = computed(() => new Map(workspace.exam!.topics.map(({ id, title }) => [id, title])))
const fresh = computed(() => props.view.queue.filter(({ isNew }) => isNew).length)
const again = computed(() => props.view.queue.length - fresh.value)
const seconds = computed(() => props.view.queue.reduce((sum, one) => sum + one.seconds, 0))
const doneMinutes = computed(() => Math.round(props.view.done.seconds / 60))
const rest = computed(() => props.view.queue.length - props.view.fits)
const many = (count: number, one: string, more: string): string => `${count} ${count === 1 ? one : more}`
const topics = computed(() =>
  props.view.topics.map((one) => ({
    ...one,
    id: one.topic ?? '',
    title: titles.value.get(one.topic ?? '') ?? 'No topic',
  })),
)
const columns = [
  { key: 'title', title: 'Topic' },
  { key: 'cards', title: 'All', figure: true },
  { key: 'begun', title: 'Begun', figure: true },
  { key: 'due', title: 'Due', figure: true },
  { key: 'today', title: 'Would come back today', figure: true },
]
const missed = computed(() => props.view.queue.filter(({ card }) => props.view.items[card]).length)
/** What does not stay, with the way to look at it anew: a card where it is mended, a missed item in its review. */
interface NotStaying {
  id: string
  lapses: number
  front: string
  to: RouteLocationRaw
}
const leeches = computed(() =>
  props.view.leeches.flatMap(({ card: id, lapses }): NotStaying[] => {
    const item = props.view.items[id]
    if (item) {
      const { attempt, item: number, title } = item
      const to = { name: 'review', params: { attemptId: attempt }, query: { item: number } }
      return [{ id, lapses, front: `Item ${number} of ${title}`, to }]
    }
    const card = recall.cards.get(id)
    return card ? [{ id, lapses, front: frontOf(card), to: { query: { part: 'cards', card: id } } }] : []
  }),
)
</script>

<template>
  <div class="stack">
    <section class="stack" aria-label="Due today">
      <p class="large title" data-testid="due">
        <template v-if="view.queue.length"
          >{{ view.queue.length }} due, about
          {{ durationWords(Math.max(1, Math.round(seconds / 60))) }}</template
        >
        <template v-else>Nothing is due now</template>
      </p>
      <p v-if="view.queue.length">
        <template v-if="again"
          >{{ many(again, 'comes', 'come') }} again<template v-if="missed"
            >, {{ missed }} of them {{ missed === 1 ? 'an item' : 'items' }} that you missed</template
          ><template v-if="fresh">; </template></template
        ><template v-if="fresh">{{ many(fresh, 'is', 'are') }} new</template>.
        <template v-if="rest > 0">
          {{ view.fits }} fit into the {{ view.minutes }} minutes of today<template v-if="doneMinutes"
            >, of which {{ doneMinutes }} are used</template
          >; the other {{ rest }} are spread over the days to come.</template
        >
      </p>
      <p v-else-if="view.left === undefined || view.left > 0">
        What was begun is still there. More comes tomorrow.
      </p>
      <p v-else>The exam is here; nothing is asked any more.</p>
      <p v-if="view.done.answers" class="small soft">
        Today {{ many(view.done.answers, 'answer', 'answers') }} in
        {{ durationWords(Math.max(1, doneMinutes)) }}.
      </p>
      <div v-if="view.queue.length && recall.mayWork" class="row" role="group" aria-label="Begin">
        <v-btn
          v-for="length in lengths"
          :key="length"
          size="default"
          :class="{ main: length === 10 }"
          @click="emit('go', length)"
          >{{ length }} min</v-btn
        >
      </div>
    </section>
    <section v-if="leeches.length" class="stack part" aria-label="These do not stay">
      <h2>These do not stay</h2>
      <p class="small soft">
        Forgotten six times and more. One more answer will not help: see why, split it, or write it otherwise.
      </p>
      <ul class="plain">
        <li v-for="one in leeches" :key="one.id">
          <router-link :to="one.to">{{ one.front }}</router-link><span class="small soft"
            >, forgotten {{ one.lapses }} times</span
          >
        </li>
      </ul>
    </section>
    <section class="stack part" aria-label="By topic">
      <h2>By topic</h2>
      <DataTable id="id" label="Cards by topic" :columns="columns" :rows="topics">
        <template #title="{ row }">
          <router-link :to="{ query: { part: 'cards', topic: row.id || '-' } }">{{ row.title }}</router-link>
        </template>
        <template #today="{ row }"
          ><template v-if="row.begun"
            >{{ row.today.toFixed(0) }} ({{ percentWords(row.today / row.begun) }})</template
          ><template v-else>–</template></template
        >
      </DataTable>
      <p v-if="view.begun" class="small soft">
        Of {{ view.begun }} begun, {{ view.today.toFixed(0) }} would come back today.
      </p>
    </section>
  </div>
</template>

<style scoped>
.part {
  padding-top: 14px;
}
.title {
  font-size: 28px;
}
.plain {
  margin: 0;
  padding-left: 18px;
}
</style>
