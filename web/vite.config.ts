import tailwind from '@tailwindcss/vite'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'

export default defineConfig({
  root: import.meta.dirname,
  plugins: [vue(), tailwind()],
  resolve: { alias: [{ find: /^zod$/, replacement: `${import.meta.dirname}/src/zod.ts` }] },
  worker: { format: 'es' },
  build: { target: 'es2022', assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  server: { proxy: { '/api': `http://127.0.0.1:${process.env.TIDYTRAIL_PORT ?? 4380}` } },
})
