<script setup lang="ts">
import { IconX } from '@tabler/icons-vue'
import IconButton from './IconButton.vue'
import { dismiss, toasts, type Toast } from './toasts'

function act(toast: Toast) {
  toast.action?.run()
  dismiss(toast.id)
}
</script>

<template>
  <div
    class="pointer-events-none fixed inset-x-0 z-50 flex flex-col items-center gap-2"
    :style="{ bottom: 'calc(16px + var(--drawer, 0px))' }"
    aria-live="polite"
  >
    <div
      v-for="t in toasts"
      :key="t.id"
      class="panel pointer-events-auto flex max-w-xl items-center gap-3 px-3 py-2"
      :class="t.kind === 'alarm' ? 'border-alarm! text-alarm' : ''"
      role="status"
    >
      <span class="line-clamp-4 min-w-0 break-words" :title="t.text">{{ t.text }}</span>
      <button v-if="t.action && (t.action.valid?.() ?? true)" class="btn" @click="act(t)">{{ t.action.label }}</button>
      <IconButton label="Dismiss" :icon="IconX" :size="16" @click="dismiss(t.id)" />
    </div>
  </div>
</template>
