<script setup lang="ts">
import { ref } from 'vue'
import TwoVersions from './TwoVersions.vue'

/** Somebody changed the same thing meanwhile: what they did is kept, or one's own is done on top of it. */
export interface Clash {
  message: string
  /** What is stored now, and what was to be. */
  versions?: { theirs: unknown; mine: unknown }
  theirs: () => Promise<void> | void
  mine: () => Promise<void> | void
}
const props = defineProps<{ clash: Clash }>()
const emit = defineEmits<{ settled: [] }>()
const busy = ref(false)
const problem = ref('')
async function settle(how: 'theirs' | 'mine'): Promise<void> {
  busy.value = true
  problem.value = ''
  try {
    await props.clash[how]()
    emit('settled')
  } catch (error) {
    problem.value = (error as Error).message
  }
  busy.value = false
}
</script>

<template>
  <div class="stack" role="alert">
    <p class="bad">{{ clash.message }}</p>
    <TwoVersions v-if="clash.versions" v-bind="clash.versions" />
    <div class="row">
      <v-btn :disabled="busy" @click="settle('theirs')">Take theirs</v-btn>
      <v-btn :disabled="busy" @click="settle('mine')">Keep mine</v-btn>
    </div>
    <p v-if="problem" class="bad small">{{ problem }}</p>
  </div>
</template>
