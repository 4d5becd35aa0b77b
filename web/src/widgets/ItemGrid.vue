<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { ExamFormat, Form, ItemResponse } from '@climber/contract'
import { countResponses, judge, lettersOf, readKeyLine, type Slot } from '@climber/core'
import LinesField from '../kit/LinesField.vue'

/**
 * Answers item by item, by keyboard: a letter answers and goes on, a space leaves blank, arrows go about. The key is
 * pasted once. Numeric items take R or W (or the answer itself where the key is known), written ones their marks.
 */
const props = defineProps<{ exam: ExamFormat; form?: Form }>()
const responses = defineModel<ItemResponse[]>({ required: true })
const box = ref<HTMLElement | null>(null)
const byItem = computed(() => new Map(responses.value.map((response) => [response.item, response])))
const counted = computed(() => countResponses(props.exam, responses.value, props.form))
const bySection = computed(() =>
  props.exam.sections.map((section) => ({
    section,
    slots: counted.value.slots.filter((slot) => slot.section === section.id),
  })),
)
const keyTexts = ref<Record<string, string>>({})
const topicTexts = ref<Record<string, string>>({})
const problems = ref<Record<string, string>>({})

const keyOf = (slot: Slot) =>
  byItem.value.get(slot.item)?.key || props.form?.items?.[slot.group.id]?.[slot.at]?.key || ''
const topicOf = (slot: Slot) =>
  byItem.value.get(slot.item)?.topic ?? props.form?.items?.[slot.group.id]?.[slot.at]?.topic
const result = (slot: Slot) => {
  const response = byItem.value.get(slot.item)
  if (!response?.answer) return 'open'
  if (slot.group.kind !== 'written' && !response.key) return 'unmarked'
  const found = judge(slot.group, response)
  return typeof found === 'number' ? 'written' : found
}

function change(changes: Map<number, Partial<ItemResponse>>): void {
  const next = new Map(byItem.value)
  const slots = new Map(counted.value.slots.map((slot) => [slot.item, slot]))
  for (const [item, part] of changes) {
    const slot = slots.get(item)!
    const topic = topicOf(slot)
    next.set(item, {
      item,
      answer: '',
      key: keyOf(slot),
      ...(topic ? { topic } : {}),
      ...next.get(item),
      ...part,
    })
  }
  responses.value = [...next.values()].sort((a, b) => a.item - b.item)
}
function answer(slot: Slot, text: string): void {
  change(new Map([[slot.item, { answer: text, key: byItem.value.get(slot.item)?.key || keyOf(slot) }]]))
}
function focus(item: number): void {
  const input = box.value?.querySelector<HTMLInputElement>(`input[data-item="${item}"]`)
  input?.focus()
  input?.select()
}
const perRow = 10
function onKey(event: KeyboardEvent, slot: Slot): void {
  const { key } = event
  if (event.ctrlKey || event.metaKey || event.altKey) return
  const go = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: perRow, ArrowUp: -perRow, Enter: 1 }[key]
  if (go) {
    event.preventDefault()
    focus(slot.item + go)
    return
  }
  if (key === ' ') {
    event.preventDefault()
    answer(slot, '')
    focus(slot.item + 1)
    return
  }
  if (key === 'Backspace' && slot.group.kind === 'choice') {
    event.preventDefault()
    const there = byItem.value.get(slot.item)?.answer
    if (there) answer(slot, '')
    else focus(slot.item - 1)
    return
  }
  if (key.length !== 1) return
  const letter = key.toUpperCase()
  if (slot.group.kind === 'choice') {
    event.preventDefault()
    if (!lettersOf(slot.group.choices ?? 26).includes(letter)) return
    answer(slot, letter)
    focus(slot.item + 1)
  } else if (slot.group.kind === 'numeric' && (letter === 'R' || letter === 'W')) {
    event.preventDefault()
    const known = keyOf(slot)
    change(
      new Map([
        [
          slot.item,
          letter === 'R'
            ? { answer: known || 'right', key: known || 'right' }
            : { answer: 'wrong', key: known || 'right' },
        ],
      ]),
    )
    focus(slot.item + 1)
  }
}
function onInput(slot: Slot, event: Event): void {
  if (slot.group.kind !== 'choice') answer(slot, (event.target as HTMLInputElement).value.trim())
}

