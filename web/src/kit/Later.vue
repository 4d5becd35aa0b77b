<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref } from 'vue'

/**
 * What is drawn so many frames after what stands around it: a press that opens a long form shows its first part at once, and the
 * rest while one begins to read.
 */
const props = withDefaults(defineProps<{ frames?: number }>(), { frames: 1 })
const due = ref(props.frames <= 0)
let waiting = 0
onMounted(() => {
  let left = props.frames
  const next = () => {
    // After the frame is on the screen, not before it.
    setTimeout(() => {
      if (--left <= 0) due.value = true
      else waiting = requestAnimationFrame(next)
    })
  }
  if (!due.value) waiting = requestAnimationFrame(next)
})
onBeforeUnmount(() => cancelAnimationFrame(waiting))
</script>

<template>
  <slot v-if="due" />
</template>
