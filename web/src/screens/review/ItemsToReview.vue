<script setup lang="ts">
import { computed } from 'vue'
import type { ReviewNote } from '@climber/contract'
import { causeTitle, type ReviewItem } from '@climber/core'
import { useWorkspace } from '../../stores/workspace'
import { lookWords } from './sayings'

/** The items of a review in the order that pays, each with what became of it; sets stand together. */
const props = defineProps<{
  items: readonly ReviewItem[]
  others: readonly ReviewItem[]
  notes: ReadonlyMap<number, ReviewNote>
  current?: number
  /** What it comes to is shown. */
  ended: boolean
}>()
const emit = defineEmits<{ take: [item: number]; end: [] }>()
const workspace = useWorkspace()
const titles = computed(() => new Map(workspace.exam!.topics.map(({ id, title }) => [id, title])))
const rows = computed(() =>
  props.items.map((item, at) => {
    const note = props.notes.get(item.item)
    return {
      item,
      topic: titles.value.get(item.topic ?? '') ?? 'no topic',
      // A set is one block in the list.
      joins: at > 0 && item.set !== undefined && props.items[at - 1]?.set === item.set,
      done: Boolean(note?.reviewedOn),
      cause: note?.cause && causeTitle(note.cause),
    }
  }),
)
</script>

<template>
  <nav class="items" aria-label="Items worth a look">
    <button type="button" class="end" :aria-current="ended ? 'step' : undefined" @click="emit('end')">
      What it comes to
    </button>
    <ol>
      <li v-for="{ item, topic, joins, done, cause } in rows" :key="item.item" :class="{ joins, done }">
        <button
          type="button"
          :aria-current="item.item === current ? 'step' : undefined"
          @click="emit('take', item.item)"
        >
          <span class="n">{{ item.item }}</span>
          <span class="what">
            <span class="topic">{{ topic }}</span>
            <span class="small soft">{{ cause ?? item.why.map((why) => lookWords[why]).join(', ') }}</span>
          </span>
          <span class="mark" :aria-label="done ? 'done' : undefined">{{ done ? '✓' : '' }}</span>
        </button>
      </li>
    </ol>
    <p v-if="others.length" class="small soft rest">{{ others.length }} more were right and need no look.</p>
  </nav>
</template>

<style scoped>
.items {
  display: grid;
  align-content: start;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  border-top: 1px solid var(--hair);
}
li:first-child,
li.joins {
  border-top: 0;
}
button {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  width: 100%;
  text-align: left;
  cursor: pointer;
  min-height: 44px;
  padding: 3px 12px;
}
li button {
  display: grid;
  grid-template-columns: 34px minmax(0, 1fr) 16px;
  gap: 8px;
  align-items: center;
}
li.joins button {
  border-left: 3px solid var(--faint);
}
button[aria-current] {
  background: var(--wash);
  box-shadow: inset 3px 0 0 var(--ink);
}
.n {
  font-weight: 600;
  text-align: right;
}
.what {
  display: grid;
  line-height: 1.2;
}
.topic {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.done .topic {
  color: var(--soft);
}
.mark {
  color: var(--lichen-text);
}
.end {
  border-bottom: 1px solid var(--ink);
  font-weight: 600;
}
.rest {
  padding: 4px 12px;
}
@media (max-width: 700px) {
  .items {
    padding-bottom: 80px;
  }
}
</style>
