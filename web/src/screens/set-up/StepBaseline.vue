<script setup lang="ts">
import { computed } from 'vue'
import type { Counts, SelfRating } from '@climber/contract'
import { itemRows } from '../../manners/itemRows'
import { percentWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import CountsRow from '../../widgets/CountsRow.vue'

const workspace = useWorkspace()
const save = computed(() => workspace.saves!.diagnosis)
const document = computed(() => save.value.state.document)
const groups = computed(() => itemRows(workspace.exam!))
const problemAt = (path: string) =>
  save.value.state.problems.find(({ field }) => field === path || field.startsWith(`${path}.`))?.message
const lines = computed(() => new Map(workspace.analysis?.topics.map((line) => [line.id, line])))
const ratings: [SelfRating, string][] = [
  ['not-covered', 'not covered'],
  ['weak', 'weak'],
  ['fair', 'fair'],
  ['strong', 'strong'],
]

function setGroup(id: string, counts: Counts | undefined): void {
  save.value.edit((diagnosis) => {
    if (!counts || counts.right + counts.wrong + counts.blank + counts.notReached === 0)
      delete diagnosis.sections[id]
    else diagnosis.sections[id] = counts
    if (!diagnosis.date) diagnosis.date = workspace.today
  })
}
function setRating(id: string, rating: SelfRating): void {
  save.value.edit((diagnosis) => {
    const { rating: before, ...rest } = diagnosis.topics[id] ?? {}
    const next = before === rating ? rest : { ...rest, rating }
    if (Object.keys(next).length) diagnosis.topics[id] = next
    else delete diagnosis.topics[id]
  })
}
function setTopic(id: string, field: 'right' | 'wrong' | 'blank', event: Event): void {
  const text = (event.target as HTMLInputElement).value
  save.value.edit((diagnosis) => {
    const { counts, ...rest } = diagnosis.topics[id] ?? {}
    const next: Counts = {
      ...(counts ?? { right: 0, wrong: 0, blank: 0, notReached: 0 }),
      [field]: text === '' ? 0 : Number(text),
    }
    const some = next.right + next.wrong + next.blank > 0
    if (some || Object.keys(rest).length) diagnosis.topics[id] = some ? { ...rest, counts: next } : rest
    else delete diagnosis.topics[id]
  })
}
const setDate = (event: Event) =>
  save.value.edit((diagnosis) => {
    const { value } = event.target as HTMLInputElement
    if (value) diagnosis.date = value
    else delete diagnosis.date
  })
</script>

<template>
  <div class="stack">
    <div class="row">
      <h2>A full test, section by section</h2>
      <label class="small"
        >sat on
        <input
          class="figure"
          type="date"
          :value="document.date ?? ''"
          :max="workspace.today"
          :aria-invalid="Boolean(problemAt('date')) || undefined"
          @change="setDate"
        />
      </label>
      <span v-if="problemAt('date')" class="bad small">{{ problemAt('date') }}</span>
    </div>
    <p class="small soft">
      No test yet? Leave this open: the plan then begins with one, and your own rating below does until then.
    </p>
    <div class="scroll">
      <table class="lines">
        <thead>
          <tr>
            <th>Section</th>
            <th class="n">Right</th>
            <th class="n">Wrong</th>
            <th class="n">Blank</th>
            <th class="n" title="Of the blank ones, those at the end that time ran out on">Not reached</th>
            <td></td>
          </tr>
        </thead>
        <tbody>
          <CountsRow
            v-for="{ group, title } in groups"
            :key="group.id"
            :label="title"
            :items="group.items"
            :problem="problemAt(`sections.${group.id}`)"
            :model-value="document.sections[group.id]"
            @update:model-value="setGroup(group.id, $event)"
          />
        </tbody>
      </table>
    </div>
    <h2 class="mt-3">Topic by topic</h2>
    <p class="small soft">
      How sure are you of each? If you counted them, add right, wrong and blank. The bar is what is known,
      with the range it lies in 8 times in 10.
    </p>
    <div class="scroll">
      <table class="lines topics">
        <thead>
          <tr>
            <th>Topic</th>
            <th class="n">Share</th>
            <th>Your rating</th>
            <th class="n">Right</th>
            <th class="n">Wrong</th>
            <th class="n">Blank</th>
            <th>Known</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="topic in workspace.exam!.topics" :key="topic.id">
            <th scope="row">{{ topic.title }}</th>
            <td class="n small soft">
              {{ lines.get(topic.id) ? percentWords(lines.get(topic.id)!.examShare) : '' }}
            </td>
            <td>
              <span class="rating" role="group" :aria-label="`${topic.title}: your rating`">
                <button
                  v-for="[rating, words] in ratings"
                  :key="rating"
                  type="button"
                  :aria-pressed="document.topics[topic.id]?.rating === rating"
                  @click="setRating(topic.id, rating)"
                >
                  {{ words }}
                </button>
              </span>
            </td>
            <td v-for="field in ['right', 'wrong', 'blank'] as const" :key="field" class="n count">
              <input
                class="figure"
                type="number"
                min="0"
                inputmode="numeric"
                :value="document.topics[topic.id]?.counts?.[field] ?? ''"
                :aria-label="`${topic.title}: ${field}`"
                :aria-invalid="Boolean(problemAt(`topics.${topic.id}`)) || undefined"
                @input="setTopic(topic.id, field, $event)"
              />
            </td>
            <td>
              <svg
                v-if="lines.get(topic.id)"
                width="104"
                height="14"
                role="img"
                :aria-label="`known ${percentWords(lines.get(topic.id)!.mean)}`"
              >
                <line x1="2" x2="102" y1="7" y2="7" class="axis" />
                <line
                  :x1="2 + 100 * lines.get(topic.id)!.low"
                  :x2="2 + 100 * lines.get(topic.id)!.high"
                  y1="7"
                  y2="7"
                  class="range"
                />
                <circle :cx="2 + 100 * lines.get(topic.id)!.mean" cy="7" r="3.4" class="mean" />
              </svg>
              <span v-if="problemAt(`topics.${topic.id}`)" class="bad small">{{
                problemAt(`topics.${topic.id}`)
              }}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>

<style scoped>
th[scope='row'] {
  color: var(--ink);
  font-size: 15px;
}
.topics .figure {
  width: 46px;
}
.axis {
  stroke: var(--hair);
}
.range {
  stroke: var(--water);
  stroke-width: 5;
  stroke-opacity: 0.4;
}
.mean {
  fill: var(--water);
}
</style>
