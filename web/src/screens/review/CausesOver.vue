<script setup lang="ts">
import { max, scaleLinear } from 'd3'
import { computed } from 'vue'
import { type CauseOver, causeTitle, chosenWays, type Notebook } from '@climber/core'
import { dateWords, percentWords, rawWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import WhereFrom from '../../widgets/WhereFrom.vue'
import { vCards } from '../../kit/cards'
import SortHead from '../../kit/SortHead.vue'
import { sorted } from '../../kit/sorting'

/** What the causes cost over tests, whether they fall, and what a score that stands still lies at. */
const props = defineProps<{ notes: Notebook }>()
const workspace = useWorkspace()
const way = computed(() => chosenWays(workspace.record!.settings).mistakes)
const height = 30
const wide = 18
const most = computed(
  () => max(props.notes.causes.flatMap(({ tests }) => tests.map(({ marks, items }) => marks || items))) ?? 1,
)
const scale = computed(() => scaleLinear([0, Math.max(1, most.value)], [0, height]))
const tall = ({ marks, items }: { marks: number; items: number }) => scale.value(marks || items)
const { rows: causes, head } = sorted(() => props.notes.causes, {
  title: (line) => causeTitle(line.cause, way.value),
  items: (line) => line.items,
  marks: (line) => line.marks,
  trend: (line) => line.trend?.ratio,
})
const times = (value: number) => (value >= 10 ? value.toFixed(0) : value.toFixed(1))
function trendWords(trend: NonNullable<CauseOver['trend']>): string {
  const word = { falling: 'falling', rising: 'rising', neither: 'not to be told from chance' }[trend.says]
  return `${times(trend.ratio)} times as often as before: ${word}`
}
const rangeOf = ({ low, high }: NonNullable<CauseOver['trend']>) =>
  `8 times in 10 between ${times(low)} and ${Number.isFinite(high) ? times(high) : 'any number of'} times`
const stallWords = computed(() => {
  const { stall } = props.notes
  if (!stall) return ''
  const { gaps, care, time } = stall.shares
  const went = `Of ${rawWords(stall.marks)} marks whose cause is named, ${percentWords(gaps)} went to gaps, ${percentWords(care)} to care, ${percentWords(time)} to time.`
  const lies = {
    gaps: 'It is gaps: hours on the topics, chapters again. More tests will not show anything new.',
    care: 'It is care, not knowledge: slow-reading and checking sets, fewer new pages.',
    time: 'It is time: pace drills, and leaving an item when its budget is up.',
  }
  return `${went} ${stall.lies ? lies[stall.lies] : 'Neither leads clearly: go on naming causes.'}`
})
/** Whether it rose: a difference that chance makes as well is no rise. */
const rose = computed(() => {
  const moved = Math.round(props.notes.stall?.moved ?? 0)
  return moved > 0
    ? `Over the last three tests the score went up ${moved} points: no more than chance moves it.`
    : `The score has not risen over the last three tests: ${moved < 0 ? `−${-moved}` : '±0'} points.`
})
</script>

<template>
  <section class="stack" aria-label="Causes over tests">
    <p v-if="!notes.causes.length" class="soft">
      Once causes are named in reviews, it stands here which of them cost most, and whether they fall.
    </p>
    <template v-else>
      <div v-if="notes.stall" class="stall stack">
        <p>
          <WhereFrom label="Whether the score rises"
            ><template #figure
              ><strong>{{ rose }}</strong></template
            >
            Chance alone moves the difference of two tests by {{ notes.stall.sd.toFixed(0) }} points, one
            standard deviation. A cause is said to lead where it has half of the marks lost, and where the 80%
            range of its share of the items (Wilson) keeps above a third.</WhereFrom
          >
        </p>
        <p>{{ stallWords }}</p>
      </div>
      <div class="scroll" tabindex="0" role="region" aria-label="Marks lost by cause">
        <table v-cards class="lines as-cards over">
          <thead>
            <tr>
              <SortHead :head="head" by="title">Cause</SortHead>
              <th>By test, oldest first</th>
              <SortHead class="n" :head="head" by="items">Items</SortHead>
              <SortHead class="n" :head="head" by="marks">Marks lost</SortHead>
              <SortHead :head="head" by="trend">Later half against earlier</SortHead>
            </tr>
          </thead>
          <tbody>
            <tr v-for="line in causes" :key="line.cause">
              <th scope="row">{{ causeTitle(line.cause, way) }}</th>
              <td>
                <svg
                  :width="Math.max(1, line.tests.length) * wide"
                  :height="height + 2"
                  role="img"
                  :aria-label="
                    line.tests
                      .map(
                        ({ items, marks }, at) =>
                          `${dateWords(notes.tests[at]!.date)}: ${items} items, ${rawWords(marks)} marks`,
                      )
                      .join('; ')
                  "
                >
                  <line
                    x1="0"
                    :x2="line.tests.length * wide"
                    :y1="height + 1"
                    :y2="height + 1"
                    class="ground"
                  />
                  <rect
                    v-for="(test, at) in line.tests"
                    :key="at"
                    :x="at * wide + 3"
                    :width="wide - 6"
                    :y="height + 1 - tall(test)"
                    :height="tall(test)"
                    class="bar"
                  >
                    <title>
                      {{ notes.tests[at]!.title }}, {{ dateWords(notes.tests[at]!.date) }}:
                      {{ test.items }} items, {{ rawWords(test.marks) }} marks
                    </title>
                  </rect>
                </svg>
              </td>
              <td class="n">{{ line.items }}</td>
              <td class="n">{{ rawWords(line.marks) }}</td>
              <td>
                <WhereFrom v-if="line.trend" :label="causeTitle(line.cause, way)"
                  ><template #figure
                    ><span
                      :class="{ good: line.trend.says === 'falling', bad: line.trend.says === 'rising' }"
                      >{{ trendWords(line.trend) }}</span
                    ></template
                  >
                  Items with this cause, for each item sat, in the later half of the tests over the earlier:
                  {{ rangeOf(line.trend) }} as often. Given both together, the later ones are binomial; the
                  range is Wilson's, turned into a ratio of rates.</WhereFrom
                >
                <span v-else class="soft">needs two reviewed tests</span>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="small soft">
        Tests:
        {{
          notes.tests.map(({ title, date }) => `${title}, ${dateWords(date, workspace.today)}`).join(' · ')
        }}.
      </p>
    </template>
  </section>
</template>

<style scoped>
.over th[scope='row'] {
  color: var(--ink);
}
.ground {
  stroke: var(--ink);
}
.bar {
  fill: var(--clay);
}
.stall {
  border-left: 3px solid var(--ochre);
  padding-left: 10px;
  max-width: 62em;
}
.scroll {
  overflow-x: auto;
}
</style>
