<script setup lang="ts">
import { computed, nextTick, onMounted, ref } from 'vue'
import type { ItemState } from '@climber/core'
import ChoiceField from '../../kit/ChoiceField.vue'

/** All items of what is worked at, each with its state; from here it is handed in. */
const props = defineProps<{
  items: readonly ItemState[]
  current?: number
  paper: boolean
  /** What handing in ends. */
  ends: string
  stages?: readonly { id: string; title: string }[]
}>()
const emit = defineEmits<{ go: [item: number]; close: []; handIn: [stage?: string] }>()

const isDone = ({ answer, done }: ItemState) => Boolean(answer) || done
const open = computed(() => props.items.filter((item) => !isDone(item)))
const left = computed(() => props.items.filter((item) => item.left && !isDone(item)))
const doubted = computed(() =>
  props.items.filter(({ confidence }) => confidence === 'between two' || confidence === 'no idea'),
)
const doubt = ({ confidence }: ItemState) =>
  confidence === 'between two' ? '?' : confidence === 'no idea' ? '0' : ''
const saying = (item: ItemState): string =>
  [
    `Item ${item.item}`,
    item.answer ? `answered ${item.answer}` : item.done ? 'done' : item.left ? 'left' : 'open',
    item.confidence,
  ]
    .filter(Boolean)
    .join(', ')
const sure = ref(false)
const stage = ref('')
const box = ref<HTMLElement>()
/** Asks once more, with the focus on what changes nothing. */
async function ask(): Promise<void> {
  sure.value = true
  await nextTick()
  box.value?.querySelector<HTMLElement>('.not-yet')?.focus()
}
onMounted(() => {
  const at = (wanted: string) => box.value?.querySelector<HTMLElement>(wanted)
  const first = at('[aria-current="true"]') ?? at('.item')
  first?.focus()
})
</script>

<template>
  <section
    ref="box"
    class="list"
    role="dialog"
    aria-modal="true"
    aria-label="All items"
    @keydown.esc="emit('close')"
  >
    <div class="row">
      <h2>All items</h2>
      <span data-testid="list-counts"
        >{{ items.length - open.length }} of {{ items.length }} {{ paper ? 'done' : 'answered'
        }}<template v-if="left.length">, {{ left.length }} left</template
        ><template v-if="doubted.length">, {{ doubted.length }} in doubt</template></span
      >
      <v-btn class="back" @click="emit('close')">Back to the item</v-btn>
    </div>
    <div class="grid">
      <button
        v-for="item in items"
        :key="item.item"
        type="button"
        class="item"
        :class="{ done: isDone(item), left: item.left && !isDone(item), doubt: doubt(item) }"
        :aria-current="item.item === current"
        :aria-label="saying(item)"
        @click="emit('go', item.item)"
      >
        <span class="number">{{ item.item }}</span>
        <span class="answer">{{ item.answer || (item.done ? '·' : item.left ? '–' : '') }}</span>
        <span class="sign">{{ doubt(item) }}</span>
      </button>
    </div>
    <ChoiceField
      v-if="stages?.length"
      v-model="stage"
      class="stage"
      label="Which part follows"
      hint="No key of this form tells; your paper does."
      :options="stages.map(({ id, title }) => ({ value: id, title }))"
    />
    <div class="row">
      <v-btn v-if="!sure" :disabled="stages?.length ? !stage : false" @click="ask">Hand in {{ ends }}</v-btn>
      <template v-else>
        <span>{{
          open.length
            ? `${open.length} of ${items.length} are open. Handed in is handed in.`
            : 'Handed in is handed in.'
        }}</span>
        <v-btn class="main" @click="emit('handIn', stage || undefined)">Hand in now</v-btn>
        <v-btn class="not-yet" @click="sure = false">Not yet</v-btn>
      </template>
    </div>
  </section>
</template>

<style scoped>
.list {
  position: absolute;
  inset: 0;
  z-index: 3;
  background: var(--ground);
  padding: 18px 22px;
  display: grid;
  gap: 14px;
  align-content: start;
  overflow-y: auto;
}
.back {
  margin-left: auto;
}
.grid {
  display: grid;
  grid-template-columns: repeat(10, minmax(0, 1fr));
  gap: 4px;
  max-width: 860px;
}
@media (max-width: 700px) {
  .grid {
    grid-template-columns: repeat(5, minmax(0, 1fr));
  }
}
.item {
  font: inherit;
  color: inherit;
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: baseline;
  min-height: 44px;
  padding: 2px 8px;
  text-align: left;
  cursor: pointer;
  background: var(--ground);
  border: 1px solid var(--hair);
}
.item.done {
  background: var(--paper);
  border-color: var(--ink);
}
.item.left {
  border-style: dashed;
  border-color: var(--ochre);
}
.item[aria-current='true'] {
  box-shadow: inset 0 -3px 0 var(--ochre);
}
.stage {
  max-width: 320px;
}
.number {
  color: var(--soft);
  font-size: 13px;
}
.answer {
  font-weight: 600;
}
.sign {
  grid-column: 1 / -1;
  font-size: 12px;
  color: var(--ochre-text);
  min-height: 14px;
}
</style>
