<script setup lang="ts">
import { computed, ref } from 'vue'
import { checkFormItem, type Conversion, type Form, type FormItem } from '@climber/contract'
import {
  type FormPart,
  type FormPlace,
  formParts,
  formPlaces,
  highestRaw,
  lowestRaw,
  readFormItems,
  readKeyLine,
  writeFormItems,
} from '@climber/core'
import TickField from '../../kit/TickField.vue'
import ChoiceRow from '../../kit/ChoiceRow.vue'
import FileField from '../../kit/FileField.vue'
import LinesField from '../../kit/LinesField.vue'
import { download, fileName } from '../../manners/download'
import { readTableFile } from '../../manners/tableFile'
import type { Problem } from '../../stores/autosave'
import FileProblems from '../../widgets/FileProblems.vue'
import { plain } from '../../workers/core'
import ConversionEditor from './ConversionEditor.vue'
import FormItems from './FormItems.vue'
import FormPictures from './FormPictures.vue'
import { useDraft } from './draft'

/** One form: its own tables, its keys as a line, its items with their texts, its pictures; items in and out as a CSV. */
const props = defineProps<{ form: Form; at: number }>()
const draft = useDraft()
const format = computed(() => draft.state.format)
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
function setOwn(table: { id: string; conversion: Conversion }, own: boolean): void {
  const { conversions } = props.form
  if (own) conversions[table.id] = JSON.parse(JSON.stringify(table.conversion)) as Conversion
  else delete conversions[table.id]
}

/** Items of a part that are marked from a key and written in one way, numbered through the part. */
interface KeyLine {
  id: string
  part: FormPart
  letters: boolean
  places: FormPlace[]
}
const lines = computed((): KeyLine[] =>
  formParts(format.value).flatMap((part) => {
    const all = formPlaces(part.groups)
    return [true, false]
      .map((letters) => ({
        id: `${part.id}-${letters ? 'letters' : 'answers'}`,
        part,
        letters,
        places: all.filter(({ group: { kind } }) => kind === (letters ? 'choice' : 'numeric')),
      }))
      .filter(({ places }) => places.length)
  }),
)
function written(line: KeyLine): string {
  const keys = line.places.map(({ group, at }) => props.form.items?.[group.id]?.[at]?.key)
  if (keys.every((key) => !key)) return ''
  return keys.map((key) => key || '-').join(line.letters ? '' : ' ')
}
/** What was typed and cannot be a key, by part; it stays in its field until it is mended. */
const typed = ref<Record<string, { text: string; problem: string }>>({})
function setKeys(line: KeyLine, text: string): void {
  const { [line.id]: _before, ...rest } = typed.value
  const { keys, problem } = readKeyLine(text, line.places)
  typed.value = problem ? { ...rest, [line.id]: { text, problem } } : rest
  if (!keys) return
  const items = blankItems(line.part)
  line.places.forEach(({ group, at }, place) => {
    const item = items[group.id]![at]!
    if (keys[place]) item.key = keys[place]
    else delete item.key
  })
  put({ ...props.form.items, ...items })
}
/** The items of a part's groups, in their full number. */
const blankItems = ({ groups }: FormPart): Record<string, FormItem[]> =>
  Object.fromEntries(
    groups.map(({ id, items }) => [
      id,
      Array.from({ length: items }, (_, at): FormItem => plain(props.form.items?.[id]?.[at] ?? {})),
    ]),
  )
function put(items: Record<string, FormItem[]>): void {
  const { form } = props
  const told = Object.fromEntries(
    Object.entries(items).filter(([, own]) => own.some((item) => Object.keys(item).length)),
  )
  if (Object.keys(told).length) form.items = told
  else delete form.items
}

const problems = ref<Problem[]>([])
const used = ref('')
async function bring(file: File): Promise<void> {
  used.value = ''
  const { found, problems: told } = await readTableFile(file, (text) =>
    readFormItems(text, draft.parsed.value, plain(props.form), checkFormItem),
  )
  problems.value = told
  if (!found?.form) return
  const { form } = props
  put(found.form.items ?? {})
  if (found.form.stimuli) form.stimuli = found.form.stimuli
  typed.value = {}
  used.value = `${found.rows === 1 ? '1 row' : `${found.rows} rows`} read; Undo puts back what was there.`
}
const take = () =>
  download(
    `${fileName(props.form.title)}-items.csv`,
    'text/csv',
    writeFormItems(plain(format.value), plain(props.form)),
  )
const part = ref<'keys' | 'items' | 'pictures' | 'tables'>('keys')
const views = [
  { value: 'keys', title: 'Answer key' },
  { value: 'items', title: 'Items and texts' },
  { value: 'pictures', title: 'Pictures' },
  { value: 'tables', title: 'Own tables' },
] as const
</script>

<template>
  <section class="stack form" :aria-label="form.title">
    <div class="row">
      <h3>{{ form.title }}</h3>
      <ChoiceRow v-model="part" :label="`${form.title}: what of it`" :options="views" />
      <v-btn variant="text" @click="take">Items as CSV</v-btn>
      <FileField label="Items from a CSV" accept=".csv,text/csv" @chosen="bring" />
    </div>
    <p v-if="used" class="good small" role="status">{{ used }}</p>
    <FileProblems :problems="problems" />
    <template v-if="part === 'keys'">
      <p class="small soft">
        Letters in a row, or with the numbers of their items (41A 42C); a dash where an item has no key. To
        mark a test here, the key is enough.
      </p>
      <LinesField
        v-for="line in lines"
        :key="line.id"
        class="figure keys"
        :label="`Key, ${line.part.title}, ${line.places.length} ${line.letters ? 'letters' : 'answers, with spaces between'}`"
        :rows="1"
        :model-value="typed[line.id]?.text ?? written(line)"
        :errors="typed[line.id]?.problem"
        @update:model-value="setKeys(line, $event)"
      />
    </template>
    <FormItems v-else-if="part === 'items'" :form="form" :at="at" />
    <FormPictures v-else-if="part === 'pictures'" :form="form" :at="at" />
    <template v-else>
      <div v-for="table in tables" :key="table.id" class="stack">
        <TickField
          :label="`a table of its own for ${table.title}`"
          :model-value="Boolean(form.conversions[table.id])"
          @update:model-value="setOwn(table, $event)"
        />
        <ConversionEditor
          v-if="form.conversions[table.id]"
          v-model="form.conversions[table.id]!"
          :title="`${form.title}, ${table.title}`"
          :lowest="table.lowest"
          :highest="table.highest"
          :problems="draft.within(`forms.${at}.conversions.${table.id}`)"
        />
      </div>
    </template>
  </section>
</template>

<style scoped>
.form {
  border-top: 2px solid var(--ink);
  padding-top: 10px;
}
.keys {
  width: min(900px, 92vw);
  letter-spacing: 0.08em;
}
</style>
