<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { dateOf, type RecallSeason, type RecallView } from '@climber/core'
import SliderField from '../../kit/SliderField.vue'
import { newestOnly } from '../../manners/newest'
import { dateWords, durationWords } from '../../manners/words'
import { useRecall } from '../../stores/recall'
import { useWorkspace } from '../../stores/workspace'
import SeasonChart from './SeasonChart.vue'

/** What each day until the exam brings, by the minutes and the new cards a day; a choice is kept. */
const props = defineProps<{ view: RecallView }>()
const workspace = useWorkspace()
const recall = useRecall()
const chosen = computed(() => workspace.saves!.settings.state.document.recall ?? {})
const minutes = ref(props.view.minutes)
const fresh = ref(props.view.fresh)
const byItself = ref(chosen.value.fresh === undefined)
const season = shallowRef<RecallSeason>()
const base = shallowRef<RecallSeason>()
const wish = computed(() => ({
  minutes: minutes.value,
  fresh: byItself.value ? undefined : fresh.value,
}))
const work = newestOnly(async () => {
  const { minutes: wanted, fresh: some } = wish.value
  base.value ??= await recall.ask('season')
  season.value = await recall.ask('season', { minutes: wanted, ...(some !== undefined && { fresh: some }) })
  if (byItself.value && season.value) fresh.value = season.value.fresh
})
watch([wish, () => recall.deck], () => void work(), { immediate: true })
const isChanged = computed(
  () => minutes.value !== props.view.minutes || wish.value.fresh !== chosen.value.fresh,
)
function keep(): void {
  workspace.saves!.settings.edit((document) => {
    document.recall = {
      ...document.recall,
      minutes: minutes.value,
      ...(wish.value.fresh !== undefined && { fresh: wish.value.fresh }),
    }
    if (byItself.value) delete document.recall.fresh
  })
  base.value = undefined
}
const days = computed(() => season.value?.days ?? [])
const weeks = computed(() => {
  const found: { from: string; again: number; fresh: number; seconds: number }[] = []
  days.value.forEach(({ day, again, fresh: some, seconds }, at) => {
    if (at % 7 === 0) found.push({ from: dateOf(day), again: 0, fresh: 0, seconds: 0 })
    const week = found.at(-1)!
    week.again += again
    week.fresh += some
    week.seconds += seconds
  })
  return found
})
</script>

<template>
  <div class="stack">
    <p v-if="view.left !== undefined && view.left < 1">The exam is here; no day is left.</p>
    <v-skeleton-loader v-else-if="!season" type="heading, image" />
    <template v-else>
      <p class="large title" data-testid="recalled">
        {{ season.recalled.toFixed(0) }} of {{ season.cards }} come back on the exam day
      </p>
      <p>
        With {{ season.minutes }} minutes a day and up to {{ season.fresh }} new cards a day<template
          v-if="base && isChanged"
          >; as it is chosen now, {{ base.recalled.toFixed(0) }}</template
        >. If nothing were done until then, {{ season.untouched.toFixed(0) }}.
        <template v-if="season.caughtUpOn">
          What waits is caught up with by {{ dateWords(season.caughtUpOn, workspace.today) }}.</template
        >
      </p>
      <div class="sliders">
        <SliderField
          v-model="minutes"
          label="Minutes a day"
          :min="3"
          :max="60"
          :step="1"
          :shown="`${minutes} min`"
        />
        <SliderField
          v-model="fresh"
          label="New cards a day"
          :min="0"
          :max="60"
          :step="1"
          :shown="String(fresh)"
          @update:model-value="byItself = false"
        />
        <div class="row">
          <v-checkbox
            v-model="byItself"
            label="as many new ones as bring most"
            density="compact"
            hide-details
          />
          <v-btn :class="{ main: isChanged }" :disabled="!isChanged || !recall.mayWork" @click="keep"
            >Keep this</v-btn
          >
        </div>
      </div>
      <SeasonChart :season="season" :cap="minutes" />
      <details>
        <summary>By week</summary>
        <table class="lines">
          <thead>
            <tr>
              <th scope="col">From</th>
              <th scope="col" class="n">Again</th>
              <th scope="col" class="n">New</th>
              <th scope="col" class="n">Time</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="week in weeks" :key="week.from">
              <th scope="row">{{ dateWords(week.from, workspace.today) }}</th>
              <td class="n">{{ week.again }}</td>
              <td class="n">{{ week.fresh }}</td>
              <td class="n">{{ durationWords(Math.round(week.seconds / 60)) }}</td>
            </tr>
          </tbody>
        </table>
      </details>
      <p class="small soft">
        Played through once, as a memory that keeps as yours did until Monday would answer. Nothing comes on
        the exam day and after it; in the last days comes what pays on the day itself.
      </p>
    </template>
  </div>
</template>

<style scoped>
.title {
  font-size: 28px;
}
.sliders {
  display: grid;
  gap: 4px;
  max-width: 620px;
}
</style>
