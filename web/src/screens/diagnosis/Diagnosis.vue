<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import type { WhereYouStand } from '@climber/core'
import { newestOnly } from '../../manners/newest'
import { dateWords, percentWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import ChoiceRow from '../../kit/ChoiceRow.vue'
import KnownRange from '../../widgets/KnownRange.vue'
import WhereFrom from '../../widgets/WhereFrom.vue'
import TopicFrom from './TopicFrom.vue'

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
const topics = computed(() =>
  [...(found.value?.topics ?? [])].sort((a, b) => keyOf[order.value](a) - keyOf[order.value](b)),
)
const widest = computed(() => Math.max(0.01, ...topics.value.map(({ share }) => share)))
const titles = computed(() => new Map(topics.value.map(({ topic, title }) => [topic, title])))
const barWidth = 180
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
      <h2>Sections</h2>
      <div class="scroll">
        <table class="lines" data-testid="sections">
          <thead>
            <tr>
              <th>Section</th>
              <th class="n">Answered</th>
              <th class="n">Right</th>
              <th class="n">Left blank</th>
              <th class="n">Not reached</th>
              <th>Known, 8 times in 10</th>
              <th class="n">Scaled</th>
              <th class="n">Range</th>
              <th class="n">Cut</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="section in found.sections" :key="section.section">
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
      </div>
      <p v-if="found.sections.some(({ notReached }) => notReached)" class="small soft">
        Items not reached tell of pace, not of knowledge: they are left out here and taken up in Pacing.
      </p>
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
      <div class="row mt-3">
        <h2>Topics</h2>
        <ChoiceRow v-model="order" label="Sorted by" :options="orders" />
      </div>
      <div class="scroll">
        <table class="lines" data-testid="topics">
          <thead>
            <tr>
              <th>Topic</th>
              <th>Share of the marks</th>
              <th class="n">Right</th>
              <th>Own rating</th>
              <th>Known, 8 times in 10</th>
              <th class="n">Points to gain</th>
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
      </div>
      <template v-if="found.chapters.length">
        <h2 class="mt-3">Pages that pay</h2>
        <div class="scroll">
          <table class="lines small">
            <thead>
              <tr>
                <th>Chapter</th>
                <th>Book</th>
                <th class="n">Pages</th>
                <th class="n">Of the exam</th>
                <th class="n">Points to gain, per 10 pages</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="chapter in found.chapters" :key="`${chapter.book}/${chapter.chapter}`">
                <th scope="row">{{ chapter.title }}</th>
                <td class="soft">
                  {{ workspace.exam?.books?.find(({ id }) => id === chapter.book)?.title }}
                </td>
                <td class="n">{{ chapter.pages }}</td>
                <td class="n">{{ percentWords(chapter.share) }}</td>
                <td class="n">{{ (chapter.pointsPerPage * 10).toFixed(1) }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </template>
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
