<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { placeOf } from '../places'

/** The parts of the place one is in, where it has more than one. */
defineProps<{ candidateId: string }>()
const route = useRoute()
const place = computed(() => placeOf(route.name))
</script>

<template>
  <nav v-if="place && place.parts.length > 1" class="parts no-print" :aria-label="place.title">
    <router-link
      v-for="part in place.parts"
      :key="part.name"
      :to="{ name: part.name, params: { candidateId } }"
      :class="{ 'router-link-active': String(route.name).startsWith(`${part.name}-`) }"
      >{{ part.title }}</router-link
    >
  </nav>
</template>

<style scoped>
.parts {
  display: flex;
  gap: 20px;
  padding: 12px 22px 0;
}
.parts a {
  color: var(--soft);
  text-decoration: none;
  padding: 4px 0;
  border-bottom: 2px solid transparent;
}
.parts a.router-link-active {
  color: var(--ink);
  font-weight: 650;
  border-bottom-color: var(--ochre);
}
</style>
