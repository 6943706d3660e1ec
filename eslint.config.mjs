import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'
import { rooms } from './scripts/lint/rooms.mjs'
import { runGenerators } from './scripts/lint/run-generators.mjs'

export default ts.config(
  { ignores: ['**/node_modules/**', '**/dist/**', '**/dist.*/**', '.data/**', 'test-results/**'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: ts.parser } } },
  {
    plugins: { tidytrail: { rules: { rooms, 'run-generators': runGenerators } } },
    rules: {
      'tidytrail/rooms': 'error',
      'tidytrail/run-generators': 'error',
      'no-undef': 'off',
      'vue/multi-word-component-names': 'off',
      'vue/require-default-prop': 'off',
      // A form is handed down to be filled in.
      'vue/no-mutating-props': ['error', { shallowOnly: true }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.ts', 'core/testing/**'],
    rules: {
      'no-restricted-globals': ['error', 'window', 'document', 'process', 'performance', 'setTimeout', 'fetch'],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'The core has no chance of its own; take a seeded stream.' },
        ...['sin', 'cos', 'tan', 'atan', 'atan2', 'hypot', 'exp', 'log', 'pow'].map((property) => ({
          object: 'Math',
          property,
          message: 'Engines differ in its last bit; use exact from geometry.',
        })),
        { object: 'Date', property: 'now', message: 'The core has no clock.' },
      ],
    },
  },
  prettier,
)
