<script setup lang="ts">
import { onMounted, ref } from 'vue'
import type { ShareMode } from '@climber/contract'
import { type ApiFailure, call } from '../../api'
import AddressField from '../../kit/AddressField.vue'
import ChoiceField from '../../kit/ChoiceField.vue'
import { dateWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'

/** The address at which others of the workspace read this review: made, renewed, ended. */
const props = defineProps<{ attempt: string }>()
const emit = defineEmits<{ close: [] }>()
const workspace = useWorkspace()
const params = () => ({ candidateId: workspace.candidate!.id, attemptId: props.attempt })
const state = ref<{ mode: ShareMode | null; since: string | null }>()
const mode = ref<ShareMode>('comment')
const address = ref('')
const problem = ref('')
const modes = [
  { value: 'comment', title: 'They read it, and may comment' },
  { value: 'read', title: 'They only read it' },
] as const
async function tried(work: () => Promise<void>): Promise<void> {
  problem.value = ''
  try {
    await work()
    state.value = await call('reviewShared', params())
    if (state.value.mode) mode.value = state.value.mode
  } catch (error) {
    problem.value = (error as ApiFailure).message
  }
}
onMounted(() => tried(async () => undefined))
const make = () =>
  tried(async () => {
    await workspace.whenSaved()
    const { token } = await call('shareReview', params(), { mode: mode.value })
    address.value = new URL(`/shared/${token}`, location.href).href
  })
const end = () =>
  tried(async () => {
    await call('closeReview', params())
    address.value = ''
  })
</script>

<template>
  <section class="share stack" aria-label="Share this review">
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <p class="small">
      Whoever signs in to this workspace, and has the address, sees this one review: its items, answers,
      causes and notes; nothing else of this record.
      <template v-if="state?.since"
        >It has been shared since {{ dateWords(state.since.slice(0, 10), workspace.today) }}.</template
      >
    </p>
    <div class="fields">
      <ChoiceField v-model="mode" class="mode" label="What they may do" :options="modes" />
      <v-btn class="main" @click="make">{{
        state?.since ? 'Make a new address, ending the one before' : 'Make an address'
      }}</v-btn>
      <v-btn v-if="state?.since" @click="end">End it</v-btn>
      <v-btn @click="emit('close')">Close</v-btn>
    </div>
    <AddressField v-if="address" label="Address, shown this once" :address="address" />
  </section>
</template>

<style scoped>
.share {
  padding: 12px 22px;
  border-bottom: 1px solid var(--hair);
  max-width: 900px;
}
.mode {
  width: 280px;
}
</style>
