<script setup lang="ts">
import { ref } from 'vue'
import type { Comment } from '@climber/contract'
import TextField from '../kit/TextField.vue'
import { dateWords } from '../manners/words'

/** What others say of an item, and a line to answer. `mine` says which of it can be taken back. */
defineProps<{
  comments: readonly Comment[]
  today: string
  mine: (comment: Comment) => boolean
  closed?: boolean
}>()
const emit = defineEmits<{ say: [text: string]; take: [id: string] }>()
const text = ref('')
const writing = ref(false)
function say(): void {
  const said = text.value.trim()
  if (!said) return
  emit('say', said)
  text.value = ''
  writing.value = false
}
</script>

<template>
  <div class="comments">
    <ul v-if="comments.length">
      <li v-for="comment in comments" :key="comment.id">
        <strong>{{ comment.by }}</strong><span v-if="comment.at" class="soft small"
          >, {{ dateWords(comment.at.slice(0, 10), today) }}</span
        >: {{ comment.text }}
        <button v-if="mine(comment)" type="button" class="link small" @click="emit('take', comment.id)">
          take back
        </button>
      </li>
    </ul>
    <button v-if="!closed && !writing" type="button" class="link small" @click="writing = true">
      say something of this item
    </button>
    <form v-else-if="!closed" class="row" novalidate @submit.prevent="say">
      <TextField v-model="text" class="say" label="What you say of it" autofocus />
      <v-btn type="submit" :disabled="!text.trim()">Say it</v-btn>
    </form>
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0 0 4px;
  padding: 0;
}
li {
  border-left: 3px solid var(--water);
  padding: 2px 0 2px 8px;
  margin-bottom: 4px;
}
.row {
  align-items: center;
}
.say {
  flex: 1;
  max-width: 40em;
}
</style>
