<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { mdiTrayArrowDown } from '@mdi/js'
import { addressOf, type ApiFailure, call } from '../api'
import { download, fileName } from '../manners/download'
import { dateWords, distanceWords, percentWords, scoreWords } from '../manners/words'
import { rereadStale } from '../stores/commitments'
import { followCards } from '../stores/cards'
import { deletePlan } from '../stores/files'
import { writePlan } from '@climber/core'
import { useSession } from '../stores/session'
import { useWorkspace } from '../stores/workspace'
import AccountMenu from '../widgets/AccountMenu.vue'
import CalendarAddress from '../widgets/CalendarAddress.vue'
import Horizon from '../widgets/Horizon.vue'
import SaveState from '../widgets/SaveState.vue'

const workspace = useWorkspace()
const session = useSession()
const route = useRoute()
const router = useRouter()
const screens = [
  { name: 'today', title: 'Today', key: 't' },
  { name: 'plan', title: 'Plan', key: 'p' },
  { name: 'scores', title: 'Scores', key: 's' },
  { name: 'diagnosis', title: 'Diagnosis', key: 'd' },
  { name: 'gap', title: 'Gap', key: 'w' },
  { name: 'pacing', title: 'Pacing', key: 'a' },
  { name: 'guessing', title: 'Guessing', key: 'n' },
  { name: 'exam-day', title: 'Exam day', key: 'e' },
  { name: 'set-up', title: 'Set-up', key: 'u' },
]
const id = computed(() => String(route.params.candidateId))
watch(id, (next) => next !== 'undefined' && void workspace.load(next).then(rereadStale), { immediate: true })
watch(
  () => [workspace.name, route.name],
  () =>
    (document.title = [screens.find(({ name }) => name === route.name)?.title, workspace.name, 'Climber']
      .filter(Boolean)
      .join(' · ')),
  { immediate: true },
)

const odds = computed(() => workspace.overview?.odds)

let going = false
function press(event: KeyboardEvent): void {
  if (event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName)) return
  if (event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key === 'g') {
    going = true
    setTimeout(() => (going = false), 1200)
    return
  }
  const to = going && screens.find(({ key }) => key === event.key)
  going = false
  if (to) void router.push({ name: to.name, params: { candidateId: id.value } })
}
const clock = setInterval(() => workspace.look(), 60_000)
onMounted(() => addEventListener('keydown', press))
onBeforeUnmount(followCards())
onBeforeUnmount(() => {
  removeEventListener('keydown', press)
  clearInterval(clock)
})

const calendarOpen = ref(false)
const invitation = ref<{ address?: string; problem?: string }>()
async function inviteCandidate(): Promise<void> {
  try {
    const { code } = await call('invite', { candidateId: id.value })
    invitation.value = {
      address: `${location.origin}${router.resolve({ name: 'join', params: { code } }).href}`,
    }
  } catch (error) {
    invitation.value = {
      problem: (error as ApiFailure).failure?.issues?.[0]?.message ?? (error as ApiFailure).message,
    }
  }
}
async function removePlan(): Promise<void> {
  try {
    await deletePlan(id.value, workspace.name, workspace.candidate?.mine ?? false)
    workspace.close()
    await router.push({ name: 'roster' })
  } catch (error) {
    invitation.value = { problem: (error as ApiFailure).message }
  }
}
function takePlan(): void {
  download(
    `${fileName(workspace.name)}-plan.csv`,
    'text/csv',
    writePlan(workspace.plan!.sessions, workspace.words!),
  )
}
async function takeFile(): Promise<void> {
  const file = await call('exportFile', { candidateId: id.value })
  download(
    `${fileName(workspace.name)}.climber.json`,
    'application/json',
    `${JSON.stringify(file, null, 2)}\n`,
  )
}
</script>

