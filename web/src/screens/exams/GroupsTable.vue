<script setup lang="ts">
import type { ItemGroup } from '@climber/contract'
import { slugOf } from '@climber/core'
import ChoiceField from '../../kit/ChoiceField.vue'
import NumberField from '../../kit/NumberField.vue'
import { setOptional, useDraft } from './draft'
import { vCards } from '../../kit/cards'

/** The groups of items of a section or stage, in the paper's order. */
const props = defineProps<{ path: string; base: string; taken: string[] }>()
const groups = defineModel<ItemGroup[]>({ required: true })
const draft = useDraft()
const problem = (at: number, field: string) => draft.problemAt(`${props.path}.${at}.${field}`)
function add(): void {
  const like = groups.value[groups.value.length - 1]
  groups.value.push({
    ...(like
      ? (JSON.parse(JSON.stringify(like)) as ItemGroup)
      : { kind: 'choice', items: 10, choices: 4, perRight: 1, perWrong: 0 }),
    id: slugOf(`${props.base}-items`, props.taken),
  })
}
const itemKinds = (['choice', 'numeric', 'written'] as const).map((value) => ({ value, title: value }))
const difficulties = (['flat', 'rising'] as const).map((value) => ({ value, title: value }))
function setKind(group: ItemGroup, kind: ItemGroup['kind']): void {
  group.kind = kind
  if (kind === 'choice') group.choices ??= 4
  else delete group.choices
  if (kind === 'written') group.perWrong = 0
}
function setSet(group: ItemGroup, items: number | undefined): void {
  if (!items) delete group.set
  else group.set = { items, readingSeconds: group.set?.readingSeconds ?? 60 }
}
</script>

<template>
  <div class="scroll">
    <table v-cards class="lines as-cards small groups">
      <thead>
        <tr>
          <th>Items</th>
          <th class="n">How many</th>
          <th class="n">Options</th>
          <th class="n">Right earns</th>
          <th class="n">Wrong costs</th>
          <th class="n">Blank earns</th>
          <th class="n">In sets of</th>
          <th class="n">Reading, s</th>
          <th>Difficulty</th>
          <td></td>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(group, at) in groups" :key="group.id">
          <td>
            <ChoiceField
              :label="`Group ${at + 1}: kind`"
              quiet
              :model-value="group.kind"
              :options="itemKinds"
              @update:model-value="setKind(group, $event)"
            />
          </td>
          <td class="n">
            <NumberField
              v-model="group.items"
              :label="`Group ${at + 1}: how many`"
              quiet
              :errors="problem(at, 'items')"
            />
          </td>
          <td class="n">
            <NumberField
              v-if="group.kind === 'choice'"
              v-model="group.choices"
              :label="`Group ${at + 1}: options`"
              quiet
              :errors="problem(at, 'choices')"
            />
          </td>
          <td class="n">
            <NumberField
              v-model="group.perRight"
              :label="`Group ${at + 1}: right earns`"
              quiet
              :errors="problem(at, 'perRight')"
            />
          </td>
          <td class="n">
            <NumberField
              v-if="group.kind !== 'written'"
              v-model="group.perWrong"
              :label="`Group ${at + 1}: wrong costs`"
              quiet
              :errors="problem(at, 'perWrong')"
            />
          </td>
          <td class="n">
            <NumberField
              :model-value="group.perBlank"
              :label="`Group ${at + 1}: blank earns`"
              quiet
              placeholder="0"
              :errors="problem(at, 'perBlank')"
              @update:model-value="setOptional(group, 'perBlank', $event)"
            />
          </td>
          <td class="n">
            <NumberField
              :model-value="group.set?.items"
              :label="`Group ${at + 1}: items in a set`"
              quiet
              placeholder="–"
              :errors="problem(at, 'set') ?? problem(at, 'set.items')"
              @update:model-value="setSet(group, $event)"
            />
          </td>
          <td class="n">
            <NumberField
              v-if="group.set"
              v-model="group.set.readingSeconds"
              :label="`Group ${at + 1}: seconds to read a set`"
              quiet
              :errors="problem(at, 'set.readingSeconds')"
            />
          </td>
          <td>
            <ChoiceField
              :label="`Group ${at + 1}: difficulty`"
              quiet
              :model-value="group.difficulty ?? 'flat'"
              :options="difficulties"
              @update:model-value="setOptional(group, 'difficulty', $event === 'rising' ? $event : undefined)"
            />
          </td>
          <td>
            <v-btn
              v-if="groups.length > 1"
              size="small"
              variant="text"
              :aria-label="`Remove group ${at + 1}`"
              @click="groups.splice(at, 1)"
              >Remove</v-btn
            >
          </td>
        </tr>
      </tbody>
    </table>
    <v-btn size="small" variant="text" @click="add">Another group of items</v-btn>
  </div>
</template>

<style scoped>
.groups :deep(input) {
  width: 66px;
}
</style>
