<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import type { ExamEffect } from '@climber/contract'
import { type ApiFailure, call } from '../../api'
import { percentWords } from '../../manners/words'
import { useDraft } from './draft'

/** What the changed format would mean for each candidate on it, before and after it is kept. */
const props = defineProps<{ examId: string; edition: number; stored: boolean }>()
const draft = useDraft()
const effects = ref<ExamEffect[]>()
const message = ref('')
async function look(): Promise<void> {
  try {
    effects.value = await call('examEffect', { examId: props.examId }, { format: draft.parsed.value })
  } catch (error) {
    message.value = (error as ApiFailure).message
  }
}
onMounted(look)
const moved = ref(new Set<string>())
const behind = computed(() => (effects.value ?? []).filter(({ edition }) => edition !== props.edition))
async function move(effect: ExamEffect): Promise<void> {
  message.value = ''
  try {
    await call('moveToEdition', { candidateId: effect.candidateId }, { examId: props.examId })
    moved.value = new Set([...moved.value, effect.candidateId])
  } catch (error) {
    const { failure, message: said } = error as ApiFailure
    message.value = failure?.issues?.map((issue) => `${issue.field}: ${issue.message}`).join('; ') ?? said
  }
}
const odds = (one: ExamEffect['before'] | null) =>
  typeof one?.odds === 'number' ? percentWords(one.odds) : '–'
const forecast = (one: ExamEffect['before'] | null) =>
  typeof one?.forecast === 'number' ? String(Math.round(one.forecast)) : '–'
</script>

<template>
  <section class="stack" aria-label="What it changes">
    <h2>What it changes for candidates</h2>
    <p v-if="message" class="bad" role="alert">{{ message }}</p>
    <v-skeleton-loader v-if="!effects && !message" type="list-item@2" />
    <p v-else-if="effects && !effects.length" class="soft">Nobody prepares for this exam yet.</p>
    <div v-else-if="effects" class="scroll">
      <table class="lines small" data-testid="effects">
        <thead>
          <tr>
            <th>Candidate</th>
            <th class="n">Edition</th>
            <th class="n">Forecast</th>
            <th class="n">Odds</th>
            <td></td>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in effects" :key="one.candidateId">
            <th scope="row">{{ one.name }}</th>
            <td class="n">{{ one.edition }}</td>
            <td class="n">{{ forecast(one.before) }} → {{ forecast(one.after) }}</td>
            <td class="n">
              {{ odds(one.before) }} → <strong>{{ odds(one.after) }}</strong>
            </td>
            <td>
              <span v-if="moved.has(one.candidateId)" class="good">moved</span>
              <v-btn
                v-else-if="stored && !one.issues.length && one.edition !== edition"
                size="small"
                @click="move(one)"
                >Move to edition {{ edition }}</v-btn
              >
              <details v-if="one.issues.length" class="bad">
                <summary>
                  does not fit: {{ one.issues.length }} {{ one.issues.length === 1 ? 'thing' : 'things' }}
                </summary>
                <p v-for="issue in one.issues" :key="issue.field + issue.message">
                  {{ issue.field }}: {{ issue.message }}
                </p>
              </details>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="stored && behind.length" class="small soft">
      Whoever stays keeps the edition they have; their plans and scores are read by it as before.
    </p>
  </section>
</template>
