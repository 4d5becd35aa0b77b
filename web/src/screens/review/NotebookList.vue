<script setup lang="ts">
import { computed, ref } from 'vue'
import { causesFor, causeTitle, chosenWays, type Notebook, reworkedRight, writeCauses } from '@climber/core'
import ChoiceField from '../../kit/ChoiceField.vue'
import TextField from '../../kit/TextField.vue'
import { download } from '../../manners/download'
import { dateWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import { againWords, bothTimes, notesFound } from './sayings'

/** The notebook: every item that was noted, to be searched, printed and taken along. */
const props = defineProps<{ noted: Notebook['noted'] }>()
const workspace = useWorkspace()
const search = ref('')
const cause = ref('')
const way = computed(() => chosenWays(workspace.record!.settings).mistakes)
const titles = computed(() => new Map(workspace.exam!.topics.map(({ id, title }) => [id, title])))
const causes = computed(() => [
  { value: '', title: 'Every cause' },
  ...causesFor(way.value, { outcome: 'right' }).map((one) => ({
    value: one as string,
    title: causeTitle(one, way.value),
  })),
])
const found = computed(() =>
  notesFound(props.noted, { words: search.value, cause: cause.value }, titles.value, way.value).map(
    (one) => ({
      one,
      topic: titles.value.get(one.topic ?? '') ?? 'No topic',
      named: one.note?.cause && causeTitle(one.note.cause, way.value),
    }),
  ),
)
/** A long notebook is shown a piece at a time. */
const most = ref(100)
const save = (): void =>
  download(
    'notebook.csv',
    'text/csv',
    writeCauses(
      workspace.exam!,
      found.value.map(({ one }) => one),
    ),
  )
const day = (date: string) => dateWords(date, workspace.today)
const candidateId = computed(() => workspace.candidate!.id)
</script>

<template>
  <section class="stack" aria-label="Notebook">
    <div class="fields">
      <TextField v-model="search" class="search" label="Search" hint="topics, causes, your own words" />
      <ChoiceField v-model="cause" class="cause" label="Cause" :options="causes" />
      <span class="row tools">
        <v-btn :to="{ name: 'review-notebook', params: { candidateId }, query: { words: search, cause } }"
          >Print</v-btn
        >
        <v-btn :disabled="!found.length" @click="save">CSV</v-btn>
      </span>
    </div>
    <p v-if="!noted.length" class="soft">What you write down in reviews is kept here, to be found again.</p>
    <p v-else class="small soft" role="status">{{ found.length }} of {{ noted.length }} items.</p>
    <ol class="entries">
      <li v-for="{ one, topic, named } in found.slice(0, most)" :key="`${one.attempt} ${one.item}`">
        <router-link
          class="item"
          :to="{ name: 'review', params: { candidateId, attemptId: one.attempt }, query: { item: one.item } }"
          >{{ one.title }}, {{ one.item }}</router-link
        >
        <span
          ><strong>{{ topic }}</strong
          ><template v-if="named">: {{ named }}</template></span
        >
        <span class="small soft"
          >{{ one.answer || 'no answer' }}, key {{ one.key || 'not known' }}.
          {{ bothTimes(one, reworkedRight(one, one.note?.rework)) }}
          {{ againWords(one, day) }}</span
        >
        <span v-if="one.note?.next" class="next">Next time I {{ one.note.next }}</span>
        <span v-if="one.note?.text">{{ one.note.text }}</span>
      </li>
    </ol>
    <div v-if="found.length > most"><v-btn @click="most += 200">Show more</v-btn></div>
  </section>
</template>

<style scoped>
.search {
  width: min(420px, 100%);
}
.cause {
  width: min(280px, 100%);
}
.entries {
  list-style: none;
  margin: 0;
  padding: 0;
}
.entries li {
  display: grid;
  grid-template-columns: 190px minmax(0, 1fr);
  gap: 0 16px;
  padding: 6px 0;
  border-top: 1px solid var(--hair);
}
.entries li > * {
  grid-column: 2;
}
.entries li > .item {
  grid-column: 1;
  grid-row: 1 / span 4;
}
.next {
  border-left: 3px solid var(--ochre);
  padding-left: 8px;
}
@media (max-width: 700px) {
  .entries li {
    grid-template-columns: minmax(0, 1fr);
  }
  .entries li > *,
  .entries li > .item {
    grid-column: 1;
    grid-row: auto;
  }
}
</style>
