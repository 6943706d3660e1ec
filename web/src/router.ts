import { createRouter, createWebHistory } from 'vue-router'
import ShelfPage from './shelf/ShelfPage.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'shelf', component: ShelfPage },
    { path: '/levels/:id/:stage?', name: 'sheet', component: () => import('./sheet/SheetPage.vue'), props: true },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})
