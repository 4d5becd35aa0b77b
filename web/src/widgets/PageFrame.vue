<script setup lang="ts">
import { offline } from '../outbox/connection'
import { useSession } from '../stores/session'
import AccountMenu from './AccountMenu.vue'

defineProps<{ title: string }>()
/** Whoever is not signed in yet has no places. */
const session = useSession()
</script>

<template>
  <div>
    <header class="top no-print">
      <router-link :to="{ name: 'roster' }" class="brand large">Climber</router-link>
      <nav v-if="session.signedIn" aria-label="Places">
        <router-link :to="{ name: 'roster' }">Plans</router-link>
        <router-link :to="{ name: 'exams' }">Exam formats</router-link>
      </nav>
      <span v-if="offline" class="small bad" role="status">Offline</span>
      <AccountMenu v-if="session.signedIn" />
    </header>
    <main class="sheet stack">
      <div class="row between">
        <h1>{{ title }}</h1>
        <div class="row"><slot name="actions" /></div>
      </div>
      <slot />
    </main>
  </div>
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  gap: 18px;
  padding: 4px 14px 4px 22px;
  border-bottom: 1px solid var(--ink);
  min-height: 44px;
}
.brand {
  font-size: 23px;
  text-decoration: none;
  color: var(--ink);
}
nav {
  flex: 1;
  display: flex;
  gap: 16px;
}
nav a {
  color: var(--ink);
  text-decoration: none;
  padding: 6px 0;
}
nav a.router-link-active {
  box-shadow: 0 2px 0 var(--ochre);
}
.between {
  justify-content: space-between;
}
</style>
