<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Section, Topic } from '@climber/contract'
import { itemsOf, makeSum, readTopicLines, readTopics, shortNames, slugOf, writeTopics } from '@climber/core'
import FileField from '../../kit/FileField.vue'
import { download, fileName } from '../../manners/download'
import { readTableFile } from '../../manners/tableFile'
import FileProblems from '../../widgets/FileProblems.vue'
import TopicChips from '../../widgets/TopicChips.vue'
import NumberField from '../../kit/NumberField.vue'
import TextField from '../../kit/TextField.vue'
import type { Problem } from '../../stores/autosave'
import { setOptional, useDraft } from './draft'
import { vCards } from '../../kit/cards'

/** Topics under their headings with their shares, section by section. */
const draft = useDraft()
const format = computed(() => draft.state.format)
const asItems = ref(false)
const lines = ref<Record<string, string>>({})
const problems = ref<Problem[]>([])
/** The section whose numbers may be items or shares. */
const unclear = ref('')
const own = (section: Section) =>
  format.value.topics.map((topic, at) => ({ topic, at })).filter(({ topic }) => topic.section === section.id)
/** The section's tree: a heading where the path changes, with the sum of all that stands under it, then its topics. */
type Row = { heading: string; depth: number; share: number } | { topic: Topic; at: number; first: boolean }
function rowsOf(section: Section): Row[] {
  const topics = own(section)
  let before: string[] = []
  return topics.flatMap(({ topic, at }, place): Row[] => {
    const path = topic.under ?? []
    const same = path.findIndex((heading, depth) => heading !== before[depth])
    const from = same < 0 ? path.length : same
    const headings = path.slice(from).map((heading, step) => {
      const prefix = path.slice(0, from + step + 1)
      const under = topics.filter(({ topic: other }) =>
        prefix.every((one, depth) => other.under?.[depth] === one),
      )
      return {
        heading,
        depth: from + step,
        share: under.reduce((total, one) => total + (one.topic.share || 0), 0),
      }
    })
    before = path
    return [...headings, { topic, at, first: place === 0 }]
  })
}
/** What each topic is called where there is little room, unless it is called otherwise here. */
const shorts = computed(() => shortNames(format.value.topics))
const sum = (section: Section) => own(section).reduce((total, { topic }) => total + (topic.share || 0), 0)
const off = (section: Section) => Math.abs(sum(section) - 1) > 0.0005
const shown = ({ share }: { share: number }, section: Section) =>
  Number((share * (asItems.value ? itemsOf(section) : 100)).toFixed(2))
const setShare = (topic: Topic, section: Section, value: number | undefined) =>
  (topic.share = Number(((value ?? NaN) / (asItems.value ? itemsOf(section) : 100)).toPrecision(12)))
