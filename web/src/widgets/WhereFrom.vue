<script setup lang="ts">
/** A number that opens to where it comes from: the figure is the button, the slot the explanation. */
defineProps<{ label: string }>()
</script>

<template>
  <v-menu :close-on-content-click="false" location="bottom">
    <template #activator="{ props }">
      <button v-bind="props" type="button" class="from" :aria-label="`${label}: where this comes from`">
        <slot name="figure" />
      </button>
    </template>
    <v-card class="pa-4 why" max-width="420">
      <h3>{{ label }}</h3>
      <div class="mt-2 small"><slot /></div>
    </v-card>
  </v-menu>
</template>

<style scoped>
.from {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  border-bottom: 1px dotted var(--soft);
  padding: 0;
  cursor: help;
  text-align: inherit;
}
.why {
  border: 1px solid var(--ink);
  background: var(--paper);
}
.why :deep(ul) {
  margin: 0;
  padding-left: 16px;
}
.why :deep(li) {
  margin: 3px 0;
}
</style>
