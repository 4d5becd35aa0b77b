<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { dateWords, distanceWords, percentWords, scoreWords } from '../manners/words'
import { screensOf, useCommands } from '../commands'
import { inField } from '../manners/inField'
import { allParts } from '../places'
import { followCards } from '../stores/cards'
import { rereadStale } from '../stores/commitments'
import { offline } from '../outbox/connection'
import { useSession } from '../stores/session'
import { waysOf } from '../ways'
import { useWorkspace } from '../stores/workspace'
import AccountMenu from '../widgets/AccountMenu.vue'
import CandidateMenu from '../widgets/CandidateMenu.vue'
import Horizon from '../widgets/Horizon.vue'
import PlaceNav from '../widgets/PlaceNav.vue'
import PlaceParts from '../widgets/PlaceParts.vue'
import SaveState from '../widgets/SaveState.vue'
import UndoEdits from '../widgets/UndoEdits.vue'

const workspace = useWorkspace()
const session = useSession()
const route = useRoute()
const router = useRouter()
const id = computed(() => String(route.params.candidateId))
watch(id, (next) => next !== 'undefined' && void workspace.load(next).then(rereadStale), { immediate: true })
// What could not be opened is opened once the server answers again.
watch(offline, (now) => !now && workspace.failed && void workspace.load(id.value).then(rereadStale))
watch(
  () => [workspace.name, route.name],
  () =>
    (document.title = [allParts.find(({ name }) => name === route.name)?.title, workspace.name, 'Climber']
      .filter(Boolean)
      .join(' · ')),
  { immediate: true },
)

const odds = computed(() => workspace.overview?.odds)
useCommands(() => [...screensOf(id.value), ...waysOf(id.value, route.name)])

/**
 * Whether `g` was pressed and the next key says where to. It waits for that key as long as that takes: a
 * limit would be too short for some hands, and for a machine that is busy.
 */
let going = false
function press(event: KeyboardEvent): void {
  const to = going && allParts.find(({ key }) => key === event.key)
  going = false
  if (inField(event.target) || event.ctrlKey || event.metaKey || event.altKey) return
  if (to) void router.push({ name: to.name, params: { candidateId: id.value } })
  else going = event.key === 'g'
}
const forget = (): void => void (going = false)
const clock = setInterval(() => workspace.look(), 60_000)
onMounted(() => {
  addEventListener('keydown', press)
  addEventListener('pointerdown', forget)
})
onBeforeUnmount(followCards())
onBeforeUnmount(() => {
  removeEventListener('keydown', press)
  removeEventListener('pointerdown', forget)
  clearInterval(clock)
})
</script>

<template>
  <div class="frame">
    <a href="#main" class="skip">Skip to the page</a>
    <header class="top no-print">
      <router-link :to="{ name: 'roster' }" class="brand large" aria-label="Climber: all plans"
        >Climber</router-link
      >
      <CandidateMenu :candidate-id="id" />
      <!-- The plan's own steps are undone where they are made. -->
      <UndoEdits v-if="workspace.history && route.name !== 'plan'" :history="workspace.history" />
      <SaveState />
      <AccountMenu v-if="session.user" />
    </header>
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
              <div v-if="workspace.isOver" class="small soft">the exam is over</div>
              <div v-else-if="odds?.odds !== undefined && workspace.plan" class="small">
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
        <PlaceNav :candidate-id="id" />
        <main id="main" tabindex="-1">
          <PlaceParts :candidate-id="id" />
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
  height: 78px;
  overflow: hidden;
  grid-column: 1 / -1;
}
.body {
  flex: 1;
  display: grid;
  grid-template-columns: 112px 1fr;
}
main {
  min-width: 0;
  outline: none;
}
@media (max-width: 700px) {
  .top {
    padding-left: 12px;
    gap: 6px;
  }
  /* The horizon and the line below it, from the start. */
  .band {
    grid-template-columns: 1fr;
    min-height: 113px;
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
}
</style>
