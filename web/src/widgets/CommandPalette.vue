<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { VCommandPalette } from 'vuetify/labs/VCommandPalette'
import { type Command, commandsHere } from '../commands'
import { outbox } from '../outbox/here'
import { askKept } from '../outbox/kept'

/** Every screen and action by its name: typed in part, chosen with the arrow keys. */
const open = defineModel<boolean>({ required: true })
const router = useRouter()
const search = ref('')
/** Its list is named for screen readers, which the library's own types do not foresee. */
const listProps: object = { 'aria-label': 'Screens and actions' }
const doIt = ({ to, run }: Command) => (to ? void router.push(to) : void run?.())
/** Everybody's plan, by their name. */
const candidates = ref<readonly Command[]>([])
onMounted(async () => {
  // Without an answer there are the screens and actions all the same.
  const found = await askKept(outbox(), 'listCandidates', {}).catch(() => undefined)
  candidates.value = (found?.answer ?? []).map(({ id, name, examTitle }) => ({
    title: name,
    of: examTitle,
    to: { name: 'today', params: { candidateId: id } },
  }))
})
const items = computed(() =>
  [...commandsHere(), ...candidates.value].map((command) => ({
    title: command.title,
    subtitle: [command.of, command.keys].filter(Boolean).join(' · '),
    onClick: () => doIt(command),
  })),
)
</script>

<template>
  <VCommandPalette
    v-model="open"
    v-model:search="search"
    :items="items"
    no-data-text="Nothing is called that."
    aria-label="Go to, or do"
    :list-props="listProps"
  >
    <template #input="{ props: own }">
      <!-- The library puts the role on the frame of the field, where what belongs to it is missing. -->
      <v-text-field
        v-bind="{ ...own, role: undefined, 'aria-expanded': undefined }"
        v-model="search"
        aria-label="Go to, or do"
        placeholder="Go to, or do: part of a name"
        autocomplete="off"
        class="pa-3"
      />
    </template>
  </VCommandPalette>
</template>
