<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { isBaseline, type ReadItem, type Says, writeResponses } from '@climber/core'
import ChoiceField from '../../kit/ChoiceField.vue'
import EmptyState from '../../kit/EmptyState.vue'
import { download, fileName } from '../../manners/download'
import { newestOnly } from '../../manners/newest'
import { svgText } from '../../manners/svgFile'
import { dateWords, percentWords, spanWords } from '../../manners/words'
import { useRemoving } from '../../stores/removing'
import { useWorkspace } from '../../stores/workspace'
import WhereFrom from '../../widgets/WhereFrom.vue'
import ItemsOf from './ItemsOf.vue'
import PooledStrip from './PooledStrip.vue'
import PositionStrip from './PositionStrip.vue'
import {
  changeWords,
  conditionWords,
  driftWords,
  noDriftWords,
  pauseWords,
  runWords,
  sureWords,
} from './sayings'

/** What tests say beyond their scores: of one, or of all whose items are known. */
const workspace = useWorkspace()
const route = useRoute()
const router = useRouter()
const candidateId = computed(() => workspace.candidate!.id)
const chosen = computed(() => String(route.params.attemptId ?? ''))
const all = shallowRef<Says>()
const says = shallowRef<Says>()
const look = newestOnly(async () => {
  const [whole, own] = await Promise.all([
    workspace.ask('testsSay'),
    chosen.value ? workspace.ask('testsSay', [chosen.value]) : undefined,
  ])
  all.value = whole
  says.value = own ?? whole
})
watch([chosen, () => workspace.record], () => void look(), { immediate: true })
const options = computed(() => [
  { value: '', title: `All ${all.value?.tests.length ?? 0} tests together` },
  ...[...(all.value?.tests ?? [])].reverse().map(({ id, title, date }) => ({
    value: id,
    title: date ? `${title}, ${dateWords(date, workspace.today)}` : title,
  })),
])
function choose(id: string): void {
  void router.replace({ name: 'tests', params: { candidateId: candidateId.value, attemptId: id } })
}
const one = computed(() => (says.value?.tests.length === 1 ? says.value.tests[0] : undefined))
const attempt = computed(() => workspace.attempts.find(({ id }) => id === one.value?.id))
const opened = shallowRef<ReadItem>()
watch(says, () => (opened.value = undefined))
const titles = computed(
  () =>
    new Map(
      all.value?.tests.map(({ id, title, date }) => [
        id,
        date ? `${title}, ${dateWords(date, workspace.today)}` : title,
      ]),
    ),
)
/** Names of tests, where several are read together. */
const titleOf = computed(() => (one.value ? undefined : (test: string) => titles.value.get(test) ?? ''))
const { gone, problem, remove, back } = useRemoving()
async function removeIt(): Promise<void> {
  const { id } = attempt.value!
  await remove(id)
  if (gone.value?.id === id) choose('')
}
const strips = ref<{ drawing: SVGSVGElement | null }[]>([])
const topicTitle = (id?: string) => workspace.exam!.topics.find((topic) => topic.id === id)?.title ?? ''
function saveStrip(at: number, title: string): void {
  const drawing = strips.value[at]?.drawing
  const name = one.value?.title ?? `${says.value?.tests.length} tests`
  if (drawing) download(`${fileName(`${name} ${title}`)}.svg`, 'image/svg+xml', svgText(drawing))
}
function saveItems(): void {
  if (attempt.value?.items)
    download(`${fileName(one.value?.title ?? 'test')}.csv`, 'text/csv', writeResponses(attempt.value.items))
}
const answered = (list: { items: ReadItem[] }[]) => list.some(({ items }) => items.length > 0)
</script>

