<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import ChoiceField from '../../kit/ChoiceField.vue'
import NumberField from '../../kit/NumberField.vue'
import ProblemList from '../../kit/ProblemList.vue'
import { byField, type Problem } from '../../kit/problems'
import TextField from '../../kit/TextField.vue'
import { newestOnly } from '../../manners/newest'
import FormText from '../../widgets/FormText.vue'
import { plain } from '../../workers/core'
import { numbers } from '../../workers/numbers'
import type { Tried } from '../../workers/numbering'
import { type CardDraft, soundQuestion, unnamedIn } from './draft'

/** A question whose numbers change: its numbers and formulas, with draws of it beside them as one writes. */
const props = defineProps<{ problems: readonly Problem[] }>()
const draft = defineModel<CardDraft>({ required: true })
const fields = computed(() => byField([...props.problems, ...found.value], 'question'))
const tolerances = [
  { value: 'relative', title: 'per cent of it' },
  { value: 'absolute', title: 'as much off' },
  { value: 'figures', title: 'significant figures' },
] as const
const missing = computed(() => unnamedIn(draft.value))

const tried = shallowRef<Tried>()
const failed = shallowRef('')
const found = computed<Problem[]>(() => tried.value?.problems ?? [])
const look = newestOnly(async () => {
  const question = soundQuestion(draft.value)
  failed.value = ''
  if (!question) return void (tried.value = undefined)
  try {
    tried.value = await numbers((worker) => worker.check(plain(question), 3, 1))
  } catch (error) {
    tried.value = undefined
    failed.value = (error as Error).message
  }
})
watch(draft, () => void look(), { deep: true, immediate: true })
const flaws = computed(() => tried.value?.checked?.flaws ?? [])
const numbersIn = (of: Record<string, number>): string =>
  Object.entries(of)
    .map(([name, value]) => `${name} ${value}`)
    .join(', ')
</script>

<template>
  <div class="stack">
    <p class="small soft">
      Name the numbers in braces: <code>A lamp of {p} W burns {h} h</code>. In the worked solution a formula
      may stand: <code>{= p * h / 1000}</code>.
    </p>
    <table class="lines numbers">
      <caption class="only-reader">
        Numbers that change
      </caption>
      <thead>
        <tr>
          <th scope="col">Number</th>
          <th scope="col">from</th>
          <th scope="col">to</th>
          <th scope="col">in steps of</th>
          <td></td>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(number, at) in draft.numbers" :key="at">
          <td>
            <TextField
              v-model="number.name"
              :label="`Number ${at + 1}: name`"
              quiet
              :errors="fields.at(`numbers.${at}.name`)"
            />
          </td>
          <td>
            <NumberField
              v-model="number.low"
              :label="`${number.name || at + 1}: lowest`"
              quiet
              :errors="fields.at(`numbers.${at}.low`)"
            />
          </td>
          <td>
            <NumberField
              v-model="number.high"
              :label="`${number.name || at + 1}: highest`"
              quiet
              :errors="fields.at(`numbers.${at}.high`)"
            />
          </td>
          <td>
            <NumberField
              v-model="number.step"
              :label="`${number.name || at + 1}: step`"
              quiet
              :errors="fields.at(`numbers.${at}.step`)"
            />
          </td>
          <td>
            <v-btn
              size="small"
              :aria-label="`Take ${number.name || at + 1} away`"
              @click="draft.numbers.splice(at, 1)"
              >Take away</v-btn
            >
          </td>
        </tr>
      </tbody>
    </table>
    <div class="row">
      <v-btn v-for="name in missing" :key="name" @click="draft.numbers.push({ name, step: 1 })"
        >Add {{ name }}</v-btn
      >
      <v-btn @click="draft.numbers.push({ name: '', step: 1 })">Add a number</v-btn>
      <span
        v-for="(message, at) in fields.at('numbers')"
        v-show="!draft.numbers.length"
        :key="at"
        class="bad small"
        >{{ message }}</span
      >
    </div>
    <div class="fields two">
      <TextField v-model="draft.formula" label="Formula of the answer" :errors="fields.at('formula')" />
      <TextField v-model="draft.unit" label="Unit" optional :errors="fields.at('unit')" />
      <ChoiceField v-model="draft.tolerance" label="Right within" :options="tolerances" />
      <NumberField
        v-if="draft.tolerance === 'figures'"
        v-model="draft.figures"
        label="Figures"
        :min="1"
        :max="12"
        whole
        :errors="fields.at('tolerance')"
      />
      <NumberField
        v-else
        v-model="draft.within"
        label="So much"
        :unit="draft.tolerance === 'relative' ? '%' : draft.unit"
        :min="0"
        :errors="fields.at('tolerance')"
      />
    </div>
    <h3>Common slips</h3>
    <div v-for="(slip, at) in draft.slips" :key="at" class="fields slip">
      <TextField
        v-model="slip.formula"
        :label="`Slip ${at + 1}: what it comes to`"
        :errors="fields.at(`slips.${at}.formula`)"
      />
      <TextField
        v-model="slip.name"
        :label="`Slip ${at + 1}: its name`"
        :errors="fields.at(`slips.${at}.name`)"
      />
      <v-btn size="small" @click="draft.slips.splice(at, 1)">Take away</v-btn>
    </div>
    <div class="row">
      <v-btn @click="draft.slips.push({ formula: '', name: '' })">Add a slip</v-btn>
    </div>
    <TextField
      v-model="draft.worked"
      label="Worked solution"
      :lines="3"
      optional
      :errors="fields.at('worked')"
    />
    <section class="stack draws" aria-label="Draws">
      <h3>As it will be asked</h3>
      <p v-if="failed" class="bad" role="alert">{{ failed }}</p>
      <p v-else-if="!tried" class="small soft">Three draws stand here once the question is complete.</p>
      <ProblemList v-else-if="found.length" :problems="found" />
      <template v-else-if="tried.checked">
        <ol class="plain">
          <li v-for="draw in tried.draws" :key="draw.seed" data-testid="draw">
            <FormText :text="draw.text" within />
            <br /><strong>{{ draw.answer }}</strong
            ><span v-for="slip in draw.slips" :key="slip.name" class="small soft"
              >; {{ slip.name }}: {{ slip.value }}</span
            >
          </li>
        </ol>
        <p class="small" data-testid="checked">
          <template v-if="tried.checked.answers"
            >Checked on {{ tried.checked.draws }} draws: answers from
            {{ Number(tried.checked.least.toPrecision(5)) }} to
            {{ Number(tried.checked.most.toPrecision(5)) }}, {{ tried.checked.answers }} different
            ones.</template
          >
          <template v-else>None of {{ tried.checked.draws }} draws can be asked.</template>
        </p>
        <ul v-if="flaws.length" class="small">
          <li v-for="flaw in flaws" :key="flaw.message" :class="{ bad: !tried.checked.answers }">
            {{ flaw.message }} in {{ flaw.draws }} of them ({{ numbersIn(flaw.numbers) }}); these are not
            asked.
          </li>
        </ul>
      </template>
    </section>
  </div>
</template>

<style scoped>
.numbers {
  max-width: 640px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 1fr) minmax(0, 2fr) minmax(0, 1fr);
  gap: 8px;
}
.slip {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) auto;
  gap: 8px;
  align-items: start;
}
.draws {
  border-left: 3px solid var(--hair);
  padding-left: 12px;
}
.plain {
  margin: 0;
  padding-left: 20px;
  display: grid;
  gap: 6px;
}
@media (max-width: 700px) {
  .two,
  .slip {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
