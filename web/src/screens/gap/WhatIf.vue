<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import type { Verdict as VerdictFound } from '@climber/core'
import SliderField from '../../kit/SliderField.vue'
import { newestOnly } from '../../manners/newest'
import { painted } from '../../manners/painted'
import { dateWords, termsOf } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import AfterExam from '../../widgets/AfterExam.vue'
import LearningPace from '../../widgets/LearningPace.vue'
import Verdict from '../../widgets/Verdict.vue'

/** Levers moved by hand, and the verdict as it would be; nothing is kept until somebody says so. */
const workspace = useWorkspace()
const more = ref(0)
const sitting = ref<string>()
const target = ref<number>()
/** How fast the work ahead is thought to be learned. */
const learns = ref(1)
const explored = shallowRef<VerdictFound>()
const lag = ref(0)
const moves = computed(() => ({
  ...(more.value && { minutesMoreAWeek: more.value }),
  ...(sitting.value !== undefined && { sitting: sitting.value }),
  ...(target.value !== undefined && { scaled: target.value }),
  ...(learns.value !== 1 && { learns: learns.value }),
}))
/** The lever moves at once, and what would come of it a frame later. */
const asked = painted(() => moves.value)
const explore = newestOnly(async () => {
  const begun = performance.now()
  explored.value = await workspace.ask('explore', asked.value)
  lag.value = performance.now() - begun
})
watch([() => workspace.record, asked], () => void explore(), { immediate: true })
const moved = computed(() => Object.keys(moves.value).length > 0)
const open = computed(() => workspace.exam!.sittings.filter(({ date }) => date > workspace.today))
const range = computed(() => workspace.overview?.range ?? { low: 0, high: 100 })
const aimed = computed({
  get: () => target.value ?? workspace.overview?.goal.mean ?? range.value.low,
  set: (score) => (target.value = score),
})
const aimedWords = computed(() =>
  target.value === undefined && workspace.overview?.goal.mean === undefined
    ? 'none yet'
    : String(Number(aimed.value.toFixed(1))),
)
function putBack(): void {
  more.value = 0
  sitting.value = undefined
  target.value = undefined
  learns.value = 1
}
/** Keeps target and sitting; minutes are found in the week painter, where their hours lie. */
function keep(): void {
  const [newSitting, newTarget] = [sitting.value, target.value]
  workspace.saves!.target.edit((document) => {
    if (newSitting) document.sitting = newSitting
    if (newTarget !== undefined) Object.assign(document, { kind: 'number', scaled: newTarget })
  })
  sitting.value = undefined
  target.value = undefined
}
</script>

<template>
  <div class="levers">
    <section class="stack" aria-label="Levers">
      <h2>What if</h2>
      <SliderField
        v-model="more"
        label="Minutes more a week"
        :min="0"
        :max="900"
        :step="15"
        :shown="more ? `+${more}` : 'as it is'"
      />
      <SliderField
        v-model="aimed"
        label="Target"
        :min="range.low"
        :max="range.high"
        :step="workspace.exam!.composite.step"
        :shown="aimedWords"
      />
      <div>
        <span class="small soft">Sitting</span>
        <v-radio-group
          :model-value="sitting ?? workspace.sitting?.id"
          aria-label="Sitting"
          density="compact"
          hide-details
          @update:model-value="sitting = String($event)"
        >
          <v-radio v-for="one in open" :key="one.id" :value="one.id">
            <template #label>
              <span
                >{{ dateWords(one.date, workspace.today) }}
                <span class="small soft">{{ termsOf(one, workspace.today) }}</span></span
              >
            </template>
          </v-radio>
        </v-radio-group>
      </div>
      <div class="row">
        <span>Learning</span>
        <LearningPace v-model="learns" />
      </div>
      <div v-if="moved" class="row">
        <v-btn v-if="sitting || target !== undefined" class="act" @click="keep"
          >Keep target and sitting</v-btn
        >
        <v-btn @click="putBack">Put back</v-btn>
        <router-link v-if="more" :to="{ name: 'set-up' }" class="small"
          >Paint the minutes in the week</router-link
        >
      </div>
    </section>
    <div :data-lever-lag="Math.round(lag)" data-testid="explored">
      <Verdict v-if="explored" :verdict="explored" :sitting="sitting" :moved="asked" />
      <AfterExam v-else-if="workspace.isOver" />
      <div v-else-if="workspace.sitting" class="coming">
        <v-skeleton-loader type="heading, list-item@4" />
      </div>
      <p v-else class="soft">There is no sitting to aim at.</p>
    </div>
  </div>
</template>

<style scoped>
/* As high as the verdict, which comes a little later. */
.coming {
  min-height: 430px;
}
.levers {
  display: grid;
  grid-template-columns: minmax(300px, 1fr) minmax(320px, 1fr);
  gap: 28px;
}
@media (max-width: 800px) {
  .levers {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 700px) {
  .coming {
    min-height: 520px;
  }
}
</style>
