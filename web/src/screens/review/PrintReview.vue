<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import { causesFor, causeTitle, chosenWays, type Notebook, placesOf, type ReviewView } from '@climber/core'
import { dateWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import { lookWords, notesFound } from './sayings'

/** On paper: the sheet of one review, to be worked off with a pencil; or the notebook. */
const workspace = useWorkspace()
const route = useRoute()
const attempt = computed(() => String(route.params.attemptId ?? ''))
const view = shallowRef<ReviewView>()
const notes = shallowRef<Notebook>()
watch(
  [attempt, () => workspace.record],
  async () => {
    if (attempt.value) view.value = await workspace.ask('reviewView', attempt.value)
    else notes.value = await workspace.ask('notebook')
  },
  { immediate: true },
)
const titles = computed(() => new Map(workspace.exam!.topics.map(({ id, title }) => [id, title])))
const topicOf = (id: string | undefined) => titles.value.get(id ?? '') ?? ''
const way = computed(() => chosenWays(workspace.record!.settings).mistakes)
const causes = computed(() =>
  causesFor(way.value, { outcome: 'wrong' }).map((cause, at) => ({
    number: at + 1,
    title: causeTitle(cause, way.value),
  })),
)
const placeOf = (topic: string | undefined): string => {
  const [first] = topic === undefined ? [] : placesOf(workspace.exam!, workspace.record!.materials, topic)
  return first ? `${first.chapter}${first.from ? `, p. ${first.from}–${first.to}` : ''}` : ''
}
const wanted = computed(() => {
  const { words = '', cause = '' } = route.query
  return notesFound(
    notes.value?.noted ?? [],
    { words: String(words), cause: String(cause) },
    titles.value,
    way.value,
  )
})
const print = (): void => window.print()
const back = computed(() => ({
  name: 'review',
  params: { candidateId: workspace.candidate!.id, ...(attempt.value && { attemptId: attempt.value }) },
  query: attempt.value ? {} : { part: 'notebook' },
}))
</script>

<template>
  <div class="sheet stack">
    <div class="row no-print">
      <h1>{{ attempt ? 'Print the review' : 'Print the notebook' }}</h1>
      <v-btn class="main" @click="print">Print</v-btn>
      <router-link :to="back">Back</router-link>
    </div>
    <section v-if="view" class="paper">
      <header>
        <h2 class="large">Review: {{ view.title }}</h2>
        <span v-if="view.date">{{ dateWords(view.date) }}</span>
        <span class="who">{{ workspace.name }}</span>
      </header>
      <p class="how">
        Try each again without a clock before you look up the key. Then one cause:
        <template v-for="{ number, title } in causes" :key="number"
          >{{ number }} {{ title.toLowerCase() }}.
        </template>
      </p>
      <table>
        <thead>
          <tr>
            <th>Item</th>
            <th>Topic and place</th>
            <th class="blank">Now</th>
            <th class="blank">Cause</th>
            <th class="wide">Next time I …</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="item in view.items" :key="item.item">
            <td class="number">{{ item.item }}</td>
            <td>
              {{ topicOf(item.topic) }}<small v-if="placeOf(item.topic)">{{ placeOf(item.topic) }}</small
              ><small>{{ item.why.map((why) => lookWords[why]).join(', ') }}</small>
            </td>
            <td></td>
            <td></td>
            <td></td>
          </tr>
        </tbody>
      </table>
      <p class="how">
        Keys and what was answered then, to be folded away:
        {{
          view.items.map(({ item, key, answer }) => `${item} ${key || '?'} (${answer || '–'})`).join(' · ')
        }}
      </p>
    </section>
    <section v-else-if="notes" class="paper">
      <header>
        <h2 class="large">Notebook</h2>
        <span class="who">{{ workspace.name }}</span>
      </header>
      <table>
        <tbody>
          <tr v-for="one in wanted" :key="`${one.attempt} ${one.item}`">
            <td>
              {{ one.title }}, {{ one.item }}<small v-if="one.date">{{ dateWords(one.date) }}</small>
            </td>
            <td>
              <b>{{ topicOf(one.topic) }}</b><small v-if="one.note?.cause">{{
                causeTitle(one.note.cause, way)
              }}</small>
            </td>
            <td class="wide">
              <template v-if="one.note?.next">Next time I {{ one.note.next }}</template
              ><small v-if="one.note?.text">{{ one.note.text }}</small>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
  </div>
</template>

<style scoped>
.paper {
  background: #fff;
  color: #000;
  border: 1px solid var(--hair);
  padding: 22px 26px;
  max-width: 820px;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 20px;
  align-items: baseline;
  border-bottom: 2px solid #000;
  padding-bottom: 6px;
}
header h2 {
  font-size: 26px;
}
.who {
  margin-left: auto;
}
.how {
  margin: 8px 0;
  font-size: 13px;
}
table {
  border-collapse: collapse;
  width: 100%;
  font-size: 13px;
}
th,
td {
  border-bottom: 1px solid #888;
  padding: 4px 6px;
  text-align: left;
  vertical-align: top;
}
tr {
  break-inside: avoid;
}
.number {
  font-weight: 600;
  font-size: 16px;
}
.blank {
  width: 56px;
}
.wide {
  width: 40%;
}
small {
  display: block;
  color: #444;
}
@media print {
  .paper {
    border: 0;
    padding: 0;
    max-width: none;
  }
}
</style>
