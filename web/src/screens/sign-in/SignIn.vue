<script setup lang="ts">
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ApiFailure } from '../../api'
import { useSession } from '../../stores/session'

const session = useSession()
const router = useRouter()
const route = useRoute()
const making = ref(false)
const name = ref('')
const email = ref('')
const password = ref('')
const problem = ref<{ field: string; message: string }>()
const busy = ref(false)

async function go(enter: () => Promise<void>): Promise<void> {
  busy.value = true
  problem.value = undefined
  try {
    if (!session.ready) await session.refresh()
    await enter()
    const to = route.query.to
    await router.push(typeof to === 'string' && to.startsWith('/') && !to.startsWith('//') ? to : '/')
  } catch (error) {
    const field = error instanceof ApiFailure ? (error.failure?.field ?? '') : ''
    const issue = error instanceof ApiFailure ? error.failure?.issues?.[0]?.message : undefined
    problem.value = { field, message: issue ?? (error as Error).message }
    if (error instanceof ApiFailure && error.code === 'forged') await session.refresh()
  } finally {
    busy.value = false
  }
}
const submit = () =>
  go(() =>
    making.value
      ? session.signUp({ email: email.value, password: password.value, name: name.value })
      : session.signIn(email.value, password.value),
  )
const messages = (field: string) => (problem.value?.field === field ? [problem.value.message] : [])
</script>

<template>
  <main class="page">
    <div class="about">
      <h1 class="large">Climber</h1>
      <p class="lead">From where you stand to the score you need: what to do on which day, until the exam.</p>
      <svg viewBox="0 0 420 150" aria-hidden="true" class="picture">
        <path
          d="M0 128 C80 118 120 110 170 96 S300 60 420 30 L420 66 C300 92 240 104 170 114 S60 138 0 142 Z"
          class="fan"
        />
        <path d="M0 134 C80 126 120 118 170 105 S300 76 420 48" class="line" />
        <path d="M0 58 H420" class="level" />
        <g class="posts">
          <path d="M60 150 V129 M120 150 V118 M190 150 V101 M260 150 V87 M330 150 V69" />
          <circle cx="60" cy="129" r="4" />
          <circle cx="120" cy="118" r="4" />
        </g>
      </svg>
    </div>
    <form class="stack form" novalidate @submit.prevent="submit">
      <h2>{{ making ? 'Make an account' : 'Sign in' }}</h2>
      <v-text-field
        v-if="making"
        v-model="name"
        label="Your name"
        autocomplete="name"
        :error-messages="messages('name')"
      />
      <v-text-field
        v-model="email"
        label="E-mail"
        type="email"
        autocomplete="username"
        :error-messages="messages('email')"
      />
      <v-text-field
        v-model="password"
        label="Password"
        type="password"
        :hint="making ? 'At least 10 characters' : undefined"
        persistent-hint
        :autocomplete="making ? 'new-password' : 'current-password'"
        :error-messages="messages('password')"
      />
      <p v-if="problem && !['name', 'email', 'password'].includes(problem.field)" class="bad" role="alert">
        {{ problem.message }}
      </p>
      <div class="row mt-2">
        <v-btn type="submit" class="main" size="default" :loading="busy">{{
          making ? 'Make the account' : 'Sign in'
        }}</v-btn>
        <v-btn variant="text" size="default" @click="making = !making">{{
          making ? 'I have an account' : 'I am new here'
        }}</v-btn>
      </div>
      <div v-if="session.demoAccounts.length" class="demo stack">
        <hr class="rule" />
        <h3>Demo: enter as</h3>
        <v-btn
          v-for="account in session.demoAccounts"
          :key="account.email"
          size="default"
          class="justify-start"
          @click="go(() => session.demoSignIn(account.email))"
          ><span
            ><strong>{{ account.name }}</strong> <span class="soft">{{ account.about }}</span></span
          ></v-btn
        >
      </div>
    </form>
  </main>
</template>

<style scoped>
.page {
  display: grid;
  grid-template-columns: 1.2fr 1fr;
  min-height: 100vh;
  align-items: center;
}
.about {
  padding: 6vw;
}
.about h1 {
  font-size: 72px;
}
.lead {
  font-size: 20px;
  max-width: 26em;
  margin: 14px 0 34px;
}
.picture {
  width: 100%;
  max-width: 520px;
}
.fan {
  fill: var(--wash);
}
.line {
  fill: none;
  stroke: var(--water);
  stroke-width: 2.5;
}
.level {
  stroke: var(--ochre);
  stroke-dasharray: 6 4;
  stroke-width: 1.6;
}
.posts path {
  stroke: var(--ink);
}
.posts circle {
  fill: var(--ink);
}
.form {
  padding: 40px 6vw 40px 40px;
  border-left: 1px solid var(--hair);
  min-height: 100vh;
  align-content: center;
}
@media (max-width: 700px) {
  .page {
    grid-template-columns: 1fr;
    align-items: start;
  }
  .about {
    padding: 24px 20px 0;
  }
  .about h1 {
    font-size: 44px;
  }
  .lead {
    font-size: 17px;
    margin: 8px 0 0;
  }
  .picture {
    display: none;
  }
  .form {
    border: 0;
    min-height: 0;
    padding: 20px;
  }
}
</style>
