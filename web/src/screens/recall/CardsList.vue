<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Card, StoredCard } from '@climber/contract'
import { asAdded, dayNumber, type RecallView, writeCards } from '@climber/core'
import ChoiceField from '../../kit/ChoiceField.vue'
import DataTable from '../../kit/DataTable.vue'
import TextField from '../../kit/TextField.vue'
import { useDeedKeys } from '../../manners/deedKeys'
import { download, fileName } from '../../manners/download'
import { dateWords } from '../../manners/words'
import { useRecall } from '../../stores/recall'
import { useWorkspace } from '../../stores/workspace'
import FormText from '../../widgets/FormText.vue'
import CardEditor from './CardEditor.vue'
import CardTable from './CardTable.vue'
import { backOf, frontOf, kindTitles } from './sayings'

/** All cards: found by their words, topic and kind; written one at a time, or as a table. */
const props = defineProps<{ view: RecallView }>()
const workspace = useWorkspace()
const recall = useRecall()
const route = useRoute()
const router = useRouter()
/** Rows that are drawn; of more, whoever looks narrows the search. */
const mostShown = 200

const words = ref('')
const kind = ref<Card['kind'] | ''>('')
const topic = computed({
  get: () => String(route.query.topic ?? ''),
  set: (wanted) => void router.replace({ query: { part: 'cards', ...(wanted && { topic: wanted }) } }),
})
const open = computed(() => String(route.query.card ?? ''))
const edited = computed(() => recall.cards.get(open.value))
const reading = ref(false)
const titles = computed(() => new Map(workspace.exam!.topics.map(({ id, title }) => [id, title])))
const topics = computed(() => [
  { value: '', title: 'Every topic' },
  ...workspace.exam!.topics.map(({ id, title }) => ({ value: id, title })),
  { value: '-', title: 'No topic' },
])
const kinds = [
  { value: '' as const, title: 'Every kind' },
  ...Object.entries(kindTitles).map(([value, title]) => ({ value: value as Card['kind'], title })),
]
const textOf = (card: Card): string =>
  (card.kind === 'numbers'
    ? `${card.question.text} ${card.question.formula}`
    : card.kind === 'place'
      ? `${card.front} ${card.section} ${card.exact ?? ''}`
      : `${card.front} ${card.back}`
  ).toLowerCase()
const due = computed(() => new Set(props.view.queue.map(({ card }) => card)))
const lapsed = computed(() => new Map(props.view.leeches.map(({ card, lapses }) => [card, lapses])))
function stateOf(card: StoredCard): string {
  if (card.suspended) return 'not asked'
  if (lapsed.value.has(card.id)) return 'does not stay'
  if ((card.rests ?? '') > workspace.today) return `rests until ${dateWords(card.rests!, workspace.today)}`
  const last = recall.histories.get(card.id)?.answers.at(-1)
  if (!last) return 'new'
  const ago = dayNumber(workspace.today) - last[0]
  return `${due.value.has(card.id) ? 'due; ' : ''}${ago === 0 ? 'today' : ago === 1 ? 'yesterday' : `${ago} days ago`}`
}
const all = computed(() => [...recall.cards.values()].sort(asAdded))
const matching = computed(() => {
  const wanted = words.value.trim().toLowerCase()
  return all.value.filter(
    (card) =>
      (!kind.value || card.kind === kind.value) &&
      (!topic.value || (card.topic ?? '-') === topic.value) &&
      (!wanted || textOf(card).includes(wanted)),
  )
})
const rows = computed(() =>
  matching.value.slice(0, mostShown).map((card) => ({
    id: card.id,
    kind: kindTitles[card.kind],
    front: frontOf(card),
    back: backOf(card),
    topic: titles.value.get(card.topic ?? '') ?? '',
    state: stateOf(card),
  })),
)
const columns = [
  { key: 'front', title: 'Asked' },
  { key: 'back', title: 'Answer' },
  { key: 'topic', title: 'Topic' },
  { key: 'kind', title: 'Kind' },
  { key: 'state', title: 'Last' },
]
const show = (card?: string): void =>
  void router.replace({
    query: { part: 'cards', ...(topic.value && { topic: topic.value }), ...(card && { card }) },
  })
const isNew = computed(() => open.value === 'new')
watch(open, (now) => now && (reading.value = false))
function save(): void {
  const text = writeCards(workspace.exam!, all.value)
  download(`${fileName(workspace.name)}-cards.csv`, 'text/csv', text)
}
const numbered = computed(() => matching.value.filter((card) => card.kind === 'numbers').length)
useDeedKeys(({ key }) =>
  key === 'n' && recall.mayWork && !open.value && !reading.value ? () => show('new') : undefined,
)
</script>

<template>
  <div class="stack">
    <CardEditor
      v-if="(isNew || edited) && recall.mayWork"
      :key="open"
      :card="edited"
      :topic="topic === '-' ? undefined : topic"
      :lapses="lapsed.get(open)"
      @done="show()"
      @next="show('new')"
    />
    <CardTable v-if="reading" @done="reading = false" />
    <div v-if="!isNew && !edited && !reading" class="row">
      <v-btn v-if="recall.mayWork" class="main" @click="show('new')">New card</v-btn>
      <v-btn v-if="recall.mayWork" @click="reading = true">Paste or read a table</v-btn>
      <v-btn :disabled="!recall.cards.size" @click="save">Save them as a table</v-btn>
      <v-btn
        v-if="numbered"
        :to="{
          name: 'recall-print',
          params: { candidateId: workspace.candidate!.id },
          query: topic && topic !== '-' ? { topic } : {},
        }"
        >Print ten with other numbers</v-btn
      >
    </div>
    <div v-if="recall.cards.size" class="finding">
      <TextField v-model="words" label="Find" />
      <ChoiceField v-model="topic" label="Of topic" :options="topics" />
      <ChoiceField v-model="kind" label="Of kind" :options="kinds" />
    </div>
    <p v-if="recall.cards.size" class="small soft" data-testid="found">
      {{ matching.length }} of {{ recall.cards.size
      }}<template v-if="view.suspended">; {{ view.suspended }} not asked</template
      ><template v-if="matching.length > mostShown">; the first {{ mostShown }} are listed</template>
    </p>
    <DataTable
      v-if="recall.cards.size"
      id="id"
      label="Cards"
      :columns="columns"
      :rows="rows"
      none="No card is like that."
    >
      <template #back="{ row }"><FormText :text="row.back" within /></template>
      <template #front="{ row }">
        <button type="button" class="link" @click="show(row.id)">{{ row.front }}</button>
      </template>
    </DataTable>
    <p v-else-if="!isNew && !reading" class="soft">
      No cards yet. Write them one at a time, or paste two columns from anywhere.
    </p>
  </div>
</template>

<style scoped>
.link {
  text-align: inherit;
}
.finding {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 1fr) minmax(0, 1fr);
  gap: 8px;
  max-width: 760px;
  margin-top: 8px;
}
@media (max-width: 700px) {
  .finding {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
