<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import { randomFrom, shuffle } from '@climber/core'
import NumberField from '../../kit/NumberField.vue'
import { useRecall } from '../../stores/recall'
import { useWorkspace } from '../../stores/workspace'
import FormText from '../../widgets/FormText.vue'
import { plain } from '../../workers/core'
import { numbers } from '../../workers/numbers'
import type { DrawnQuestion } from '../../workers/numbering'

/** Ten questions with numbers of their own to print, and their key with the worked solutions on another page. */
const workspace = useWorkspace()
const recall = useRecall()
const route = useRoute()
const batch = 10
const topic = computed(() => (route.query.topic ? String(route.query.topic) : undefined))
/** The same number gives the same sheet again. */
const sheet = ref<number | undefined>(1 + (crypto.getRandomValues(new Uint16Array(1))[0]! % 9999))
const drawn = shallowRef<(DrawnQuestion & { unit?: string })[]>()
const left = ref(0)
watch(
  () => workspace.candidate?.id,
  () => void recall.load(),
  { immediate: true },
)
const questions = computed(() =>
  [...recall.cards.values()].flatMap((card) =>
    card.kind === 'numbers' && !card.suspended && (!topic.value || card.topic === topic.value) ? [card] : [],
  ),
)
watch(
  [questions, sheet],
  async ([all, number]) => {
    if (!recall.deck || number === undefined) return
    const random = randomFrom(number)
    const order = [...all].sort((one, two) => one.id.localeCompare(two.id))
    shuffle(order, random)
    const found: NonNullable<typeof drawn.value> = []
    let without = 0
    for (let at = 0; order.length && at < batch && at < order.length * 3; at++) {
      const { question } = order[at % order.length]!
      const seed = Math.floor(random() * 2 ** 31)
      try {
        const draw = await numbers((worker) => worker.draw(plain(question), seed))
        found.push({ ...draw, ...(question.unit && { unit: question.unit }) })
      } catch {
        without++
      }
    }
    if (sheet.value !== number) return
    drawn.value = found
    left.value = without
  },
  { immediate: true },
)
const print = (): void => window.print()
</script>

<template>
  <div class="sheet stack">
    <div class="row no-print">
      <h1>Ten with other numbers</h1>
      <v-btn class="main" @click="print">Print</v-btn>
      <router-link
        :to="{ name: 'recall', params: { candidateId: workspace.candidate!.id }, query: { part: 'cards' } }"
        >Back</router-link
      >
    </div>
    <div class="no-print number">
      <NumberField
        v-model="sheet"
        label="Sheet"
        :min="1"
        :max="9999"
        whole
        hint="the same number, the same sheet"
      />
    </div>
    <p v-if="left" class="small soft no-print">
      {{ left }} could not be asked: no numbers were found for them. Mend them among the cards.
    </p>
    <v-skeleton-loader v-if="!drawn" type="list-item@6" />
    <p v-else-if="!drawn.length">There is no question with changed numbers here yet.</p>
    <template v-else>
      <section class="paper" aria-label="Questions">
        <header class="row">
          <h2 class="large">Questions, sheet {{ sheet }}</h2>
          <span>{{ workspace.name }}</span>
        </header>
        <ol>
          <li v-for="draw in drawn" :key="draw.seed">
            <FormText :text="draw.text" />
            <p class="line">
              Answer<template v-if="draw.unit">, in {{ draw.unit }}</template>
            </p>
          </li>
        </ol>
      </section>
      <section class="paper key" aria-label="Key">
        <h2 class="large">Key, sheet {{ sheet }}</h2>
        <ol>
          <li v-for="draw in drawn" :key="draw.seed">
            <strong>{{ draw.answer }}</strong>
            <FormText v-if="draw.worked" :text="draw.worked" />
            <p v-if="draw.slips.length" class="small">
              {{ draw.slips.map(({ name, value }) => `${value}: ${name}`).join('; ') }}
            </p>
          </li>
        </ol>
      </section>
    </template>
  </div>
</template>

<style scoped>
.number {
  max-width: 220px;
}
.paper li {
  margin-bottom: 14px;
  break-inside: avoid;
}
.line {
  border-bottom: 1px solid var(--ink);
  max-width: 300px;
  padding-top: 18px;
}
.key {
  break-before: page;
  border-top: 1px dashed var(--hair);
  padding-top: 12px;
}
@media print {
  .key {
    border: 0;
  }
}
</style>
