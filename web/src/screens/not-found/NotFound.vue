<template>
  <main class="sheet stack">
    <h1>There is no such page</h1>
    <p>The address may be mistyped, or what it led to is no longer there.</p>
    <p><router-link :to="{ name: 'roster' }">To your plans</router-link></p>
  </main>
</template>
