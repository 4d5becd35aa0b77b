<script setup lang="ts">
import { proxy } from 'comlink'
import { computed, ref } from 'vue'
import type { BusyCalendar } from '@climber/contract'
import {
  brokenOff,
  commitmentDays,
  dateOf,
  dayNumber,
  type ReadCommitments,
  readingSeconds,
} from '@climber/core'
import FileField from '../../kit/FileField.vue'
import { byField, type Problem, problemsOf } from '../../kit/problems'
import TextField from '../../kit/TextField.vue'
import { mostBytes, textOf } from '../../manners/file'
import { keepCalendar, readCalendar } from '../../stores/commitments'
import { useSession } from '../../stores/session'
import { useWorkspace } from '../../stores/workspace'
import { inOwnWorker, plain, TookTooLong } from '../../workers/core'
import FileProblems from '../../widgets/FileProblems.vue'
import WeeklyCommitments from './WeeklyCommitments.vue'

/** Calendars of commitments: from a file, or read again and again at a private address. Only when one is busy is kept. */
const workspace = useWorkspace()
const session = useSession()
const save = computed(() => workspace.saves!.commitments)
const calendars = computed(() => save.value.state.document.calendars)
const address = ref('')
const problems = ref<Problem[]>([])
const fields = computed(() => byField(problems.value))
const others = computed(() => fields.value.besides('address'))
const working = ref(false)
async function guarded(work: () => Promise<void>): Promise<void> {
  working.value = true
  problems.value = []
  try {
    await work()
  } catch (error) {
    problems.value = problemsOf(error)
  }
  working.value = false
}
const fromFile = (file: File) =>
  guarded(async () => {
    const text = await textOf(file, mostBytes.large)
    const zone = workspace.record!.availability.zone
    const { today } = workspace
    let line = 1
    const found = await inOwnWorker(
      (worker) =>
        worker.readCommitments(
          text,
          zone,
          today,
          dateOf(dayNumber(today) + commitmentDays),
          proxy((at: number) => void (line = at)),
        ),
      undefined,
      readingSeconds,
    ).catch((error: unknown): ReadCommitments => {
      if (!(error instanceof TookTooLong)) throw error
      return brokenOff(line)
    })
    problems.value = found.problems
      .slice(0, 50)
      .map(({ line, event: name, message }) => ({ field: `line ${line}`, message: `${name}: ${message}` }))
    if (found.problems.length) return
    const title = file.name.replace(/\.ics$/i, '') || 'Calendar'
    const old = calendars.value.find((one) => one.title === title && !one.address)
    keepCalendar({ title, readAt: session.now(), events: found.events, busy: found.busy }, old?.id)
  })
const read = (from: string, old?: BusyCalendar) =>
  guarded(async () => {
    await readCalendar(from, old)
    address.value = ''
  })
const remove = (id: string) =>
  save.value.edit((document) => (document.calendars = document.calendars.filter((one) => one.id !== id)))
const hours = (calendar: BusyCalendar) => new Set(calendar.busy.map(({ date }) => date)).size
</script>

<template>
  <section class="stack" aria-label="Commitments">
    <h2>Commitments</h2>
    <WeeklyCommitments />
    <h3>From a calendar</h3>
    <p class="small soft">
      From a calendar file, or a calendar's private address. Only when you are busy is kept, never with what;
      the plan goes round it.
    </p>
    <div class="row">
      <FileField label="Commitments from a calendar file" accept=".ics,text/calendar" @chosen="fromFile" />
      <form class="row" novalidate @submit.prevent="read(address)">
        <div class="address">
          <TextField
            v-model="address"
            type="url"
            label="Private address of a calendar"
            :errors="fields.at('address')"
          />
        </div>
        <v-btn type="submit" :loading="working" :disabled="!address">Read it</v-btn>
      </form>
    </div>
    <FileProblems v-if="others.length" :problems="others" />
    <p v-if="others.length && calendars.length" class="small">What was read before stays as it is.</p>
    <table v-if="calendars.length" class="lines small">
      <tbody>
        <tr v-for="calendar in calendars" :key="calendar.id" data-testid="calendar">
          <td>{{ calendar.title }}</td>
          <td>{{ calendar.events }} events, busy on {{ hours(calendar) }} days</td>
          <td class="soft">read {{ calendar.readAt.slice(0, 16).replace('T', ' ') }}</td>
          <td>
            <v-btn
              v-if="calendar.address"
              :disabled="working"
              @click="read(calendar.address!, plain(calendar))"
              >Read again</v-btn
            >
            <v-btn :aria-label="`Remove ${calendar.title}`" @click="remove(calendar.id)">Remove</v-btn>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.address {
  width: 260px;
}
</style>
