<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Conversion, Form } from '@climber/contract'
import { groupsOf, highestRaw, lowestRaw, readForms, slugOf, writeForms } from '@climber/core'
import { chosenFile, download, fileName } from '../../manners/download'
import { readTableFile } from '../../manners/tableFile'
import FileProblems from '../../widgets/FileProblems.vue'
import Field from '../../widgets/Field.vue'
import type { Problem } from '../../stores/autosave'
import ConversionEditor from './ConversionEditor.vue'
import { useDraft } from './draft'

/** Practice-test forms: whose they are, their own tables, their answer keys. */
const draft = useDraft()
const format = computed(() => draft.state.format)
const open = ref<string>()
const problems = ref<Problem[]>([])
const tables = computed(() =>
  format.value.sections.flatMap((section) =>
    (section.stages ?? [section]).map(({ id, title, conversion }) => ({
      id,
      title,
      conversion: conversion as Conversion,
      lowest: lowestRaw(section),
      highest: highestRaw(section),
    })),
  ),
)
const groups = computed(() =>
  format.value.sections.flatMap((section) =>
    groupsOf(section).map((group) => ({ group, title: section.title })),
  ),
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
function setOwn(form: Form, table: { id: string; conversion: Conversion }, own: boolean): void {
  if (own) form.conversions[table.id] = JSON.parse(JSON.stringify(table.conversion)) as Conversion
  else delete form.conversions[table.id]
}
const keysOf = (form: Form, group: string) =>
  (form.items?.[group] ?? []).map(({ key }) => key ?? '').join(' ')
/** Keys as letters in a row or divided by spaces; topics that were there stay. */
function setKeys(form: Form, group: { id: string; kind: string }, event: Event): void {
  const text = (event.target as HTMLInputElement).value.trim()
  const parts =
    /[\s,;]/.test(text) || group.kind !== 'choice' ? text.split(/[\s,;]+/).filter(Boolean) : [...text]
  const before = form.items?.[group.id] ?? []
  // Texts and topics of items outlive their keys.
  const kept = before.some(({ text: own, topic }) => own || topic) ? before.length : 0
  const items = Array.from({ length: Math.max(parts.length, kept) }, (_, at) => {
    const { key: _before, ...rest } = before[at] ?? {}
    const key = group.kind === 'choice' ? parts[at]?.toUpperCase() : parts[at]
    return { ...rest, ...(key && { key }) }
  })
  const rest = Object.fromEntries(Object.entries(form.items ?? {}).filter(([id]) => id !== group.id))
  const next = items.length ? { ...rest, [group.id]: items } : rest
  if (Object.keys(next).length) form.items = next
  else delete form.items
}
async function bring(event: Event): Promise<void> {
  const file = chosenFile(event)
  if (!file) return
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
      <v-btn size="small" @click="takeAway">As CSV</v-btn>
      <label class="small"
        >from CSV <input type="file" accept=".csv,text/csv" aria-label="Forms as CSV" @change="bring"
      /></label>
    </div>
    <FileProblems :problems="problems" />
    <div class="scroll">
      <table class="lines small">
        <thead>
          <tr>
            <th>Form</th>
            <th>By</th>
            <th>Own tables</th>
            <th>Answer keys</th>
            <td></td>
          </tr>
        </thead>
        <tbody v-for="(form, at) in format.forms" :key="form.id">
          <tr>
            <td>
              <Field
                v-model="form.title"
                :label="`Form ${at + 1}`"
                hide
                :problem="draft.problemAt(`forms.${at}.title`)"
                width="240px"
              />
            </td>
            <td>
              <select v-model="form.source" class="figure" :aria-label="`${form.title}: by`">
                <option value="publisher">the publisher</option>
                <option value="other">another maker</option>
              </select>
            </td>
            <td>{{ Object.keys(form.conversions).length }} of {{ tables.length }}</td>
            <td>
              {{
                Object.values(form.items ?? {}).reduce(
                  (sum, items) => sum + items.filter(({ key }) => key).length,
                  0,
                ) || '–'
              }}
              <span
                v-for="one in draft.within(`forms.${at}`)"
                :key="one.field + one.message"
                class="bad small"
                >{{ one.message }}
              </span>
            </td>
            <td>
              <v-btn
                size="small"
                variant="text"
                :aria-expanded="open === form.id"
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
          <tr v-if="open === form.id">
            <td colspan="5" class="opened">
              <div v-for="table in tables" :key="table.id" class="stack">
                <label class="check"
                  ><input
                    type="checkbox"
                    :checked="Boolean(form.conversions[table.id])"
                    @change="setOwn(form, table, ($event.target as HTMLInputElement).checked)"
                  />
                  a table of its own for {{ table.title }}</label
                >
                <ConversionEditor
                  v-if="form.conversions[table.id]"
                  v-model="form.conversions[table.id]!"
                  :title="`${form.title}, ${table.title}`"
                  :lowest="table.lowest"
                  :highest="table.highest"
                  :problems="draft.within(`forms.${at}.conversions.${table.id}`)"
                />
              </div>
              <div class="fields">
                <label
                  v-for="{ group, title } in groups.filter((one) => one.group.kind !== 'written')"
                  :key="group.id"
                  class="field"
                  ><span class="small soft"
                    >Key, {{ title }}, {{ group.items }}
                    {{ group.kind === 'choice' ? 'letters' : 'answers' }}</span
                  >
                  <input
                    class="figure keys"
                    type="text"
                    :value="keysOf(form, group.id)"
                    @change="setKeys(form, group, $event)"
                /></label>
              </div>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.opened {
  padding: 10px 0 16px 18px !important;
}
.keys {
  width: min(520px, 80vw);
}
</style>
