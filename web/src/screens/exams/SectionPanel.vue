<script setup lang="ts">
import { computed } from 'vue'
import type { Section, Stage } from '@climber/contract'
import { groupsOf, highestRaw, lowestRaw, slugOf } from '@climber/core'
import TickField from '../../kit/TickField.vue'
import NumberField from '../../kit/NumberField.vue'
import TextField from '../../kit/TextField.vue'
import ConversionEditor from './ConversionEditor.vue'
import { setOptional, useDraft } from './draft'
import GroupsTable from './GroupsTable.vue'

/** Everything of one section. */
const props = defineProps<{ at: number }>()
const draft = useDraft()
const format = computed(() => draft.state.format)
const section = computed(() => format.value.sections[props.at]!)
const path = computed(() => `sections.${props.at}`)
const problem = (field: string) => draft.problemAt(`${path.value}.${field}`)
const taken = computed(() => format.value.sections.flatMap((one) => groupsOf(one).map(({ id }) => id)))
const lowest = computed(() => lowestRaw(section.value))
const highest = computed(() => highestRaw(section.value) || 1)
const isLast = computed(() => props.at === format.value.sections.length - 1)

function makeAdaptive(on: boolean): void {
  const { value } = section
  if (!on) {
    delete value.stages
    return
  }
  const first = JSON.stringify(value.groups[0])
  const marks = value.groups.reduce((sum, group) => sum + group.items * group.perRight, 0)
  const names = [...taken.value]
  value.stages = ['easier', 'harder'].map((name, row): Stage => {
    const id = slugOf(`${value.id}-${name}`, names)
    names.push(id)
    return {
      id,
      title: `${value.title}, ${name}`,
      from: row === 0 ? 0 : Math.round(marks / 2),
      groups: [{ ...(JSON.parse(first) as Section['groups'][number]), id: `${id}-items` }],
      conversion: JSON.parse(JSON.stringify(value.conversion)) as Section['conversion'],
    }
  })
}
function addStage(): void {
  const { stages, id } = section.value
  const before = stages![stages!.length - 1]!
  const name = slugOf(`${id}-stage`, [...taken.value, ...stages!.map((stage) => stage.id)])
  stages!.push({
    ...(JSON.parse(JSON.stringify(before)) as Stage),
    id: name,
    title: `${before.title}, further`,
    from: before.from + 1,
    groups: [{ ...before.groups[0]!, id: `${name}-items` }],
  })
}
function move(by: -1 | 1): void {
  const { sections } = format.value
  const [one] = sections.splice(props.at, 1)
  sections.splice(props.at + by, 0, one!)
  emit('moved', props.at + by)
}
function remove(): void {
  const { id } = section.value
  format.value.sections.splice(props.at, 1)
  format.value.topics = format.value.topics.filter((topic) => topic.section !== id)
  emit('moved', Math.max(0, props.at - 1))
}
const emit = defineEmits<{ moved: [at: number] }>()
</script>

<template>
  <section class="stack panel" :aria-label="section.title">
    <div class="fields">
      <TextField v-model="section.title" label="Section" :errors="problem('title')" style="width: 230px" />
      <NumberField v-model="section.minutes" label="Minutes" :errors="problem('minutes')" />
      <TickField
        label="timed"
        :model-value="section.timed !== false"
        @update:model-value="setOptional(section, 'timed', $event ? undefined : false)"
      />
      <TickField
        v-if="format.sections.length > 1"
        label="order free within its paper"
        :model-value="section.anyOrder === true"
        @update:model-value="setOptional(section, 'anyOrder', $event ? true : undefined)"
      />
      <NumberField
        v-if="!isLast"
        v-model="section.breakAfter"
        label="Break after it"
        unit="min"
        style="width: 100px"
        :errors="problem('breakAfter')"
      />
      <TextField
        :model-value="section.paper"
        label="Paper, if there are several"
        optional
        style="width: 190px"
        :errors="problem('paper')"
        @update:model-value="setOptional(section, 'paper', $event)"
      />
      <NumberField
        :model-value="section.cut"
        label="Cut, if it has one"
        style="width: 120px"
        :errors="problem('cut')"
        @update:model-value="setOptional(section, 'cut', $event)"
      />
      <span class="tools">
        <v-btn v-if="at > 0" size="small" variant="text" @click="move(-1)">Earlier</v-btn>
        <v-btn v-if="!isLast" size="small" variant="text" @click="move(1)">Later</v-btn>
        <v-btn v-if="format.sections.length > 1" size="small" variant="text" @click="remove"
          >Remove section</v-btn
        >
      </span>
    </div>
    <p
      v-for="one in draft.problems.value.filter(({ field }) => field === path)"
      :key="one.message"
      class="bad small"
    >
      {{ one.message }}
    </p>
    <h2>{{ section.stages ? 'First stage' : 'Items' }}</h2>
    <GroupsTable v-model="section.groups" :path="`${path}.groups`" :base="section.id" :taken="taken" />
    <TickField
      label="adaptive: the first stage's marks decide which second stage follows"
      :model-value="Boolean(section.stages)"
      @update:model-value="makeAdaptive"
    />
    <template v-if="section.stages">
      <div v-for="(stage, row) in section.stages" :key="stage.id" class="stack stage">
        <div class="fields">
          <TextField
            v-model="stage.title"
            :label="`Second stage ${row + 1}`"
            :errors="problem(`stages.${row}.title`)"
            style="width: 230px"
          />
          <NumberField
            v-if="row > 0"
            v-model="stage.from"
            label="From this many first-stage marks"
            :errors="problem(`stages.${row}.from`)"
          />
          <v-btn
            v-if="section.stages.length > 2"
            size="small"
            variant="text"
            @click="section.stages.splice(row, 1)"
            >Remove stage</v-btn
          >
        </div>
        <GroupsTable
          v-model="stage.groups"
          :path="`${path}.stages.${row}.groups`"
          :base="stage.id"
          :taken="taken"
        />
        <ConversionEditor
          v-model="stage.conversion"
          :title="stage.title"
          :lowest="lowest"
          :highest="highest"
          :problems="draft.within(`${path}.stages.${row}.conversion`)"
        />
      </div>
      <v-btn size="small" variant="text" @click="addStage">Another second stage</v-btn>
    </template>
    <template v-else>
      <h2>Conversion table</h2>
      <ConversionEditor
        v-model="section.conversion"
        :title="section.title"
        :lowest="lowest"
        :highest="highest"
        :problems="draft.within(`${path}.conversion`)"
      />
    </template>
  </section>
</template>

<style scoped>
.panel {
  border-left: 3px solid var(--water);
  padding-left: 14px;
}
.stage {
  border-left: 1px solid var(--hair);
  padding-left: 12px;
}
</style>
