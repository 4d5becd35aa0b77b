<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { mdiChevronDown } from '@mdi/js'
import { writePlan } from '@climber/core'
import { addressOf, call } from '../api'
import { useCommands } from '../commands'
import AddressField from '../kit/AddressField.vue'
import { problemsOf } from '../kit/problems'
import { download, fileName } from '../manners/download'
import { deletePlan } from '../stores/files'
import { useWorkspace } from '../stores/workspace'
import CalendarAddress from './CalendarAddress.vue'

/** Behind the candidate's name: set-up, sharing, and what one takes along. */
const props = defineProps<{ candidateId: string }>()
const workspace = useWorkspace()
const router = useRouter()
const calendarOpen = ref(false)
const told = ref<{ address?: string; problem?: string }>()

/** Does it; what stands against it is said. */
async function trying(work: () => Promise<void>): Promise<void> {
  told.value = undefined
  try {
    await work()
  } catch (error) {
    told.value = { problem: problemsOf(error)[0]?.message }
  }
}
const invite = () =>
  trying(async () => {
    const { code } = await call('invite', { candidateId: props.candidateId })
    told.value = { address: `${location.origin}${router.resolve({ name: 'join', params: { code } }).href}` }
  })
const remove = () =>
  trying(async () => {
    await deletePlan(props.candidateId, workspace.name, workspace.candidate?.mine ?? false)
    workspace.close()
    await router.push({ name: 'roster' })
  })
function takePlan(): void {
  const { plan, words } = workspace
  if (plan && words)
    download(`${fileName(workspace.name)}-plan.csv`, 'text/csv', writePlan(plan.sessions, words))
}
const takeFile = () =>
  trying(async () => {
    const file = await call('exportFile', { candidateId: props.candidateId })
    const text = `${JSON.stringify(file, null, 2)}\n`
    download(`${fileName(workspace.name)}.climber.json`, 'application/json', text)
  })
useCommands(() => [
  ...(workspace.plan ? [{ title: 'The plan as CSV', of: workspace.name, run: takePlan }] : []),
  { title: 'Calendar address', of: workspace.name, run: () => (calendarOpen.value = true) },
  { title: 'Everything, as a Climber file', of: workspace.name, run: takeFile },
  ...(workspace.candidate?.mine ? [] : [{ title: 'Invite the candidate', of: workspace.name, run: invite }]),
])
</script>

<template>
  <div class="who">
    <v-menu>
      <template #activator="{ props: opens }">
        <button
          v-bind="opens"
          type="button"
          class="name"
          :aria-label="`${workspace.name}: set-up, sharing and files`"
        >
          <strong>{{ workspace.name }}</strong>
          <v-icon :icon="mdiChevronDown" size="18" aria-hidden="true" />
        </button>
      </template>
      <v-list density="compact" bg-color="surface" border>
        <v-list-item title="Set-up" :to="{ name: 'set-up', params: { candidateId } }" />
        <v-divider />
        <v-list-item
          title="Calendar file (iCalendar)"
          :href="addressOf('exportCalendar', { candidateId })"
          download
        />
        <v-list-item v-if="workspace.plan" title="The plan as CSV" @click="takePlan" />
        <v-list-item title="Calendar address" @click="calendarOpen = true" />
        <v-list-item title="Everything, as a Climber file" @click="takeFile" />
        <v-list-item v-if="!workspace.candidate?.mine" title="Invite the candidate" @click="invite" />
        <v-divider />
        <v-list-item title="Delete this plan" @click="remove" />
      </v-list>
    </v-menu>
    <span class="soft exam">{{ workspace.exam?.title }}</span>
  </div>
  <CalendarAddress
    v-if="calendarOpen"
    :key="candidateId"
    :candidate-id="candidateId"
    @close="calendarOpen = false"
  />
  <v-dialog :model-value="told !== undefined" max-width="560" @update:model-value="told = undefined">
    <v-card class="pa-5 stack" role="status">
      <p v-if="told?.problem" class="bad">{{ told.problem }}</p>
      <AddressField
        v-else-if="told?.address"
        :label="`Give ${workspace.name} this address; it opens the plan once, for 14 days`"
        :address="told.address"
      />
      <div><v-btn @click="told = undefined">Close</v-btn></div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.who {
  flex: 1;
  min-width: 0;
  display: flex;
  align-items: baseline;
  gap: 10px;
  overflow: hidden;
  white-space: nowrap;
}
.name {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 8px 0;
  cursor: pointer;
}
.exam {
  overflow: hidden;
  text-overflow: ellipsis;
}
@media (max-width: 700px) {
  .exam {
    display: none;
  }
}
</style>
