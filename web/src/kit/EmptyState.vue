<script setup lang="ts">
/** What goes here once there is something, and the first step there. */
defineProps<{ title: string; text: string }>()
</script>

<template>
  <v-empty-state justify="start" class="kit-empty">
    <template #title
      ><h2>{{ title }}</h2></template
    >
    <template #text
      ><p class="soft">{{ text }}</p></template
    >
    <template #default><slot /></template>
  </v-empty-state>
</template>

<style scoped>
.kit-empty {
  min-height: 0;
  padding: 10px 0;
  gap: 6px;
}
</style>