function fit(section: Section): void {
  const topics = own(section)
  const shares = makeSum(topics.map(({ topic }) => topic.share || 0))
  topics.forEach(({ topic }, at) => (topic.share = shares[at]!))
}
function add(section: Section): void {
  const title = `Topic ${format.value.topics.length + 1}`
  const topics = own(section)
  const last = topics[topics.length - 1]
  const topic: Topic = {
    id: slugOf(
      title,
      format.value.topics.map(({ id }) => id),
    ),
    title,
    section: section.id,
    ...(last?.topic.under ? { under: [...last.topic.under] } : {}),
    share: Math.max(0.01, Number((1 - sum(section)).toFixed(6))),
    prerequisites: [],
  }
  format.value.topics.splice(last ? last.at + 1 : format.value.topics.length, 0, topic)
}
function remove(at: number): void {
  const [gone] = format.value.topics.splice(at, 1)
  for (const topic of format.value.topics)
    topic.prerequisites = topic.prerequisites.filter((id) => id !== gone!.id)
  for (const book of format.value.books ?? [])
    for (const chapter of book.chapters) chapter.topics = chapter.topics.filter((id) => id !== gone!.id)
}
function setUnder(topic: Topic, text: string | undefined): void {
  const under = (text ?? '')
    .split('>')
    .map((part) => part.trim())
    .filter(Boolean)
  setOptional(topic, 'under', under.length ? under : undefined)
}
/** Replaces a section's topics; those of the same title keep their id, hours and prerequisites. */
function take(section: Section, as?: 'per cent' | 'items'): void {
  const others = format.value.topics.filter((topic) => topic.section !== section.id)
  const read = readTopicLines(
    lines.value[section.id] ?? '',
    section.id,
    others.map(({ id }) => id),
    as,
  )
  unclear.value = read.asked ? section.id : ''
  if (read.asked) return
  problems.value = read.problems.map(({ row, message }) => ({
    field: `${section.title}, line ${row}`,
    message,
  }))
  if (read.problems.length || !read.topics.length) return
  const before = new Map(own(section).map(({ topic }) => [topic.title, topic]))
  const topics = read.topics.map((topic) => ({
    ...before.get(topic.title),
    ...topic,
    id: before.get(topic.title)?.id ?? topic.id,
  }))
  const left = new Set([...others, ...topics].map(({ id }) => id))
  format.value.topics = format.value.sections
    .flatMap(({ id }) => (id === section.id ? topics : others.filter((topic) => topic.section === id)))
    .map((topic) => ({ ...topic, prerequisites: topic.prerequisites.filter((id) => left.has(id)) }))
  lines.value = { ...lines.value, [section.id]: '' }
}
async function bring(file: File): Promise<void> {
  const read = await readTableFile(file, (text) => readTopics(text, draft.parsed.value))
  problems.value = read.problems
  if (read.found) format.value.topics = read.found.topics
}
const takeAway = () =>
  download(`${fileName(format.value.title)}-topics.csv`, 'text/csv', writeTopics(draft.parsed.value))
</script>

