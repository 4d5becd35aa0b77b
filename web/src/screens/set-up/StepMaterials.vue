<script setup lang="ts">
import { computed, ref } from 'vue'
import type { ShelfItem } from '@climber/contract'
import {
  minutesPerPage,
  minutesPerQuestion,
  paced,
  readShelf,
  shelfHours,
  slugOf,
  writeShelf,
} from '@climber/core'
import TickField from '../../kit/TickField.vue'
import FileField from '../../kit/FileField.vue'
import { makers } from '../../manners/makers'
import { download, fileName } from '../../manners/download'
import { readTableFile } from '../../manners/tableFile'
import { useWorkspace } from '../../stores/workspace'
import { plain } from '../../workers/core'
import ChoiceField from '../../kit/ChoiceField.vue'
import NumberField from '../../kit/NumberField.vue'
import TextField from '../../kit/TextField.vue'
import FileProblems from '../../widgets/FileProblems.vue'
import TopicChips from '../../widgets/TopicChips.vue'
import type { Problem } from '../../stores/autosave'
import { vCards } from '../../kit/cards'

/** The shelf: what there is to learn from, how long it takes, and what of it is kept for rehearsal. */
const workspace = useWorkspace()
const save = computed(() => workspace.saves!.materials)
const items = computed(() => save.value.state.document.items)
const exam = computed(() => workspace.exam!)
const edit = (change: (items: ShelfItem[]) => void) => save.value.edit((document) => change(document.items))
const problemAt = (field: string) =>
  save.value.state.problems.find((one) => one.field === field || one.field.startsWith(`${field}.`))?.message
const problems = ref<Problem[]>([])
const words = { book: 'Book', bank: 'Questions', recording: 'Recording', test: 'Practice test' } as const
const kinds = ['book', 'bank', 'recording', 'test'] as const
/** Pace as learned from the log, where nothing is set by hand. */
const pace = computed(
  () => new Map(paced({ items: plain(items.value) }, workspace.plan?.sessions).map((one) => [one.id, one])),
)
const hours = computed(() => {
  const found = shelfHours(exam.value, [...pace.value.values()])
  return { topics: Object.keys(found).length, sum: Object.values(found).reduce((a, b) => a + b, 0) }
})
function add(kind: (typeof kinds)[number]): void {
  edit((list) => {
    const title = `${words[kind]} ${list.filter((item) => item.kind === kind).length + 1}`
    const id = slugOf(
      title,
      list.flatMap((item) => item.id ?? []),
    )
    const more: Partial<ShelfItem> =
      kind === 'book'
        ? { chapters: [{ title: 'Chapter 1', pages: 20, topics: [] }], inOrder: true }
        : kind === 'bank'
          ? { questions: 200 }
          : kind === 'recording'
            ? { minutes: 60, topics: [] }
            : { source: 'other' }
    list.push({ id, kind, title, ...more })
  })
}
const fromExam = () =>
  edit((list) => {
    for (const book of exam.value.books ?? [])
      if (!list.some(({ title }) => title === book.title))
        list.push({
          id: slugOf(
            book.title,
            list.flatMap((item) => item.id ?? []),
          ),
          kind: 'book',
          title: book.title,
          inOrder: true,
          chapters: book.chapters.map(({ title, from, to, topics }) => ({
            title,
            pages: to - from + 1,
            topics: [...topics],
          })),
        })
  })
const set = <K extends keyof ShelfItem>(at: number, field: K, value: ShelfItem[K] | undefined) =>
  edit((list) => {
    if (value === undefined || value === '') delete list[at]![field]
    else list[at]![field] = value
  })
const write = () =>
  download(
    `${fileName(workspace.name)}-materials.csv`,
    'text/csv',
    writeShelf(plain(save.value.state.document)),
  )
async function read(file: File): Promise<void> {
  const { found, problems: told } = await readTableFile(file, (text) => readShelf(text, plain(exam.value)))
  problems.value = told
  if (found)
    save.value.edit((document) => {
      document.items = found.items
    })
}
</script>

