<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref } from 'vue'
import { afterPaint } from '../manners/painted'

/**
 * What is drawn so many frames after what stands around it: a press that opens a long form shows its first part at once, and the
 * rest while one begins to read.
 */
const props = withDefaults(defineProps<{ frames?: number }>(), { frames: 1 })
const due = ref(props.frames <= 0)
let stop = () => {}
onMounted(() => {
  let left = props.frames
  const next = () => {
    if (--left <= 0) due.value = true
    else stop = afterPaint(next)
  }
  if (!due.value) stop = afterPaint(next)
})
onBeforeUnmount(() => stop())
</script>

<template>
  <slot v-if="due" />
</template>
