import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { config } from 'zod'
import App from './App.vue'
import { router } from './router'
import './theme/style.css'
import { vuetify } from './theme/vuetify'

// Zod would compile its checks with eval, which the content security policy rightly refuses.
config({ jitless: true })

createApp(App).use(createPinia()).use(router).use(vuetify).mount('#app')