<template>
  <div class="stack">
    <div class="row">
      <h2>The shelf</h2>
      <span class="soft small">{{
        items.length
          ? `one pass through it is ${Math.round(hours.sum)} h, on ${hours.topics} of ${exam.topics.length} topics`
          : 'Nothing yet. Books, question banks, recordings and practice tests tell the plan how long a topic takes and what to open when.'
      }}</span>
    </div>
    <div class="row">
      <v-btn v-for="kind in kinds" :key="kind" @click="add(kind)">Add {{ words[kind].toLowerCase() }}</v-btn>
      <v-btn v-if="exam.books?.length" @click="fromExam">Take the exam's books</v-btn>
      <v-btn :disabled="!items.length" @click="write">As CSV</v-btn>
      <FileField label="Materials from a CSV file" accept=".csv,text/csv" @chosen="read" />
    </div>
    <FileProblems v-if="problems.length" :problems="problems" />
    <section v-for="(item, at) in items" :key="item.id ?? at" class="item stack">
      <div class="row">
        <strong>{{ words[item.kind ?? 'book'] }}</strong>
        <TextField
          label="Title"
          quiet
          style="width: 240px"
          :model-value="item.title"
          :errors="problemAt(`items.${at}.title`)"
          @update:model-value="set(at, 'title', String($event ?? ''))"
        />
        <v-btn :aria-label="`Remove ${item.title}`" @click="edit((list) => list.splice(at, 1))">Remove</v-btn>
      </div>
      <div class="fields">
        <NumberField
          v-if="item.kind === 'bank'"
          label="Questions"
          optional
          :model-value="item.questions"
          :errors="problemAt(`items.${at}.questions`)"
          @update:model-value="set(at, 'questions', $event as number | undefined)"
        />
        <NumberField
          v-if="item.kind === 'bank'"
          label="Wanted a day"
          optional
          placeholder="none"
          :model-value="item.perDay"
          :errors="problemAt(`items.${at}.perDay`)"
          @update:model-value="set(at, 'perDay', $event as number | undefined)"
        />
        <NumberField
          v-if="item.kind === 'recording'"
          label="Length"
          unit="min"
          optional
          :model-value="item.minutes"
          :errors="problemAt(`items.${at}.minutes`)"
          @update:model-value="set(at, 'minutes', $event as number | undefined)"
        />
        <NumberField
          v-if="item.kind === 'book' || item.kind === 'bank'"
          :label="item.kind === 'book' ? 'Minutes a page' : 'Minutes a question'"
          optional
          :placeholder="
            (
              pace.get(item.id ?? '')?.minutesEach ??
              (item.kind === 'book' ? minutesPerPage : minutesPerQuestion)
            ).toFixed(1)
          "
          :model-value="item.minutesEach"
          :errors="problemAt(`items.${at}.minutesEach`)"
          @update:model-value="set(at, 'minutesEach', $event as number | undefined)"
        />
        <TickField
          v-if="item.kind === 'book'"
          label="chapters in order"
          :model-value="item.inOrder ?? false"
          @update:model-value="set(at, 'inOrder', $event || undefined)"
        />
        <template v-if="item.kind === 'test'">
          <ChoiceField
            label="Is the form"
            :model-value="item.form ?? ''"
            :options="[
              { value: '', title: 'none of the exam’s' },
              ...exam.forms.map(({ id, title }) => ({ value: id, title })),
            ]"
            @update:model-value="set(at, 'form', $event || undefined)"
          />
          <ChoiceField
            label="Source"
            :model-value="item.source ?? 'other'"
            :options="makers"
            @update:model-value="set(at, 'source', $event)"
          />
          <NumberField
            label="Runs above the exam by"
            unit="points"
            optional
            :model-value="item.offset"
            @update:model-value="set(at, 'offset', $event as number | undefined)"
          />
          <TickField
            label="keep for rehearsal"
            :model-value="item.reserved ?? false"
            @update:model-value="set(at, 'reserved', $event || undefined)"
          />
        </template>
        <TextField
          label="Known errors"
          optional
          :model-value="item.errors"
          @update:model-value="set(at, 'errors', $event as string | undefined)"
        />
      </div>
      <div v-if="item.kind === 'book'" class="scroll">
        <table v-cards class="lines as-cards small">
          <thead>
            <tr>
              <th>Chapter</th>
              <th>Pages</th>
              <th>Topics</th>
              <th><span class="only-reader">Remove</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(chapter, row) in item.chapters" :key="row">
              <td>
                <TextField
                  label="Chapter"
                  quiet
                  :model-value="chapter.title"
                  @update:model-value="
                    edit((list) => (list[at]!.chapters![row]!.title = String($event ?? '')))
                  "
                />
              </td>
              <td>
                <NumberField
                  label="Pages"
                  quiet
                  style="width: 70px"
                  :model-value="chapter.pages"
                  :errors="problemAt(`items.${at}.chapters.${row}.pages`)"
                  @update:model-value="edit((list) => (list[at]!.chapters![row]!.pages = $event as number))"
                />
              </td>
              <td>
                <TopicChips
                  :model-value="chapter.topics"
                  :all="exam.topics"
                  :label="`${chapter.title}: topics`"
                  quiet
                  @update:model-value="edit((list) => (list[at]!.chapters![row]!.topics = $event))"
                />
              </td>
              <td>
                <v-btn
                  :aria-label="`Remove ${chapter.title}`"
                  @click="edit((list) => list[at]!.chapters!.splice(row, 1))"
                  >×</v-btn
                >
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <div v-if="item.kind === 'book'">
        <v-btn
          @click="
            edit((list) =>
              (list[at]!.chapters ??= []).push({
                title: `Chapter ${(list[at]!.chapters?.length ?? 0) + 1}`,
                pages: 20,
                topics: [],
              }),
            )
          "
          >Add a chapter</v-btn
        >
      </div>
      <div v-else-if="item.kind === 'bank' || item.kind === 'recording'" class="row">
        <TopicChips
          :model-value="item.topics ?? []"
          :all="exam.topics"
          label="Topics in it"
          placeholder="all of them"
          @update:model-value="set(at, 'topics', $event)"
        />
      </div>
    </section>
  </div>
</template>

<style scoped>
.item {
  border-top: 1px solid var(--ink);
  padding-top: 10px;
}
.scroll {
  overflow-x: auto;
}
.scroll select {
  max-width: 150px;
}
.file {
  font-size: 13px;
}
</style>
