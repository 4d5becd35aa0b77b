<script setup lang="ts" generic="T extends string">
/** Tabs of one place; arrows go from one to the next. The panel below takes the name of the tab. */
defineProps<{ label: string; tabs: readonly { value: T; title: string; mark?: string }[] }>()
const value = defineModel<T>({ required: true })
</script>

<template>
  <v-tabs
    v-model="value"
    :aria-label="label"
    density="compact"
    height="34"
    show-arrows
    hide-slider
    class="kit-tabs"
  >
    <v-tab v-for="tab in tabs" :key="tab.value" :value="tab.value" :ripple="false"
      >{{ tab.title }}<span v-if="tab.mark" class="mark">&nbsp;· {{ tab.mark }}</span></v-tab
    >
  </v-tabs>
</template>
