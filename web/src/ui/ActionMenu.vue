<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { IconChevronDown } from '@tabler/icons-vue'
import { ref } from 'vue'
import { menuPlace } from './menu-place'

/** A button that opens a short list of things to do, wherever in the window there is room for all of it. */
const props = defineProps<{
  label: string
  items: readonly { name: string; run: () => void; off?: boolean; key?: string; on?: boolean }[]
  disabled?: boolean
}>()
const root = ref<HTMLElement>()
const place = () =>
  root.value && menuPlace(root.value.getBoundingClientRect(), props.items.length, innerWidth, innerHeight)
</script>

<template>
  <div ref="root">
    <Menu v-slot="{ open }" as="template">
      <MenuButton class="btn whitespace-nowrap" :disabled="disabled">
        {{ label }} <IconChevronDown :size="14" />
      </MenuButton>
      <MenuItems
        class="panel fixed z-50 w-[216px] overflow-y-auto py-1 text-[13.5px] focus:outline-none"
        :style="open ? place() : undefined"
      >
        <MenuItem v-for="item in items" :key="item.name" v-slot="{ active }" :disabled="item.off">
          <button
            class="flex w-full justify-between px-3 py-[3px] text-left"
            :class="[active ? 'bg-tint' : '', item.off ? 'text-faded' : '', item.on ? 'font-bold' : '']"
            :disabled="item.off"
            @click="item.run()"
          >
            {{ item.name }}<kbd v-if="item.key" class="font-text text-[11.5px] text-faded">{{ item.key }}</kbd>
          </button>
        </MenuItem>
      </MenuItems>
    </Menu>
  </div>
</template>
