import { availableParallelism } from 'node:os'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    // All cores: by default one is kept for a person who works beside it, which on two is half the machine.
    maxWorkers: availableParallelism(),
    projects: [
      {
        plugins: [vue()],
        test: {
          name: 'unit',
          include: ['{core,contract,demo,cli,web,scripts}/**/*.test.ts'],
          exclude: ['**/node_modules/**'],
          testTimeout: 150_000,
        },
      },
      {
        test: {
          name: 'server',
          include: ['{server,bench}/**/*.test.ts'],
          exclude: ['**/node_modules/**'],
          testTimeout: 120_000,
          hookTimeout: 120_000,
          fileParallelism: false,
        },
      },
    ],
  },
})
