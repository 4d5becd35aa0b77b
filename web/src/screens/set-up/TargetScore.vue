<script setup lang="ts">
import { computed } from 'vue'
import NumberField from '../../kit/NumberField.vue'
import { useWorkspace } from '../../stores/workspace'

/** The score one needs; the pass mark where nobody wrote another. */
const workspace = useWorkspace()
const save = computed(() => workspace.saves!.target)
const scaled = computed(() => save.value.state.document.scaled)
const cut = computed(() => workspace.exam!.composite.cut)
const range = computed(() => workspace.overview?.range)
const problem = computed(() => save.value.state.problems.find(({ field }) => field === 'scaled')?.message)
const hint = computed(() => {
  const ends = range.value && `from ${range.value.low} to ${range.value.high}`
  return [ends, cut.value !== undefined && `the pass mark, ${cut.value}, where it is left empty`]
    .filter(Boolean)
    .join('; ')
})
const setTarget = (score: number | undefined) =>
  save.value.edit((target) => {
    if (score === undefined) delete target.scaled
    else target.scaled = score
  })
</script>

<template>
  <NumberField
    class="target"
    label="The score you need"
    unit="points in all"
    :hint="hint"
    :placeholder="cut === undefined ? undefined : String(cut)"
    optional
    :model-value="scaled"
    :errors="problem"
    @update:model-value="setTarget"
  />
</template>

<style scoped>
.target {
  max-width: 360px;
}
</style>