<template>
  <div class="frame">
    <a href="#main" class="skip">Skip to the page</a>
    <header class="top no-print">
      <router-link :to="{ name: 'roster' }" class="brand large" aria-label="Climber: all plans"
        >Climber</router-link
      >
      <div class="who">
        <strong>{{ workspace.name }}</strong>
        <span class="soft exam">{{ workspace.exam?.title }}</span>
      </div>
      <SaveState />
      <v-menu>
        <template #activator="{ props }">
          <v-btn v-bind="props" :icon="mdiTrayArrowDown" variant="text" aria-label="Take the plan with you" />
        </template>
        <v-list density="compact" bg-color="surface" border>
          <v-list-item
            title="Calendar file (iCalendar)"
            :href="addressOf('exportCalendar', { candidateId: id })"
            download
          />
          <v-list-item v-if="workspace.plan" title="The plan as CSV" @click="takePlan" />
          <v-list-item title="Calendar address" @click="calendarOpen = true" />
          <v-list-item title="Everything, as a Climber file" @click="takeFile" />
          <v-list-item
            v-if="!workspace.candidate?.mine"
            title="Invite the candidate"
            @click="inviteCandidate"
          />
          <v-list-item title="Delete this plan" @click="removePlan" />
        </v-list>
      </v-menu>
      <AccountMenu v-if="session.user" />
    </header>
    <CalendarAddress v-if="calendarOpen" :key="id" :candidate-id="id" @close="calendarOpen = false" />
    <div v-if="invitation" class="invitation row" role="status">
      <span v-if="invitation.problem" class="bad">{{ invitation.problem }}</span>
      <label v-else
        >Give {{ workspace.name }} this address; it opens the plan once, for 14 days:
        <input
          class="figure address"
          type="text"
          readonly
          :value="invitation.address"
          @focus="($event.target as HTMLInputElement).select()"
      /></label>
      <v-btn @click="invitation = undefined">Close</v-btn>
    </div>
    <div v-if="workspace.failed" class="sheet stack">
      <h1>This plan cannot be opened</h1>
      <p>{{ workspace.failed }}</p>
      <p><router-link :to="{ name: 'roster' }">Back to your plans</router-link></p>
    </div>
    <template v-else>
      <section
        v-if="route.name !== 'scores'"
        class="band no-print"
        aria-label="Horizon: the days until the exam"
      >
        <template v-if="workspace.overview">
          <Horizon
            v-if="workspace.overview.examDate"
            :from="route.name === 'plan' ? workspace.from : undefined"
            :overview="workspace.overview"
            :today="workspace.today"
            :phases="workspace.plan?.phases"
            :weeks="workspace.plan?.weeks"
            :sessions="workspace.plan?.sessions"
            @update:from="(day?: string) => day && (workspace.from = day)"
          />
          <div class="summary">
            <template v-if="workspace.sitting">
              <div>
                <span class="large count">{{ distanceWords(workspace.sitting.date, workspace.today) }}</span>
                <span class="soft small">{{ dateWords(workspace.sitting.date, workspace.today) }}</span>
              </div>
              <div v-if="odds?.odds !== undefined && workspace.plan" class="small">
                <strong data-testid="plan-odds">{{ percentWords(odds.odds) }}</strong> for
                {{ scoreWords(odds.target!) }} if the plan is kept
              </div>
              <div v-else class="small soft">no plan yet</div>
            </template>
          </div>
        </template>
        <v-skeleton-loader v-else type="image" height="78" class="wide" />
      </section>
      <div class="body">
        <nav class="index no-print" aria-label="Screens">
          <router-link
            v-for="screen in screens"
            :key="screen.name"
            :to="{ name: screen.name, params: { candidateId: id } }"
            >{{ screen.title }}</router-link
          >
        </nav>
        <main id="main" tabindex="-1">
          <router-view v-if="workspace.saves" />
          <div v-else class="sheet"><v-skeleton-loader type="heading, list-item@8" /></div>
        </main>
      </div>
    </template>
  </div>
</template>

<style scoped>
.frame {
  min-height: 100vh;
  display: flex;
  flex-direction: column;
}
.invitation {
  padding: 10px 22px;
  border-bottom: 1px solid var(--hair);
}
.address {
  width: min(460px, 80vw);
}
.skip {
  position: absolute;
  left: -999px;
}
.skip:focus {
  left: 8px;
  top: 8px;
  z-index: 40;
  background: var(--paper);
  padding: 6px 10px;
}
.top {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 4px 14px 4px 22px;
  border-bottom: 1px solid var(--hair);
  min-height: 44px;
}
.brand {
  font-size: 23px;
  text-decoration: none;
  color: var(--ink);
  letter-spacing: 0.01em;
}
.who {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.exam {
  margin-left: 10px;
}
.band {
  display: grid;
  grid-template-columns: 1fr 210px;
  border-bottom: 1px solid var(--ink);
  min-height: 79px;
}
.summary {
  padding: 10px 14px;
  border-left: 1px solid var(--hair);
  display: grid;
  gap: 2px;
  align-content: center;
}
.count {
  font-size: 25px;
  margin-right: 8px;
}
.wide {
  grid-column: 1 / -1;
}
.body {
  flex: 1;
  display: grid;
  grid-template-columns: 112px 1fr;
}
.index {
  display: flex;
  flex-direction: column;
  padding: 14px 0;
  border-right: 1px solid var(--hair);
}
.index a {
  color: var(--ink);
  text-decoration: none;
  padding: 6px 10px 6px 22px;
  border-left: 4px solid transparent;
}
.index a.router-link-active {
  border-left-color: var(--ochre);
  font-weight: 650;
}
main {
  min-width: 0;
  outline: none;
}
@media (max-width: 700px) {
  .exam {
    display: none;
  }
  .top {
    padding-left: 12px;
    gap: 6px;
  }
  .band {
    grid-template-columns: 1fr;
  }
  .summary {
    border-left: 0;
    padding: 2px 14px 6px;
    display: flex;
    justify-content: space-between;
    align-items: baseline;
  }
  .body {
    grid-template-columns: 1fr;
  }
  .index {
    position: fixed;
    bottom: 0;
    left: 0;
    right: 0;
    z-index: 20;
    flex-direction: row;
    padding: 0;
    background: var(--paper);
    border: 0;
    border-top: 1px solid var(--ink);
    overflow-x: auto;
  }
  .index a {
    flex: 1;
    padding: 14px 8px;
    text-align: center;
    white-space: nowrap;
    border-left: 0;
    border-top: 3px solid transparent;
  }
  .index a.router-link-active {
    border-top-color: var(--ochre);
  }
}
</style>
