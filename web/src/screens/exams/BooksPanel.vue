<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Book } from '@climber/contract'
import { chapterYields, coverage, slugOf } from '@climber/core'
import { percentWords } from '../../manners/words'
import NumberField from '../../kit/NumberField.vue'
import TextField from '../../kit/TextField.vue'
import TopicChips from '../../widgets/TopicChips.vue'
import { useDraft } from './draft'
import { vCards } from '../../kit/cards'

/** Which pages teach which topics, what a page yields, and what a choice of chapters covers. */
const draft = useDraft()
const format = computed(() => draft.state.format)
const chosen = ref<string[]>([])
const key = (book: string, chapter: string) => `${book}/${chapter}`
const yields = computed(
  () => new Map(chapterYields(draft.parsed.value).map((one) => [key(one.book, one.chapter), one])),
)
const covered = computed(() =>
  coverage(
    draft.parsed.value,
    chosen.value.map((one) => ({ book: one.split('/')[0]!, chapter: one.split('/')[1]! })),
  ),
)
const missing = computed(() => {
  const taught = new Set(
    (format.value.books ?? []).flatMap(({ chapters }) => chapters.flatMap(({ topics }) => topics)),
  )
  return format.value.topics.filter(({ id }) => !taught.has(id))
})
function addBook(): void {
  const books = (format.value.books ??= [])
  const id = slugOf(
    `book-${books.length + 1}`,
    books.map((book) => book.id),
  )
  books.push({ id, title: `Book ${books.length + 1}`, chapters: [] })
  addChapter(books[books.length - 1]!)
}
function addChapter(book: Book): void {
  const last = book.chapters[book.chapters.length - 1]
  const from = last ? last.to + 1 : 1
  book.chapters.push({
    id: slugOf(
      `chapter-${book.chapters.length + 1}`,
      book.chapters.map(({ id }) => id),
    ),
    title: `Chapter ${book.chapters.length + 1}`,
    from,
    to: from + 19,
    topics: [],
  })
}
function removeBook(at: number): void {
  format.value.books!.splice(at, 1)
  if (!format.value.books!.length) delete format.value.books
}
</script>

<template>
  <section class="stack" aria-label="Books">
    <div class="row">
      <h2>Books: which pages teach what</h2>
      <v-btn size="small" @click="addBook">Add a book</v-btn>
    </div>
    <p v-if="!format.books?.length" class="soft">
      Map chapters to topics, and each page shows what share of the exam it teaches. A topic may stand in
      several chapters and books; a page counts once.
    </p>
    <p v-else class="cover">
      <strong class="large" data-testid="covered">{{ percentWords(covered.share) }}</strong> of the marks in
      <strong>{{ covered.pages }}</strong> pages chosen
      <span class="soft small">(each page and each topic counted once; in the topic's best book)</span>
    </p>
    <section v-for="(book, row) in format.books ?? []" :key="book.id" class="stack" :aria-label="book.title">
      <div class="row">
        <TextField
          v-model="book.title"
          :label="`Book ${row + 1}`"
          quiet
          :errors="draft.problemAt(`books.${row}.title`)"
          style="width: 320px"
        />
        <v-btn size="small" variant="text" @click="removeBook(row)">Remove book</v-btn>
      </div>
      <div class="scroll">
        <table v-cards class="lines as-cards small">
          <thead>
            <tr>
              <td></td>
              <th>Chapter</th>
              <th class="n">Pages from</th>
              <th class="n">to</th>
              <th class="n">Of the exam</th>
              <th class="n">Per 10 pages</th>
              <th>Topics</th>
              <td></td>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(chapter, at) in book.chapters" :key="chapter.id">
              <td>
                <v-checkbox
                  v-model="chosen"
                  :value="key(book.id, chapter.id)"
                  :aria-label="`Read ${chapter.title}`"
                  density="compact"
                  hide-details
                />
              </td>
              <td>
                <TextField
                  v-model="chapter.title"
                  :label="`${book.title}: chapter ${at + 1}`"
                  quiet
                  :errors="draft.problemAt(`books.${row}.chapters.${at}.title`)"
                  style="width: 200px"
                />
              </td>
              <td class="n">
                <NumberField
                  v-model="chapter.from"
                  :label="`${chapter.title}: first page`"
                  quiet
                  :errors="draft.problemAt(`books.${row}.chapters.${at}.from`)"
                />
              </td>
              <td class="n">
                <NumberField
                  v-model="chapter.to"
                  :label="`${chapter.title}: last page`"
                  quiet
                  :errors="draft.problemAt(`books.${row}.chapters.${at}.to`)"
                />
              </td>
              <td class="n">{{ percentWords(yields.get(key(book.id, chapter.id))?.share ?? 0) }}</td>
              <td class="n">
                <svg width="90" height="10" aria-hidden="true">
                  <rect
                    x="0"
                    y="1"
                    :width="
                      Math.min(
                        90,
                        1000 * (yields.get(key(book.id, chapter.id))?.sharePerPage ?? 0) * 10 * 0.9,
                      )
                    "
                    height="8"
                    class="bar"
                  />
                </svg>
                {{ ((yields.get(key(book.id, chapter.id))?.sharePerPage ?? 0) * 1000).toFixed(1) }}%
              </td>
              <td>
                <TopicChips
                  v-model="chapter.topics"
                  :all="format.topics"
                  :label="`${chapter.title}: teaches`"
                  quiet
                />
              </td>
              <td>
                <v-btn
                  size="small"
                  variant="text"
                  :aria-label="`Remove ${chapter.title}`"
                  @click="book.chapters.splice(at, 1)"
                  >Remove</v-btn
                >
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <v-btn size="small" variant="text" class="justify-start" @click="addChapter(book)"
        >Another chapter</v-btn
      >
    </section>
    <p v-if="format.books?.length && missing.length" class="small mark">
      In no book yet: {{ missing.map((topic) => topic.title).join(', ') }}.
    </p>
  </section>
</template>

<style scoped>
.cover .large {
  font-size: 28px;
}
.bar {
  fill: var(--lichen);
}
select {
  width: 42px;
}
</style>
