<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import type { Card } from '@climber/contract'
import { writeCards } from '@climber/core'
import FileField from '../../kit/FileField.vue'
import ProblemList from '../../kit/ProblemList.vue'
import type { Problem } from '../../kit/problems'
import TextField from '../../kit/TextField.vue'
import { download } from '../../manners/download'
import { mostBytes, mostSeconds, textOf } from '../../manners/file'
import { rowProblems } from '../../manners/rowProblems'
import { useRecall } from '../../stores/recall'
import { useWorkspace } from '../../stores/workspace'
import { plain } from '../../workers/core'
import { numbers } from '../../workers/numbers'

/** Many cards at once: pasted, or read from a file. What is good is kept, what is not stands with its row. */
const emit = defineEmits<{ done: [] }>()
const workspace = useWorkspace()
const recall = useRecall()
const text = ref('')
const found = shallowRef<Card[]>()
const problems = shallowRef<Problem[]>([])
const more = ref(0)
const busy = ref(false)
const names = computed(() => ({ topics: plain(workspace.exam!.topics) }))

async function read(from: string): Promise<void> {
  busy.value = true
  found.value = undefined
  try {
    const answer = await numbers((worker) => worker.readCards(names.value, from), mostSeconds)
    found.value = answer.cards
    problems.value = rowProblems(answer.problems)
    more.value = answer.more
  } catch (error) {
    problems.value = [{ field: '', message: (error as Error).message }]
    more.value = 0
  }
  busy.value = false
}
async function chosen(file: File): Promise<void> {
  try {
    await read(await textOf(file, mostBytes.large))
  } catch (error) {
    problems.value = [{ field: file.name, message: (error as Error).message }]
  }
}
async function keep(): Promise<void> {
  busy.value = true
  await recall.addCards(found.value!.map((card, row) => ({ ...card, added: workspace.today, row })))
  busy.value = false
  emit('done')
}
const [one, two] = workspace.exam!.topics
const samples: Card[] = [
  {
    id: '1',
    kind: 'card',
    front: 'Height of tide',
    back: 'water above chart datum',
    ...(one && { topic: one.id }),
  },
  {
    id: '2',
    kind: 'place',
    front: 'Where are the corrections?',
    section: 'Chapter 4',
    exact: 'table 4.2',
    seconds: 40,
    ...(two && { topic: two.id }),
  },
  {
    id: '3',
    kind: 'numbers',
    question: {
      text: 'A lamp of {p} W burns {h} h. How much does it use?',
      numbers: [
        { name: 'p', low: 40, high: 100, step: 5 },
        { name: 'h', low: 6, high: 14, step: 1 },
      ],
      formula: 'p * h / 1000',
      unit: 'kWh',
      tolerance: { kind: 'relative', within: 0.01 },
      slips: [{ formula: 'p * h', name: 'thousands forgotten' }],
      worked: '{p} W times {h} h are {= p * h} Wh.',
    },
  },
]
const sample = (): void => download('cards-sample.csv', 'text/csv', writeCards(workspace.exam!, samples))
</script>

<template>
  <section class="stack table" aria-label="Many cards at once">
    <h2>Many cards at once</h2>
    <TextField
      v-model="text"
      label="Paste a table"
      :lines="6"
      hint="Two columns are front and back, three have the topic before them; with a header row, any of the columns of the sample."
    />
    <div class="row">
      <v-btn :loading="busy" :disabled="!text.trim()" @click="read(text)">Look at it</v-btn>
      <FileField label="Or a CSV file" accept=".csv,text/csv,text/plain" @chosen="chosen" />
      <v-btn @click="sample">A filled-in sample</v-btn>
    </div>
    <ProblemList :problems="problems" :more="more" />
    <div class="row">
      <v-btn v-if="found?.length" class="main" size="default" :loading="busy" data-testid="keep" @click="keep"
        >Keep {{ found.length === 1 ? 'one card' : `${found.length} cards` }}</v-btn
      >
      <span v-else-if="found" class="small">No card was found in it.</span>
      <span v-if="found?.length && problems.length" class="small soft"
        >The rows above are left out. Mended, they can be read by themselves.</span
      >
      <v-btn size="default" @click="emit('done')">Not now</v-btn>
    </div>
  </section>
</template>

<style scoped>
.table {
  border: 1px solid var(--hair);
  padding: 14px 16px;
}
</style>
