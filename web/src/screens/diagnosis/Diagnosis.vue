<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import type { WhereYouStand } from '@climber/core'
import { newestOnly } from '../../manners/newest'
import { useNarrow } from '../../manners/size'
import { dateWords, percentWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import { vCards } from '../../kit/cards'
import ChoiceRow from '../../kit/ChoiceRow.vue'
import KnownRange from '../../widgets/KnownRange.vue'
import WhereFrom from '../../widgets/WhereFrom.vue'
import TopicFrom from './TopicFrom.vue'
import SortHead from '../../kit/SortHead.vue'
import { sorted } from '../../kit/sorting'

/** Where the candidate stands: to look at together. */
const workspace = useWorkspace()
const found = shallowRef<WhereYouStand>()
const work = newestOnly(async () => {
  found.value = await workspace.ask('whereYouStand')
})
watch(
  () => workspace.record,
  () => void work(),
  { immediate: true },
)

const orders = [
  { value: 'known', title: 'least known' },
  { value: 'share', title: 'share of the exam' },
  { value: 'gain', title: 'points to gain' },
  { value: 'unknown', title: 'least certain' },
] as const
const order = ref<(typeof orders)[number]['value']>('gain')
const keyOf = {
  known: (topic: WhereYouStand['topics'][number]) => topic.mean,
  share: (topic: WhereYouStand['topics'][number]) => -topic.share,
  gain: (topic: WhereYouStand['topics'][number]) => -topic.value * (1 - topic.mean),
  unknown: (topic: WhereYouStand['topics'][number]) => -(topic.high - topic.low),
}
const given = computed(() =>
  [...(found.value?.topics ?? [])].sort((a, b) => keyOf[order.value](a) - keyOf[order.value](b)),
)
const { rows: topics, head } = sorted(() => given.value, {
  title: (topic) => topic.title,
  share: (topic) => topic.share,
  right: ({ evidence: { right, wrong, blank } }) =>
    right + wrong + blank ? right / (right + wrong + blank) : undefined,
  rating: (topic) => topic.rating,
  known: (topic) => topic.mean,
  gain: (topic) => topic.value * (1 - topic.mean),
})
watch(order, () => (head.by = undefined))
const { rows: sections, head: sectionHead } = sorted(() => found.value?.sections ?? [], {
  title: (section) => section.title,
  answered: (section) => section.answered,
  right: (section) => section.right,
  left: (section) => section.left,
  notReached: (section) => section.notReached,
  known: (section) => section.mean,
  scaled: (section) => section.scaled.mean,
  cut: (section) => section.cut,
})
const bookOf = (id: string) => workspace.exam?.books?.find((book) => book.id === id)?.title
const { rows: chapters, head: chapterHead } = sorted(() => found.value?.chapters ?? [], {
  title: (chapter) => chapter.title,
  book: (chapter) => bookOf(chapter.book),
  pages: (chapter) => chapter.pages,
  share: (chapter) => chapter.share,
  gain: (chapter) => chapter.pointsPerPage,
})
const widest = computed(() => Math.max(0.01, ...topics.value.map(({ share }) => share)))
const titles = computed(() => new Map(topics.value.map(({ topic, title }) => [topic, title])))
const narrow = useNarrow(700)
const barWidth = computed(() => (narrow.value ? 66 : 180))
const evidence = ({ evidence: { right, wrong, blank } }: WhereYouStand['topics'][number]) => {
  const all = right + wrong + blank
  return all ? `${Number(right.toFixed(1))} of ${Number(all.toFixed(1))}` : '–'
}
const ratingWords: Record<string, string> = { 'not-covered': 'not covered', covered: 'in a course' }
const tellingWays = [
  { value: 'score', title: 'the score today' },
  { value: 'odds', title: 'the odds' },
] as const
const tellingOf = ref<'score' | 'odds'>('score')
const telling = computed(
  () => (tellingOf.value === 'odds' && found.value?.tellingOdds) || found.value?.telling,
)
const asked = computed(() => telling.value?.topics.reduce((sum, { questions }) => sum + questions, 0) ?? 0)
</script>

<template>
  <div class="sheet stack">
    <h1 class="only-reader">Diagnosis</h1>
    <v-skeleton-loader v-if="!found" type="table" />
    <template v-else>
      <div class="row">
        <WhereFrom label="Level today">
          <template #figure
            ><span class="large figure level" data-testid="level">{{
              Math.round(found.composite.mean)
            }}</span></template
          >
          A thousand possible candidates who fit everything that you answered, studied and recalled sit the
          paper today; this is their mean. One standard deviation is {{ found.composite.sd.toFixed(1) }}: what
          is not known of you, the day, and the luck of its items.
        </WhereFrom>
        <span>
          today, ± {{ Math.round(found.composite.sd)
          }}<template v-if="found.composite.band"
            >, in the band <strong>{{ found.composite.band }}</strong></template
          ><template v-if="found.composite.percentile !== undefined"
            >, above {{ Math.round(found.composite.percentile) }}% of candidates</template
          >
        </span>
      </div>
      <p v-if="!found.measured" class="mark">
        Nothing was measured yet: this rests on your own rating alone, and the ranges are as wide as that.
      </p>
      <p v-else class="small soft">
        From
        <template v-for="(test, at) in found.tests" :key="at"
          >{{ at ? ', ' : '' }}{{ test.title
          }}{{ test.date ? ` of ${dateWords(test.date, workspace.today)}` : ''
          }}{{ test.weight < 0.995 ? ` (counts ${percentWords(test.weight)})` : '' }}</template
        >.
      </p>
      <div class="row">
        <h2>Topics</h2>
        <ChoiceRow v-model="order" label="Sorted by" :options="orders" />
      </div>
      <table v-cards class="lines as-cards three" data-testid="topics">
        <thead>
          <tr>
            <SortHead :head="head" by="title">Topic</SortHead>
            <SortHead :head="head" by="share">Share of the marks</SortHead>
            <SortHead class="n" :head="head" by="right">Right</SortHead>
            <SortHead :head="head" by="rating">Own rating</SortHead>
            <SortHead :head="head" by="known">Known, 8 times in 10</SortHead>
            <SortHead class="n" :head="head" by="gain">Points to gain</SortHead>
          </tr>
        </thead>
        <tbody>
          <tr v-for="topic in topics" :key="topic.topic">
            <th scope="row">{{ topic.title }}</th>
            <td>
              <svg width="70" height="10" aria-hidden="true">
                <rect x="0" y="1" :width="(68 * topic.share) / widest" height="8" class="share" />
              </svg>
              {{ percentWords(topic.share) }}
            </td>
            <td class="n">{{ evidence(topic) }}</td>
            <td>{{ topic.rating ? (ratingWords[topic.rating] ?? topic.rating) : '–' }}</td>
            <td class="known">
              <KnownRange
                :mean="topic.mean"
                :low="topic.low"
                :high="topic.high"
                :width="barWidth"
                aria-hidden="true"
              />
              <WhereFrom :label="`${topic.title}, known today`">
                <template #figure
                  ><span class="small">{{ percentWords(topic.mean) }}</span></template
                >
                <TopicFrom :topic="topic" />
              </WhereFrom>
              <span class="only-reader"
                >, between {{ percentWords(topic.low) }} and {{ percentWords(topic.high) }}</span
              >
            </td>
            <td class="n">{{ (topic.value * (1 - topic.mean)).toFixed(1) }}</td>
          </tr>
        </tbody>
      </table>
      <h2 class="mt-3">Sections</h2>
      <table v-cards class="lines as-cards three" data-testid="sections">
        <thead>
          <tr>
            <SortHead :head="sectionHead" by="title">Section</SortHead>
            <SortHead class="n" :head="sectionHead" by="answered">Answered</SortHead>
            <SortHead class="n" :head="sectionHead" by="right">Right</SortHead>
            <SortHead class="n" :head="sectionHead" by="left">Left blank</SortHead>
            <SortHead class="n" :head="sectionHead" by="notReached">Not reached</SortHead>
            <SortHead :head="sectionHead" by="known">Known, 8 times in 10</SortHead>
            <SortHead class="n" :head="sectionHead" by="scaled">Scaled</SortHead>
            <th class="n">Range</th>
            <SortHead class="n" :head="sectionHead" by="cut">Cut</SortHead>
          </tr>
        </thead>
        <tbody>
          <tr v-for="section in sections" :key="section.section">
            <th scope="row">{{ section.title }}</th>
            <td class="n">{{ Math.round(section.answered) || '–' }}</td>
            <td class="n">{{ Math.round(section.right) || '–' }}</td>
            <td class="n">{{ Math.round(section.left) || '–' }}</td>
            <td class="n">{{ section.notReached || '–' }}</td>
            <td>
              <KnownRange
                :mean="section.mean"
                :low="section.low"
                :high="section.high"
                :width="barWidth"
                role="img"
                :aria-label="`known ${percentWords(section.mean)}, between ${percentWords(section.low)} and ${percentWords(section.high)}`"
              />
            </td>
            <td class="n">
              <strong>{{ Math.round(section.scaled.mean) }}</strong>
            </td>
            <td class="n">{{ Math.round(section.scaled.low) }} to {{ Math.round(section.scaled.high) }}</td>
            <td
              class="n"
              :class="section.cut !== undefined && section.scaled.mean < section.cut ? 'bad' : ''"
            >
              {{ section.cut ?? '–' }}
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="found.sections.some(({ notReached }) => notReached)" class="small soft">
        Items not reached tell of pace, not of knowledge: they are left out here and taken up in Pacing.
      </p>
      <template v-if="found.chapters.length">
        <h2 class="mt-3">Pages that pay</h2>
        <table v-cards class="lines small as-cards three">
          <thead>
            <tr>
              <SortHead :head="chapterHead" by="title">Chapter</SortHead>
              <SortHead :head="chapterHead" by="book">Book</SortHead>
              <SortHead class="n" :head="chapterHead" by="pages">Pages</SortHead>
              <SortHead class="n" :head="chapterHead" by="share">Of the exam</SortHead>
              <SortHead class="n" :head="chapterHead" by="gain">Points to gain, per 10 pages</SortHead>
            </tr>
          </thead>
          <tbody>
            <tr v-for="chapter in chapters" :key="`${chapter.book}/${chapter.chapter}`">
              <th scope="row">{{ chapter.title }}</th>
              <td class="soft">
                {{ bookOf(chapter.book) }}
              </td>
              <td class="n">{{ chapter.pages }}</td>
              <td class="n">{{ percentWords(chapter.share) }}</td>
              <td class="n">{{ (chapter.pointsPerPage * 10).toFixed(1) }}</td>
            </tr>
          </tbody>
        </table>
      </template>
      <h2 class="mt-3">Which questions would tell most</h2>
      <div v-if="found.tellingOdds" class="row small">
        <span>Of</span>
        <ChoiceRow v-model="tellingOf" label="Telling most of" :options="tellingWays" />
      </div>
      <p class="small">
        <template v-if="telling === found.tellingOdds"
          >{{ asked }} more questions, spread like this, are expected to move the odds on exam day by
          {{ percentWords(telling!.moves) }} up or down:</template
        ><template v-else
          >{{ asked }} more questions, spread like this, are expected to narrow today's level from ±
          {{ found.telling.sd.toFixed(1) }} to ± {{ found.telling.sdAfter.toFixed(1) }} points, as far as
          topics make it:</template
        >
      </p>
      <ol class="telling" data-testid="telling">
        <li v-for="one in telling!.topics" :key="one.topic">
          <strong>{{ one.questions }}</strong> on {{ titles.get(one.topic) }}
          <span class="soft small">{{
            telling === found.tellingOdds
              ? `${percentWords(Math.sqrt(one.drop))} up or down`
              : `${percentWords(one.share)} of the variance`
          }}</span>
        </li>
      </ol>
    </template>
  </div>
</template>

<style scoped>
.level {
  font-size: 44px;
}
.share {
  fill: var(--lichen);
}
td.n {
  white-space: nowrap;
}
.known {
  white-space: nowrap;
}
.telling {
  margin: 0;
  padding-left: 22px;
  columns: 2 320px;
}
</style>