<template>
  <div class="sheet stack">
    <h1 class="only-reader">What tests say</h1>
    <p v-if="gone" role="status">
      The test of {{ dateWords(gone.date ?? workspace.today, workspace.today) }} is gone.
      <v-btn @click="back">Undo</v-btn>
    </p>
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <v-skeleton-loader v-if="!says" type="image, list-item@6" />
    <EmptyState
      v-else-if="!says.tests.length"
      title="No test with its answers yet"
      text="Sit a test here, or log one with its answers: then it shows where attention drifted, which minutes were sunk, and which right answers were luck."
    >
      <v-btn class="main" :to="{ name: 'sit', params: { candidateId } }">Sit a test</v-btn>
    </EmptyState>
    <template v-else>
      <div class="row tools">
        <ChoiceField
          class="which"
          label="Test"
          :options="options"
          :model-value="chosen"
          @update:model-value="choose"
        />
        <v-btn v-if="one" :to="{ name: 'review', params: { candidateId, attemptId: one.id } }"
          >Review it</v-btn
        >
        <v-btn v-if="attempt?.items" @click="saveItems">Answers as CSV</v-btn>
        <v-btn v-if="one && attempt && !isBaseline(attempt)" variant="text" @click="removeIt"
          >Delete this test</v-btn
        >
      </div>
      <p v-if="chosen && !one" class="bad" role="alert">The answers of this test are not known.</p>

      <section
        v-for="(section, at) in says.sections"
        :key="section.id"
        class="stack part"
        :aria-label="section.title"
      >
        <div class="row">
          <h2>{{ section.title }}</h2>
          <v-btn variant="text" :aria-label="`${section.title} as SVG`" @click="saveStrip(at, section.title)"
            >SVG</v-btn
          >
        </div>
        <PositionStrip
          v-if="one && section.items[0]"
          ref="strips"
          :section="section"
          :items="section.items[0]"
          :chosen="opened?.item"
          @choose="opened = section.items[0]!.find(({ item }) => item === $event)"
        />
        <PooledStrip
          v-else
          ref="strips"
          :section="section"
          :title-of="(test) => titles.get(test) ?? ''"
          :chosen="opened"
          @choose="opened = $event"
        />
        <p :data-testid="`drift-${section.id}`">
          <template v-if="section.drift && section.drifts">
            <WhereFrom :label="`Drift in ${section.title}`"
              ><template #figure
                ><strong>{{ driftWords(section.drift) }}</strong></template
              >
              The answers' distance from what their topics and difficulty let expect, added up item by item,
              is largest just before item {{ section.drift.from.item }}:
              {{ section.drift.cusum.toFixed(1) }} answers of {{ section.drift.items }}. Of the same answers
              in any other order, {{ sureWords(section.drift.p) }}.</WhereFrom
            >
            {{ pauseWords(section.drift) }}
          </template>
          <span v-else class="soft">{{ noDriftWords(section) }}</span>
          {{ runWords(section) }}
        </p>
      </section>
      <p v-if="one" class="small soft">
        A bar is an item, as high as its seconds against its budget. Hollow: right. Full: wrong. Broken edge:
        left blank. A dot under it: the answer was changed.
      </p>
      <p v-else class="small soft">
        A row is a test, the newest below; a cell an item, in the order taken up. Hollow: right. Full: wrong.
        Broken edge: left blank. The line adds up, over all tests, what the answers were above or below what
        their topics let expect.
      </p>
      <p v-if="opened" role="status" class="opened">
        <strong>Item {{ opened.item }}</strong
        ><template v-if="titleOf"> of {{ titleOf(opened.test ?? '') }}{{ opened.topic ? ';' : '' }}</template
        >{{ opened.topic ? ` ${topicTitle(opened.topic)}` : '' }}: {{ opened.answer || 'no answer' }}, key
        {{ opened.key || 'unknown'
        }}<template v-if="opened.seconds !== undefined"
          >, {{ spanWords(opened.seconds) }} where {{ spanWords(opened.budget) }} were due</template
        ><template v-if="opened.confidence">, {{ opened.confidence }}</template
        >.
      </p>

      <div class="columns">
        <section v-if="says.time.timed" class="stack" aria-label="Minutes">
          <h2>Minutes</h2>
          <table class="lines">
            <tbody>
              <tr>
                <th scope="row">Sunk: over twice its time, and not right</th>
                <td class="n" data-testid="sinks">
                  <ItemsOf label="Sunk" :items="says.time.sinks" :title-of="titleOf" />
                </td>
              </tr>
              <tr>
                <th scope="row">Time lost on them beyond their budget</th>
                <td class="n">{{ spanWords(says.time.lostSeconds) }}</td>
              </tr>
              <tr v-if="says.time.notReached.length">
                <th scope="row">Items that would have been reached with it</th>
                <td class="n">
                  {{ says.time.itemsLost.toFixed(1) }}, about {{ says.time.marksLost.toFixed(1) }} marks
                </td>
              </tr>
              <tr>
                <th scope="row">Rushed: under two fifths of its time, and wrong</th>
                <td class="n" data-testid="rushes">
                  <ItemsOf label="Rushed" :items="says.time.rushes" :title-of="titleOf" />
                </td>
              </tr>
              <tr>
                <th scope="row">Not reached</th>
                <td class="n">
                  <ItemsOf label="Not reached" :items="says.time.notReached" :title-of="titleOf" />
                </td>
              </tr>
              <tr v-if="says.late.length">
                <th scope="row">Answered after the bell</th>
                <td class="n">
                  {{
                    says.late
                      .map(({ item, test }) => (titleOf ? `${item} (${titleOf(test)})` : item))
                      .join(', ')
                  }}
                </td>
              </tr>
            </tbody>
          </table>
        </section>
        <section class="stack" aria-label="Changed answers">
          <h2>Changed answers</h2>
          <table class="lines">
            <tbody>
              <tr>
                <th scope="row">From wrong to right</th>
                <td class="n">
                  <ItemsOf label="From wrong to right" :items="says.changed.toRight" :title-of="titleOf" />
                </td>
              </tr>
              <tr>
                <th scope="row">From right to wrong</th>
                <td class="n">
                  <ItemsOf label="From right to wrong" :items="says.changed.toWrong" :title-of="titleOf" />
                </td>
              </tr>
              <tr>
                <th scope="row">Net</th>
                <td class="n" data-testid="net">
                  {{ says.changed.net > 0 ? '+' : '' }}{{ says.changed.net }}
                </td>
              </tr>
            </tbody>
          </table>
          <p class="small">{{ changeWords(says.changed) }}</p>
        </section>
        <section v-if="answered(says.calibrated)" class="stack" aria-label="How sure, and how right">
          <h2>How sure, and how right</h2>
          <table class="lines">
            <thead>
              <tr>
                <th>Marked</th>
                <th class="n">Items</th>
                <th class="n">Right</th>
                <th class="n">8 times in 10</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="line in says.calibrated" :key="line.confidence">
                <th scope="row">{{ line.confidence }}</th>
                <td class="n">
                  <ItemsOf :label="line.confidence" :items="line.items" :title-of="titleOf" />
                </td>
                <td class="n">{{ line.items.length ? percentWords(line.share) : '' }}</td>
                <td class="n soft">
                  {{ line.items.length ? `${percentWords(line.low)} to ${percentWords(line.high)}` : '' }}
                </td>
              </tr>
              <tr>
                <th scope="row">Right without being sure</th>
                <td class="n"><ItemsOf label="Lucky" :items="says.lucky" :title-of="titleOf" /></td>
                <td></td>
                <td></td>
              </tr>
            </tbody>
          </table>
        </section>
        <section v-if="!one && says.conditions.length" class="stack" aria-label="Conditions">
          <h2>Conditions</h2>
          <table class="lines">
            <tbody>
              <tr v-for="{ name, effect } in says.conditions" :key="name">
                <th scope="row">{{ conditionWords[name] }}</th>
                <td class="n">
                  {{ effect.difference > 0 ? '+' : '' }}{{ effect.difference.toFixed(0) }} points
                </td>
                <td class="small">{{ sureWords(effect.p) }}</td>
              </tr>
            </tbody>
          </table>
          <p class="small soft">Against what the tests before let expect, from three tests on either side.</p>
        </section>
      </div>
    </template>
  </div>
</template>

<style scoped>
.which {
  width: min(420px, 100%);
  flex: none;
}
.part {
  gap: 4px;
}
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(340px, 100%), 1fr));
  gap: 18px 34px;
  margin-top: 8px;
}
.opened {
  border-left: 3px solid var(--ochre);
  padding-left: 10px;
}
.columns th[scope='row'] {
  color: var(--ink);
}
</style>
