<script setup lang="ts">
import { useWorkspace } from '../stores/workspace'

const workspace = useWorkspace()
</script>

<template>
  <p v-if="workspace.exam?.licence" class="small soft">
    A study aid only: the law, the licensing body and licensed practice decide what is safe.
  </p>
</template>
