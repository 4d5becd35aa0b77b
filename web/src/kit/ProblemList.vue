<script setup lang="ts">
import { computed } from 'vue'
import type { Problem } from './problems'

/** Problems that stand at no field, or of a file, each with where it is. `more` counts those not handed over. */
const props = defineProps<{ problems: readonly Problem[]; more?: number; title?: string }>()
const all = computed(() => props.problems.length + (props.more ?? 0))
</script>

<template>
  <div v-if="problems.length" role="alert" class="kit-problems small">
    <p v-if="title || all > 1" class="bad">{{ title ?? `${all} things are not right:` }}</p>
    <ul>
      <li v-for="(problem, at) in problems" :key="at">
        <strong v-if="problem.field">{{ problem.field }}: </strong>{{ problem.message }}
      </li>
    </ul>
    <p v-if="more" class="soft">and {{ more }} more.</p>
  </div>
</template>

<style scoped>
.kit-problems {
  border-left: 3px solid var(--clay);
  padding: 2px 0 2px 10px;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>
