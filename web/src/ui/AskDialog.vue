<script setup lang="ts">
import { Dialog, DialogDescription, DialogPanel, DialogTitle } from '@headlessui/vue'

defineProps<{ open: boolean; title: string; text?: string; wide?: boolean }>()
const emit = defineEmits<{ close: [] }>()
</script>

<template>
  <Dialog :open="open" class="relative z-40" @close="emit('close')">
    <div class="fixed inset-0 bg-ink/25" aria-hidden="true" />
    <div class="fixed inset-0 flex items-center justify-center p-6">
      <DialogPanel :class="wide ? 'max-w-[760px]' : 'max-w-md'" class="panel max-h-full w-full overflow-y-auto p-5">
        <DialogTitle class="text-lg">{{ title }}</DialogTitle>
        <DialogDescription v-if="text" class="mt-1 text-faded">{{ text }}</DialogDescription>
        <slot />
      </DialogPanel>
    </div>
  </Dialog>
</template>
