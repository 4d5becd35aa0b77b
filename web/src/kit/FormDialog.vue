<script setup lang="ts">
import { useId } from 'vue'
import { useDisplay } from 'vuetify'

/** A form over the page; the whole screen on a phone. Escape and *Not now* leave it, and what was typed stays with its owner. */
defineProps<{ title: string; submit: string; busy?: boolean }>()
const emit = defineEmits<{ submit: [] }>()
const open = defineModel<boolean>({ required: true })
const { smAndDown } = useDisplay()
const id = useId()
</script>

<template>
  <v-dialog v-model="open" max-width="760" :fullscreen="smAndDown" :aria-labelledby="id" scrollable>
    <v-card class="pa-5">
      <form class="stack" novalidate @submit.prevent="emit('submit')">
        <h2 :id="id">{{ title }}</h2>
        <slot />
        <div class="row">
          <v-btn type="submit" size="default" class="main" :loading="busy">{{ submit }}</v-btn>
          <v-btn size="default" @click="open = false">Not now</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>
