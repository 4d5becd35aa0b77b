<script setup lang="ts">
import type { Picture, Stimulus } from '@climber/contract'
import FormText from './FormText.vue'

/** What several items are asked about, above the item. */
defineProps<{ stimulus: Stimulus; pictures?: Picture[] }>()
</script>

<template>
  <section class="stimulus" tabindex="0" :aria-label="stimulus.title ?? 'What it is about'">
    <h2 v-if="stimulus.title">{{ stimulus.title }}</h2>
    <FormText :text="stimulus.text" :pictures="pictures" />
  </section>
</template>

<style scoped>
.stimulus {
  border-left: 1px solid var(--hair);
  padding-left: 14px;
  max-width: 46em;
  max-height: 34vh;
  overflow-y: auto;
}
</style>
