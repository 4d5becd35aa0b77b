<script setup lang="ts"></script>
<template><div class="sheet">What tests say</div></template>
