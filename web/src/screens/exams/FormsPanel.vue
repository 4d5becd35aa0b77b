<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Form } from '@climber/contract'
import { readForms, slugOf, writeForms } from '@climber/core'
import { makers } from '../../manners/makers'
import { download, fileName } from '../../manners/download'
import { readTableFile } from '../../manners/tableFile'
import ChoiceField from '../../kit/ChoiceField.vue'
import FileProblems from '../../widgets/FileProblems.vue'
import FileField from '../../kit/FileField.vue'
import TextField from '../../kit/TextField.vue'
import type { Problem } from '../../stores/autosave'
import FormPanel from './FormPanel.vue'
import { useDraft } from './draft'
import { vCards } from '../../kit/cards'

/** Practice-test forms: whose they are, their own tables, their answer keys. */
const draft = useDraft()
const format = computed(() => draft.state.format)
const open = ref<string>()
const problems = ref<Problem[]>([])
const tables = computed(() =>
  format.value.sections.reduce((sum, { stages }) => sum + (stages?.length ?? 1), 0),
)
function add(source: Form['source']): void {
  const n = format.value.forms.filter((form) => form.source === source).length + 1
  const title = source === 'publisher' ? `Publisher's paper ${n}` : `Other maker's paper ${n}`
  const id = slugOf(
    title,
    format.value.forms.map((form) => form.id),
  )
  format.value.forms.push({ id, title, source, conversions: {} })
}
const keysOf = (form: Form) =>
  Object.values(form.items ?? {})
    .flat()
    .filter(({ key }) => key).length
const textsOf = (form: Form) =>
  Object.values(form.items ?? {})
    .flat()
    .filter(({ text }) => text).length
/** A form that is open has the place to itself. */
const shown = computed(() =>
  format.value.forms
    .map((form, at) => ({ form, at }))
    .filter(({ at }) => opened.value < 0 || at === opened.value),
)
const opened = computed(() => format.value.forms.findIndex(({ id }) => id === open.value))
async function bring(file: File): Promise<void> {
  const { found, problems: told } = await readTableFile(file, (text) => readForms(text, draft.parsed.value))
  problems.value = told
  if (!found) return
  // The table holds neither keys nor texts; those of forms that stay are kept.
  const before = new Map(format.value.forms.map((form) => [form.id, form]))
  format.value.forms = found.forms.map((form) => ({ ...before.get(form.id), ...form }))
}
const takeAway = () =>
  download(`${fileName(format.value.title)}-forms.csv`, 'text/csv', writeForms(draft.parsed.value))
</script>

<template>
  <section class="stack" aria-label="Forms">
    <div class="row">
      <h2>Practice tests</h2>
      <v-btn size="small" @click="add('publisher')">Add one of the publisher's</v-btn>
      <v-btn size="small" @click="add('other')">Add another maker's</v-btn>
      <v-btn variant="text" @click="takeAway">Own tables as CSV</v-btn>
      <FileField label="Own tables from a CSV" accept=".csv,text/csv" @chosen="bring" />
    </div>
    <FileProblems :problems="problems" />
    <div class="scroll">
      <table v-cards class="lines as-cards small">
        <thead>
          <tr>
            <th>Form</th>
            <th>By</th>
            <th>Own tables</th>
            <th class="n">Keys</th>
            <th class="n">Texts</th>
            <td></td>
          </tr>
        </thead>
        <tbody>
          <tr v-for="{ form, at } in shown" :key="form.id">
            <td>
              <TextField
                v-model="form.title"
                :label="`Form ${at + 1}`"
                quiet
                :errors="draft.problemAt(`forms.${at}.title`)"
                style="width: 240px"
              />
            </td>
            <td>
              <ChoiceField v-model="form.source" :label="`${form.title}: by`" quiet :options="makers" />
            </td>
            <td>{{ Object.keys(form.conversions).length }} of {{ tables }}</td>
            <td class="n">{{ keysOf(form) || '–' }}</td>
            <td class="n">
              {{ textsOf(form) || '–' }}
              <span v-if="draft.within(`forms.${at}`).length" class="bad small"
                >{{ draft.within(`forms.${at}`).length }} to mend</span
              >
            </td>
            <td>
              <v-btn
                size="small"
                variant="text"
                :aria-expanded="open === form.id"
                :aria-label="`${open === form.id ? 'Close' : 'Open'} ${form.title}`"
                @click="open = open === form.id ? undefined : form.id"
                >{{ open === form.id ? 'Close' : 'Open' }}</v-btn
              >
              <v-btn
                size="small"
                variant="text"
                :aria-label="`Remove ${form.title}`"
                @click="format.forms.splice(at, 1)"
                >Remove</v-btn
              >
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <v-btn v-if="opened >= 0" class="justify-start" variant="text" @click="open = undefined"
      >All {{ format.forms.length }} forms</v-btn
    >
    <FormPanel v-if="opened >= 0" :key="open" :form="format.forms[opened]!" :at="opened" />
  </section>
</template>
