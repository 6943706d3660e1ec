<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { IconChevronDown } from '@tabler/icons-vue'

/** A button that opens a short list of things to do. */
defineProps<{
  label: string
  items: readonly { name: string; run: () => void; off?: boolean; key?: string }[]
  disabled?: boolean
}>()
</script>

<template>
  <Menu as="div" class="relative">
    <MenuButton class="btn" :disabled="disabled">{{ label }} <IconChevronDown :size="14" /></MenuButton>
    <MenuItems
      class="panel absolute bottom-full left-0 z-30 mb-1 max-h-[380px] w-[216px] overflow-y-auto py-1 text-[13.5px] focus:outline-none"
    >
      <MenuItem v-for="item in items" :key="item.name" v-slot="{ active }" :disabled="item.off">
        <button
          class="flex w-full justify-between px-3 py-[3px] text-left"
          :class="[active ? 'bg-tint' : '', item.off ? 'text-faded opacity-60' : '']"
          :disabled="item.off"
          @click="item.run()"
        >
          {{ item.name }}<kbd v-if="item.key" class="text-[11.5px] text-faded">{{ item.key }}</kbd>
        </button>
      </MenuItem>
    </MenuItems>
  </Menu>
</template>
