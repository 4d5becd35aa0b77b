<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { addressOf, type ApiFailure, call } from '../api'
import AddressField from '../kit/AddressField.vue'
import { dateWords } from '../manners/words'
import { useWorkspace } from '../stores/workspace'

/** The private address at which a calendar program reads this plan: made, renewed, ended. */
const props = defineProps<{ candidateId: string }>()
const emit = defineEmits<{ close: [] }>()
const workspace = useWorkspace()
const state = ref<{ since: string | null; read: string | null }>()
const address = ref('')
const problem = ref('')
async function tried(work: () => Promise<void>): Promise<void> {
  problem.value = ''
  try {
    await work()
    state.value = await call('feedState', { candidateId: props.candidateId })
  } catch (error) {
    problem.value = (error as ApiFailure).message
  }
}
onMounted(() => tried(async () => undefined))
const make = () =>
  tried(async () => {
    const { token } = await call('openFeed', { candidateId: props.candidateId })
    address.value = new URL(addressOf('readFeed', { token }), location.href).href
  })
const end = () =>
  tried(async () => {
    await call('closeFeed', { candidateId: props.candidateId })
    address.value = ''
  })
const day = (instant: string) => dateWords(instant.slice(0, 10), workspace.today)
</script>

<template>
  <section class="row address-panel" aria-label="Calendar address">
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <template v-if="address">
      <span
        >Subscribe to this address in a calendar program; moved sessions move there. Whoever has it can read
        the plan. It is shown this once.</span
      >
      <AddressField label="Calendar address" :address="address" />
    </template>
    <span v-else-if="state?.since"
      >An address was made on {{ day(state.since)
      }}{{ state.read ? `, last read on ${day(state.read)}` : ', not read yet' }}.</span
    >
    <span v-else-if="state"
      >A calendar program can read this plan at a private address and keep up with it.</span
    >
    <v-btn v-if="state && !address" @click="make">{{
      state.since ? 'Make a new one, ending this' : 'Make an address'
    }}</v-btn>
    <v-btn v-if="state?.since" @click="end">End it</v-btn>
    <v-btn @click="emit('close')">Close</v-btn>
  </section>
</template>

<style scoped>
.address-panel {
  padding: 8px 22px;
  border-bottom: 1px solid var(--hair);
  background: var(--paper);
}
</style>
