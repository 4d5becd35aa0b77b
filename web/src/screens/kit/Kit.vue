<script setup lang="ts">
import { ref } from 'vue'
import ChoiceField from '../../kit/ChoiceField.vue'
import ChoicesField from '../../kit/ChoicesField.vue'
import DataTable from '../../kit/DataTable.vue'
import DateField from '../../kit/DateField.vue'
import EmptyState from '../../kit/EmptyState.vue'
import FileField from '../../kit/FileField.vue'
import FormDialog from '../../kit/FormDialog.vue'
import MinutesField from '../../kit/MinutesField.vue'
import NumberField from '../../kit/NumberField.vue'
import ProblemList from '../../kit/ProblemList.vue'
import TabRow from '../../kit/TabRow.vue'
import TextField from '../../kit/TextField.vue'
import TimeField from '../../kit/TimeField.vue'

/** Every control of the kit, as it is used, optional, and with something wrong. */
const today = '2030-01-15'
const text = ref('Harbour light lists')
const number = ref<number | undefined>(42)
const minutes = ref<number | undefined>(90)
const date = ref<string | undefined>('2030-03-09')
const time = ref<string | undefined>('17:30')
const choice = ref('tides')
const choices = ref(['tides'])
const tab = ref('fields')
const open = ref(false)
const chosen = ref('')
const options = [
  { value: 'tides', title: 'Tides and streams' },
  { value: 'passage', title: 'Passage work' },
  { value: 'lights', title: 'Lights, marks and signals' },
]
const rows = [
  { id: 'a', topic: 'Tides and streams', hours: 12, known: '61%' },
  { id: 'b', topic: 'Passage work', hours: 7, known: '48%' },
]
const columns = [
  { key: 'topic', title: 'Topic' },
  { key: 'hours', title: 'Hours', figure: true },
  { key: 'known', title: 'Known', figure: true },
]
const wrong = [
  { field: 'row 4, seconds', message: 'a number of seconds, 0 or more' },
  { field: 'row 9', message: 'has 5 columns; the head has 6' },
]
</script>

<template>
  <main id="main" class="sheet stack">
    <h1>The kit</h1>
    <p class="soft">Controls of every form and table. Wrong values say what would be right, at the field.</p>
    <TabRow
      v-model="tab"
      label="Parts of the kit"
      :tabs="[
        { value: 'fields', title: 'Fields' },
        { value: 'wrong', title: 'With something wrong', mark: 'open' },
        { value: 'rest', title: 'Tables and the rest' },
      ]"
    />
    <div v-if="tab !== 'rest'" class="grid">
      <TextField v-model="text" label="Text" :errors="tab === 'wrong' ? 'write a name' : undefined" />
      <NumberField
        v-model="number"
        label="Number"
        unit="items"
        :min="1"
        :max="tab === 'wrong' ? 10 : 90"
        whole
      />
      <MinutesField v-model="minutes" label="Minutes" :errors="tab === 'wrong' ? 'at most 1 h' : undefined" />
      <DateField
        v-model="date"
        label="Date"
        :today="today"
        :errors="tab === 'wrong' ? 'that day is over' : undefined"
      />
      <TimeField v-model="time" label="Time" :errors="tab === 'wrong' ? 'after it starts' : undefined" />
      <ChoiceField
        v-model="choice"
        label="Choice"
        :options="options"
        :errors="tab === 'wrong' ? 'choose another' : undefined"
      />
      <ChoicesField
        v-model="choices"
        label="Many choices"
        :options="options"
        hint="those that are in scope"
        :errors="tab === 'wrong' ? 'at least two' : undefined"
      />
      <FileField
        label="File"
        accept=".csv"
        hint="a table"
        :errors="tab === 'wrong' ? 'this is not a text file' : undefined"
        @chosen="chosen = $event.name"
      />
      <TextField v-model="text" label="Several lines" :lines="2" optional />
    </div>
    <template v-else>
      <DataTable id="id" label="Topics" :columns="columns" :rows="rows">
        <template #topic="{ row }"
          ><strong>{{ row.topic }}</strong></template
        >
      </DataTable>
      <ProblemList :problems="wrong" :more="3" />
      <EmptyState title="No test is logged yet" text="Each test you sit moves the forecast.">
        <v-btn class="main" @click="open = true">Open a dialog</v-btn>
      </EmptyState>
      <FormDialog v-model="open" title="A dialog" submit="Keep it" @submit="open = false">
        <TextField v-model="text" label="Its name" />
      </FormDialog>
    </template>
  </main>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr));
  gap: 14px 24px;
  align-items: start;
}
</style>
