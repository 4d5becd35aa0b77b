<script setup lang="ts">
import { computed } from 'vue'
import { mdiRedo, mdiUndo } from '@mdi/js'
import { useCommands } from '../commands'
import { useUndoKeys } from '../manners/undoKeys'
import type { EditHistory } from '../stores/history'

/** What was changed in documents here is undone, and done again. */
const props = defineProps<{ history: EditHistory }>()
const undo = () => props.history.undo()
const redo = () => props.history.redo()
/** Both ways, each with the name of what it would change: none where there is nothing. */
const steps = computed(() => {
  const { last, next } = props.history
  const step = (word: string, about: string | undefined) =>
    about ? `${word}: ${about.charAt(0).toLowerCase()}${about.slice(1)}` : ''
  return [
    { word: 'Undo', icon: mdiUndo, title: step('Undo', last.value), keys: 'Ctrl z', run: undo },
    { word: 'Redo', icon: mdiRedo, title: step('Redo', next.value), keys: 'Ctrl Shift z', run: redo },
  ]
})

useCommands(() =>
  steps.value.flatMap(({ title, keys, run }) => (title ? [{ title, of: 'Changes', keys, run }] : [])),
)
useUndoKeys((again) => (again ? redo() : undo()))
</script>

<template>
  <div v-if="steps.some(({ title }) => title)" class="edits">
    <v-btn
      v-for="{ word, icon, title, run } in steps"
      :key="word"
      :icon="icon"
      variant="text"
      size="small"
      :disabled="!title"
      :aria-label="title || word"
      :title="title || undefined"
      @click="run"
    />
  </div>
</template>

<style scoped>
.edits {
  display: flex;
  flex: none;
}
</style>
