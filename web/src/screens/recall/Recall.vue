<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { RecallView } from '@climber/core'
import EmptyState from '../../kit/EmptyState.vue'
import TabRow from '../../kit/TabRow.vue'
import { newestOnly } from '../../manners/newest'
import { useRecall } from '../../stores/recall'
import { useWorkspace } from '../../stores/workspace'
import Asking from './Asking.vue'
import CardsList from './CardsList.vue'
import Due from './Due.vue'
import Season from './Season.vue'

/** What must come back from memory: what is due, what each day will bring, and the cards themselves. */
const tabs = [
  { value: 'due', title: 'Due' },
  { value: 'season', title: 'Until the exam' },
  { value: 'cards', title: 'Cards' },
] as const
type Tab = (typeof tabs)[number]['value']
const workspace = useWorkspace()
const recall = useRecall()
const route = useRoute()
const router = useRouter()
const tab = computed<Tab>({
  get: () => tabs.find(({ value }) => value === route.query.part)?.value ?? 'due',
  set: (part) => void router.replace({ query: part === 'due' ? {} : { part } }),
})
const minutes = computed(() => Math.min(180, Math.max(0, Number(route.query.minutes) || 0)))
const session = computed(() => (route.query.session ? String(route.query.session) : undefined))

watch(
  () => workspace.candidate?.id,
  () => void recall.load(),
  { immediate: true },
)
const view = shallowRef<RecallView>()
/** What was due when the session began: what is answered meanwhile is no longer due. */
const begun = shallowRef<RecallView>()
const look = newestOnly(async () => {
  // While one is asked, nothing else on the screen tells of the deck.
  if (begun.value) return
  const start = performance.now()
  view.value = await recall.ask('view')
  // docs/measurements.md quotes it.
  performance.measure('climber.due', { start })
  if (minutes.value) begun.value = view.value
})
watch(
  [() => recall.deck, () => workspace.record, () => workspace.today, minutes],
  () => {
    if (!minutes.value) begun.value = undefined
    void look()
  },
  { immediate: true },
)
const go = (wanted: number): void =>
  void router.push({ query: { minutes: wanted, ...(session.value && { session: session.value }) } })
const over = (): void => void router.replace({ query: {} })
</script>

<template>
  <div class="sheet stack">
    <h1 class="only-reader">Recall</h1>
    <p v-if="recall.failed" class="bad" role="alert">{{ recall.failed }}</p>
    <v-skeleton-loader v-else-if="!view || (minutes && !begun)" type="heading, list-item@5" />
    <Asking
      v-else-if="begun?.cards && minutes && recall.mayWork"
      :key="minutes"
      :view="begun"
      :minutes="minutes"
      :session="session"
      @over="over"
    />
    <template v-else>
      <TabRow v-model="tab" label="Recall" :tabs="tabs" />
      <EmptyState
        v-if="!view.cards && tab !== 'cards'"
        title="Nothing to bring back yet"
        text="Formulas and terms, places in the open book, and questions whose numbers change: each comes back until it stays, and as much as possible of it on the exam day."
      >
        <v-btn class="main" @click="tab = 'cards'">Write the first card</v-btn>
      </EmptyState>
      <Due v-else-if="tab === 'due'" :view="view" @go="go" />
      <Season v-else-if="tab === 'season'" :view="view" />
      <CardsList v-else :view="view" />
    </template>
  </div>
</template>
