import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { z } from 'zod'
import App from './App.vue'
import { router } from './router'
import './style.css'

// The page's content policy allows no code made from text, which Zod would otherwise try.
z.config({ jitless: true })

createApp(App).use(createPinia()).use(router).mount('#app')