/** The key of a section's choice and numeric items: letters in a row, or answers divided by spaces. */
function setKey(id: string, slots: Slot[], text: string): void {
  keyTexts.value[id] = text
  const marked = slots.filter(({ group }) => group.kind !== 'written')
  const { keys = [], problem } = readKeyLine(
    text,
    marked.map(({ item, group }) => ({ number: item, group })),
  )
  const { [id]: _mended, ...rest } = problems.value
  problems.value = problem ? { ...rest, [id]: problem } : rest
  change(new Map(keys.flatMap((key, at) => (key === undefined ? [] : [[marked[at]!.item, { key }]]))))
}
/** Topics of items, a line each: "1-8 Tide heights". */
function setTopics(id: string, slots: Slot[], text: string): void {
  topicTexts.value[id] = text
  const own = new Map(slots.map((slot) => [slot.item, slot]))
  const titles = new Map(
    props.exam.topics.flatMap((topic) => [
      [topic.title.toLowerCase(), topic.id] as const,
      [topic.id, topic.id] as const,
    ]),
  )
  const changes = new Map<number, Partial<ItemResponse>>()
  const wrong: string[] = []
  for (const line of text.split('\n').filter((one) => one.trim())) {
    const match = /^\s*(\d+)(?:\s*[-–]\s*(\d+))?[\s:.]+(.+?)\s*$/.exec(line)
    const topic = match && titles.get(match[3]!.toLowerCase())
    if (!match || !topic) {
      wrong.push(match ? `the exam has no topic "${match[3]}"` : `"${line}" is not like "1-8 Topic"`)
      continue
    }
    for (let item = Number(match[1]); item <= Number(match[2] ?? match[1]); item++)
      if (own.has(item)) changes.set(item, { topic })
      else wrong.push(`item ${item} is not in this section`)
  }
  const { [`${id}-topics`]: _mended, ...rest } = problems.value
  problems.value = wrong.length ? { ...rest, [`${id}-topics`]: wrong[0]! } : rest
  if (!wrong.length) change(changes)
}
const tally = (slots: Slot[]) => {
  const found = { right: 0, wrong: 0, unmarked: 0 }
  for (const slot of slots) {
    const one = result(slot)
    if (one in found) found[one as keyof typeof found] += 1
  }
  return found
}
watch(
  () => props.form?.id,
  () => {
    // A form with keys of its own marks what was answered already.
    const changes = new Map<number, Partial<ItemResponse>>()
    for (const slot of counted.value.slots) {
      const known = props.form?.items?.[slot.group.id]?.[slot.at]
      if (byItem.value.has(slot.item) && known?.key) changes.set(slot.item, { key: known.key })
    }
    if (changes.size) change(changes)
  },
)
</script>

<template>
  <div ref="box" class="stack">
    <p class="small soft">
      A letter answers and goes on; Space leaves blank; arrows go about. Numeric items: R right, W wrong, or
      the answer. Written items: marks, then Enter.
    </p>
    <section
      v-for="{ section, slots } in bySection"
      :key="section.id"
      class="stack"
      :aria-label="section.title"
    >
      <div class="row">
        <h3>{{ section.title }}</h3>
        <span class="small" aria-live="polite"
          >{{ tally(slots).right }} right, {{ tally(slots).wrong }} wrong<template
            v-if="tally(slots).unmarked"
            >, {{ tally(slots).unmarked }} without a key</template
          ></span
        >
      </div>
      <div class="fields">
        <LinesField
          class="figure keys"
          :label="`${section.title}: answer key`"
          :hint="
            slots.some((slot) => keyOf(slot)) ? 'known; another is pasted once' : 'pasted once, such as ABDC…'
          "
          :rows="1"
          :model-value="keyTexts[section.id] ?? ''"
          :errors="problems[section.id]"
          @update:model-value="setKey(section.id, slots, $event)"
        />
        <details>
          <summary class="small">Topics of the items{{ slots.some(topicOf) ? ': known' : '' }}</summary>
          <LinesField
            class="figure keys"
            :label="`${section.title}: topics of the items`"
            :hint="`a line each, such as 1-8 ${exam.topics.find((topic) => topic.section === section.id)?.title ?? 'and the topic'}`"
            :rows="4"
            :model-value="topicTexts[section.id] ?? ''"
            :errors="problems[`${section.id}-topics`]"
            @update:model-value="setTopics(section.id, slots, $event)"
          />
        </details>
      </div>
      <div class="grid">
        <label v-for="slot in slots" :key="slot.item" class="cell" :class="result(slot)">
          <span class="number">{{ slot.item }}</span>
          <input
            type="text"
            autocomplete="off"
            :data-item="slot.item"
            :value="byItem.get(slot.item)?.answer ?? ''"
            :maxlength="slot.group.kind === 'choice' ? 1 : 12"
            :aria-label="`Item ${slot.item}${keyOf(slot) ? `, key ${keyOf(slot)}` : ''}`"
            @keydown="onKey($event, slot)"
            @input="onInput(slot, $event)"
          />
        </label>
      </div>
    </section>
  </div>
</template>

<style scoped>
.keys {
  width: min(420px, 80vw);
  letter-spacing: 0.08em;
}
.grid {
  display: grid;
  grid-template-columns: repeat(10, minmax(0, 58px));
  gap: 2px;
}
.cell {
  display: flex;
  align-items: center;
  border: 1px solid var(--hair);
  background: var(--paper);
}
.number {
  font-size: 11px;
  color: var(--soft);
  width: 22px;
  text-align: right;
  padding-right: 3px;
}
.cell input {
  width: 100%;
  min-width: 0;
  border: 0;
  background: none;
  font: inherit;
  color: inherit;
  text-align: center;
  padding: 3px 0;
}
.cell.right {
  border-left: 3px solid var(--lichen);
}
.cell.wrong {
  border-left: 3px solid var(--clay);
}
.cell.wrong input {
  text-decoration: line-through;
}
.cell.unmarked {
  border-left: 3px dotted var(--ochre);
}
summary {
  cursor: pointer;
}
@media (max-width: 700px) {
  .grid {
    grid-template-columns: repeat(5, minmax(0, 1fr));
  }
  .cell input {
    min-height: 38px;
  }
}
</style>
