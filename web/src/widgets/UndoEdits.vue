<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { mdiRedo, mdiUndo } from '@mdi/js'
import { useCommands } from '../commands'
import { useUndoKeys } from '../manners/undoKeys'
import { useWorkspace } from '../stores/workspace'

/** What was changed in a candidate's documents here is undone, and done again; the plan's own steps are undone where they were made. */
const workspace = useWorkspace()
const route = useRoute()
const own = () => route.name !== 'plan'
const undo = () => workspace.history?.undo()
const redo = () => workspace.history?.redo()
/** Both ways, each with the name of what it would change: none where there is nothing. */
const steps = computed(() => {
  const { last, next } = workspace.history ?? {}
  const step = (word: string, about: string | undefined) =>
    about ? `${word}: ${about.charAt(0).toLowerCase()}${about.slice(1)}` : ''
  return [
    { word: 'Undo', icon: mdiUndo, title: step('Undo', last?.value), keys: 'Ctrl z', run: undo },
    { word: 'Redo', icon: mdiRedo, title: step('Redo', next?.value), keys: 'Ctrl Shift z', run: redo },
  ].filter(own)
})

useCommands(() =>
  steps.value.flatMap(({ title, keys, run }) => (title ? [{ title, of: 'Changes', keys, run }] : [])),
)
useUndoKeys((again) => (again ? redo() : undo()), own)
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
