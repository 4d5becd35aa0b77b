<script setup lang="ts">
/** An address to copy: all of it is marked when it is reached. */
defineProps<{ label: string; address: string }>()
const mark = (event: FocusEvent): void => {
  if (event.target instanceof HTMLInputElement) event.target.select()
}
</script>

<template>
  <v-text-field :model-value="address" :label="label" readonly class="address-field" @focusin="mark" />
</template>

<style scoped>
.address-field {
  min-width: min(360px, 100%);
}
</style>
