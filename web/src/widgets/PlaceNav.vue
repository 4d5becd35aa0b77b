<script setup lang="ts">
import { useRoute } from 'vue-router'
import { placeOf, places } from '../places'

/** The five places: a column on a desk, a row at the thumb on a phone. */
defineProps<{ candidateId: string }>()
const route = useRoute()
</script>

<template>
  <nav class="places no-print" aria-label="Places">
    <router-link
      v-for="place in places"
      :key="place.title"
      :to="{ name: place.parts[0].name, params: { candidateId } }"
      :class="{ here: placeOf(route.name) === place }"
      :aria-current="placeOf(route.name) === place ? 'page' : undefined"
      >{{ place.title }}</router-link
    >
  </nav>
</template>

<style scoped>
.places {
  display: flex;
  flex-direction: column;
  padding: 14px 0;
  border-right: 1px solid var(--hair);
}
.places a {
  color: var(--ink);
  text-decoration: none;
  padding: 7px 10px 7px 22px;
  border-left: 4px solid transparent;
}
.places a.here {
  border-left-color: var(--ochre);
  font-weight: 650;
}
@media (max-width: 700px) {
  .places {
    position: fixed;
    bottom: 0;
    left: 0;
    right: 0;
    z-index: 20;
    display: grid;
    grid-template-columns: repeat(5, 1fr);
    padding: 0;
    background: var(--paper);
    border: 0;
    border-top: 1px solid var(--ink);
  }
  .places a {
    padding: 14px 2px;
    text-align: center;
    white-space: nowrap;
    border-left: 0;
    border-top: 3px solid transparent;
  }
  .places a.here {
    border-top-color: var(--ochre);
  }
}
</style>
