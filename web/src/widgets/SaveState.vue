<script setup lang="ts">
import { computed } from 'vue'
import { useWorkspace } from '../stores/workspace'
import type { SaveStatus } from '../stores/autosave'

const workspace = useWorkspace()
const order: SaveStatus[] = ['conflict', 'offline', 'refused', 'saving', 'editing', 'saved']
const entries = computed(() => workspace.saving)
const worst = computed<SaveStatus>(
  () => order.find((status) => entries.value.some(([, { state }]) => state.status === status)) ?? 'saved',
)
const words: Record<SaveStatus, string> = {
  saved: 'Saved',
  editing: 'Saving…',
  saving: 'Saving…',
  offline: 'Offline: kept in this browser, sent when the server answers',
  refused: 'Not saved yet: a field needs mending',
  conflict: 'Changed by someone else',
}
const conflicts = computed(() => entries.value.filter(([, { state }]) => state.status === 'conflict'))
const names: Record<string, string> = {
  candidate: 'The name and note',
  availability: 'The free time',
  baseline: 'The baseline',
  ratings: 'The ratings of topics',
  target: 'The target',
  settings: 'The habits',
  pacing: 'The pacing',
  materials: 'The materials',
  commitments: 'The commitments',
  examDay: 'The exam day',
  guessing: 'The guessing',
}
</script>

<template>
  <span
    class="small"
    :class="worst === 'saved' ? 'soft' : worst === 'saving' || worst === 'editing' ? '' : 'bad'"
    role="status"
    data-testid="save-state"
    >{{ words[worst] }}</span
  >
  <div v-for="([part, save], row) in conflicts" :key="row" class="conflict" role="alert">
    {{ names[part] }}: {{ save.state.conflict?.changedBy ?? 'someone else' }} changed this while you were
    typing.
    <v-btn @click="save.settle(false)">Take theirs</v-btn>
    <v-btn @click="save.settle(true)">Keep mine</v-btn>
  </div>
</template>

<style scoped>
.conflict {
  position: fixed;
  left: 50%;
  top: 8px;
  transform: translateX(-50%);
  z-index: 30;
  background: var(--paper);
  border: 1px solid var(--clay);
  padding: 10px 14px;
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
}
</style>
