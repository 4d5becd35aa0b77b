<script setup lang="ts">
import { computed, ref } from 'vue'
import { useDisplay } from 'vuetify'
import { within } from '../../kit/problems'
import ChoiceRow from '../../kit/ChoiceRow.vue'
import { useWorkspace } from '../../stores/workspace'
import CountsEntry from '../../widgets/CountsEntry.vue'
import { countedTest } from './counted'
import FreeTime from './FreeTime.vue'
import RatingRow from './RatingRow.vue'
import SittingChoice from './SittingChoice.vue'
import TargetScore from './TargetScore.vue'

/** What a plan needs, on one page; the rest can wait, and says what it would change. */
defineEmits<{ open: [step: 'baseline' | 'target' | 'time' | 'materials' | 'habits'] }>()
const workspace = useWorkspace()
const { smAndDown } = useDisplay()
const exam = computed(() => workspace.exam!)
const ratings = computed(() => workspace.saves!.ratings.state.document.topics)
const save = computed(() => workspace.baseline!.diagnostic())
const { entry, counts, responses } = countedTest(
  () => save.value,
  () => workspace.today,
)
const ways = [
  { value: 'test', title: 'a test I sat' },
  { value: 'topics', title: 'how sure I am of each topic' },
  { value: 'nothing', title: 'nothing yet' },
] as const
type Way = (typeof ways)[number]['value']
const counted = computed(() => {
  const { total, sections, groups } = entry.value.counts
  return total !== undefined || Object.keys({ ...sections, ...groups }).length > 0
})
const way = ref<Way>(counted.value || !Object.keys(ratings.value).length ? 'test' : 'topics')
const kind = computed(() => workspace.saves!.target.state.document.kind ?? 'number')
const spread = computed(() => workspace.overview?.verdict?.today)
const rated = computed(() => Object.keys(ratings.value).length)
const shelf = computed(() => workspace.saves!.materials.state.document.items.length)
</script>

<template>
  <div class="stack short-way">
    <section class="stack" aria-labelledby="stand">
      <h2 id="stand"><span class="number">1</span> Where you stand</h2>
      <ChoiceRow v-model="way" label="Known from" :options="ways" />
      <CountsEntry
        v-if="way === 'test'"
        v-model:counts="counts"
        v-model:responses="responses"
        :exam="exam"
        :problems="within(save.state.problems, 'counts')"
      />
      <ul v-else-if="way === 'topics'" class="topics">
        <li v-for="topic in exam.topics" :key="topic.id" class="row">
          <span class="title">{{ topic.title }}</span>
          <RatingRow :topic="topic.id" :title="topic.title" />
        </li>
      </ul>
      <p v-else class="soft">The plan then begins with a test that tells.</p>
    </section>
    <section class="stack" aria-labelledby="aim">
      <h2 id="aim"><span class="number">2</span> Target and day</h2>
      <TargetScore v-if="kind === 'number'" />
      <p v-else class="row">
        <span>Another target than a score is chosen.</span>
        <v-btn size="small" @click="$emit('open', 'target')">See it</v-btn>
      </p>
      <SittingChoice />
    </section>
    <section class="stack" aria-labelledby="free">
      <h2 id="free"><span class="number">3</span> Free time</h2>
      <FreeTime :folded="smAndDown" />
    </section>
    <section class="stack" aria-labelledby="later">
      <h2 id="later">What can wait, and what it would change</h2>
      <ul class="later">
        <li>
          <button type="button" class="link" @click="$emit('open', 'baseline')">
            Earlier tests, topic by topic
          </button>
          <span class="soft">
            what is known, and with it which topics come first{{
              spread ? `; a paper today is forecast to ± ${Math.round(spread.sd)}` : ''
            }}{{ rated ? `; ${rated} of ${exam.topics.length} topics rated` : '' }}</span
          >
        </li>
        <li>
          <button type="button" class="link" @click="$emit('open', 'materials')">
            Books and practice papers
          </button>
          <span class="soft">
            pages and questions in each session, and papers to rehearse on;
            {{ shelf ? `${shelf} on the shelf` : 'none yet' }}</span
          >
        </li>
        <li>
          <button type="button" class="link" @click="$emit('open', 'time')">Commitments, days off</button>
          <span class="soft"> the hours there are: the plan goes round them</span>
        </li>
        <li>
          <button type="button" class="link" @click="$emit('open', 'habits')">How you work</button>
          <span class="soft"> length of sessions, how often a test, one way of working against another</span>
        </li>
        <li>
          <button type="button" class="link" @click="$emit('open', 'target')">Another kind of target</button>
          <span class="soft"> places to apply to, a percentile, a cut that moves</span>
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.short-way {
  gap: 26px;
}
.number {
  display: inline-block;
  min-width: 22px;
  font-family: var(--large);
  color: var(--soft);
}
.topics,
.later {
  list-style: none;
  margin: 0;
  padding: 0;
}
.topics li {
  border-bottom: 1px solid var(--hair);
  padding: 4px 0;
}
.title {
  flex: 1 1 180px;
}
.later li {
  padding: 4px 0;
}
</style>
