<script setup lang="ts">
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { isBaseline, type Verdict as VerdictFound } from '@climber/core'
import type { ApiFailure } from '../../api'
import { newestOnly } from '../../manners/newest'
import { painted } from '../../manners/painted'
import { percentWords } from '../../manners/words'
import { planSeed } from '../../stores/planChanges'
import { useWorkspace } from '../../stores/workspace'
import Caution from '../../widgets/Caution.vue'
import LearningPace from '../../widgets/LearningPace.vue'
import Verdict from '../../widgets/Verdict.vue'
import ShortWay from './ShortWay.vue'
import StepBaseline from './StepBaseline.vue'
import StepExam from './StepExam.vue'
import StepHabits from './StepHabits.vue'
import StepMaterials from './StepMaterials.vue'
import StepTarget from './StepTarget.vue'
import StepTime from './StepTime.vue'

const workspace = useWorkspace()
const router = useRouter()
const ids = ['short', 'exam', 'baseline', 'target', 'time', 'materials', 'habits'] as const
// Other screens lead to a step; whoever has no plan yet begins with what a plan needs.
const route = useRoute()
const asked = () => ids.find((id) => id === route.query.step)
const at = ref(asked() ?? (workspace.plan ? 'baseline' : 'short'))
watch(asked, (step) => step && (at.value = step))
const shown = painted(() => at.value)
const part = computed(() => workspace.saves!)
// Apart from the steps, so that these stay the same, and are not drawn anew, while something else is typed.
const measured = computed(
  () =>
    (workspace.record?.attempts.filter(isBaseline).length ?? 0) +
    Object.keys(part.value.ratings.state.document.topics).length,
)
/** Nothing is called open before it is known to be: a word that goes again moves what stands beside it. */
const aims = computed(
  () =>
    !workspace.overview || (workspace.overview.goal.mean !== undefined && workspace.sitting !== undefined),
)
const isFree = computed(() => part.value.availability.state.document.windows.length > 0)
const steps = computed(() => [
  { id: 'short' as const, title: 'In short', done: true },
  { id: 'exam' as const, title: 'Exam', done: true },
  { id: 'baseline' as const, title: 'Where you stand', done: measured.value > 0 },
  {
    id: 'target' as const,
    title: 'Target',
    // A target that the exam gives, and the sitting that looks chosen, are as good as typed ones.
    done: aims.value,
  },
  { id: 'time' as const, title: 'Free time', done: isFree.value },
  { id: 'materials' as const, title: 'Materials', done: true },
  { id: 'habits' as const, title: 'How you work', done: true },
])
const missing = computed(() => steps.value.filter(({ done }) => !done))
const refused = computed(() => workspace.saving.some(({ state }) => state.problems.length > 0))
const oddsWords = (odds: number | undefined) => (odds === undefined ? '…' : percentWords(odds))
/** What the plan would give if it were made again now: worked out beside, once the fields have come to rest. */
const again = ref<number>()
let resting: ReturnType<typeof setTimeout> | undefined
const record = painted(() => workspace.record)
watch(
  record,
  (now) => {
    again.value = undefined
    clearTimeout(resting)
    if (!now?.plan) return
    resting = setTimeout(() => {
      workspace
        .askBeside('previewPlan', planSeed)
        .then((preview) => {
          if (workspace.record === now) again.value = preview?.odds?.odds
        })
        .catch(() => undefined)
    }, 500)
  },
  { immediate: true },
)
onBeforeUnmount(() => clearTimeout(resting))
/** What the odds would be for a faster or a slower learner; undefined as it looks. */
const learns = ref(1)
const otherwise = shallowRef<VerdictFound>()
const explore = newestOnly(async () => {
  const by = learns.value
  const found = by === 1 ? undefined : await workspace.ask('explore', { learns: by })
  if (by === learns.value) otherwise.value = found
})
watch([record, learns], () => void explore())
const asLearner = computed(() =>
  otherwise.value ? { verdict: otherwise.value, moved: { learns: learns.value } } : {},
)
const making = ref(false)
const problem = ref('')

async function make(): Promise<void> {
  making.value = true
  problem.value = ''
  try {
    await workspace.whenSaved()
    // A plan that stands gives way to no other unseen: what would change is shown beside it.
    const query = workspace.plan ? { replan: 'anew' } : undefined
    if (!workspace.plan) await workspace.makePlan()
    await router.push({ name: 'plan', params: { candidateId: workspace.candidate!.id }, query })
  } catch (error) {
    problem.value = (error as ApiFailure).message
  }
  making.value = false
}
</script>

<template>
  <div class="set-up sheet">
    <div class="stack">
      <h1 class="only-reader">Set-up</h1>
      <div class="steps" role="tablist" aria-label="Steps, in any order">
        <button
          v-for="step in steps"
          :id="`tab-${step.id}`"
          :key="step.id"
          type="button"
          role="tab"
          :aria-selected="at === step.id"
          aria-controls="step"
          :class="{ here: at === step.id }"
          @click="at = step.id"
        >
          {{ step.title }}<span v-if="!step.done" class="mark"> · open</span>
        </button>
      </div>
      <div id="step" role="tabpanel" :aria-labelledby="`tab-${shown}`" class="step">
        <ShortWay v-if="shown === 'short'" @open="at = $event" />
        <StepExam v-else-if="shown === 'exam'" />
        <StepBaseline v-else-if="shown === 'baseline'" />
        <StepTarget v-else-if="shown === 'target'" />
        <StepTime v-else-if="shown === 'time'" />
        <StepMaterials v-else-if="shown === 'materials'" />
        <StepHabits v-else />
      </div>
    </div>
    <aside class="beside stack">
      <Verdict v-bind="asLearner" />
      <p v-if="workspace.overview?.verdict" class="row small">
        <span>If you learned</span> <LearningPace v-model="learns" />
      </p>
      <hr class="rule" />
      <div class="stack">
        <v-btn
          size="large"
          class="main"
          :loading="making"
          :disabled="refused"
          data-testid="make-plan"
          @click="make"
          >{{ workspace.plan ? 'Make the plan again…' : 'Make the plan' }}</v-btn
        >
        <p v-if="workspace.plan" class="small soft">
          Shows first what would change: what is done stays, the rest is planned anew from today. The present
          plan gives
          {{ oddsWords(workspace.overview?.odds?.odds) }}; made again now it would give
          <strong data-testid="again-odds">{{ oddsWords(again) }}</strong>.
        </p>
        <p v-if="workspace.plan" class="small">
          <router-link
            :to="{
              name: 'plan',
              params: { candidateId: workspace.candidate!.id },
              query: { replan: 'mend' },
            }"
            >Mend the plan instead</router-link
          >: near days stay, and only what no longer fits moves.
        </p>
        <p v-else-if="missing.length" class="small soft">
          Still open: {{ missing.map(({ title }) => title.toLowerCase()).join(', ') }}.
        </p>
        <p v-if="refused" class="small bad">A field needs mending first.</p>
        <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
      </div>
      <Caution />
    </aside>
  </div>
</template>

<style scoped>
.set-up {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 330px;
  gap: 34px;
}
.beside {
  border-left: 1px solid var(--hair);
  padding-left: 24px;
}
@media (max-width: 900px) {
  .set-up {
    grid-template-columns: 1fr;
    gap: 20px;
  }
  .beside {
    border-left: 0;
    border-top: 1px solid var(--ink);
    padding: 14px 0 0;
  }
}
</style>
