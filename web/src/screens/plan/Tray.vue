<script setup lang="ts">
import { computed } from 'vue'
import type { StoredSession, Unplaced } from '@climber/contract'
import { waits } from '@climber/core'
import { kindWords } from '../../manners/kinds'
import { dateWords, durationWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'

/** Work without a place: what slipped or was lifted out, and tests that the plan could not place. */
defineProps<{ busy: boolean }>()
const emit = defineEmits<{
  carry: [event: PointerEvent, piece: StoredSession | Unplaced]
  place: [piece: StoredSession | Unplaced]
}>()
const workspace = useWorkspace()
/** The title, with the word for its kind where that does not begin with it. */
const named = (piece: StoredSession | Unplaced): string => {
  const title = workspace.titleOf(piece)
  return title.startsWith(kindWords[piece.kind]) ? title : `${kindWords[piece.kind]}: ${title}`
}
const pieces = computed((): (StoredSession | Unplaced)[] => [
  ...(workspace.plan?.sessions ?? []).filter((session) => waits(session, workspace.today)),
  ...(workspace.plan?.unplaced ?? []),
])
</script>

<template>
  <section v-if="pieces.length" class="tray" aria-label="Tray: work without a place">
    <h2 class="title">Tray <span class="soft small">drag a piece onto a day, or have it placed</span></h2>
    <ul>
      <li v-for="piece in pieces" :key="piece.id">
        <span
          class="kind piece"
          :class="`kind-${piece.kind}`"
          @pointerdown.prevent="emit('carry', $event, piece)"
          ><span class="word">{{ named(piece) }}</span
          >{{ ' ' }}
          <span class="soft small"
            >{{ durationWords(piece.minutes)
            }}{{ 'date' in piece ? `, was ${dateWords(piece.date)}` : '' }}</span
          ></span
        >
        <v-btn
          size="small"
          :disabled="busy"
          :aria-label="`Place ${workspace.titleOf(piece)}`"
          @click="emit('place', piece)"
          >Place it</v-btn
        >
      </li>
    </ul>
  </section>
</template>

<style scoped>
.title {
  font-size: 15px;
}
.tray {
  border-top: 1px solid var(--ink);
  padding-top: 6px;
}
ul {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
  display: grid;
  gap: 5px;
}
/* Beside the weeks it has room of its own; on a phone the page scrolls and nothing in it does. */
@media (min-width: 701px) {
  ul {
    max-height: 300px;
    overflow: auto;
  }
}
li {
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: center;
  gap: 6px;
}
.piece {
  padding: 2px 8px;
  cursor: grab;
  touch-action: none;
  font-size: 13px;
}
.kind-test .soft {
  color: inherit;
}
</style>
