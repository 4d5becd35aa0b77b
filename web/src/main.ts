import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { config } from 'zod'
import App from './App.vue'
import { router } from './router'
import './theme/style.css'
import { vuetify } from './theme/vuetify'

// Zod would compile its checks with eval, which the content security policy rightly refuses.
config({ jitless: true })

// Not in development, where files change under it; an old browser does without.
if (import.meta.env.PROD && 'serviceWorker' in navigator)
  addEventListener(
    'load',
    () => void navigator.serviceWorker.register('/service-worker.js').catch(() => undefined),
  )

createApp(App).use(createPinia()).use(router).use(vuetify).mount('#app')
