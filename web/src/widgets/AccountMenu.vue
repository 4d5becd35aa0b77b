<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useTheme } from 'vuetify'
import { mdiAccountOutline, mdiThemeLightDark } from '@mdi/js'
import { finding, useCommands } from '../commands'
import { monthFirst } from '../manners/words'
import { forgetCards } from '../stores/cards'
import { useSession } from '../stores/session'
import { useWorkspace } from '../stores/workspace'

const session = useSession()
const workspace = useWorkspace()
const router = useRouter()
const theme = useTheme()

function turnTheme(): void {
  const next = theme.global.current.value.dark ? 'light' : 'dark'
  theme.change(next)
  localStorage.setItem('climber.theme', next)
}
const problem = ref('')
async function leave(everywhere: boolean): Promise<void> {
  problem.value = ''
  try {
    await (everywhere ? session.signOutEverywhere() : session.signOut())
  } catch (error) {
    problem.value = (error as Error).message
    return
  }
  workspace.close()
  forgetCards()
  await router.push({ name: 'sign-in' })
}
/** Days as this account writes them, and the other way. */
const other = computed(() => (monthFirst() ? ('en-GB' as const) : ('en-US' as const)))
const otherWords = computed(() => `Write days as ${monthFirst() ? '9 Mar' : 'Mar 9'}`)
async function turnDates(): Promise<void> {
  problem.value = ''
  try {
    await session.saveLocale(other.value)
  } catch (error) {
    problem.value = (error as Error).message
  }
}
useCommands(() => [
  { title: otherWords.value, of: 'Account', run: turnDates },
  { title: 'Light or dark', of: 'Account', run: turnTheme },
  { title: 'Sign out', of: 'Account', run: () => leave(false) },
])
</script>

<template>
  <v-btn
    :icon="mdiThemeLightDark"
    class="desk"
    variant="text"
    aria-label="Light or dark"
    @click="turnTheme"
  />
  <v-menu>
    <template #activator="{ props }">
      <v-btn
        v-bind="props"
        :icon="mdiAccountOutline"
        variant="text"
        :aria-label="`Account: ${session.user?.name}`"
      />
    </template>
    <v-list density="compact" bg-color="surface" border>
      <v-list-subheader>{{ session.user?.name }}</v-list-subheader>
      <v-list-item title="All plans" :to="{ name: 'roster' }" />
      <v-list-item title="Exam formats" :to="{ name: 'exams' }" />
      <v-list-item title="Go to, or do… (Ctrl K)" @click="finding = true" />
      <v-list-item class="phone" title="Light or dark" @click.stop="turnTheme" />
      <v-list-item :title="otherWords" @click.stop="turnDates" />
      <v-list-item v-if="problem" role="alert" class="bad" :title="problem" />
      <v-list-item title="Sign out" @click.stop="leave(false)" />
      <v-list-item title="Sign out everywhere" @click.stop="leave(true)" />
    </v-list>
  </v-menu>
</template>

<style scoped>
.phone {
  display: none;
}
@media (max-width: 700px) {
  .desk {
    display: none;
  }
  .phone {
    display: grid;
  }
}
</style>
