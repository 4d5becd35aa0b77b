<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import type { Gap } from '@climber/core'
import Later from '../../kit/Later.vue'
import { newestOnly } from '../../manners/newest'
import { useWorkspace } from '../../stores/workspace'
import { plain } from '../../workers/core'
import HoursPay from './HoursPay.vue'
import MayBeLost from './MayBeLost.vue'
import Sharing from './Sharing.vue'
import WhatIf from './WhatIf.vue'

/** What it takes: what may be lost in each section, and where the next hours pay most. Nothing here is stored. */
const workspace = useWorkspace()
const found = shallowRef<Gap>()
const hours = ref<number>()
const wanted = ref<Record<string, number>>({})

const work = newestOnly(async () => {
  found.value = (await workspace.ask('gap', hours.value, plain(wanted.value))) ?? found.value
})
watch([() => workspace.record, hours, wanted], () => void work(), { immediate: true })
const whole = computed(() => {
  const give = found.value?.sections ?? []
  return give.every(({ mustGive }) => mustGive) && workspace.overview?.goal.mean !== undefined ? give : []
})
function want(id: string, score: number | undefined): void {
  const { [id]: _gone, ...rest } = wanted.value
  wanted.value = score === undefined ? rest : { ...rest, [id]: score }
}
</script>

<template>
  <div class="sheet stack">
    <h1 class="only-reader">Gap</h1>
    <WhatIf />
    <v-skeleton-loader v-if="!found" type="image, list-item@6" />
    <template v-else>
      <MayBeLost :sections="found.sections" :wanted="wanted" @want="want" />
      <HoursPay v-model="hours" :found="found" />
      <Later v-if="whole.length > 1"><Sharing :sections="whole" :wanted="wanted" @want="want" /></Later>
    </template>
  </div>
</template>
