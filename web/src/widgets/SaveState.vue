<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import type { Entry } from '../outbox/entry'
import { offline } from '../outbox/connection'
import { useNarrow } from '../manners/size'
import { outbox } from '../outbox/here'
import { useRecall } from '../stores/recall'
import { useWorkspace } from '../stores/workspace'

/** What is not stored yet, of this candidate or another, and what the server would not take. */
const TwoVersions = defineAsyncComponent(() => import('./TwoVersions.vue'))
const workspace = useWorkspace()
const recall = useRecall()
const narrow = useNarrow(700)
/** A format that is being typed and not handed in waits for its own screen. */
const waiting = computed(() =>
  outbox().entries.value.filter(({ route, held }) => !(route === 'saveFormat' && held)),
)
const conflicts = computed(() => waiting.value.filter(({ failure }) => failure?.code === 'conflict'))
/** Refused, and not a field that is being mended on a screen. */
const refused = computed(() =>
  waiting.value.filter(
    ({ failure, held, route }) => failure && failure.code !== 'conflict' && !held && route !== 'savePart',
  ),
)
const mending = computed(
  () =>
    waiting.value.some(({ held, failure }) => held || failure) ||
    workspace.saving.some(({ state }) => state.status === 'refused'),
)
const onTheWay = computed(
  () => waiting.value.length > 0 || workspace.saving.some(({ state }) => state.status === 'editing'),
)
/** Documents, not keystrokes. */
const things = computed(() => {
  const { size } = new Set(waiting.value.map(({ lane }) => lane))
  return size === 1 ? '1 change' : `${size} changes`
})
const where = computed(() => (outbox().keeper.durable ? 'in this browser' : 'while this tab is open'))
/** What is said, and what there is room for on a desk only. */
const words = computed((): [said: string, more?: string] => {
  if (conflicts.value.length) return ['Changed by someone else']
  if (offline.value)
    return waiting.value.length
      ? [`Offline: ${things.value} kept`, ` ${where.value}, sent when the server answers`]
      : ['Offline', ': what you do is kept here and sent later']
  if (mending.value) return ['Not saved yet', ': a field needs mending']
  return [onTheWay.value ? 'Saving…' : 'Saved']
})
const bad = computed(() => conflicts.value.length > 0 || offline.value || mending.value)
const listed = ref(false)

const versionOf = ({ failure }: Entry): number =>
  (failure?.current as { version?: number } | undefined)?.version ?? 0
/** What is stored now, and what was to be: whole documents, or the fields that were to be written. */
function versionsOf({ body, failure }: Entry): { theirs: unknown; mine: unknown } {
  const sent = body as Record<string, unknown>
  const current = failure?.current as Record<string, unknown> | undefined
  const theirs = (current?.['document'] ?? current ?? {}) as Record<string, unknown>
  const whole = sent['document'] ?? sent['attempt']
  if (whole) return { theirs, mine: whole }
  const both = Object.keys(sent).filter((key) => key in theirs)
  const of = (all: Record<string, unknown>) => Object.fromEntries(both.map((key) => [key, all[key]]))
  return { theirs: of(theirs), mine: of(sent) }
}
async function settle(entry: Entry, mine: boolean): Promise<void> {
  const save = workspace.saving.find(({ lane }) => lane === entry.lane)
  if (save) return save.settle(mine)
  if (mine) return outbox().insist(entry.lane, versionOf(entry))
  await outbox().drop(entry.lane)
  await (entry.route === 'saveCards' || entry.route === 'answerCards' ? recall.reload() : workspace.reload())
}
</script>

<template>
  <button
    type="button"
    class="small state"
    :class="bad ? 'bad' : onTheWay ? '' : 'soft'"
    :disabled="!waiting.length"
    :aria-expanded="listed && waiting.length > 0"
    aria-label="What is saved"
    aria-describedby="save-words"
    @click="listed = !listed"
  >
    <span id="save-words" role="status" data-testid="save-state"
      >{{ words[0] }}<span :class="{ 'only-reader': narrow }">{{ words[1] }}</span></span
    >
  </button>
  <div v-if="conflicts.length || refused.length" class="notices">
    <div v-for="entry in conflicts" :key="entry.lane" class="notice" role="alert">
      <span
        >{{ entry.about }}: {{ entry.failure?.changedBy ?? 'someone else' }} changed this while you were
        typing.</span
      >
      <TwoVersions v-bind="versionsOf(entry)" />
      <v-btn @click="settle(entry, false)">Take theirs</v-btn>
      <v-btn @click="settle(entry, true)">Keep mine</v-btn>
    </div>
    <div v-for="entry in refused" :key="entry.lane" class="notice" role="alert">
      {{ entry.about }} was not stored: {{ entry.failure?.issues?.[0]?.message ?? entry.failure?.message }}
      <v-btn @click="settle(entry, true)">Try again</v-btn>
      <v-btn @click="settle(entry, false)">Drop it</v-btn>
    </div>
  </div>
  <ul v-if="listed && waiting.length" class="list small" aria-label="What waits">
    <li v-for="entry in waiting" :key="entry.order">{{ entry.about }}</li>
  </ul>
</template>

<style scoped>
.state {
  font: inherit;
  font-size: 13px;
  background: none;
  border: 0;
  padding: 4px 0;
  text-align: right;
}
.state:not(:disabled) {
  cursor: pointer;
  text-decoration: underline dotted;
}
.notices {
  position: fixed;
  left: 50%;
  top: 8px;
  transform: translateX(-50%);
  z-index: 30;
  display: grid;
  gap: 6px;
  width: min(640px, calc(100vw - 20px));
  max-height: 90vh;
  overflow: auto;
}
.notice > .lines {
  flex: 1 0 100%;
}
.notice {
  background: var(--paper);
  border: 1px solid var(--clay);
  padding: 10px 14px;
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
}
.list {
  position: absolute;
  right: 14px;
  top: 44px;
  z-index: 25;
  background: var(--paper);
  border: 1px solid var(--hair);
  margin: 0;
  padding: 10px 14px 10px 28px;
}
</style>