<template>
  <section class="stack" aria-label="Blueprint">
    <div class="row">
      <h2>Topics and their shares</h2>
      <span class="rating" role="group" aria-label="Shares in">
        <button type="button" :aria-pressed="!asItems" @click="asItems = false">per cent</button>
        <button type="button" :aria-pressed="asItems" @click="asItems = true">items</button>
      </span>
      <v-btn size="small" @click="takeAway">As CSV</v-btn>
      <FileField label="Topics as CSV" accept=".csv,text/csv" @chosen="bring" />
    </div>
    <FileProblems :problems="problems" />
    <p
      v-for="one in draft.problems.value.filter(({ field }) => field === 'topics')"
      :key="one.message"
      class="bad"
      role="alert"
    >
      {{ one.message }}
    </p>
    <section
      v-for="(section, place) in format.sections"
      :key="section.id"
      class="stack"
      :aria-label="section.title"
    >
      <div class="row">
        <h3>{{ section.title }}</h3>
        <svg width="160" height="10" aria-hidden="true">
          <rect x="0.5" y="1.5" width="120" height="7" class="frame" />
          <rect
            x="0.5"
            y="1.5"
            :width="Math.min(158, 120 * sum(section))"
            height="7"
            :class="off(section) ? 'over' : 'full'"
          />
        </svg>
        <span class="small" :class="off(section) ? 'bad' : 'good'">
          {{
            asItems
              ? `${(sum(section) * itemsOf(section)).toFixed(1)} of ${itemsOf(section)} items`
              : `${(sum(section) * 100).toFixed(1)}%`
          }}
        </span>
        <template v-if="off(section) && own(section).length">
          <v-btn size="small" @click="fit(section)">Make it 100%</v-btn>
          <span class="small soft"
            >each share x 100 / {{ (sum(section) * 100).toFixed(1) }}, in tenths of a per cent, what is left
            to the largest remainders</span
          >
        </template>
        <span
          v-for="one in draft.problems.value.filter(({ field }) => field === `sections.${place}`)"
          :key="one.message"
          class="bad small"
          >{{ one.message }}</span
        >
      </div>
      <div v-if="own(section).length" class="scroll">
        <table v-cards class="lines as-cards small">
          <thead>
            <tr>
              <th>Under</th>
              <th>Topic</th>
              <th>In short</th>
              <th class="n">{{ asItems ? 'Items' : 'Share, %' }}</th>
              <th class="n">Hours to learn</th>
              <th>Comes after</th>
              <td></td>
            </tr>
          </thead>
          <tbody>
            <template
              v-for="(row, n) in rowsOf(section)"
              :key="'topic' in row ? row.topic.id : `${n} ${row.heading}`"
            >
              <tr v-if="'heading' in row" class="heading">
                <td></td>
                <td :style="{ paddingLeft: `${row.depth * 12}px` }">{{ row.heading }}</td>
                <td></td>
                <td class="n">{{ shown(row, section) }}</td>
                <td colspan="3"></td>
              </tr>
              <tr v-else>
                <td class="under">
                  <TextField
                    :model-value="row.topic.under?.join(' > ')"
                    :label="`${row.topic.title}: under`"
                    quiet
                    optional
                    :placeholder="row.first ? 'heading > heading' : ''"
                    :errors="draft.problemAt(`topics.${row.at}.under`)"
                    @update:model-value="setUnder(row.topic, $event)"
                  />
                </td>
                <td :style="{ paddingLeft: `${(row.topic.under?.length ?? 0) * 12}px` }">
                  <TextField
                    v-model="row.topic.title"
                    :label="`Topic ${row.at + 1}`"
                    quiet
                    :errors="draft.problemAt(`topics.${row.at}.title`)"
                    style="width: 230px"
                  />
                </td>
                <td class="short">
                  <TextField
                    :model-value="row.topic.short"
                    :label="`${row.topic.title}: in short`"
                    quiet
                    optional
                    :placeholder="shorts[row.at]?.short"
                    :errors="draft.problemAt(`topics.${row.at}.short`)"
                    @update:model-value="setOptional(row.topic, 'short', $event || undefined)"
                  />
                </td>
                <td class="n">
                  <NumberField
                    :model-value="shown(row.topic, section)"
                    :label="`${row.topic.title}: share`"
                    quiet
                    :errors="draft.problemAt(`topics.${row.at}.share`)"
                    @update:model-value="setShare(row.topic, section, $event)"
                  />
                </td>
                <td class="n">
                  <NumberField
                    :model-value="row.topic.hours"
                    :label="`${row.topic.title}: hours to learn`"
                    quiet
                    placeholder="auto"
                    :errors="draft.problemAt(`topics.${row.at}.hours`)"
                    @update:model-value="setOptional(row.topic, 'hours', $event)"
                  />
                </td>
                <td>
                  <TopicChips
                    v-model="row.topic.prerequisites"
                    :all="format.topics.filter(({ id }) => id !== row.topic.id)"
                    :label="`${row.topic.title}: comes after`"
                    quiet
                  />
                </td>
                <td>
                  <v-btn
                    size="small"
                    variant="text"
                    :aria-label="`Remove ${row.topic.title}`"
                    @click="remove(row.at)"
                    >Remove</v-btn
                  >
                </td>
              </tr>
            </template>
          </tbody>
        </table>
      </div>
      <div class="row">
        <v-btn size="small" variant="text" @click="add(section)">Another topic</v-btn>
        <details :open="!own(section).length">
          <summary class="small">Type or paste all of them</summary>
          <div class="stack mt-2">
            <v-textarea
              v-model="lines[section.id]"
              rows="6"
              spellcheck="false"
              :label="`${section.title}: topics, one a line with its share`"
              placeholder="Heading:&#10;Topic 30&#10;Another topic 20"
            />
            <div v-if="unclear === section.id" class="row" role="alert">
              <span>These numbers do not come to 100. They are</span>
              <v-btn size="small" @click="take(section, 'items')">numbers of items</v-btn>
              <v-btn size="small" @click="take(section, 'per cent')">per cent</v-btn>
            </div>
            <v-btn v-else size="small" class="act" @click="take(section)"
              >Take these for {{ section.title }}</v-btn
            >
          </div>
        </details>
      </div>
    </section>
  </section>
</template>

<style scoped>
.row > details {
  flex: 1 1 320px;
}
.short {
  min-width: 120px;
}
.heading td {
  color: var(--soft);
  font-weight: 500;
}
.under {
  min-width: 130px;
}
.frame {
  fill: none;
  stroke: var(--soft);
}
.full {
  fill: var(--lichen);
}
.over {
  fill: var(--ochre);
}
.add {
  width: 42px;
}
textarea {
  width: min(320px, 80vw);
}
summary {
  cursor: pointer;
}
</style>
