<script setup lang="ts">
import { computed } from 'vue'
import type { Sitting } from '@climber/contract'
import { dateWords, distanceWords, percentWords, termsOf } from '../../manners/words'
import { useLevers } from '../../stores/levers'
import { useWorkspace } from '../../stores/workspace'

/** The sittings ahead, each with the hours until then and its odds; one far enough away is taken until another is chosen. */
const workspace = useWorkspace()
const levers = useLevers()
const save = computed(() => workspace.saves!.target)
const exam = computed(() => workspace.exam!)
const ahead = computed(() => exam.value.sittings.filter(({ date }) => date > workspace.today))
const over = computed(() => exam.value.sittings.length - ahead.value.length)
const chosen = computed(() => save.value.state.document.sitting)
const taken = computed(() => chosen.value ?? workspace.sitting?.id)
const problem = computed(() => save.value.state.problems.find(({ field }) => field === 'sitting')?.message)
const oddsAt = (id: string) => {
  const verdict = workspace.overview?.verdict
  if (id === workspace.sitting?.id)
    return verdict && verdict.odds !== undefined ? { odds: verdict.odds, hours: verdict.hours } : undefined
  const lever = levers.value?.levers.find((one) => one.kind === 'sitting' && one.sitting === id)
  return lever?.kind === 'sitting' ? lever : undefined
}
const isClosed = ({ registerBy }: Sitting) => registerBy !== undefined && registerBy < workspace.today
const choose = (id: unknown) => save.value.edit((target) => (target.sitting = String(id)))
</script>

<template>
  <div class="stack">
    <p v-if="!exam.sittings.length" class="bad">
      The exam format names no sitting.
      <router-link :to="{ name: 'exams' }">Add one to it</router-link>.
    </p>
    <p v-else-if="!ahead.length" class="bad">
      Every sitting is over. <router-link :to="{ name: 'exams' }">Add the next one</router-link> to the exam
      format.
    </p>
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <v-radio-group
      v-if="ahead.length"
      :model-value="taken"
      aria-label="Sitting"
      density="compact"
      hide-details
      class="sittings"
      @update:model-value="choose"
    >
      <v-radio v-for="sitting in ahead" :key="sitting.id" :value="sitting.id">
        <template #label>
          <span class="sitting">
            <span
              ><strong>{{ dateWords(sitting.date, workspace.today) }}</strong
              >{{ ' '
              }}<span class="soft"
                >{{ distanceWords(sitting.date, workspace.today) }}, {{ sitting.start }}</span
              >
              <span v-if="!chosen && sitting.id === taken" class="mark"> · taken until you choose</span></span
            >
            <span class="small" :class="isClosed(sitting) ? 'mark' : 'soft'"
              >{{ [sitting.place, termsOf(sitting, workspace.today)].filter(Boolean).join('; ') }}
            </span>
            <span v-if="oddsAt(sitting.id)" class="small">
              <strong>{{ percentWords(oddsAt(sitting.id)!.odds) }}</strong> with
              {{ oddsAt(sitting.id)!.hours.toFixed(0) }} h of study
            </span>
          </span>
        </template>
      </v-radio>
    </v-radio-group>
    <p v-if="over" class="small soft">{{ over === 1 ? 'One sitting is' : `${over} sittings are` }} over.</p>
  </div>
</template>

<style scoped>
.sitting {
  display: grid;
  padding: 5px 0;
}
.sittings :deep(.v-selection-control) {
  align-items: flex-start;
  border-bottom: 1px solid var(--hair);
}
.sittings :deep(.v-label) {
  opacity: 1;
  color: var(--ink);
}
@media (min-width: 900px) {
  .sitting {
    grid-template-columns: 330px 1fr auto;
    column-gap: 16px;
    align-items: baseline;
  }
  .sittings :deep(.v-label) {
    flex: 1;
  }
}
</style>
