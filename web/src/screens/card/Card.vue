<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import { dateWords } from '../../manners/words'
import { type KeptCards, keptCards, makeCards } from '../../stores/cards'
import { useSession } from '../../stores/session'
import { useWorkspace } from '../../stores/workspace'
import PaceCardSheet from './PaceCardSheet.vue'

/** The pace cards, for the pocket and the corridor: from the server where it answers, else as kept in this browser. */
const route = useRoute()
const session = useSession()
const workspace = useWorkspace()
const id = computed(() => String(route.params['candidateId']))
const kept = shallowRef<KeptCards>()
const failed = ref('')
const working = ref(true)
const only = ref<string>()

async function load(): Promise<void> {
  working.value = true
  failed.value = ''
  kept.value = keptCards(id.value)
  if (session.signedIn) {
    await workspace.load(id.value)
    if (workspace.candidate?.id === id.value) {
      try {
        kept.value = await makeCards()
      } catch (error) {
        failed.value = (error as Error).message
      }
    }
  }
  if (!kept.value)
    failed.value = session.signedIn
      ? workspace.failed || failed.value || 'There is no card yet.'
      : 'No card is kept in this browser. Sign in once with the network on, and it stays.'
  document.title = ['Pace card', kept.value?.cards.name, 'Climber'].filter(Boolean).join(' · ')
  working.value = false
}
onMounted(load)
watch(id, load)

const cards = computed(
  () => kept.value?.cards.cards.filter((card) => !only.value || card.section === only.value) ?? [],
)
const date = computed(() => (kept.value?.cards.date ? dateWords(kept.value.cards.date) : undefined))
const online = computed(() => session.signedIn && workspace.candidate?.id === id.value && !workspace.keptAt)
const print = (): void => window.print()
</script>

<template>
  <main id="main" class="sheet stack">
    <header class="row no-print">
      <h1>Pace card</h1>
      <template v-if="kept">
        <span>{{ kept.cards.name }}</span>
        <span class="soft">{{ kept.cards.exam }}</span>
        <span class="rating" role="group" aria-label="Sections">
          <button type="button" :aria-pressed="!only" @click="only = undefined">all</button>
          <button
            v-for="card in kept.cards.cards"
            :key="card.section"
            type="button"
            :aria-pressed="only === card.section"
            @click="only = card.section"
          >
            {{ card.title }}
          </button>
        </span>
        <v-btn class="main" @click="print">Print</v-btn>
      </template>
      <router-link v-if="online" :to="{ name: 'pacing', params: { candidateId: id } }"
        >Back to Pacing</router-link
      >
      <span v-else-if="kept" class="small soft" data-testid="kept"
        >as kept in this browser on {{ dateWords(kept.keptAt.slice(0, 10)) }}</span
      >
    </header>
    <p v-if="failed" class="bad" role="alert">{{ failed }}</p>
    <v-skeleton-loader v-else-if="working && !kept" type="image, list-item@6" />
    <div v-if="kept" class="cards">
      <PaceCardSheet
        v-for="card in cards"
        :key="card.section"
        :card="card"
        :name="kept.cards.name"
        :date="date"
      />
    </div>
    <p v-if="kept" class="small soft no-print">
      A card is a quarter of a page: print, cut, learn it by heart. Nothing written may come into the exam
      room unless the rules say so.
    </p>
  </main>
</template>

<style scoped>
.cards {
  display: flex;
  flex-wrap: wrap;
  gap: 4mm;
}
@media print {
  @page {
    size: A4;
    margin: 8mm;
  }
  .sheet {
    padding: 0;
    max-width: none;
    display: block;
  }
  .cards {
    display: grid;
    grid-template-columns: 95mm 95mm;
    gap: 4mm;
  }
  .cards > * {
    break-inside: avoid;
  }
}
</style>
