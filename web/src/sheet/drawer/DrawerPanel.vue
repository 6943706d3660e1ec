<script setup lang="ts">
import { IconChevronDown } from '@tabler/icons-vue'
import { useElementSize } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { useSheetStore } from '../../stores/sheet'
import { DRAWER_TABS } from './tabs'

const sheet = useSheetStore()
const all = DRAWER_TABS.map((t) => ({ ...t, read: t.use() }))
const tabs = computed(() =>
  all.flatMap((t) => {
    const now = t.read()
    return now ? [{ ...t, ...now }] : []
  }),
)
const tab = computed(() => tabs.value.find((t) => t.id === sheet.drawerTab) ?? tabs.value[0])
/** What is said at the foot of the page is said over the drawer, not in front of it. */
const panel = ref<HTMLElement>()
const { height } = useElementSize(panel, undefined, { box: 'border-box' })
watch(height, (px) => document.documentElement.style.setProperty('--drawer', `${Math.round(px)}px`))
onBeforeUnmount(() => document.documentElement.style.removeProperty('--drawer'))

/** Open when somebody wants it open and there is something in it. */
const open = computed(() => sheet.panels.drawer && !tab.value.empty)
</script>

<template>
  <section ref="panel" class="panel flex flex-col" :class="open ? tab.height : ''" aria-label="Drawer">
    <header class="flex items-center gap-4 px-3 pt-2 pb-1.5">
      <h2 class="min-w-0 truncate text-[15px]" :title="tab.title">{{ tab.title }}</h2>
      <div class="ml-auto flex gap-4">
        <div class="flex gap-4" role="tablist" aria-label="What the drawer shows">
          <button
            v-for="t in tabs"
            :key="t.id"
            role="tab"
            :aria-selected="tab.id === t.id"
            class="whitespace-nowrap"
            :class="tab.id === t.id ? 'font-bold underline underline-offset-4' : 'text-faded'"
            @click="sheet.openDrawer(t.id)"
          >
            {{ t.name }}
          </button>
        </div>
        <button
          class="btn-quiet px-0!"
          :aria-label="sheet.panels.drawer ? 'Fold the drawer' : 'Open the drawer'"
          :title="sheet.panels.drawer ? 'Fold the drawer' : 'Open the drawer'"
          :aria-expanded="sheet.panels.drawer"
          @click="sheet.panels.drawer = !sheet.panels.drawer"
        >
          <IconChevronDown :size="17" :class="sheet.panels.drawer ? '' : 'rotate-180'" />
        </button>
      </div>
    </header>

    <component :is="tab.component" v-if="open" v-bind="tab.props" />
  </section>
</template>
