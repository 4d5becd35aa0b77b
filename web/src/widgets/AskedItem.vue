<script setup lang="ts">
import type { FormItem, Picture } from '@climber/contract'
import FormText from './FormText.vue'

/** An item as it is asked: its text and options where they are known, else the letters to answer with; options can be struck out. */
const props = defineProps<{
  text?: FormItem
  pictures?: Picture[]
  letters: readonly string[]
  chosen?: string
  struck: ReadonlySet<string>
  /** What is said beside an option, once it is known: the key, an answer given. Nothing can be pressed then. */
  said?: ReadonlyMap<string, string>
}>()
const emit = defineEmits<{ answer: [letter: string]; strike: [letter: string] }>()
const isChosen = (letter: string): boolean => props.chosen === letter
</script>

<template>
  <FormText v-if="text?.text" :text="text.text" :pictures="pictures" class="asked" />
  <ul v-if="text?.options" class="options">
    <li
      v-for="(letter, at) in letters"
      :key="letter"
      :class="{ struck: struck.has(letter), chosen: isChosen(letter), told: said?.has(letter) }"
    >
      <button
        type="button"
        class="option"
        :aria-pressed="isChosen(letter)"
        :data-letter="letter"
        :disabled="Boolean(said)"
        @click="emit('answer', letter)"
      >
        <span class="letter">{{ letter }}</span>
        <FormText :text="text.options[at] ?? ''" :pictures="pictures" within />
      </button>
      <span v-if="said" class="said">{{ said.get(letter) }}</span>
      <button
        v-else
        type="button"
        class="strike"
        :aria-pressed="struck.has(letter)"
        :aria-label="`Strike out ${letter}`"
        @click="emit('strike', letter)"
      >
        strike
      </button>
    </li>
  </ul>
  <div v-else-if="letters.length" class="letters" role="group" aria-label="Answer">
    <button
      v-for="letter in letters"
      :key="letter"
      type="button"
      class="key"
      :class="{ struck: struck.has(letter), told: said?.has(letter) }"
      :data-letter="letter"
      :aria-pressed="isChosen(letter)"
      :disabled="Boolean(said)"
      @click="emit('answer', letter)"
    >
      {{ letter }}<span v-if="said?.has(letter)" class="under">{{ said.get(letter) }}</span>
    </button>
  </div>
</template>

<style scoped>
.asked {
  font-size: 17px;
  margin-bottom: 12px;
}
.options {
  list-style: none;
  margin: 0;
  padding: 3px;
  display: grid;
  gap: 6px;
}
.options li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
}
.option {
  font: inherit;
  color: inherit;
  text-align: left;
  background: var(--paper);
  border: 1px solid var(--hair);
  min-height: 44px;
  padding: 6px 12px;
  display: grid;
  grid-template-columns: 26px minmax(0, 1fr);
  align-items: center;
  cursor: pointer;
}
.option:disabled,
.key:disabled {
  cursor: default;
}
.letter {
  font-weight: 600;
}
.chosen .option {
  border-color: var(--ink);
  box-shadow: inset 4px 0 0 var(--ink);
}
.struck .option,
.key.struck {
  text-decoration: line-through;
  color: var(--soft);
}
.told .option,
.key.told {
  border-color: var(--ink);
}
.strike {
  font: inherit;
  font-size: 13px;
  color: var(--soft);
  background: none;
  border: 1px solid var(--hair);
  border-left: 0;
  min-width: 58px;
  cursor: pointer;
}
.strike[aria-pressed='true'] {
  text-decoration: line-through;
}
.said {
  font-size: 13px;
  align-self: center;
  min-width: 58px;
  padding-left: 10px;
}
.letters {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.key {
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--hair);
  min-width: 84px;
  min-height: 84px;
  padding: 0 14px;
  font-size: 28px;
  cursor: pointer;
}
.under {
  display: block;
  font-size: 13px;
}
.key[aria-pressed='true'] {
  background: var(--ink);
  color: var(--ground);
}
@media (max-width: 700px) {
  .letters {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(64px, 1fr));
  }
  .key {
    min-width: 0;
    padding: 0 8px;
  }
}
</style>
