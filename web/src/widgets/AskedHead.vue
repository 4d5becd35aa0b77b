<script setup lang="ts">
/** Which of how many is asked, and what it is about; the slot says more under that, `beside` stands at the end. */
defineProps<{ number: number; of: number; title: string }>()
</script>

<template>
  <header class="row head">
    <span class="large number"
      >{{ number }}<span class="of"> of {{ of }}</span></span
    >
    <span
      ><strong>{{ title }}</strong
      ><br /><span class="small soft"><slot /></span
    ></span>
    <slot name="beside" />
  </header>
</template>

<style scoped>
.head {
  border-bottom: 1px solid var(--hair);
  padding-bottom: 8px;
  align-items: center;
  flex-wrap: nowrap;
}
.number {
  font-size: 40px;
  white-space: nowrap;
}
.of {
  font-size: 18px;
  color: var(--soft);
}
</style>
