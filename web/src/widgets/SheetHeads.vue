<script setup lang="ts" generic="V extends string">
/** The head of a sheet: what it is about as tabs, and the views of the chosen one beside them. */
defineProps<{
  /** What the tabs are, for readers. */
  label: string
  tabs: { id: string; title: string }[]
  chosen?: string
  /** Id of the panel they lead to; each tab's own id is that and its own. */
  panel: string
  views: readonly (readonly [V, string])[]
  view: V
}>()
defineEmits<{ tab: [id: string]; view: [id: V] }>()
</script>

<template>
  <div class="heads">
    <div class="steps" role="tablist" :aria-label="label">
      <button
        v-for="one in tabs"
        :id="`${panel}-${one.id}`"
        :key="one.id"
        type="button"
        role="tab"
        :aria-controls="panel"
        :aria-selected="chosen === one.id"
        :class="{ here: chosen === one.id }"
        @click="$emit('tab', one.id)"
      >
        {{ one.title }}
      </button>
    </div>
    <nav v-if="tabs.length" class="views" aria-label="Views">
      <button
        v-for="[id, title] in views"
        :key="id"
        type="button"
        class="chip"
        :aria-pressed="view === id"
        @click="$emit('view', id)"
      >
        {{ title }}
      </button>
      <slot />
    </nav>
  </div>
</template>

<style scoped>
.heads {
  display: flex;
  align-items: end;
  gap: 24px;
  border-bottom: 1px solid var(--ink);
}
.heads .steps {
  border-bottom: 0;
}
.views {
  display: flex;
  align-items: baseline;
  gap: 4px;
  margin-left: auto;
  padding-bottom: 4px;
  white-space: nowrap;
}
.views :slotted(a) {
  margin-left: 10px;
}
@media (max-width: 900px) {
  .heads {
    display: grid;
    gap: 6px;
    border: 0;
  }
  .heads .steps {
    border-bottom: 1px solid var(--ink);
  }
  .views {
    margin: 0;
    flex-wrap: wrap;
  }
  .views :slotted(a) {
    margin-left: 0;
  }
  .views .chip {
    min-height: 38px;
  }
}
</style>
